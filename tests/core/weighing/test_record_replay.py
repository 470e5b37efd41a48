"""The replay of a record: corrections, cups that were set aside, top-ups, and the mould that is weighed as it fills."""

from dataclasses import replace

import pytest
from records import FULL, PLAN, A, B, at

from ufrin.core.weighing.method import Method
from ufrin.core.weighing.record_entries import EntryKind, RecordEntry
from ufrin.core.weighing.record_replay import Replay, replayed, rotated
from ufrin.core.weighing.weigh_plan import RotationAim, WeighPlan

AIM = RotationAim(target_g=600.0, area_cm2=1000.0, sg=1.0, coat_mm=2.0)  # a coat of 2 mm weighs 200 g
ROTATED = replace(
    PLAN, how="cast", need_g=600.0, rotation=AIM, batches=((replace(B, g=100.0), replace(A, g=100.0)),) * 3
)


class Record:
    """Lines one after the other, ten seconds apart, whether a bench would take them or not."""

    def __init__(self, plan: WeighPlan = PLAN) -> None:
        self.plan, self.entries = plan, [RecordEntry(number=1, at=at(0), kind="start")]

    def add(self, kind: EntryKind, ingredient: str = "", net_g: float | None = None, **more: object) -> int:
        number = len(self.entries) + 1
        self.entries.append(
            RecordEntry(number=number, at=at(10 * number), kind=kind, ingredient=ingredient, net_g=net_g, **more)
        )
        return number

    def cup(self, a_g: float = 200.0, b_g: float = 20.0) -> None:
        self.add("tare")
        for key, grams in (("A", a_g), ("B", b_g)):
            self.add("hold", key)
            self.add("weigh", key, grams)

    def replay(self, *taken_back: int) -> Replay:
        return replayed(self.plan, self.entries, frozenset(taken_back))


def test_a_second_correction_counts_from_the_first() -> None:
    record = Record()
    record.add("tare")
    weighed = record.add("weigh", "A", 200.0)
    record.add("weigh", "A", 5.0)
    record.add("correction", net_g=190.0, of_number=weighed)
    assert record.replay().cup.poured_g == {"A": pytest.approx(195.0)}
    record.add("correction", net_g=198.0, of_number=weighed)
    assert record.replay().cup.poured_g == {"A": pytest.approx(203.0)}  # 198 + 5, not 190 + 198 - 200 + 5


def test_what_was_left_and_what_went_in_by_mistake_are_corrected_too() -> None:
    record = Record()
    record.cup()
    wrong = record.add("wrong", "B", 3.0)
    record.add("correction", net_g=4.0, of_number=wrong)
    assert record.replay().cup.wrong_g == {"B": 4.0}
    record.cup()
    record.add("poured")
    left = record.add("leftover", net_g=12.0)
    record.add("correction", net_g=15.0, of_number=left)
    replay = record.replay()
    assert [one.outcome for one in replay.attempts] == ["wrong", "poured"]
    assert replay.cup.leftover_g == 15.0
    # a correction of a line that is not there changes nothing
    record.add("correction", net_g=99.0, of_number=77)
    assert record.replay().cup.leftover_g == 15.0


def test_a_line_that_was_taken_back_never_was() -> None:
    record = Record()
    record.add("tare")
    record.add("weigh", "A", 200.0)
    again = record.add("weigh", "A", 30.0)
    assert record.replay().cup.poured_g["A"] == pytest.approx(230.0)
    assert record.replay(again).cup.poured_g["A"] == pytest.approx(200.0)


def test_a_cup_set_aside_is_made_again_and_a_poured_one_is_followed_by_the_next() -> None:
    record = Record(FULL)
    record.cup()
    record.add("discard")
    record.cup()
    record.add("poured")
    record.cup()
    assert [one.batch for one in record.replay().attempts] == [0, 0, 1]


def test_what_was_asked_for_is_kept_beside_what_was_poured() -> None:
    record = Record()
    record.add("tare")
    a = record.add("weigh", "A", 220.0)
    b = record.add("weigh", "B", 21.5)
    assert record.replay().targets_g == {a: pytest.approx(200.0), b: pytest.approx(22.0)}


def test_the_clock_begins_when_the_part_that_goes_second_is_taken_in_hand() -> None:
    record = Record()
    record.add("tare")
    record.add("hold", "A")
    assert record.replay().cup.contact is None
    record.add("weigh", "A", 200.0)
    held = record.add("hold", "B")
    assert record.replay().cup.contact == at(10 * held)
    record.add("down")  # put down again: nothing has met
    assert record.replay().cup.contact is None
    again = record.add("hold", "B")
    record.add("weigh", "B", 20.0)
    record.add("hold", "B")
    record.add("down")  # there is B in the cup now
    assert record.replay().cup.contact == at(10 * again)


