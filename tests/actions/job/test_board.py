"""The Board reads what is kept with each job: what the job's own page shows, whatever changes, in few statements."""

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import replace

import psycopg
import pytest
from shapes import cup, egg

from ufrin.actions import ADDITIVES, CONTAINERS, PRODUCTS, RUBBERS, SCALES
from ufrin.actions.bench import pours
from ufrin.actions.checks import sign_off
from ufrin.actions.job import board, job_list, long_work, open_job, stations
from ufrin.actions.shelf import lots, things
from ufrin.actions.shop import pairing_tests, workshop_settings
from ufrin.core.clocks.moment import Moment
from ufrin.core.mesh.written_files import write_stl
from ufrin.core.pairing.releases import Product
from ufrin.core.pairing.rules import OwnRule
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.containers import Container
from ufrin.core.shelf.scales import Scale
from ufrin.devices import clock
from ufrin.store import board_rows, jobs
from ufrin.store.connection import Database

TIN = Rubber(name="Tideline 15", weight_a=100.0, weight_b=10.0, sg_mixed=1.08, pot_life_min=40)


@contextmanager
def counted(monkeypatch: pytest.MonkeyPatch) -> Iterator[list[str]]:
    """Count the statements that this thread sends to the database; others may look after rooms and scales."""
    sent: list[str] = []
    own = threading.get_ident()
    execute = psycopg.Cursor.execute

    def counting(self: psycopg.Cursor, query: object, *args: object, **kwargs: object) -> object:
        if threading.get_ident() == own:
            sent.append(str(query))
        return execute(self, query, *args, **kwargs)  # type: ignore[arg-type]

    with monkeypatch.context() as patched:
        patched.setattr(psycopg.Cursor, "execute", counting)
        yield sent


@pytest.fixture
def job(database: Database) -> int:
    """A job whose figures follow from everything that a job can point to."""
    rubber = things.add(database, RUBBERS, TIN)
    scale = things.add(database, SCALES, Scale(name="Bench", address="COM3"))
    workshop_settings.change_settings(database, version=1, units="metric", currency="EUR", scale_id=scale)
    thinner = things.add(database, ADDITIVES, Additive(name="Slack water", kind="thinner"))
    pot = things.add(
        database, CONTAINERS, Container(name="Crate", shape="rectangle", length_mm=150, width_mm=120, height_mm=90)
    )
    other = stations.start_job(database, "Finial")
    size = {"length_mm": 40.0, "width_mm": 40.0, "height_mm": 30.0, "known_ml": 30.0}
    stations.change_station(database, other, "master", version=1, changes=size)
    number = stations.start_job(database, "Ammonite")
    stations.give_mesh(database, number, "egg.stl", write_stl(egg()))
    stations.change_station(
        database,
        number,
        "box",
        version=1,
        changes={"shape": "container", "container_id": pot, "other_id": other, "other_count": 1.0},
    )
    stations.change_station(
        database,
        number,
        "rubber",
        version=1,
        changes={"rubber_id": rubber, "thinner_id": thinner, "thinner_parts": 10.0},
    )
    return number


def shown(database: Database, job: int) -> board.BoardRow:
    return next(row for row in board.board(database).listed if row.job.id == job)


def add_lots(database: Database) -> None:
    for part in ("A", "B"):
        lots.add(database, RUBBERS, 1, {"code": f"TL-{part}", "part": part, "got_g": 5.0})


WET = OwnRule(
    pour="addition-silicone",
    touches="plastic-sheet",
    between="none",
    verdict="will-not-set",
    why="It stayed wet.",
    tried_on="2026-01-02",
)
CHANGES: dict[str, Callable[[Database], object]] = {
    "the rubber": lambda db: things.change(db, RUBBERS, 1, version=1, changes={"sg_mixed": 1.3}),
    "the thinner": lambda db: things.change(db, ADDITIVES, 1, version=1, changes={"sg": 0.8}),
    "the container": lambda db: things.change(db, CONTAINERS, 1, version=1, changes={"length_mm": 170.0}),
    "the lots": add_lots,
    "the other job": lambda db: stations.change_station(db, 1, "master", version=2, changes={"known_ml": 20.0}),
    "the settings": lambda db: workshop_settings.change_settings(
        db, version=2, units="metric", currency="EUR", room_temp_c=30.0
    ),
    "the scale at the bench": lambda db: things.change(db, SCALES, 1, version=1, changes={"step_g": 5.0}),
    "the releases": lambda db: things.add(db, PRODUCTS, Product(name="Slipway")),
    "a test of the shop": lambda db: pairing_tests.note(db, WET),
}


