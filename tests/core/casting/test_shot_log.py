"""The log of a mould by hand: what a shot may say of itself, which cavities it fills, and what a trial comes to."""

from dataclasses import replace

import pytest

from ufrin.core.casting.next_amount import PastShot, next_amount
from ufrin.core.casting.shot_log import Shot, ShotPart, ShotPiece, check_cavities, together, trial_result
from ufrin.core.casting.two_ways import Way, compare_good, compare_grades
from ufrin.errors import Refused

GOOD, BAD = ShotPiece(cavity=1), ShotPiece(cavity=1, is_good=False, flaws=("torn",))
SHOT = Shot(kind="solid", resin="Quayside 70", mixed_g=40.0, pieces=(GOOD, replace(GOOD, cavity=2)))


@pytest.mark.parametrize(
    ("changed", "field"),
    [
        ({"flaws": ("broken",), "is_good": False}, "flaws"),
        ({"flaws": ("torn",)}, "flaws"),
        ({"final_g": 0.0}, "final_g"),
        ({"final_g": 1e7}, "final_g"),
        ({"grade": 0}, "grade"),
        ({"grade": 6}, "grade"),
    ],
)
def test_a_piece_that_cannot_be(changed: dict[str, object], field: str) -> None:
    with pytest.raises(Refused) as refused:
        replace(GOOD, **changed)  # type: ignore[arg-type]
    assert refused.value.field == field


def test_what_a_piece_may_be() -> None:
    assert [replace(GOOD, grade=grade).grade for grade in (1, 5, None)] == [1, 5, None]
    assert replace(GOOD, final_g=0.1).final_g == 0.1
    assert BAD.flaws == ("torn",)


@pytest.mark.parametrize(
    ("changed", "field"),
    [
        ({"mixed_g": 0.0}, "mixed_g"),
        ({"mixed_g": 1e7}, "mixed_g"),
        ({"left_g": -1.0}, "left_g"),
        ({"left_g": 40.0}, "left_g"),
        ({"missing_g": 1.0}, "missing_g"),
        ({"missing_g": -1.0, "was_short": True}, "missing_g"),
        ({"was_short": True, "was_partly_filled": True}, "was_short"),
        ({"pieces": ()}, "cavities"),
        ({"pieces": (GOOD, GOOD)}, "cavities"),
        ({"note": "x" * 401}, "note"),
        ({"reason": "x" * 401}, "note"),
    ],
)
def test_a_shot_that_cannot_be(changed: dict[str, object], field: str) -> None:
    with pytest.raises(Refused) as refused:
        replace(SHOT, **changed)  # type: ignore[arg-type]
    assert refused.value.field == field


def test_what_a_shot_tells_of_the_amount() -> None:
    short = replace(SHOT, was_short=True, missing_g=6.0, left_g=2.0)
    assert short.past == PastShot(mixed_g=40, left_g=2, cavities=2, was_short=True, missing_g=6)
    assert short.past.needed_g == (40 - 2 + 6) / 2
    assert replace(SHOT, was_short=True, missing_g=0.0).past.is_bound
    assert replace(SHOT, was_partly_filled=True).was_partly_filled
    assert replace(SHOT, note="x" * 400).note == "x" * 400


def test_parts_that_were_mixed_by_themselves_add_up() -> None:
    shell = ShotPart(part="shell", resin="Quayside 70", mixed_g=36.0, left_g=2.0)
    foam = ShotPart(part="foam", resin="Pontoon foam", mixed_g=5.0, left_g=0.5, was_short=True, missing_g=2.0)
    shot = Shot(kind="foam-back", resin="Quayside 70", pieces=(GOOD,), **together([shell, foam]))
    assert (shot.mixed_g, shot.left_g, shot.was_short, shot.missing_g) == (41.0, 2.5, True, 2.0)
    assert shot.parts == (shell, foam)
    assert not together([shell])["was_short"]
    for part, changed, field in ((shell, {"part": "rind"}, ""), (foam, {"left_g": 5.0}, "foam_left_g")):
        with pytest.raises(Refused) as refused:
            replace(part, **changed)  # type: ignore[arg-type]
        assert refused.value.field == field


