"""The first plan, at once: steps are set one after the other, those first that hold up the most."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from graphlib import TopologicalSorter

import numpy as np
from scipy.sparse import coo_array
from scipy.sparse.csgraph import connected_components

from ufrin.core.schedule.free_time import PersonTime, ThingTime
from ufrin.core.schedule.steps import SchedulePlan, Step, Work, plan_of

MOST_TRIES = 400  # to set steps that may wait for each other only so long


def tails_s(work: Work) -> dict[str, int]:
    """Return how long the work goes on from the begin of each step.

    Parameters
    ----------
    work : Work
        All steps.

    Returns
    -------
    dict of key to int
        The longest chain of steps and least waits, the step itself included.
    """
    steps = work.by_key()
    found: dict[str, int] = {one.key: one.takes_s for one in work.steps}
    for key in reversed(_in_order(work.steps)):
        for wait in steps[key].after:
            found[wait.key] = max(found[wait.key], steps[wait.key].takes_s + wait.at_least_s + found[key])
    return found


def longest_tail_first(work: Work) -> SchedulePlan | None:
    """Plan by the plainest good rule: whatever holds up the longest chain comes first.

    Parameters
    ----------
    work : Work
        What is planned.

    Returns
    -------
    SchedulePlan or None
        None where this rule finds none.
    """
    tails = tails_s(work)
    return list_plan(work, {key: -tail for key, tail in tails.items()})


def first_plan(work: Work, order: Mapping[str, float] | None = None) -> SchedulePlan | None:
    """Plan at once: by the longest chain, by what wishes leave, and in the order of a plan before; the best of them.

    Parameters
    ----------
    work : Work
        What is planned.
    order : mapping of key to float, optional
        When steps began by the plan before; steps that are new come last.

    Returns
    -------
    SchedulePlan or None
        None where none of them finds one; there may be one nevertheless.
    """
    found = [longest_tail_first(work), list_plan(work, _slack_s(work))]
    if order:
        last = max(order.values())
        found.append(list_plan(work, {one.key: order.get(one.key, last) for one in work.steps}))
    return min(
        (plan for plan in found if plan is not None), key=lambda plan: (plan.late_s, plan.makespan_s), default=None
    )


def certain_plan(work: Work, plan: SchedulePlan | None) -> SchedulePlan | None:
    """Return a plan as proven where it is plain that none is better, so that nobody need search.

    Parameters
    ----------
    work : Work
        What is planned.
    plan : SchedulePlan or None
        Of it.

    Returns
    -------
    SchedulePlan or None
        Where every step begins as early as what comes before it and the hours let it, as if it had all people and
        things for itself, and no step waits within a longest wait. None where a better plan may exist.
    """
    if plan is None:
        return None
    people, steps = [PersonTime(one) for one in work.people], work.by_key()
    by_name = dict(zip((one.key for one in work.people), people, strict=True))
    placed = plan.by_key()
    for step in (steps[key] for key in _in_order(work.steps)):
        # all before it begin at their earliest, so that this is its earliest too
        ended = {wait.key: placed[wait.key].ends_s for wait in step.after}
        at_s: int | None = max((step.earliest_s, *(ended[wait.key] + wait.at_least_s for wait in step.after)))
        if step.begins_s is not None:
            at_s = step.begins_s
        elif step.attended_s and at_s is not None:
            able = people if step.person is None else [by_name[step.person]]
            starts = [start for one in able if (start := one.next_s(at_s, step.attended_s)) is not None]
            at_s = min(starts, default=None)
        begins_s = placed[step.key].begins_s
        if begins_s != at_s or any(
            wait.at_most_s is not None and begins_s > ended[wait.key] + wait.at_least_s and not step.is_under_way
            for wait in step.after
        ):
            return None
    return replace(plan, bound_s=plan.makespan_s, late_bound_s=plan.late_s, is_proven=True)


def _slack_s(work: Work) -> dict[str, int]:
    # the latest begin of each step by the wishes after it; what no wish waits for comes after everything else
    steps, tails = work.by_key(), tails_s(work)
    never = max((one.finish_by_s or 0 for one in work.steps), default=0) + max(tails.values(), default=0)
    latest = {one.key: (never if one.finish_by_s is None else one.finish_by_s) - one.takes_s for one in work.steps}
    for key in reversed(_in_order(work.steps)):
        for wait in steps[key].after:
            latest[wait.key] = min(latest[wait.key], latest[key] - wait.at_least_s - steps[wait.key].takes_s)
    return latest


def list_plan(work: Work, urgency: Mapping[str, float]) -> SchedulePlan | None:
    """Set the steps one after the other, each as early as it can be.

    Parameters
    ----------
    work : Work
        What is planned.
    urgency : mapping of key to float
        Of those that can be set, the one with the smallest figure is.

    Returns
    -------
    SchedulePlan or None
        None where a step can't be set so that its longest wait is kept.
    """
    return _List(work, urgency).plan()


def _in_order(steps: Sequence[Step]) -> list[str]:
    return list(TopologicalSorter({one.key: [wait.key for wait in one.after] for one in steps}).static_order())


class _List:
    def __init__(self, work: Work, urgency: Mapping[str, float]) -> None:
        self._work, self._urgency, self._steps = work, urgency, work.by_key()
        self._people = {one.key: PersonTime(one) for one in work.people}
        self._things = {one.key: ThingTime(one) for one in work.things}
        self._begins: dict[str, int] = {}
        self._who: dict[str, str | None] = {}

    def plan(self) -> SchedulePlan | None:
        for step in self._work.steps:  # what has begun and what was put at a time is not moved
            if step.begins_s is not None and not self._set_fixed(step, step.begins_s):
                return None
        blocks, before = self._blocks()
        waiting = {number: set(others) for number, others in before.items()}
        while waiting:
            able = [number for number, others in waiting.items() if not others & waiting.keys()]
            number = min(able, key=lambda one: min(self._urgency[key] for key in blocks[one]))
            del waiting[number]
            if not self._set_block(blocks[number]):
                return None
        return plan_of(self._work, self._begins, self._who)

    def _blocks(self) -> tuple[list[list[str]], dict[int, set[int]]]:
        # steps that may wait for each other only so long are set together, and so is what lies between them: each such
        # wait leads there and back, so that the strongly connected ones are one block
        keys = _in_order(self._work.steps)
        place = {key: number for number, key in enumerate(keys)}
        waits = [(one.key, wait) for one in self._work.steps for wait in one.after]
        links = [(place[wait.key], place[key]) for key, wait in waits]
        links += [(place[key], place[wait.key]) for key, wait in waits if wait.at_most_s is not None]
        ends = np.array(links, dtype=int).reshape(-1, 2).T
        graph = coo_array((np.ones(len(links)), (ends[0], ends[1])), shape=(len(keys), len(keys)))
        number_of_blocks, group = connected_components(graph, connection="strong")
        blocks: list[list[str]] = [[] for _ in range(number_of_blocks)]
        for key in keys:
            blocks[group[place[key]]].append(key)
        before: dict[int, set[int]] = {number: set() for number in range(number_of_blocks)}
        for key, wait in waits:
            own, other = int(group[place[key]]), int(group[place[wait.key]])
            if own != other:
                before[own].add(other)
        return blocks, before

    def _set_fixed(self, step: Step, begins_s: int) -> bool:
        who = step.person
        if step.attended_s and not step.is_under_way:
            able = self._able(step)
            who = next((one for one in able if self._people[one].next_s(begins_s, step.attended_s) == begins_s), None)
            if who is None:
                return False
        self._take(step, begins_s, who)
        return True

    def _able(self, step: Step) -> list[str]:
        return [one for one in self._people if step.person in {None, one}]

    def _take(self, step: Step, begins_s: int, who: str | None) -> None:
        self._begins[step.key], self._who[step.key] = begins_s, who
        if who in self._people:
            self._people[who].take(begins_s, begins_s + step.attended_s)
        for thing in set(step.uses):
            self._things[thing].take(begins_s, begins_s + step.takes_s, step.uses.count(thing))

    def _give_back(self, step: Step) -> None:
        begins_s, who = self._begins.pop(step.key), self._who.pop(step.key)
        if who in self._people:
            self._people[who].give_back(begins_s, begins_s + step.attended_s)
        for thing in set(step.uses):
            self._things[thing].give_back(begins_s, begins_s + step.takes_s, step.uses.count(thing))

    def _set_block(self, keys: Sequence[str]) -> bool:
        floor_s = {key: self._steps[key].earliest_s for key in keys}
        for _ in range(MOST_TRIES):
            late = self._try_block(keys, floor_s)
            if late is None:
                return True
            key, begins_s = late
            if begins_s is None or self._steps[key].begins_s is not None:
                return False
            floor_s[key] = max(floor_s[key], begins_s)
        return False

    def _try_block(self, keys: Sequence[str], floor_s: Mapping[str, int]) -> tuple[str, int | None] | None:
        # returns the step that must begin later so that a longest wait is kept, and when; None where all are set
        done: list[Step] = []
        for key in keys:
            step = self._steps[key]
            found = (step.begins_s, None) if step.begins_s is not None else self._earliest(step, floor_s[key])
            later = (key, None) if found[0] is None else self._must_be_later(step, found[0])
            if later is not None:
                for one in done:
                    self._give_back(one)
                return later
            if step.begins_s is None and found[0] is not None:
                self._take(step, found[0], found[1])
                done.append(step)
        return None

    def _must_be_later(self, step: Step, begins_s: int) -> tuple[str, int | None] | None:
        if step.is_under_way:
            return None
        for wait in step.after:
            before = self._steps[wait.key]
            ended_s = self._begins[wait.key] + before.takes_s
            if begins_s < ended_s + wait.at_least_s:
                return step.key, None
            if wait.at_most_s is not None and begins_s > ended_s + wait.at_most_s:
                return wait.key, begins_s - wait.at_most_s - before.takes_s
        return None

    def _earliest(self, step: Step, floor_s: int) -> tuple[int | None, str | None]:
        ended = (self._begins[wait.key] + self._steps[wait.key].takes_s + wait.at_least_s for wait in step.after)
        at_s, who = max((floor_s, *ended)), None
        while True:
            if step.attended_s:
                starts = [
                    (begin, one)
                    for one in self._able(step)
                    if (begin := self._people[one].next_s(at_s, step.attended_s)) is not None
                ]
                if not starts:
                    return None, None
                at_s, who = min(starts, key=lambda start: start[0])
            free_s = max(
                (self._things[one].next_s(at_s, step.takes_s, step.uses.count(one)) for one in set(step.uses)),
                default=at_s,
            )
            if free_s == at_s:
                return at_s, who
            at_s = free_s
