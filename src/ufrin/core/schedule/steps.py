"""What is planned: steps with their waits, people with their hours, things with their number; and a plan of them.

Times are whole seconds since the plan's start.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from graphlib import CycleError, TopologicalSorter

from ufrin.errors import Refused
from ufrin.language import Counted, Text

MOST_STEPS = 1000
MOST_PEOPLE = 50
MOST_OF_A_THING = 1000
LONGEST_S = 10 * 366 * 86_400
Window = tuple[int, int]


@dataclass(frozen=True, slots=True, kw_only=True)
class After:
    """A wait from the end of an earlier step to the begin of this one.

    Parameters
    ----------
    key : str
        Of the earlier step.
    at_least_s, at_most_s : int, int or None
        The wait; None where it may be as long as it likes.
    """

    key: str
    at_least_s: int = 0
    at_most_s: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """A step of the work: first a pair of hands, then time in which it goes on alone.

    Parameters
    ----------
    key, job, label : str
        What it is known by, which job it is of, and what is done.
    attended_s : int
        Of one person, within that person's hours and not cut by their end.
    alone_s : int
        After that, at any hour.
    after : tuple of After
        The steps before it.
    uses : tuple of str
        Keys of the things that it holds from its begin to its end.
    finish_by_s : int or None
        When it is wished to have ended.
    earliest_s : int
        It can't begin before.
    begins_s : int or None
        Where it begins just then: it was put there, or it has begun.
    person : str or None
        Who does it, where that is settled.
    is_under_way : bool
        Whether it has begun or is done. Then its hours are not asked for, nor what comes before it.
    """

    key: str
    job: str
    label: str = ""
    attended_s: int = 0
    alone_s: int = 0
    after: tuple[After, ...] = ()
    uses: tuple[str, ...] = ()
    finish_by_s: int | None = None
    earliest_s: int = 0
    begins_s: int | None = None
    person: str | None = None
    is_under_way: bool = False

    @property
    def takes_s(self) -> int:
        """From its begin to its end."""
        return self.attended_s + self.alone_s

    @property
    def called(self) -> str:
        """What it is called in a sentence."""
        return self.label or self.key


@dataclass(frozen=True, slots=True, kw_only=True)
class Worker:
    """A person with the windows in which they work, in order and apart from each other."""

    key: str
    windows: tuple[Window, ...]


@dataclass(frozen=True, slots=True, kw_only=True)
class Thing:
    """Equipment of one kind: how many there are, when one of them is away, and what it is called in a sentence."""

    key: str
    count: int = 1
    away: tuple[Window, ...] = ()
    label: str = ""

    @property
    def called(self) -> str:
        """What it is called in a sentence."""
        return self.label or self.key


@dataclass(frozen=True, slots=True, kw_only=True)
class Work:
    """All that is to be planned together.

    Raises
    ------
    Refused
        For steps that nothing can be planned with: two of one key, one that waits for itself or for what is not there,
        a circle, a longest wait below the least one, a thing that is short, or a step that fits into no window.
    """

    steps: tuple[Step, ...]
    people: tuple[Worker, ...]
    things: tuple[Thing, ...] = ()

    def __post_init__(self) -> None:
        _check_steps(self.steps)
        _check_circle(self.steps)
        for step in self.steps:
            _check_things(step, {one.key: one.count for one in self.things})
            _check_people(step, self.people)

    def by_key(self) -> Mapping[str, Step]:
        """Return the steps by their keys."""
        return {one.key: one for one in self.steps}


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedStep:
    """A step with its times, and who does it: None where nobody is needed."""

    key: str
    begins_s: int
    hands_off_s: int
    ends_s: int
    person: str | None


@dataclass(frozen=True, slots=True, kw_only=True)
class SchedulePlan:
    """Steps with their times.

    Parameters
    ----------
    placed : tuple of PlacedStep
        By the time of their begin.
    makespan_s, late_s : int
        When the last one ends; and the sum of what steps end after their wishes.
    bound_s, late_bound_s : int
        No plan ends earlier, and none is less late.
    is_proven : bool
        Whether it is shown that no plan is less late, or as late and ends earlier.
    """

    placed: tuple[PlacedStep, ...]
    makespan_s: int
    late_s: int
    bound_s: int = 0
    late_bound_s: int = 0
    is_proven: bool = False

    @property
    def gap(self) -> float:
        """By which share it may end later than the best plan; 0 where it is proven."""
        return 0.0 if self.is_proven or not self.makespan_s else max(0.0, 1 - self.bound_s / self.makespan_s)

    def by_key(self) -> Mapping[str, PlacedStep]:
        """Return the placed steps by their keys."""
        return {one.key: one for one in self.placed}


def plan_of(work: Work, begins_s: Mapping[str, int], people: Mapping[str, str | None]) -> SchedulePlan:
    """Put a plan together.

    Parameters
    ----------
    work : Work
        What is planned.
    begins_s : mapping of key to int
        Of every step.
    people : mapping of key to str or None
        Who does it.

    Returns
    -------
    SchedulePlan
        Not proven.
    """
    placed = [
        PlacedStep(
            key=one.key,
            begins_s=begins_s[one.key],
            hands_off_s=begins_s[one.key] + one.attended_s,
            ends_s=begins_s[one.key] + one.takes_s,
            person=people.get(one.key),
        )
        for one in work.steps
    ]
    wishes = {one.key: one.finish_by_s for one in work.steps if one.finish_by_s is not None}
    return SchedulePlan(
        placed=tuple(sorted(placed, key=lambda one: (one.begins_s, one.key))),
        makespan_s=max((one.ends_s for one in placed), default=0),
        late_s=sum(max(0, one.ends_s - wishes[one.key]) for one in placed if one.key in wishes),
    )


def _check_steps(steps: Sequence[Step]) -> None:
    if len(steps) > MOST_STEPS:
        raise Refused(
            "steps", Text("A plan holds at most {most_steps} steps. Plan fewer jobs at once.", most_steps=MOST_STEPS)
        )
    keys: set[str] = set()
    for step in steps:
        if step.key in keys:
            raise Refused("steps", Text("Two steps have the name “{key}”. Give each a name of its own.", key=step.key))
        keys.add(step.key)
    for step in steps:
        if min(step.attended_s, step.alone_s) < 0 or step.takes_s > LONGEST_S:
            raise Refused("steps", Text("“{called}” takes a time that can't be planned.", called=step.called))
        for wait in step.after:
            if wait.key not in keys:
                raise Refused(
                    "steps",
                    Text(
                        "“{called}” comes after “{key}”, and there is no such step.", called=step.called, key=wait.key
                    ),
                )
            if wait.at_most_s is not None and wait.at_most_s < wait.at_least_s:
                raise Refused(
                    "steps",
                    Text(
                        "“{called}” must wait for “{key}” longer than it may. Make the longest wait at least "
                        "the shortest one.",
                        called=step.called,
                        key=wait.key,
                    ),
                )


def _check_circle(steps: Sequence[Step]) -> None:
    called = {one.key: one.called for one in steps}
    try:
        TopologicalSorter({one.key: [wait.key for wait in one.after] for one in steps}).prepare()
    except CycleError as error:
        names = ", ".join(f"“{called[key]}”" for key in error.args[1][:-1])
        raise Refused(
            "steps", Text("These steps wait for each other in a circle: {names}. Take one wait away.", names=names)
        ) from error


def _check_things(step: Step, counts: Mapping[str, int]) -> None:
    for thing in set(step.uses):
        if thing not in counts:
            raise Refused(
                "equipment",
                Text(
                    "“{called}” needs “{thing}”, and there is none. Add it to the equipment.",
                    called=step.called,
                    thing=thing,
                ),
            )
        if step.uses.count(thing) > counts[thing]:
            raise Refused(
                "equipment",
                Counted(
                    "“{called}” needs {number} of “{thing}” at once, and there is {n}.",
                    "“{called}” needs {number} of “{thing}” at once, and there are {n}.",
                    n=counts[thing],
                    called=step.called,
                    number=step.uses.count(thing),
                    thing=thing,
                ),
            )


def _check_people(step: Step, people: Sequence[Worker]) -> None:
    if not step.attended_s or step.is_under_way:
        return
    able = [one for one in people if step.person in {None, one.key}]
    if not able:
        raise Refused(
            "people", Text("“{called}” needs a pair of hands, and nobody can do it. Add a person.", called=step.called)
        )
    longest_s = max((end - begin for one in able for begin, end in one.windows), default=0)
    if step.attended_s > longest_s:
        raise Refused(
            "hours",
            Text(
                "“{called}” needs {attended_s:g} min of somebody's time in one piece, and the longest "
                "stretch of working time is {longest_s:g} min. Divide the step, or add hours.",
                called=step.called,
                attended_s=step.attended_s / 60,
                longest_s=longest_s / 60,
            ),
        )
