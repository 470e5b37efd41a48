"""The log of a mould: its shots, each piece good or flawed, and what they tell of cavities and of two ways."""

from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from ufrin.core.casting.cast_cups import SHOT_PARTS
from ufrin.core.casting.next_amount import PastShot
from ufrin.core.casting.two_ways import TrialResult, Way, compare_good, compare_grades
from ufrin.errors import Refused
from ufrin.language import Text

LONGEST_NOTE = 400
NOT_FILLED = "not-filled"
GRADES = range(1, 6)
# of the fault finder's symptoms, those that a piece can show; the first is the log's own
FLAWS: Mapping[str, str] = {
    NOT_FILLED: Text("not filled"),
    "bubbles-all": Text("bubbles"),
    "warts": Text("warts"),
    "lines": Text("lines or folds"),
    "sticky-all": Text("sticky"),
    "soft": Text("too soft"),
    "cast-warped": Text("warped"),
    "cloudy": Text("cloudy"),
    "oily": Text("oily"),
    "wrong-colour": Text("wrong colour"),
    "torn": Text("torn"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class ShotPiece:
    """One piece of a shot.

    Parameters
    ----------
    cavity : int
        That it was cast in.
    is_good, flaws : bool, tuple of str
        Whether it is good, and what is wrong where it is not.
    final_g : float or None
        Its weight.
    way, grade : str or None, int or None
        Of a trial: the way that it was made, and its grade, from 1 to 5 for the best.
    """

    cavity: int
    is_good: bool = True
    flaws: tuple[str, ...] = ()
    final_g: float | None = None
    way: Way | None = None
    grade: int | None = None

    def __post_init__(self) -> None:
        if not set(self.flaws) <= set(FLAWS):
            raise Refused("flaws", Text("That is not one of the flaws. Choose again."))
        if self.is_good and self.flaws:
            raise Refused(
                "flaws",
                Text("Piece {cavity} is marked as good and has a flaw. Which of the two is it?", cavity=self.cavity),
            )
        if self.final_g is not None and not 0 < self.final_g < 1e7:
            raise Refused("final_g", Text("The weight of a piece must be more than 0."))
        if self.grade is not None and self.grade not in GRADES:
            raise Refused("grade", Text("A grade goes from 1, the worst, to 5, the best."))


@dataclass(frozen=True, slots=True, kw_only=True)
class ShotPart:
    """A part of a shot that was mixed by itself, such as the foam behind a shell.

    Parameters
    ----------
    part, resin : str
        One of ``SHOT_PARTS``, and the name of what was mixed.
    mixed_g, left_g, missing_g : float
        Mixed, left over, and what was missing where it was short.
    was_short : bool
        Whether it was not enough.
    """

    part: str
    resin: str
    mixed_g: float
    left_g: float = 0.0
    was_short: bool = False
    missing_g: float = 0.0

    def __post_init__(self) -> None:
        if self.part not in SHOT_PARTS:
            raise Refused("", Text("A shot has no such part. Load the page again."))
        _check_amounts(self.mixed_g, self.left_g, self.missing_g, was_short=self.was_short, part=f"{self.part}_")


def _check_amounts(mixed_g: float, left_g: float, missing_g: float, *, was_short: bool, part: str = "") -> None:
    if not 0 < mixed_g < 1e7:
        raise Refused(f"{part}mixed_g", Text("How much was mixed? It must be more than nothing."))
    if not 0 <= left_g < mixed_g:
        raise Refused(f"{part}left_g", Text("What was left over is less than what was mixed."))
    if not 0 <= missing_g < 1e7 or (missing_g and not was_short):
        raise Refused(f"{part}missing_g", Text("Something can only be missing where it was short."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Shot:
    """One shot as it is logged.

    Parameters
    ----------
    kind, resin : str
        Of the cast, and the name of what was cast.
    mixed_g, left_g, missing_g : float
        Mixed, left over, and what was missing where it was short.
    was_short, was_partly_filled : bool
        Whether it was not enough; and whether the cavities were only partly filled on purpose, which teaches nothing.
    pieces : tuple of ShotPiece
        One of each cavity that was filled.
    parts : tuple of ShotPart
        What was mixed by itself, where not all of it was of one mix; the amounts above are theirs together.
    release, air, attitude, note, who : str
        As a maker has it.
    mould_c, room_c : float or None
        Temperatures.
    reason : str
        Why it was cast although the mould still cured; empty where it did not.
    """

    kind: str
    resin: str
    mixed_g: float
    pieces: tuple[ShotPiece, ...]
    parts: tuple[ShotPart, ...] = ()
    left_g: float = 0.0
    was_short: bool = False
    was_partly_filled: bool = False
    missing_g: float = 0.0
    release: str = ""
    air: str = ""
    attitude: str = ""
    note: str = ""
    who: str = ""
    mould_c: float | None = None
    room_c: float | None = None
    reason: str = ""

    def __post_init__(self) -> None:
        _check_amounts(self.mixed_g, self.left_g, self.missing_g, was_short=self.was_short)
        if self.was_partly_filled and self.was_short:
            raise Refused(
                "was_short", Text("A cavity that was only partly filled on purpose was not short. Tick one of the two.")
            )
        if not self.pieces:
            raise Refused("cavities", Text("Which cavities were filled? Tick at least one."))
        if len({piece.cavity for piece in self.pieces}) < len(self.pieces):
            raise Refused("cavities", Text("A shot fills each cavity once."))
        if max(len(self.note), len(self.reason)) > LONGEST_NOTE:
            raise Refused(
                "note", Text("That is too long: {longest_note} characters are the most.", longest_note=LONGEST_NOTE)
            )

    @property
    def past(self) -> PastShot:
        """What it tells of the amount."""
        return PastShot(
            mixed_g=self.mixed_g,
            left_g=self.left_g,
            cavities=len(self.pieces),
            was_short=self.was_short,
            missing_g=self.missing_g,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class CavityRecord:
    """What a cavity has come to: its number, its shots, how many of its pieces were good, and why it is retired."""

    number: int
    shots: int
    good: int
    retired: str = ""


def together(parts: Sequence[ShotPart]) -> dict[str, Any]:
    """Return the amounts of a shot whose parts were mixed by themselves.

    Parameters
    ----------
    parts : sequence of ShotPart
        All of the shot.

    Returns
    -------
    dict
        As ``Shot`` takes them, the parts among them.
    """
    return {
        "parts": tuple(parts),
        "mixed_g": sum(one.mixed_g for one in parts),
        "left_g": sum(one.left_g for one in parts),
        "was_short": any(one.was_short for one in parts),
        "missing_g": sum(one.missing_g for one in parts),
    }


def check_cavities(pieces: Sequence[ShotPiece], count: int, retired: Collection[int]) -> None:
    """Refuse a shot into cavities that can't be filled.

    Parameters
    ----------
    pieces : sequence of ShotPiece
        Of the shot.
    count : int
        Cavities of the mould.
    retired : collection of int
        Those that are no longer filled.

    Raises
    ------
    Refused
        For a cavity that the mould does not have, or that is retired.
    """
    for piece in pieces:
        if not 1 <= piece.cavity <= count:
            raise Refused(
                "cavities", Text("This mould has no cavity {cavity}: it has {count}.", cavity=piece.cavity, count=count)
            )
        if piece.cavity in retired:
            raise Refused(
                "cavities",
                Text("Cavity {cavity} is retired. Leave it out, or take it back into use first.", cavity=piece.cavity),
            )


def trial_result(shots: Sequence[Sequence[ShotPiece]], *, by_shot: bool, is_graded: bool) -> TrialResult | None:
    """Compare the two ways of a trial.

    Parameters
    ----------
    shots : sequence of sequence of ShotPiece
        The pieces of each shot of the trial.
    by_shot : bool
        Whether a whole shot is made one way. Its pieces share their luck then, so the shot counts as one: good where
        all of its pieces are, with the mean of their grades.
    is_graded : bool
        Whether grades are compared, instead of good and flawed pieces.

    Returns
    -------
    TrialResult or None
        None before something of each way came out.
    """
    units = list(shots) if by_shot else [(piece,) for pieces in shots for piece in pieces]
    found: dict[Way, list[float]] = {"first": [], "second": []}
    for unit in units:
        way = unit[0].way if unit else None
        grades = [piece.grade for piece in unit if piece.grade is not None]
        if way is None or (is_graded and not grades):
            continue
        found[way].append(sum(grades) / len(grades) if is_graded else float(all(piece.is_good for piece in unit)))
    first, second = found["first"], found["second"]
    if not first or not second:
        return None
    if is_graded:
        return compare_grades(first, second)
    good, good_too = (int(sum(one)) for one in (first, second))
    return compare_good((good, len(first) - good), (good_too, len(second) - good_too))
