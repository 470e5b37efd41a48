"""The review of a practice: which mishaps were noticed, how close the cup came, and how long it took."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ufrin.core.practice.levels import MISHAPS, STEP_G, LevelKey, MishapKind
from ufrin.core.practice.practice_lines import poured_by
from ufrin.core.practice.practice_table import PracticeTable
from ufrin.core.weighing.next_step import sum_of

MOST_FALSE_ALARMS = 1  # one look too many does no harm; calling everything wrong is guessing
LATELY = 5  # as many as tell how soon somebody notices a mishap now
MASTERED_AFTER = 2  # a level is mastered once it went well so many times


@dataclass(frozen=True, slots=True, kw_only=True)
class MishapReview:
    """How a mishap went.

    Parameters
    ----------
    kind : str
        Which.
    part : str
        At which it was planted.
    began_s, noticed_s : float or None
        In seconds by a wall clock since the practice began.
    is_mastered : bool
        Whether the right thing was done.
    """

    kind: MishapKind
    part: str
    began_s: float | None
    noticed_s: float | None
    is_mastered: bool

    @property
    def took_s(self) -> float | None:
        """How long it went unnoticed; None where it never was noticed."""
        return None if self.began_s is None or self.noticed_s is None else max(0.0, self.noticed_s - self.began_s)


@dataclass(frozen=True, slots=True, kw_only=True)
class WeighedPart:
    """A part of the poured cup: what its record holds, and what is truly in the cup."""

    part: str
    planned_g: float
    recorded_g: float
    truly_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class PracticeReview:
    """What came of a practice.

    Parameters
    ----------
    mishaps : tuple of MishapReview
        Those that were planted.
    parts : tuple of WeighedPart
        Of the poured cup; empty where none was poured.
    ratio_error_pct : float or None
        Of B/A as it truly is in the poured cup.
    took_s : float
        By a wall clock.
    left_s : float or None
        Of the pot life when the cup was poured, by the clock of the practice; negative when it was past.
    false_alarms : int
        How often something was called wrong that was not.
    is_close : bool
        Whether that is within the tolerance of the rubber.
    is_well : bool
        Whether it all went well.
    """

    mishaps: tuple[MishapReview, ...]
    parts: tuple[WeighedPart, ...]
    ratio_error_pct: float | None
    took_s: float
    left_s: float | None
    false_alarms: int
    is_close: bool
    is_well: bool

    @property
    def met(self) -> tuple[MishapReview, ...]:
        """The mishaps that came about."""
        return tuple(one for one in self.mishaps if one.began_s is not None)


def review(table: PracticeTable) -> PracticeReview:
    """Review a practice that has ended.

    Parameters
    ----------
    table : PracticeTable
        After its last line.

    Returns
    -------
    PracticeReview
        It went well where every mishap that came about was met by the right thing, what was poured has its ratio
        within the tolerance of the rubber and was poured in time, and at most one false alarm was called.
    """
    mishaps = tuple(
        MishapReview(
            kind=one.kind,
            part=one.part,
            began_s=_real_s(table, table.courses[one.kind].began_s),
            noticed_s=_real_s(table, table.courses[one.kind].noticed_s),
            is_mastered=table.courses[one.kind].is_mastered,
        )
        for one in table.setup.mishaps
    )
    parts = _parts(table)
    error_pct = _ratio_error_pct(table, parts)
    left_s = _left_s(table)
    # a scale shows whole steps: what it can't show is nobody's fault
    step_pct = 100 * STEP_G / min(one.g for one in table.bench.batch)
    is_close = error_pct is not None and abs(error_pct) <= table.setup.plan.tolerance_pct + step_pct
    is_in_time = left_s is None or left_s >= 0
    gave_up_rightly = table.poured is None and any(one.kind == "pot-life" and one.is_mastered for one in mishaps)
    is_clean = table.poured is None or not table.poured.is_spoilt
    return PracticeReview(
        mishaps=mishaps,
        parts=parts,
        ratio_error_pct=error_pct,
        took_s=table.real_s(table.last_s),
        left_s=left_s,
        false_alarms=table.false_alarms,
        is_close=is_close,
        is_well=all(one.is_mastered for one in mishaps if one.began_s is not None)
        and (gave_up_rightly or (is_close and is_in_time and is_clean))
        and table.false_alarms <= MOST_FALSE_ALARMS,
    )


def _real_s(table: PracticeTable, at_s: float | None) -> float | None:
    return None if at_s is None else table.real_s(at_s)


def _parts(table: PracticeTable) -> tuple[WeighedPart, ...]:
    cup = table.poured
    if cup is None:
        return ()
    truly_g, attempt = poured_by(cup.streams, table.last_s), table.bench.attempt
    return tuple(
        WeighedPart(
            part=one.key,
            planned_g=one.g,
            recorded_g=attempt.poured_g.get(one.key, 0.0),
            truly_g=truly_g.get(one.key, 0.0),
        )
        for one in table.bench.batch
    )


def _ratio_error_pct(table: PracticeTable, parts: Sequence[WeighedPart]) -> float | None:
    truly_g = {one.part: one.truly_g for one in parts}
    a_g, b_g = (sum_of(table.bench.batch, truly_g, role) for role in ("A", "B"))
    return 100 * (b_g / a_g / table.setup.plan.b_per_a - 1) if a_g > 0 else None


def _left_s(table: PracticeTable) -> float | None:
    poured = next((entry for entry in table.bench.valid if entry.kind == "poured"), None)
    clock = table.bench.clock(poured.at) if poured else None
    return clock.left_s if clock else None


@dataclass(frozen=True, slots=True, kw_only=True)
class PastPractice:
    """A practice that has ended, as somebody's progress counts it."""

    level: LevelKey
    review: PracticeReview