def test_which_cavities_can_be_filled() -> None:
    check_cavities([GOOD, replace(GOOD, cavity=4)], 4, {2})
    for cavity, words in ((0, "no cavity 0"), (5, "no cavity 5: it has 4"), (2, "is retired")):
        with pytest.raises(Refused, match=words):
            check_cavities([replace(GOOD, cavity=cavity)], 4, {2})


def pieces(way: Way, *good: bool) -> tuple[ShotPiece, ...]:
    return tuple(
        ShotPiece(cavity=number, is_good=is_good, way=way, grade=5 if is_good else 1)
        for number, is_good in enumerate(good, 1)
    )


def test_a_trial_counts_pieces_or_whole_shots() -> None:
    better, worse = pieces("first", True, True, True, True), pieces("second", False, False, False, False)
    by_piece = trial_result([better, worse], by_shot=False, is_graded=False)
    assert by_piece == compare_good((4, 0), (0, 4))
    assert by_piece is not None
    assert by_piece.verdict == "first"
    # as shots they are one of each, which tells nothing
    by_shot = trial_result([better, worse], by_shot=True, is_graded=False)
    assert by_shot == compare_good((1, 0), (0, 1))
    assert by_shot is not None
    assert by_shot.verdict == "too few"
    # a shot with one flawed piece of two is not good
    half = trial_result([pieces("first", True, False), pieces("second", True, True)], by_shot=True, is_graded=False)
    assert half == compare_good((0, 1), (1, 0))
    graded = trial_result([better, worse], by_shot=False, is_graded=True)
    assert graded == compare_grades([5.0] * 4, [1.0] * 4)
    assert trial_result([pieces("first", True, False), worse], by_shot=True, is_graded=True) == compare_grades([3], [1])
    # nothing to compare: one way alone, no grades, no pieces, or pieces of no trial
    for shots in ([better], [worse], [()], [(GOOD, BAD)]):
        assert trial_result(shots, by_shot=False, is_graded=False) is None
    ungraded = [tuple(replace(one, grade=None) for one in shot) for shot in (better, worse)]
    assert trial_result(ungraded, by_shot=False, is_graded=True) is None


def test_uneven_trials_and_ties() -> None:
    # 9 of 9 against 0 of 3 by Fisher: one table of 220 is as clear, 1 / C(12, 3)
    uneven = compare_good((9, 0), (0, 3))
    assert uneven.chance == pytest.approx(1 / 220)
    assert uneven.verdict == "first"
    # two against nine can't be told whatever comes out as surely as three: 1 / C(11, 2)
    assert compare_good((9, 0), (0, 2)).chance == pytest.approx(1 / 55)
    assert compare_good((0, 9), (3, 0)).verdict == "second"
    # grades of two against five apart: 2 / C(7, 2) two-sided
    assert compare_grades([1, 2], [3, 4, 5, 6, 7]).chance == pytest.approx(2 / 21)
    assert compare_grades([1, 2], [3, 4, 5, 6, 7]).verdict == "too few"
    assert compare_grades([1, 2, 3, 4], [5, 6, 7, 8]).chance == pytest.approx(2 / 70)


def test_the_evidence_is_by_the_cavity() -> None:
    shots = [
        PastShot(mixed_g=30, left_g=5, cavities=2),
        PastShot(mixed_g=60, left_g=12, cavities=4),
        PastShot(mixed_g=20, left_g=1, cavities=2),
    ]
    found = next_amount(shots, 80)
    assert found is not None
    # 15 g a cavity twice in a row, whatever the number of cavities; then 10 g
    assert [(one.g, one.times, one.enough) for one in found.tried] == [(15, 2, 2), (10, 1, 1)]
    for confidence in (50, 99):
        assert next_amount(shots, confidence)
    for confidence in (49.9, 99.5):
        with pytest.raises(Refused, match="between 50 and 99"):
            next_amount(shots, confidence)
    with pytest.raises(Refused, match="less than what was mixed"):
        PastShot(mixed_g=10, left_g=10)