@pytest.mark.parametrize("what", list(CHANGES))
def test_the_board_shows_what_the_job_shows_whatever_changed(database: Database, job: int, what: str) -> None:
    before = shown(database, job)
    assert before.job.is_fresh
    assert before.figures == stations.open_job(database, job).figures
    CHANGES[what](database)
    after = shown(database, job)
    assert after.figures == stations.open_job(database, job).figures
    with database.reading() as connection:
        kept = board_rows.newest(connection, search="", limit=9, before=None)
    assert all(row.is_fresh for row in kept)
    if what in {"the rubber", "the thinner", "the container", "the lots", "the other job", "the scale at the bench"}:
        assert after.figures != before.figures


def test_a_large_mesh_is_left_to_a_worker_and_what_was_true_is_shown_meanwhile(
    database: Database, job: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    before = shown(database, job).figures
    monkeypatch.setattr(board, "LIGHT_TRIANGLES", 100)
    things.change(database, RUBBERS, 1, version=1, changes={"sg_mixed": 1.3})
    with database.transaction() as connection:
        connection.execute("delete from procrastinate_jobs")
    for _ in range(3):
        stale = board.board(database)
        assert stale.is_being_worked_out
        assert shown(database, job).figures == before
    with database.reading() as connection:
        queued = connection.execute("select task_name, args from procrastinate_jobs where status = 'todo'").fetchall()
    assert queued == [{"task_name": "work_out_row", "args": {"job_id": job}}]  # asked for once, not at every look
    board.work_out_row(database, job)
    assert not board.board(database).is_being_worked_out
    assert shown(database, job).figures == stations.open_job(database, job).figures != before
    assert board.work_out_row(database, 999) is None


def test_a_mesh_that_a_worker_has_measured_makes_the_row_out_of_date(
    database: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr("ufrin.actions.job.meshes.LARGE_BYTES", 1000)
    number = stations.start_job(database, "Cup")
    with database.transaction() as connection:
        connection.execute("truncate meshes cascade")
    number = stations.start_job(database, "Cup")
    stations.give_mesh(database, number, "cup.stl", write_stl(cup()))
    waiting = shown(database, number).figures
    assert waiting is not None
    assert waiting.box_ml is None
    kept = stations.open_job(database, number).mesh
    assert kept is not None
    assert long_work.work_on(database, kept.kept.hash, "measure") == "done"
    measured = shown(database, number).figures
    assert measured is not None
    assert measured.box_ml is not None


def test_a_stop_that_is_signed_off_counts_on_the_board(database: Database, job: int) -> None:
    number = stations.start_job(database, "Block")
    size = {"length_mm": 40.0, "width_mm": 40.0, "height_mm": 30.0, "known_ml": 30.0}
    stations.change_station(database, number, "master", version=1, changes=size)
    stations.change_station(database, number, "rubber", version=1, changes={"rubber_id": 1})
    pairing_tests.note(database, replace(WET, touches="melamine-board"))
    stopped = shown(database, number).figures
    assert stopped is not None
    assert stopped.is_stopped
    for stop in stations.open_job(database, number, "rubber").plan.stops:
        sign_off.sign_off(database, number, stop.key, reason="Tried.", who="Wren", now=clock.now())
    signed = shown(database, number).figures
    assert signed is not None
    assert not signed.is_stopped


def test_the_board_with_fifty_meshes_is_read_in_few_statements(
    database: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(board, "JOBS_A_PAGE", 50)
    data = write_stl(egg())
    for number in range(50):
        stations.give_mesh(database, stations.start_job(database, f"Egg {number}"), "egg.stl", data)
    with counted(monkeypatch) as sent:
        assert len(board.board(database).listed) == 50
    assert len(sent) <= 6
    with counted(monkeypatch) as sent:
        assert len(job_list.job_list(database, search="", limit=50, before=None)) == 50
    assert len(sent) <= 6


def test_a_whole_kit_with_twenty_jobs_that_wait_is_read_in_few_statements(
    database: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    rubber = things.add(database, RUBBERS, TIN)
    for number in range(21):
        one = stations.start_job(database, f"Block {number}")
        size = {"length_mm": 40.0 + number, "width_mm": 40.0, "height_mm": 30.0, "known_ml": 30.0}
        stations.change_station(database, one, "master", version=1, changes=size)
        stations.change_station(database, one, "opening", version=1, changes={"style": "open"})
        stations.change_station(database, one, "rubber", version=1, changes={"rubber_id": rubber, "scale_step_g": 0.1})
    kit = {"amount": "kit", "kit_left_a_g": 900.0}
    stations.change_station(database, 1, "rubber", version=2, changes=kit)
    with database.reading() as connection:
        loaded = jobs.load(connection, 1, "rubber")
        with counted(monkeypatch) as sent:
            needs = open_job._waiting(connection, loaded)  # noqa: SLF001
    assert len(needs) == 20
    assert len(sent) <= 6
    figures = {row.job.id: row.figures for row in board.board(database).listed}
    for need in needs:
        if need.job_id in figures:
            assert need.need_g == figures[need.job_id].total_g  # type: ignore[union-attr]


def test_the_rest_of_a_kit_goes_to_jobs_that_can_take_that_very_mix(database: Database) -> None:
    rubber, other = things.add(database, RUBBERS, TIN), things.add(database, RUBBERS, replace(TIN, name="Another"))
    oil = things.add(database, ADDITIVES, Additive(name="Ebb thinner", kind="thinner", sg=0.95))
    red = things.add(database, ADDITIVES, Additive(name="Red", kind="pigment"))

    def waits(name: str, style: str = "open", **changes: object) -> int:
        one = stations.start_job(database, name)
        size = {"length_mm": 40.0, "width_mm": 40.0, "height_mm": 30.0, "known_ml": 30.0}
        stations.change_station(database, one, "master", version=1, changes=size)
        stations.change_station(database, one, "opening", version=1, changes={"style": style})
        said = {"rubber_id": rubber, "scale_step_g": 0.1, **changes}
        stations.change_station(database, one, "rubber", version=1, changes=said)
        return one

    def fills(**changes: object) -> set[str]:
        kit = waits("The kit", amount="kit", kit_left_a_g=900.0, **changes)
        with database.reading() as connection:
            found = open_job._waiting(connection, jobs.load(connection, kit, "rubber"))  # noqa: SLF001
        stations.put_job_away(database, kit, away=True)
        return {one.name for one in found}

    waits("Plain")
    waits("Thinned", thinner_id=oil, thinner_parts=10.0)
    waits("Red", pigment_id=red, pigment_pct=1.0)
    waits("Thinner chosen, none taken", thinner_id=oil, thinner_parts=0.0)
    waits("Of another rubber", rubber_id=other)
    waits("With a stop that nobody has settled", scale_step_g=5.0)
    waits("In two halves", style="two-part")
    waits("Brushed", style="skin")
    begun = waits("Begun")
    now = Moment(wall_s=1_770_000_000.0, steady_s=0.0, machine="test")
    pours.start(database, begun, who="Ilse", temp_c=21.0, what="all", now=now)
    assert fills() == {"Plain", "Thinner chosen, none taken"}
    assert fills(thinner_id=oil, thinner_parts=10.0) == {"Thinned"}
    assert fills(thinner_id=oil, thinner_parts=12.0) == set()
    assert fills(pigment_id=red, pigment_pct=1.0) == {"Red"}


def test_a_page_that_is_not_full_is_a_page(database: Database) -> None:
    assert board.board(database).pages == 1
    for number in range(board.JOBS_A_PAGE + 1):
        stations.start_job(database, f"Cleat {number}")
    shown = board.board(database)
    assert (shown.total, shown.pages, len(shown.listed)) == (board.JOBS_A_PAGE + 1, 2, board.JOBS_A_PAGE)
    assert len(board.board(database, page=2).listed) == 1