@dataclass(frozen=True, slots=True, kw_only=True)
class MishapProgress:
    """How somebody does with a kind of mishap: how often it was met and mastered, and how soon it is noticed lately."""

    kind: MishapKind
    met: int
    mastered: int
    took_s: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class LevelProgress:
    """How somebody does at a level: how often it was practised, and how often that went well."""

    level: LevelKey
    practised: int
    well: int

    @property
    def is_mastered(self) -> bool:
        """Whether it went well often enough."""
        return self.well >= MASTERED_AFTER


@dataclass(frozen=True, slots=True, kw_only=True)
class Progress:
    """Somebody's progress.

    Parameters
    ----------
    levels : tuple of LevelProgress
        Of each level, in their order.
    mishaps : tuple of MishapProgress
        Of each kind.
    """

    levels: tuple[LevelProgress, ...]
    mishaps: tuple[MishapProgress, ...]

    @property
    def next_level(self) -> LevelKey:
        """The level to practise next: the first that is not mastered yet, or the last."""
        return next((one.level for one in self.levels if not one.is_mastered), self.levels[-1].level)

    @property
    def mastered(self) -> Mapping[MishapKind, int]:
        """How often each kind of mishap was mastered."""
        return {one.kind: one.mastered for one in self.mishaps}


def progress(past: Sequence[PastPractice], levels: Sequence[LevelKey]) -> Progress:
    """Work out somebody's progress.

    Parameters
    ----------
    past : sequence of PastPractice
        The newest first.
    levels : sequence of str
        In their order.

    Returns
    -------
    Progress
        Also of what was never practised.
    """
    return Progress(
        levels=tuple(
            LevelProgress(
                level=level,
                practised=sum(one.level == level for one in past),
                well=sum(one.level == level and one.review.is_well for one in past),
            )
            for level in levels
        ),
        mishaps=tuple(_mishap_progress(kind, past) for kind in MISHAPS),
    )


def _mishap_progress(kind: MishapKind, past: Sequence[PastPractice]) -> MishapProgress:
    met = [one for practice in past for one in practice.review.met if one.kind == kind]
    lately = [one.took_s for one in met if one.took_s is not None and one.is_mastered][:LATELY]
    return MishapProgress(
        kind=kind,
        met=len(met),
        mastered=sum(one.is_mastered for one in met),
        took_s=sum(lately) / len(lately) if lately else None,
    )
