"""The table of a practice as it stands: what is truly in the cup, what the scale shows, and which tin is at hand."""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.practice.levels import MISHAPS, SPEED, STEP_G, MishapKind
from ufrin.core.practice.practice_lines import ACTS, TIPPED, PracticeSetup, Stream, poured_by
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.record_entries import Step
from ufrin.errors import Refused
from ufrin.language import Text

CUP_G = 38.0
RESTS_S = 0.8  # a scale comes to rest so long after what is on it was moved
SHOWN_STEPS = 3  # a scale may show so many steps beside the true weight, by its noise and until it has settled


@dataclass(frozen=True, slots=True, kw_only=True)
class Course:
    """How a mishap went, by the clock of the practice.

    Parameters
    ----------
    began_s : float or None
        None as long as it has not begun.
    noticed_s : float or None
        When the maker noticed it, by calling it or by doing the right thing.
    is_over : bool
        Whether it can do no more harm, or has done it.
    is_mastered : bool
        Whether the right thing was done; known once it is over.
    """

    began_s: float | None = None
    noticed_s: float | None = None
    is_over: bool = False
    is_mastered: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Cup:
    """A cup with all that has run into it, and whether it is the one that was poured."""

    streams: tuple[Stream, ...] = ()
    is_poured: bool = False

    @property
    def is_spoilt(self) -> bool:
        """Whether something of a wrong tin is in it."""
        return any(stream.is_wrong for stream in self.streams)


