"""Pours as actions: races at the bench, tins in the same transaction, totals that hang together.

Readings reach every page.
"""

import json
import threading
import urllib.request
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace

import pytest
from prepared import do_steps
from running import Lever, simulated_scales
from waiting import wait_until

from ufrin import demo
from ufrin.actions import RUBBERS, SCALES
from ufrin.actions.bench import pours
from ufrin.actions.job import stations
from ufrin.actions.shelf import lots, things
from ufrin.actions.shelf.lots import read_date
from ufrin.core.shelf.scales import Scale
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.devices import clock
from ufrin.errors import Missing, Overtaken, Refused, Stale
from ufrin.store import lots as kept_lots
from ufrin.store import pours as kept_pours
from ufrin.store.connection import Database
from ufrin.trial import trial_server

AMMONITE = 9


def begin(database: Database, job: int = AMMONITE) -> int:
    number = pours.start(database, job, who="Wren", temp_c=21.0, what="the box", now=clock.now())
    do_steps(database, number)
    return number


def line(database: Database, number: int, kind: str, **more: object) -> RecordEntry:
    state = pours.look(database, number).state
    one = state.step.ingredient
    return RecordEntry(number=state.next_number, at=clock.now(), kind=kind, ingredient=one.key if one else "", **more)


def test_of_two_benches_that_take_the_same_step_at_once_one_is_told_and_one_tin_is_emptied(filled: Database) -> None:
    number = begin(filled)
    pours.enter(filled, number, line(filled, number, "tare"), token="tare")
    pours.enter(filled, number, line(filled, number, "hold"), token="hold")
    target = pours.look(filled, number).state.step.target_g
    entry, together = line(filled, number, "weigh", net_g=target), threading.Barrier(2)

    def take(token: str) -> str:
        together.wait()
        try:
            pours.enter(filled, number, entry, token=token)
        except Overtaken:
            return "told"
        return "taken"

    with ThreadPoolExecutor(2) as two:
        assert sorted(two.map(take, ("one", "other"))) == ["taken", "told"]
    (tin,) = [one for one in lots.of_thing(filled, RUBBERS, 1)[0] if one.lot.part == "A"]
    assert tin.lot.left_g == pytest.approx(1000 - target)


def test_one_tap_sent_by_two_lines_at_once_is_taken_once(filled: Database) -> None:
    number = begin(filled)
    entry, together = line(filled, number, "tare"), threading.Barrier(2)

    def take(_: int) -> int:
        together.wait()
        return len(pours.enter(filled, number, entry, token="same").state.entries)

    with ThreadPoolExecutor(2) as two:
        assert list(two.map(take, range(2))) == [entry.number, entry.number]


def test_a_line_that_is_refused_leaves_tin_and_record_as_they_were(filled: Database) -> None:
    number = begin(filled)
    pours.enter(filled, number, line(filled, number, "tare"), token="tare")
    pours.enter(filled, number, line(filled, number, "hold"), token="hold")
    before = pours.look(filled, number).state.entries
    b = next(one for one in lots.of_thing(filled, RUBBERS, 1)[0] if one.lot.part == "B")
    with pytest.raises(Refused, match="not of that part"):
        pours.enter(filled, number, line(filled, number, "weigh", net_g=465.0, lot_id=b.id), token="wrong tin")
    assert pours.look(filled, number).state.entries == before
    assert sum(one.lot.left_g for one in lots.of_thing(filled, RUBBERS, 1)[0]) == 1100
    for missing in (
        lambda: pours.look(filled, 999),
        lambda: lots.delete(filled, 999),
        lambda: lots.change(filled, 999, version=1, values={}),
    ):
        with pytest.raises(Missing, match="this"):
            missing()


def test_a_job_shows_each_line_of_its_record_at_once(filled: Database) -> None:
    def shown() -> tuple[RecordEntry, ...]:
        records = dict(stations.open_job(filled, AMMONITE, "rubber").records)
        return records[number].entries

    number = begin(filled)
    for kind in ("tare", "hold", "weigh"):
        assert shown() == pours.look(filled, number).state.entries
        step = pours.look(filled, number).state.step
        entry = line(filled, number, kind, **({"net_g": step.target_g} if kind == "weigh" else {}))
        pours.enter(filled, number, entry, token=kind)
        assert shown() == pours.look(filled, number).state.entries
    assert [one.kind for one in shown()[-3:]] == ["tare", "hold", "weigh"]
    stations.rename_job(filled, AMMONITE, "Another name")
    with filled.reading() as connection:
        assert kept_pours.of_jobs(connection, [AMMONITE])[AMMONITE][0].job_name == "Another name"
        newest = kept_pours.of_jobs(connection, [AMMONITE, 8], newest=1)
    assert [one.id for one in newest[AMMONITE]] == [number]
    assert len(newest[8]) == 1


