"""The steps of a plan as variables of CP-SAT, the constraint solver of OR-Tools, with all that they must keep."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from math import gcd

from ortools.sat.python import cp_model

from ufrin.core.schedule.steps import SchedulePlan, Step, Window, Work, Worker

# a plan that is less late may do what nobody wished for after all the rest, so twice as late as the first plan has it
ROOM_BEYOND_S = 14 * 86_400  # and nights and days off besides
Begin = cp_model.IntVar | int


@dataclass(frozen=True, slots=True, kw_only=True)
class Crew:
    """People whom nothing tells apart: they are counted, and named at the end."""

    people: tuple[Worker, ...]
    windows: tuple[Window, ...]


class StepModel:
    """The steps as variables; times are in units of ``unit_s``, the largest that divides all of them.

    Parameters
    ----------
    work : Work
        What is planned.
    known : SchedulePlan or None
        A plan of it, which tells how far ahead to look.
    is_soft : bool, optional
        Whether longest waits may be exceeded by ``excess``, and what was put at a time may be ``moved``.
    """

    def __init__(self, work: Work, known: SchedulePlan | None, *, is_soft: bool = False) -> None:
        self.work, self.steps = work, work.by_key()
        self.unit_s = _unit_s(work)
        self.crews = _crews(work)
        self.horizon = self._horizon(known)
        self.model = cp_model.CpModel()
        self.begins: dict[str, Begin] = {}
        self.in_crew: dict[str, list[tuple[int, cp_model.IntVar | None]]] = {}
        self.excess: dict[tuple[str, str], cp_model.IntVar] = {}
        self.moved: dict[str, cp_model.IntVar] = {}
        self._is_soft = is_soft
        for step in work.steps:
            self._add_begin(step)
        self._add_waits()
        self._add_people()
        self._add_things()
        self.late = self._add_wishes()
        self.makespan = self._add_makespan()

    def units(self, seconds: int) -> int:
        """Return seconds in units.

        Parameters
        ----------
        seconds : int
            A multiple of the unit.

        Returns
        -------
        int
            In units.
        """
        return seconds // self.unit_s

    def takes(self, step: Step) -> int:
        """Return how long a step takes.

        Parameters
        ----------
        step : Step
            Of the work.

        Returns
        -------
        int
            In units.
        """
        return self.units(step.takes_s)

    def _horizon(self, known: SchedulePlan | None) -> int:
        fixed_s = max((one.begins_s + one.takes_s for one in self.work.steps if one.begins_s is not None), default=0)
        if known is not None:
            return self.units(2 * max(known.makespan_s, fixed_s) + ROOM_BEYOND_S)
        last_s = max((windows[-1][1] for crew in self.crews if (windows := crew.windows)), default=0)
        away_s = max((end for one in self.work.things for _, end in one.away), default=0)
        waits_s = sum(one.takes_s + sum(wait.at_least_s for wait in one.after) for one in self.work.steps)
        return self.units(max(last_s, fixed_s, away_s) + waits_s)

    # --- when and by whom

    def _add_begin(self, step: Step) -> None:
        if step.is_under_way:
            self.begins[step.key] = self.units(step.begins_s or 0)
            return
        if not step.attended_s:
            domain = cp_model.Domain(self.units(step.earliest_s), self.horizon)
        else:
            domain = self._domain_of(step, range(len(self.crews)))
        if step.begins_s is None:
            self.begins[step.key] = self.model.new_int_var_from_domain(domain, f"begin {step.key}")
            return
        at = self.units(step.begins_s)
        fixed = cp_model.Domain(at, at)
        if not self._is_soft:
            self.begins[step.key] = self.model.new_int_var_from_domain(domain.intersection_with(fixed), step.key)
            return
        begin = self.model.new_int_var_from_domain(domain, f"begin {step.key}")
        self.begins[step.key] = begin
        self.moved[step.key] = self.model.new_bool_var(f"moved {step.key}")
        self.model.add(begin == at).only_enforce_if(self.moved[step.key].negated())

    def _domain_of(self, step: Step, crews: Sequence[int]) -> cp_model.Domain:
        spans = []
        for number in crews:
            crew = self.crews[number]
            if step.person in {None, *(one.key for one in crew.people)}:
                for begin, end in crew.windows:
                    first = self.units(max(begin, step.earliest_s))
                    last = min(self.units(end - step.attended_s), self.horizon)
                    if first <= last:
                        spans.append([first, last])
        return cp_model.Domain.from_intervals(spans) if spans else cp_model.Domain(1, 0)

    def _add_people(self) -> None:
        model = self.model
        intervals: list[list[cp_model.IntervalVar]] = [[] for _ in self.crews]
        for step in self.work.steps:
            size = self.units(step.attended_s)
            if not size:
                continue
            able = [
                number
                for number, crew in enumerate(self.crews)
                if step.person in {None, *(one.key for one in crew.people)}
            ]
            begin = self.begins[step.key]
            if step.is_under_way:
                if step.person is not None:
                    for number in able:
                        intervals[number].append(model.new_fixed_size_interval_var(begin, size, step.key))
                continue
            if len(able) == 1:
                self.in_crew[step.key] = [(able[0], None)]
                intervals[able[0]].append(model.new_fixed_size_interval_var(begin, size, step.key))
                continue
            choices = [(number, model.new_bool_var(f"{step.key} by {number}")) for number in able]
            model.add_exactly_one(literal for _, literal in choices)
            for number, literal in choices:
                domain = self._domain_of(step, [number])
                model.add_linear_expression_in_domain(begin, domain).only_enforce_if(literal)
                intervals[number].append(
                    model.new_optional_fixed_size_interval_var(begin, size, literal, f"{step.key} {number}")
                )
            self.in_crew[step.key] = [(number, literal) for number, literal in choices]
        for crew, own in zip(self.crews, intervals, strict=True):
            if own:
                model.add_cumulative(own, [1] * len(own), len(crew.people))

    def _add_things(self) -> None:
        for thing in self.work.things:
            users = [one for one in self.work.steps if thing.key in one.uses and one.takes_s]
            if not users:
                continue
            intervals = [
                self.model.new_fixed_size_interval_var(self.begins[one.key], self.takes(one), f"{one.key} {thing.key}")
                for one in users
            ]
            demands = [one.uses.count(thing.key) for one in users]
            for begin, end in thing.away:
                size = self.units(end) - self.units(begin)
                intervals.append(self.model.new_fixed_size_interval_var(self.units(begin), size, "away"))
                demands.append(1)
            self.model.add_cumulative(intervals, demands, thing.count)

    # --- waits and aims

    def _add_waits(self) -> None:
        for step in self.work.steps:
            if step.is_under_way:
                continue
            begin = self.begins[step.key]
            for wait in step.after:
                before = self.steps[wait.key]
                end = self.begins[wait.key] + self.takes(before)
                self.model.add(begin >= end + self.units(wait.at_least_s))
                if wait.at_most_s is None:
                    continue
                latest = end + self.units(wait.at_most_s)
                if self._is_soft:
                    over = self.model.new_int_var(0, self.horizon, "over")
                    self.excess[step.key, wait.key] = over
                    self.model.add(begin <= latest + over)
                else:
                    self.model.add(begin <= latest)

    def _add_wishes(self) -> cp_model.LinearExprT:
        late: list[cp_model.IntVar] = []
        for step in self.work.steps:
            if step.finish_by_s is not None:
                by = step.finish_by_s // self.unit_s
                over = self.model.new_int_var(0, max(0, self.horizon + self.takes(step) - by), f"late {step.key}")
                self.model.add(over >= self.begins[step.key] + self.takes(step) - by)
                late.append(over)
        return sum(late)

    def _add_makespan(self) -> cp_model.IntVar:
        longest = max(self.takes(one) for one in self.work.steps)
        makespan = self.model.new_int_var(0, self.horizon + longest, "end of all")
        for step in self.work.steps:
            self.model.add(makespan >= self.begins[step.key] + self.takes(step))
        return makespan

    def waiting(self) -> cp_model.LinearExprT:
        """Return what waits inside longest waits, which counts most, and when each step begins.

        Returns
        -------
        LinearExprT
            To be made small.
        """
        waits = [
            self.begins[one.key] - self.begins[wait.key] - self.takes(self.steps[wait.key])
            for one in self.work.steps
            for wait in one.after
            if wait.at_most_s is not None and not one.is_under_way
        ]
        return len(self.work.steps) * sum(waits) + sum(
            self.begins[one.key] for one in self.work.steps if not one.is_under_way
        )

    def hint(self, begins_s: Mapping[str, int]) -> None:
        """Begin the search with a plan.

        Parameters
        ----------
        begins_s : mapping of key to int
            Of every step, in seconds.
        """
        self.model.clear_hints()  # type: ignore[no-untyped-call]
        for key, begin in self.begins.items():
            if not isinstance(begin, int):
                self.model.add_hint(begin, self.units(begins_s[key]))


def _unit_s(work: Work) -> int:
    unit_s = 0
    for one in work.steps:
        waits = (value or 0 for wait in one.after for value in (wait.at_least_s, wait.at_most_s))
        unit_s = gcd(
            *(unit_s, one.attended_s, one.alone_s, one.earliest_s, one.finish_by_s or 0, one.begins_s or 0, *waits)
        )
    for begin, end in (window for one in work.people for window in one.windows):
        unit_s = gcd(unit_s, begin, end)
    for begin, end in (window for one in work.things for window in one.away):
        unit_s = gcd(unit_s, begin, end)
    return unit_s or 1


def _crews(work: Work) -> tuple[Crew, ...]:
    named = {one.person for one in work.steps}
    found: dict[object, list[Worker]] = {}
    for one in work.people:
        found.setdefault((one.windows, one.key if one.key in named else None), []).append(one)
    return tuple(Crew(people=tuple(people), windows=people[0].windows) for people in found.values())
