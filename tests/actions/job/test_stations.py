"""What a maker does: two at once, undo, and a rubber whose figures change under its jobs."""

from concurrent.futures import ThreadPoolExecutor
from threading import Barrier

import pytest

from ufrin.actions import CONTAINERS, RUBBERS
from ufrin.actions.job import board, stations
from ufrin.actions.shelf import things
from ufrin.actions.shop import workshop_settings
from ufrin.core.rubber.tins import Rubber
from ufrin.errors import InUse, Missing, Refused, Stale
from ufrin.store.connection import Database

TIN = Rubber(name="Tideline 15", weight_a=1, weight_b=1, sg_mixed=1.08)


def test_of_two_who_save_at_once_one_is_told(database: Database) -> None:
    job_id = stations.start_job(database, "Ammonite")
    together = Barrier(2)

    def save(side: float) -> str:
        together.wait()
        try:
            stations.change_station(database, job_id, "box", version=1, changes={"side_mm": side})
        except Stale as stale:
            return f"told {sorted([stale.theirs['side_mm'], stale.mine['side_mm']])}"
        return "saved"

    for _ in range(5):
        with database.transaction() as connection:
            connection.execute("update stations set version = 1, inputs = '{}'")
            connection.execute("delete from earlier_inputs")
        with ThreadPoolExecutor(2) as two:
            assert sorted(two.map(save, (10.0, 20.0))) == ["saved", "told [10.0, 20.0]"]


def test_a_refused_change_leaves_everything_as_it_was(database: Database) -> None:
    job_id = stations.start_job(database, "Ammonite")
    with pytest.raises(Refused, match="not on the Shelf"):
        stations.change_station(database, job_id, "rubber", version=1, changes={"rubber_id": 12, "spare_pct": 3.0})
    opened = stations.open_job(database, job_id, "rubber")
    assert (opened.job.rubber.spare_pct, opened.job.versions["rubber"], opened.job.can_undo) == (None, 1, False)


def test_undo_brings_back_one_step_and_counts_as_a_change(database: Database) -> None:
    job_id = stations.start_job(database, "Ammonite")
    stations.change_station(database, job_id, "box", version=1, changes={"side_mm": 20.0})
    undone = stations.undo(database, job_id, "box", version=2)
    assert (undone.job.box.side_mm, undone.job.versions["box"]) == (None, 3)
    with pytest.raises(Stale, match="changed since this page was opened"):  # a page opened before the undo
        stations.change_station(database, job_id, "box", version=2, changes={"side_mm": 25.0})


def test_a_rubber_whose_figures_change_changes_its_jobs(database: Database) -> None:
    number = things.add(database, RUBBERS, TIN)
    job_id = stations.start_job(database, "Ammonite")
    stations.change_station(database, job_id, "rubber", version=1, changes={"rubber_id": number})
    stations.change_station(
        database, job_id, "master", version=1, changes={"length_mm": 90.0, "width_mm": 70.0, "height_mm": 30.0}
    )
    before = board.board(database).listed[0].figures
    things.change(database, RUBBERS, number, version=1, changes={"sg_mixed": 1.2})
    after = board.board(database).listed[0].figures
    assert before is not None
    assert after is not None
    assert before.total_g is not None
    assert after.total_g is not None
    # the loss on cups does not grow with it
    assert after.total_g / before.total_g == pytest.approx(1.2 / 1.08, rel=0.01)
    worked_out = stations.open_job(database, job_id).plan.rubber
    assert worked_out is not None
    assert after.total_g == pytest.approx(worked_out.total_g)
    with pytest.raises(InUse, match="1 job counts on Tideline 15"):
        things.delete(database, RUBBERS, number)
    with pytest.raises(Refused, match="two numbers"):
        things.change(database, RUBBERS, number, version=2, changes={"weight_b": None})
    with pytest.raises(Stale, match="changed since this page was opened"):
        things.change(database, RUBBERS, number, version=1, changes={"sg_mixed": 1.3})


@pytest.mark.parametrize(
    "what",
    [
        stations.open_job,
        lambda db, n: stations.undo(db, n, "box", version=1),
        lambda db, n: stations.rename_job(db, n, "x"),
        lambda db, n: things.look(db, RUBBERS, n),
        lambda db, n: things.delete(db, CONTAINERS, n),
    ],
)
def test_what_is_not_there(database: Database, what: object) -> None:
    with pytest.raises(Missing, match="no record"):
        what(database, 404)


def test_settings(database: Database) -> None:
    workshop_settings.change_settings(database, version=1, units="us", currency=" GBP ")
    assert (workshop_settings.settings(database).units, workshop_settings.settings(database).currency) == ("us", "GBP")
    with pytest.raises(Stale, match="changed since this page was opened"):
        workshop_settings.change_settings(database, version=1, units="metric", currency="GBP")
    for wrong in ("", " ", "x" * 9, "\x07"):
        with pytest.raises(Refused, match="1 to 8 characters"):
            workshop_settings.change_settings(database, version=2, units="us", currency=wrong)