@dataclass(frozen=True, slots=True, kw_only=True)
class PracticeTable:
    """A practice as its lines have it.

    Parameters
    ----------
    setup : PracticeSetup
        As it began.
    bench : BenchState
        Where the weighing is, by its record.
    courses : mapping of mishap to Course
        Of those that are planted.
    cup : Cup or None
        On the scale.
    cups : tuple of Cup
        That were set aside or poured.
    skipped_s, skipped_at_s : float, float or None
        For how long the maker was called away, and when.
    drift_from_s, steady_from_s : float or None
        When the scale began to drift, and when another took its place.
    false_alarms : int
        How often something was called wrong that was not.
    answer : str
        What the last call brought: the kind of mishap where it was right, "none" where nothing was wrong.
    last_s : float
        Of the last line.
    touched_s : float
        When what is on the scale was last put there.
    """

    setup: PracticeSetup
    bench: BenchState
    courses: Mapping[MishapKind, Course]
    cup: Cup | None = None
    cups: tuple[Cup, ...] = ()
    skipped_s: float = 0.0
    skipped_at_s: float | None = None
    drift_from_s: float | None = None
    steady_from_s: float | None = None
    false_alarms: int = 0
    answer: str = ""
    last_s: float = 0.0
    touched_s: float = 0.0

    @property
    def step(self) -> Step:
        """What the bench asks for next."""
        return self.bench.step

    @property
    def asked(self) -> str:
        """The part that the bench asks for now; empty at any other step."""
        one = self.step.ingredient
        return one.key if one and self.step.kind in {"hold", "weigh"} else ""

    @property
    def hands_wrong_tin(self) -> bool:
        """Whether the tin at hand is not the one that is asked for."""
        course = self.courses.get("wrong-part")
        if course is None or course.is_over or not self.asked or self.step.is_mend:
            return False
        return self.part_of("wrong-part") == self.asked

    @property
    def tin(self) -> str:
        """The part in the tin at hand; empty while none is."""
        if not self.hands_wrong_tin:
            return self.asked
        return "B" if self.asked == "A" else "A"

    @property
    def is_over(self) -> bool:
        """Whether the practice has ended: a cup is poured, or the batch is given up."""
        return self.bench.is_finished or any(cup.is_poured for cup in self.cups) or self._is_given_up

    @property
    def _is_given_up(self) -> bool:
        # thrown away, after the maker had been called away from it
        course = self.courses.get("pot-life")
        return bool(course and course.is_over) and self.bench.attempt.outcome == "discarded"

    @property
    def poured(self) -> Cup | None:
        """The cup that was poured."""
        return next((cup for cup in self.cups if cup.is_poured), None)

    def truly_g(self, at_s: float) -> Mapping[str, float]:
        """Return what is truly in the cup on the scale.

        Parameters
        ----------
        at_s : float
            By the clock of the practice.

        Returns
        -------
        mapping of part to g
            Empty without a cup.
        """
        return poured_by(self.cup.streams, at_s) if self.cup else {}

    def load_g(self, at_s: float) -> float:
        """Return the weight on the scale, cup included, in g."""
        return CUP_G + sum(self.truly_g(at_s).values()) if self.cup else 0.0

    def drift_g(self, at_s: float) -> float:
        """Return by how much the scale shows too much, in g; it does not drift on while the maker is away."""
        if self.drift_from_s is None or (self.steady_from_s is not None and at_s >= self.steady_from_s):
            return 0.0
        return self.setup.level.drift_g_per_s * (self.real_s(at_s) - self.real_s(self.drift_from_s))

    def shown_g(self, at_s: float) -> float:
        """Return what the scale shows, in g, to its step."""
        return round((self.load_g(at_s) + self.drift_g(at_s)) / STEP_G) * STEP_G

    def can_show(self, shown_g: float, at_s: float) -> bool:
        """Return whether the scale can show a weight, in g, by its noise."""
        return abs(shown_g - self.shown_g(at_s)) <= SHOWN_STEPS * STEP_G + 1e-9

    def read_g(self, at_s: float, shown_g: float | None = None) -> float:
        """Return the reading that is taken.

        Parameters
        ----------
        at_s : float
            By the clock of the practice.
        shown_g : float or None, optional
            What was read; counts where the scale can show it.

        Returns
        -------
        float
            In g, the cup included.

        Raises
        ------
        Refused
            While the scale has not come to rest.
        """
        if not self.rests_at(at_s):
            raise Refused("scale", Text("The scale has not come to rest. Put the tin upright, wait, and tap again."))
        return shown_g if shown_g is not None and self.can_show(shown_g, at_s) else self.shown_g(at_s)

    def check_act(self, kind: str, what: str) -> None:
        """Refuse what can't be done at the table now.

        Parameters
        ----------
        kind : str
            Of an act.
        what : str
            How far the tin is to be tipped, or what is called wrong.

        Raises
        ------
        Refused
            Which says what to do first.
        """
        choices = {"tip": TIPPED, "flag": frozenset(MISHAPS)}
        if kind not in ACTS or what not in choices.get(kind, {what}):
            raise Refused("", Text("That is not one of the steps. Reload the page: nothing is lost."))
        if kind == "cup" and self.cup is not None:
            raise Refused("", Text("A cup is on the scale already."))
        if kind == "tip" and self.cup is None:
            raise Refused("", Text("There is no cup on the scale: it would run over the scale. Put one on first."))
        if kind == "tip" and self.step.kind != "weigh":
            raise Refused("", Text("Do what the bench asks for first: it says when to pour."))

    def runs_at(self, at_s: float) -> bool:
        """Return whether something runs into the cup."""
        return self.cup is not None and any(stream.runs_at(at_s) for stream in self.cup.streams)

    @property
    def is_tipped(self) -> bool:
        """Whether the tin is held tipped."""
        return self.cup is not None and any(stream.to_s is None for stream in self.cup.streams)

    def rests_at(self, at_s: float) -> bool:
        """Return whether the scale has come to rest."""
        ends = [stream.to_s or at_s for stream in self.cup.streams] if self.cup else []
        moved_s = max([self.touched_s, *ends])
        return not self.runs_at(at_s) and at_s - moved_s >= SPEED * RESTS_S

    def real_s(self, at_s: float) -> float:
        """Return the seconds by a wall clock at a time of the practice: without those that were skipped."""
        skipped_s = self.skipped_s if self.skipped_at_s is not None and at_s > self.skipped_at_s else 0.0
        return (at_s - skipped_s) / SPEED

    def at_s(self, real_s: float) -> float:
        """Return the time of the practice, never before its last line, at a time by a wall clock since it began."""
        return max(self.last_s, SPEED * real_s + self.skipped_s)

    def part_of(self, kind: MishapKind) -> str:
        """Return the part at which a mishap is planted; empty where it is not."""
        return next((mishap.part for mishap in self.setup.mishaps if mishap.kind == kind), "")