def test_a_tin_that_was_fuller_than_thought_is_empty_and_its_history_has_it_all(filled: Database) -> None:
    a = next(one for one in lots.of_thing(filled, RUBBERS, 1)[0] if one.lot.part == "A")
    with filled.transaction() as connection:
        kept_lots.moved(connection, a.id, 1500.0, kind="counted", why="a big one")
        kept_lots.moved(connection, a.id, -20.0, kind="counted", why="some of it put back")
    tins, moves = lots.of_thing(filled, RUBBERS, 1)
    assert next(one for one in tins if one.id == a.id).lot.left_g == 20
    assert [(move.grams, move.why) for move in moves[:3]] == [
        (-20.0, "some of it put back"),
        (1500.0, "a big one"),
        (-500.0, "held more than was thought"),
    ]
    with filled.transaction() as connection:
        kept_lots.moved(connection, a.id, -1480.0, kind="counted", why="it was another tin")
    assert next(one for one in lots.of_thing(filled, RUBBERS, 1)[0] if one.id == a.id).lot.left_g == 1000
    with pytest.raises(Stale, match="changed since this page was opened"):
        lots.change(filled, a.id, version=a.version, values={"left_g": 3.0})


def test_what_was_planned_stays_when_the_shelf_changes_meanwhile(filled: Database) -> None:
    number = begin(filled)
    before = pours.look(filled, number).state.plan
    things.change(filled, RUBBERS, 1, version=1, changes={"weight_b": 12.0, "a_name": "Another base"})
    assert pours.look(filled, number).state.plan == before
    assert stations.open_job(filled, AMMONITE, "rubber").plan.pour.batches[0][0].name == "Another base"


def test_the_demo_learnt_what_its_pours_used(filled: Database) -> None:
    for past in pours.learnt(filled).past:
        state = pours.look(filled, past.id).state
        weighed = sum(entry.net_g or 0 for entry in state.entries if entry.kind == "weigh")
        left = sum(entry.net_g or 0 for entry in state.entries if entry.kind == "leftover")
        assert past.pour.used_g == pytest.approx(weighed - left)
        assert past.pour.needed_g == pytest.approx(state.plan.need_g)
    times = [past.finished_at for past in pours.learnt(filled).past]
    assert times == sorted(times, reverse=True)


def test_dates_are_read_strictly() -> None:
    assert read_date("use_by", "") is None
    assert str(read_date("use_by", " 2027-03-31 ")) == "2027-03-31"
    for wrong in ("31.3.2027", "2027-02-30", "next week", "0001-01-01", "2027-13-01"):
        with pytest.raises(Refused, match="date"):
            read_date("use_by", wrong)


@pytest.fixture(scope="module")
def lever() -> Iterator[Lever]:
    with simulated_scales() as started:
        yield started


class Stream:
    """The events of a page, read as they come in a thread of their own."""

    def __init__(self, address: str) -> None:
        self.heard: list[tuple[str, str]] = []
        self.is_over = threading.Event()
        self._answer = urllib.request.urlopen(address)
        threading.Thread(target=self._listen, daemon=True).start()

    def _listen(self) -> None:
        name = ""
        for raw in self._answer:
            told = raw.decode().strip()
            if told.startswith("event: "):
                name = told[7:]
            elif told.startswith("data: "):
                self.heard.append((name, told[6:]))
        self.is_over.set()

    def wait_for(self, wanted: str) -> None:
        wait_until(
            lambda: any(wanted in data or wanted == name for name, data in self.heard), f"“{wanted}” is not heard"
        )


def test_readings_and_word_of_new_lines_reach_a_page_and_it_is_sent_away_at_the_end(
    filled: Database, conninfo: str, lever: Lever
) -> None:
    demo.point_scales_at(filled, lever.port)
    number = begin(filled)
    lever.do("load", 77.7)
    with trial_server(conninfo) as address:
        bench, scale = Stream(f"{address}/pours/{number}/stream?scale=1"), Stream(f"{address}/scales/1/stream")
        for stream in (bench, scale):
            stream.wait_for('"settled": true')
        counts = [json.loads(data)["n"] for name, data in bench.heard if name == "reading" and json.loads(data)["n"]]
        assert counts == list(range(counts[0], counts[0] + len(counts)))
        next_number = pours.look(filled, number).state.next_number
        form = f"kind=tare&number={next_number}&token=x&by=scale&scale_id=1&units=metric".encode()
        page = (
            urllib.request.urlopen(
                urllib.request.Request(f"{address}/pours/{number}/enter?scale=1", form, {"HX-Request": "true"})
            )
            .read()
            .decode()
        )
        assert "Take part A" in page
        bench.wait_for("changed")
        assert pours.look(filled, number).state.entries[-1].gross_g == pytest.approx(77.7, abs=0.2)
        urllib.request.urlopen(urllib.request.Request(f"{address}/scales/1/tare", b""))
        scale.wait_for('"g": 0.0')
        bad = Scale(name="Nowhere", address="socket://127.0.0.1:1")
        other = things.add(filled, SCALES, bad)
        lost = Stream(f"{address}/pours/{number}/stream?scale={other}")
        lost.wait_for('"link": "lost"')
    for stream in (bench, scale, lost):
        assert stream.is_over.wait(5)
    assert replace(bad, name="Somewhere").address == bad.address
