"""The clocks of a pour: each cup from its own first contact, the mould by the cup that ends last, and the room."""

from dataclasses import replace

import pytest
from records import FULL, PLAN, at

from ufrin.core.clocks.cure_factor import CureFactor
from ufrin.core.clocks.room_log import RoomReading
from ufrin.core.weighing.pour_clocks import PourClocks
from ufrin.core.weighing.record_entries import EntryKind, Outcome, RecordEntry, StepAttempt
from ufrin.core.weighing.weigh_plan import OtherMaterial, WeighPlan

ROOM = RoomReading(at=at(0), temp_c=23.0)
TIMED = replace(PLAN, pot_life_min=40.0, demould_min=600.0, full_cure_min=2400.0, cast_in_min=None)


def cup(contact_s: float | None = 0.0, *, outcome: Outcome = "poured", batch: int = 0) -> StepAttempt:
    return StepAttempt(batch=batch, outcome=outcome, contact=None if contact_s is None else at(contact_s))


def clocks(
    *cups: StepAttempt,
    plan: WeighPlan = TIMED,
    room: tuple[RoomReading, ...] = (ROOM,),
    entries: tuple[RecordEntry, ...] = (),
) -> PourClocks:
    return PourClocks(plan=plan, entries=entries, attempts=cups, room=room)


def line(kind: EntryKind, minutes: float, what: str = "", temp_c: float | None = None) -> RecordEntry:
    return RecordEntry(number=1, at=at(60 * minutes), kind=kind, what=what, temp_c=temp_c)


def test_of_two_cups_the_one_that_ends_last_counts_for_the_mould() -> None:
    found = clocks(cup(0), cup(1200))
    assert found.end_s("demould") == pytest.approx(1e9 + 1200 + 36_000)
    assert [clock.kind for clock in found.of_mould(at(1500))] == ["pot-life", "demould", "full-cure"]
    ends = found.last_ends["full-cure"]
    assert (ends[0], ends[1].end_s) == (at(1200), pytest.approx(144_000))
    demould = found.of_kind("demould", at(1500))
    assert demould is not None
    assert (demould.elapsed_s, demould.left_s) == (pytest.approx(300), pytest.approx(35_700))
    assert found.of_kind("cast-in", at(1500)) is None  # the tin does not say
    assert found.end_s("cast-in") is None


def test_the_second_cup_may_end_first_where_the_room_became_warm() -> None:
    # a cup begun in a cold room, and one begun an hour later in a warm one, whose other material sets in a tenth
    foam = OtherMaterial(batches=(1,), name="Spume", tolerance_pct=5, sg=1.1, least_mix_min=0.5, demould_min=60.0)
    plan = replace(FULL, demould_min=600.0, other=foam)
    found = clocks(cup(0), cup(3600, batch=1), plan=plan)
    assert found.end_s("demould") == pytest.approx(1e9 + 36_000)
    assert found.last_ends["demould"][0] == at(0)
    assert found.end_of_s(found.attempts[1], "demould") == pytest.approx(1e9 + 3600 + 3600)


def test_only_what_was_poured_has_an_end() -> None:
    thrown, waiting, untouched = cup(0, outcome="discarded"), cup(60, outcome="open"), cup(None)
    found = clocks(thrown, waiting, untouched)
    assert found.poured == []
    assert found.end_s("demould") is found.contact_s is found.poured_s is None
    assert found.of_mould(at(100)) == ()
    assert found.end_of_s(waiting, "demould") is None
    assert found.of(untouched, at(100)) == ()
    assert len(found.of(waiting, at(100))) == 3  # its own clocks run all the same


def test_first_contact_and_last_pour_of_what_is_in_the_mould() -> None:
    found = clocks(cup(300), cup(100), entries=(line("poured", 6), line("poured", 3)))
    assert (found.contact_s, found.poured_s) == (1e9 + 100, 1e9 + 360)


