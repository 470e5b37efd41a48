"""What is kept, in a real PostgreSQL; each test is rolled back."""

import pytest

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.rubber.tins import Rubber
from ufrin.errors import Missing, UfrinError
from ufrin.store import board_rows, jobs, schema
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Connection, Database
from ufrin.store.shelf import RUBBERS
from ufrin.trial import trial_database

RUBBER = Rubber(name="Tideline 15", weight_a=1, weight_b=1, sg_mixed=1.08, pot_life_min=40)


def test_a_zero_that_was_typed_is_kept_and_nothing_is_not(connection: Connection) -> None:
    job_id = jobs.start(connection, "Ammonite")
    before, version = jobs.lock_station(connection, job_id, "rubber")
    jobs.save_station(connection, job_id, "rubber", RubberInputs(spare_pct=0.0), before=before, version=version)
    assert jobs.load(connection, job_id).rubber == RubberInputs(spare_pct=0.0)


def test_undo_is_a_stack_of_which_quick_edits_are_one_step(connection: Connection) -> None:
    job_id = jobs.start(connection, "Ammonite")
    for version, side in enumerate((10.0, 11.0, 12.0), 1):
        if version == 2:  # the first edit was long ago; the third belongs to the second
            connection.execute("update earlier_inputs set kept_at = kept_at - interval '1 minute'")
        before, _ = jobs.lock_station(connection, job_id, "box")
        jobs.save_station(connection, job_id, "box", BoxInputs(side_mm=side), before=before, version=version)
    assert jobs.load(connection, job_id, "box").can_undo
    assert jobs.take_earlier(connection, job_id, "box") == BoxInputs(side_mm=10.0)
    assert jobs.take_earlier(connection, job_id, "box") == BoxInputs()
    assert jobs.take_earlier(connection, job_id, "box") is None


def test_only_so_many_steps_are_kept(connection: Connection) -> None:
    job_id = jobs.start(connection, "Ammonite")
    for version in range(1, jobs.STEPS_KEPT + 20):
        connection.execute("update earlier_inputs set kept_at = kept_at - interval '1 minute'")
        jobs.save_station(
            connection, job_id, "box", BoxInputs(side_mm=float(version)), before=BoxInputs(), version=version
        )
    row = connection.execute("select count(*) as steps, max(version) as newest from earlier_inputs").fetchone()
    assert row == {"steps": jobs.STEPS_KEPT, "newest": jobs.STEPS_KEPT + 19}


def test_search_takes_signs_for_what_they_are(connection: Connection) -> None:
    for name in ("50% scale", "500 scale", "a_b", "axb", "back\\slash"):
        jobs.start(connection, name)
    for search, found in (
        ("50%", ["50% scale"]),
        ("a_b", ["a_b"]),
        ("\\", ["back\\slash"]),
        ("SCALE", ["500 scale", "50% scale"]),
    ):
        page, total = board_rows.page(connection, search=search, put_away=False, limit=10, offset=0)
        assert ([job.name for job in page], total) == (found, len(found))


def test_rubbers_go_there_and_back(connection: Connection) -> None:
    number = RUBBERS.add(connection, RUBBER)
    assert RUBBERS.lock(connection, number).thing == RUBBER
    RUBBERS.retire(connection, number, retired=True)
    assert RUBBERS.all(connection)[0].retired_at is not None
    RUBBERS.delete(connection, number)
    with pytest.raises(Missing, match="this rubber"):
        RUBBERS.lock(connection, number)


@pytest.mark.parametrize(
    ("sql", "says"),
    [
        ("insert into jobs (name) values ('')", "1 to 120 characters"),
        ("update rubbers set name = null", "contradict"),
        ("delete from rubbers", "Retire it instead"),
        ("update stations set inputs = '{\"rubber_id\": 99}' where station = 'rubber'", "not on the Shelf"),
        ("update rubbers set weight_a = 0", "never sets"),
        ("update workshop set units = 'cubits'", "metric or US"),
    ],
)
def test_each_constraint_speaks(database: Database, sql: str, says: str) -> None:
    with database.transaction() as connection:
        number = RUBBERS.add(connection, RUBBER)
        job_id = jobs.start(connection, "Ammonite")
        jobs.save_station(connection, job_id, "rubber", RubberInputs(rubber_id=number), before=None, version=1)
    with pytest.raises(UfrinError, match=says), database.transaction() as connection:
        connection.execute(sql)


def test_an_error_rolls_everything_back(database: Database) -> None:
    with pytest.raises(UfrinError, match="120"), database.transaction() as connection:
        jobs.start(connection, "First")
        jobs.start(connection, "x" * 121)
    with database.reading() as connection:
        assert board_rows.page(connection, search="", put_away=False, limit=5, offset=0) == ([], 0)


def test_the_schema_goes_up_down_and_up_again(cluster: Cluster) -> None:
    conninfo = trial_database(cluster, "steps")
    assert schema.bring_up_to_date(conninfo) == 0
    steps = schema.take_down(conninfo)
    assert steps > 0
    assert schema.bring_up_to_date(conninfo) == steps
