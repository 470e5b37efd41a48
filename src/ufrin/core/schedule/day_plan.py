"""The plan of the shop as it is kept and shown: its steps, and the promises that another plan would touch."""

from dataclasses import dataclass

LATE_S = 300  # what is later by no more than that is on time


@dataclass(frozen=True, slots=True, kw_only=True)
class DayStep:
    """A step on the plan, in seconds since 1970.

    ``wish_s`` is when it was promised, ``uses`` names what it holds, ``is_placed`` whether somebody put it there,
    ``tick`` what ticks it off, and ``person`` who does it.
    """

    key: str
    job: str
    label: str
    begins_s: float
    hands_off_s: float
    ends_s: float
    person: str
    uses: tuple[str, ...]
    wish_s: float | None = None
    is_placed: bool = False
    is_under_way: bool = False
    tick: str = ""
    job_id: int | None = None
    order_id: int | None = None
    other_id: int | None = None

    @property
    def is_attended(self) -> bool:
        """Whether somebody stands by it for a time."""
        return self.hands_off_s > self.begins_s

    @property
    def late_s(self) -> float:
        """By how much it misses its promise; 0 where it does not."""
        return max(0.0, self.ends_s - self.wish_s) if self.wish_s is not None else 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class DayPlan:
    """A plan of the shop: its steps by their begin, how late they are together, and how good it is.

    ``listed_end_s`` is when all would end by the plainest rule, longest chain first; None where that finds no plan.
    """

    steps: tuple[DayStep, ...]
    start_s: float
    late_s: float
    gap: float
    is_proven: bool
    listed_end_s: float | None = None

    @property
    def ends_s(self) -> float:
        """When the last step ends."""
        return max((one.ends_s for one in self.steps), default=self.start_s)

    def step(self, key: str) -> DayStep | None:
        """Find a step."""
        return next((one for one in self.steps if one.key == key), None)


@dataclass(frozen=True, slots=True, kw_only=True)
class Touched:
    """A promise that another plan would move: when its step would end, and when it ends by the plan that counts."""

    step: DayStep
    before_s: float


def touched(taken: DayPlan, made: DayPlan) -> tuple[Touched, ...]:
    """Return the promises that another plan would break, or break by more.

    Parameters
    ----------
    taken : DayPlan
        The one that counts.
    made : DayPlan
        The other one.

    Returns
    -------
    tuple of Touched
        Of the wishes that are the same in both.
    """
    before = {one.key: one for one in taken.steps}
    return tuple(
        Touched(step=one, before_s=before[one.key].ends_s)
        for one in made.steps
        if one.key in before
        and one.wish_s is not None
        and one.late_s > 0
        and one.wish_s == before[one.key].wish_s
        and one.ends_s > before[one.key].ends_s + LATE_S
    )