def test_ten_degrees_more_halve_what_is_left() -> None:
    warm = RoomReading(at=at(0), temp_c=33.0)
    assert clocks(cup(0), room=(warm,)).end_s("demould") == pytest.approx(1e9 + 18_000)
    # typed at the bench after an hour: 9 hours of the tin are left, which take 4.5
    typed = line("temperature", 60, temp_c=33.0)
    found = clocks(cup(0), entries=(typed,))
    assert found.end_s("demould") == pytest.approx(1e9 + 3600 + 4.5 * 3600)
    assert found.last_room is not None
    assert found.last_room.temp_c == 33.0
    # the band of q10 from 1.8 to 2.5: 540 min at 23 are 540 / q10 at 33
    (clock,) = [one for one in found.of(found.attempts[0], at(0)) if one.kind == "demould"]
    assert clock.early_s == pytest.approx(3600 + 540 * 60 / 2.5)
    assert clock.late_s == pytest.approx(3600 + 540 * 60 / 1.8)


def test_the_last_reading_counts_whoever_took_it() -> None:
    later = RoomReading(at=at(7200), temp_c=19.0, thermometer="Bench")
    assert clocks(cup(0), room=(later, ROOM), entries=(line("temperature", 60, temp_c=25.0),)).last_room == later
    assert clocks(cup(0), room=()).last_room is None


def test_a_quick_rubber_shortens_the_pot_life_and_a_slow_one_never_stretches_it() -> None:
    for log_mean, minutes in ((-0.2231436, 32.0), (0.2231436, 40.0)):  # ln 0.8, and its inverse
        learnt = replace(TIMED, cure_factor=CureFactor(log_mean=log_mean, log_sd=0.05, pours=6))
        life = clocks(cup(0), plan=learnt).pot_life(at(600), cup(0))
        assert life is not None
        assert life.left_s == pytest.approx(60 * minutes - 600, rel=1e-6)
    nobody = replace(TIMED, cure_factor=CureFactor(log_mean=-0.2231436, log_sd=0.05, pours=0))
    life = clocks(cup(0), plan=nobody).pot_life(at(600), cup(0))
    assert life is not None
    assert life.left_s == pytest.approx(2400 - 600)


def test_a_putty_has_its_press_window_in_place_of_a_pot_life() -> None:
    life = clocks(cup(0), plan=replace(TIMED, press_min=5.0)).pot_life(at(60), cup(0))
    assert life is not None
    assert life.left_s == pytest.approx(240)
    assert clocks(cup(0)).pot_life(at(60), cup(None)) is None
    assert clocks(cup(0), plan=replace(TIMED, pot_life_min=None)).pot_life(at(60), cup(0)) is None


def test_a_witness_cup_brackets_the_last_cup_that_was_poured() -> None:
    told = (line("witness", 320, "sticky"), line("witness", 500, "set"), line("demould", 620, "well"))
    found = clocks(cup(0), cup(1200), entries=told)  # the second was poured 20 min later, of a tin of 600 min
    assert (found.found.low, found.found.high) == (pytest.approx(0.5), pytest.approx(0.8))
    assert found.last_witness == told[1]
    # it set between 300 and 480 min after its contact, so that its clock ends between them
    assert 1e9 + 1200 + 18_000 < found.end_s("demould") < 1e9 + 1200 + 28_800


def test_taken_out_too_soft_puts_the_end_off_and_what_was_looked_at_before_tells_nothing() -> None:
    soft = clocks(cup(0), entries=(line("demould", 700, "too-soft"),))
    assert soft.found.low == pytest.approx(700 / 600)
    assert soft.end_s("demould") > 1e9 + 700 * 60
    early = clocks(cup(6000), entries=(line("witness", 50, "set"),))  # of another cup: this one was not mixed yet
    assert not early.found.says_something
    assert clocks(cup(0), entries=(line("witness", 50, "lost"),)).found.says_something is False
    assert not clocks(
        cup(0), plan=replace(TIMED, demould_min=None), entries=(line("witness", 50, "set"),)
    ).found.says_something
    assert not clocks(entries=(line("witness", 50, "set"),)).found.says_something
