"""The preparation of a job as it goes on: steps ticked off with their time, drying, and done when they are dry."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ufrin.core.pairing.contacts import PHASES, Phase
from ufrin.core.pairing.prep_step import PrepStep
from ufrin.core.rubber.tins import Rubber
from ufrin.language import Text

TINS = ("tins",)
LOOK_MIN = 2.0  # common practice
STIR_MIN = 5.0  # common practice: settled filler at the bottom of a tin takes a while to stir up


@dataclass(frozen=True, slots=True, kw_only=True)
class StepState:
    """A step, and when its work was done, in seconds since 1970; None while it is to do."""

    step: PrepStep
    done_at_s: float | None
    now_s: float

    @property
    def ready_at_s(self) -> float | None:
        """When it is dry."""
        return None if self.done_at_s is None else self.done_at_s + 60 * self.step.dry_min

    @property
    def is_done(self) -> bool:
        """Whether its work is done and it is dry."""
        return self.ready_at_s is not None and self.ready_at_s <= self.now_s

    @property
    def left_min(self) -> float:
        """How long it still takes until it is dry, the work included where that is to do."""
        if self.ready_at_s is None:
            return self.step.work_min + self.step.dry_min
        return max(0.0, self.ready_at_s - self.now_s) / 60


def with_tins(rubber: Rubber, steps: Sequence[PrepStep], phases: Sequence[Phase]) -> tuple[PrepStep, ...]:
    """Add what every pour needs: the look at the tins first of all, and the stir just before the pour.

    Parameters
    ----------
    rubber : Rubber
        As it is mixed.
    steps : sequence of PrepStep
        For what touches.
    phases : sequence of str
        In which rubber is poured.

    Returns
    -------
    tuple of PrepStep
        Pour by pour, in the order of the work. A tin whose lid was mixed up, or whose filler has settled, spoils a
        pour that was weighed to the gram; filler settles again within hours, so it is stirred last (common practice).
    """
    a, b = (
        f"{name}{f' ({colour})' if colour else ''}"
        for name, colour in ((rubber.a_name, rubber.a_colour), (rubber.b_name, rubber.b_colour))
    )
    found = []
    for phase in PHASES:
        own = [step for step in steps if step.phase == phase]
        if phase in phases:
            if rubber.form != "putty":
                own.append(
                    _at_the_tins(phase, Text("Stir {a} down to its bottom, and shake {b}", a=a, b=b), STIR_MIN, 0.0)
                )
            longest = max((step.before_min for step in own), default=0.0)
            look = Text("Check the lids, the lots and the use-by dates of {a} and {b}", a=a, b=b)
            own.append(_at_the_tins(phase, look, LOOK_MIN, longest))
        found += sorted(own, key=lambda step: -step.before_min)
    return tuple(found)


def _at_the_tins(phase: Phase, do: str, work_min: float, after_min: float) -> PrepStep:
    return PrepStep(phase=phase, do=do, before_min=work_min + after_min, work_min=work_min, dry_min=0.0, pairs=TINS)


def step_states(
    steps: Sequence[PrepStep], done_at_s: Mapping[str, float], *, since_s: float, now_s: float
) -> tuple[StepState, ...]:
    """Return where each step stands.

    Parameters
    ----------
    steps : sequence of PrepStep
        Of the job.
    done_at_s : mapping of step key to seconds since 1970
        As ticked off.
    since_s : float
        What was done before that belongs to an earlier mould.
    now_s : float
        Seconds since 1970.

    Returns
    -------
    tuple of StepState
        In the same order.
    """
    known = {key: at_s for key, at_s in done_at_s.items() if at_s > since_s}
    return tuple(StepState(step=step, done_at_s=known.get(step.key), now_s=now_s) for step in steps)


def begin_in_min(states: Sequence[StepState]) -> float:
    """Return how long before the pour what is left to do must be begun.

    Parameters
    ----------
    states : sequence of StepState
        Before one pour.

    Returns
    -------
    float
        The longest of what is left: drying of what is done, and the work, drying and followers of what is not.
    """
    return max((one.left_min if one.done_at_s is not None else one.step.before_min for one in states), default=0.0)