def test_a_putty_meets_when_its_lumps_are_brought_together_and_wax_when_it_is_poured() -> None:
    putty = Record(replace(PLAN, method=Method(how="putty")))
    putty.cup()
    assert putty.replay().cup.contact is None
    together = putty.add("step", what="bring-together")
    assert putty.replay().cup.contact == at(10 * together)
    wax = Record(replace(PLAN, how="cast", b_per_a=0.0, batches=((A,),)))
    wax.add("tare")
    wax.add("weigh", "A", 200.0)
    poured = wax.add("poured")
    assert wax.replay().cup.contact == at(10 * poured)


def test_steps_before_the_first_cup_and_with_it_are_kept_apart() -> None:
    record = Record(replace(PLAN, method=Method()))
    record.add("step", what="stir-a")
    record.add("tare")
    record.add("step", what="scrape")
    replay = record.replay()
    assert replay.prepared == ["stir-a"]
    assert replay.cup.steps_done == ["scrape"]


def test_a_top_up_opens_a_finished_pour_and_batches_left_out_stay_out() -> None:
    record = Record(FULL)  # two batches, of which one is poured
    record.cup()
    record.add("poured")
    record.add("leftover", net_g=0.0)
    finished = record.add("finish")
    assert record.replay().is_finished
    record.add("short", volume_ml=100.0)
    replay = record.replay()
    assert not replay.is_finished
    assert len(replay.batches) == 2
    assert replay.batches[0] == FULL.batches[0]
    # 100 ml of 1.13 g/ml at the least, in the ratio of the plan
    grams = {one.key: one.g for one in replay.batches[1]}
    assert sum(grams.values()) >= 113.0
    assert grams["B"] / grams["A"] == pytest.approx(0.1)
    assert len(record.replay(finished).batches) == 3  # while it is under way, the second batch is still to come


def test_notes_beside_the_work_begin_no_step() -> None:
    record = Record()
    tare = record.add("tare")
    for kind in ("temperature", "note", "witness", "mishap", "photo"):
        record.add(kind)  # type: ignore[arg-type]
    assert record.replay().step_began == at(10 * tare)


def test_what_a_mould_gained_tells_what_stayed_in_the_cup_and_what_is_still_to_come() -> None:
    record = Record(ROTATED)
    record.add("mould", net_g=5000.0)
    record.cup(100.0, 100.0)
    record.add("poured")
    record.add("mould", net_g=5180.0)
    replay = record.replay()
    assert (replay.mould_empty_g, replay.mould_now_g) == (5000.0, 5180.0)
    assert replay.cup.leftover_g == pytest.approx(20.0)
    # 420 g are missing, at most 200 g each: two equal coats of 210 g would spill, so three of 140 g
    assert [round(sum(one.g for one in batch)) for batch in replay.batches[1:]] == [140, 140, 140]
    assert record.replay().prepared == ["mould"]


def test_cups_after_which_nobody_weighed_the_mould_count_by_what_was_poured() -> None:
    record = Record(ROTATED)
    record.add("mould", net_g=5000.0)
    record.cup(100.0, 100.0)
    record.add("poured")
    record.add("mould")  # left unweighed
    record.add("leftover", net_g=10.0)
    record.cup(100.0, 100.0)
    record.add("poured")
    record.add("mould", net_g=5375.0)
    first, second = record.replay().attempts
    assert (first.leftover_g, second.leftover_g) == (10.0, pytest.approx(15.0))  # 5000 + 190 + 185 = 5375
    assert sum(one.g for batch in record.replay().batches[2:] for one in batch) == pytest.approx(225.0)


def test_a_weight_of_the_mould_that_was_corrected_counts_as_corrected() -> None:
    record = Record(ROTATED)
    empty = record.add("mould", net_g=5000.0)
    record.add("correction", net_g=5050.0, of_number=empty)
    record.cup(100.0, 100.0)
    record.add("poured")
    record.add("mould", net_g=5240.0)
    assert record.replay().mould_empty_g == 5050.0
    assert record.replay().cup.leftover_g == pytest.approx(10.0)


def test_a_mould_is_never_lighter_than_when_it_was_empty() -> None:
    assert rotated(AIM, 5000.0, 4990.0) == rotated(AIM, 5000.0, None) == rotated(AIM, 5000.0, 5000.0)
    record = Record(ROTATED)
    record.add("mould", net_g=5000.0)
    record.cup(100.0, 100.0)
    record.add("poured")
    record.add("mould", net_g=4990.0)
    assert record.replay().cup.leftover_g == pytest.approx(200.0)
