"""The search for the best plan by CP-SAT, the constraint solver of OR-Tools."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from math import gcd

from ortools.sat.python import cp_model

from ufrin.core.schedule.effort import Effort, Progress
from ufrin.core.schedule.first_plan import first_plan
from ufrin.core.schedule.steps import SchedulePlan, Step, Window, Work, Worker, plan_of
from ufrin.errors import Refused

SEED = 1
# shares of the time: for lateness, and, of what that leaves, for the end of all; the rest is for waiting
FOR_LATENESS, FOR_THE_END, FOR_WAITING = 0.5, 0.85, 0.15
TO_EXPLAIN_S = 3.0
ROOM_BEYOND_S = 14 * 86_400  # how much longer than the first plan one that is less late may be
Begin = cp_model.IntVar | int


@dataclass(frozen=True, slots=True, kw_only=True)
class _Crew:
    # people whom nothing tells apart: they are counted, and named at the end
    people: tuple[Worker, ...]
    windows: tuple[Window, ...]


def solve(work: Work, known: SchedulePlan | None, effort: Effort, report: Callable[[Progress], object]) -> SchedulePlan:
    """Search for the best plan.

    Parameters
    ----------
    work : Work
        What is planned.
    known : SchedulePlan or None
        A plan to begin with.
    effort : Effort
        What may be spent.
    report : callable
        Receives a ``Progress`` whenever a better plan was found.

    Returns
    -------
    SchedulePlan
        Least late, then ending first, then waiting least.

    Raises
    ------
    Refused
        Where there is no plan, or none was found in the time.
    """
    if not work.steps:
        return SchedulePlan(placed=(), makespan_s=0, late_s=0, is_proven=True)
    return _Search(work, known, effort, report).best()


class _Model:
    """The steps as variables; times are in units of ``unit_s``, the largest that divides all of them."""

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
        return seconds // self.unit_s

    def takes(self, step: Step) -> int:
        return self.units(step.takes_s)

    def _horizon(self, known: SchedulePlan | None) -> int:
        fixed_s = max((one.begins_s + one.takes_s for one in self.work.steps if one.begins_s is not None), default=0)
        if known is not None:
            return self.units(max(known.makespan_s, fixed_s) + ROOM_BEYOND_S)
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
        """Return what waits inside windows, which counts most, and when each job ends."""
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


def _crews(work: Work) -> tuple[_Crew, ...]:
    named = {one.person for one in work.steps}
    found: dict[object, list[Worker]] = {}
    for one in work.people:
        found.setdefault((one.windows, one.key if one.key in named else None), []).append(one)
    return tuple(_Crew(people=tuple(people), windows=people[0].windows) for people in found.values())


class _Reporter(cp_model.CpSolverSolutionCallback):
    def __init__(self, tell: Callable[[int, float], object]) -> None:
        super().__init__()
        self._tell = tell

    def on_solution_callback(self) -> None:
        self._tell(round(self.objective_value), self.wall_time)


class _Search:
    def __init__(
        self, work: Work, known: SchedulePlan | None, effort: Effort, report: Callable[[Progress], object]
    ) -> None:
        self.work, self.known, self.effort, self.report = work, known, effort, report
        self.model = _Model(work, known)
        self.spent_s = 0.0
        self.late_bound_s = 0

    def best(self) -> SchedulePlan:
        late_is_proven = self._least_late()
        end_is_proven, bound = self._soonest()
        assert self.known is not None  # noqa: S101 - found by the first or the second search, or refused there
        self._least_waiting()
        is_proven = late_is_proven and end_is_proven
        return SchedulePlan(
            placed=self.known.placed,
            makespan_s=self.known.makespan_s,
            late_s=self.known.late_s,
            bound_s=self.known.makespan_s if is_proven else min(bound * self.model.unit_s, self.known.makespan_s),
            late_bound_s=self.known.late_s if late_is_proven else self.late_bound_s,
            is_proven=is_proven,
        )

    def _least_late(self) -> bool:
        if not any(one.finish_by_s is not None for one in self.work.steps) or (self.known and not self.known.late_s):
            return True
        self.model.model.minimize(self.model.late)
        status, bound = self._run(FOR_LATENESS * self.effort.most_s, self._tell_late)
        self.late_bound_s = bound * self.model.unit_s
        return status == cp_model.OPTIMAL

    def _soonest(self) -> tuple[bool, int]:
        if self.known is not None:
            self.model.model.add(self.model.late <= self.model.units(self.known.late_s))
        self.model.model.minimize(self.model.makespan)
        left_s = self.effort.most_s - self.spent_s
        status, bound = self._run(FOR_THE_END * left_s, self._tell_end)
        return status == cp_model.OPTIMAL, bound

    def _least_waiting(self) -> None:
        known = self.known
        if known is None:
            return
        self.model.model.add(self.model.makespan <= self.model.units(known.makespan_s))
        self.model.model.minimize(self.model.waiting())
        self._run(FOR_WAITING * self.effort.most_s, lambda _, __: None)

    def _run(self, most_s: float, tell: Callable[[int, float], object]) -> tuple[cp_model.CpSolverStatus, int]:
        if self.known is not None:
            self.model.hint({one.key: one.begins_s for one in self.known.placed})
        solver = _solver(most_s, self.effort.threads)
        status = solver.solve(self.model.model, _Reporter(tell))
        self.spent_s += solver.wall_time
        if status in {cp_model.OPTIMAL, cp_model.FEASIBLE}:
            self.known = self._read(solver)
        elif self.known is None:
            raise self._why_not(status)
        return status, round(solver.best_objective_bound)

    def _tell_late(self, late: int, wall_s: float) -> None:
        self._report(late * self.model.unit_s, self.known.makespan_s if self.known else 0, wall_s)

    def _tell_end(self, end: int, wall_s: float) -> None:
        self._report(self.known.late_s if self.known else 0, end * self.model.unit_s, wall_s)

    def _report(self, late_s: int, makespan_s: int, wall_s: float) -> None:
        share = min(1.0, (self.spent_s + wall_s) / self.effort.most_s)
        self.report(Progress(late_s=late_s, makespan_s=makespan_s, share=share))

    def _read(self, solver: cp_model.CpSolver) -> SchedulePlan:
        begins_s = {
            key: (begin if isinstance(begin, int) else solver.value(begin)) * self.model.unit_s
            for key, begin in self.model.begins.items()
        }
        crews = {
            key: next(number for number, literal in choices if literal is None or solver.value(literal))
            for key, choices in self.model.in_crew.items()
        }
        return plan_of(self.work, begins_s, _named(self.work, self.model.crews, begins_s, crews))

    # --- why there is none

    def _why_not(self, status: cp_model.CpSolverStatus) -> Refused:
        if status not in {cp_model.INFEASIBLE, cp_model.MODEL_INVALID}:  # the latter for a time that no hours hold
            return Refused("", "No plan was found in the time. Plan fewer jobs at once, or take a longest wait away.")
        eased = first_plan(_eased(self.work))
        soft = _Model(self.work, eased, is_soft=True)
        if eased is not None:
            soft.hint({one.key: one.begins_s for one in eased.placed})
        soft.model.minimize(soft.horizon * sum(soft.excess.values()) + sum(soft.moved.values()))
        solver = _solver(TO_EXPLAIN_S, self.effort.threads)
        if solver.solve(soft.model) not in {cp_model.OPTIMAL, cp_model.FEASIBLE}:
            return Refused("", "These steps can't all be done in the time that is planned ahead. Plan fewer at once.")
        for (key, before), over in soft.excess.items():
            if solver.value(over):
                step, earlier = soft.steps[key], soft.steps[before]
                at_most_s = next(wait.at_most_s or 0 for wait in step.after if wait.key == before)
                least_s = at_most_s + solver.value(over) * soft.unit_s
                return Refused(
                    "steps",
                    f"“{step.called}” must begin at most {at_most_s / 60:g} min after “{earlier.called}”, and no "
                    f"working hours allow that: {least_s / 60:g} min is the shortest there is. Lengthen the wait, add "
                    "hours or hands, or free what it uses.",
                )
        names = ", ".join(f"“{soft.steps[key].called}”" for key, moved in soft.moved.items() if solver.value(moved))
        return Refused("begins", f"{names} can't begin at the time that was set. Choose another time.")


def _eased(work: Work) -> Work:
    # without what was put at a time and without longest waits there is nearly always a plan
    steps = (
        replace(
            one,
            begins_s=one.begins_s if one.is_under_way else None,
            after=tuple(replace(wait, at_most_s=None) for wait in one.after),
        )
        for one in work.steps
    )
    return replace(work, steps=tuple(steps))


def _solver(most_s: float, threads: int) -> cp_model.CpSolver:
    solver = cp_model.CpSolver()
    solver.parameters.max_time_in_seconds = max(0.05, most_s)
    solver.parameters.num_workers = threads
    solver.parameters.random_seed = SEED
    return solver


def _named(
    work: Work, crews: Sequence[_Crew], begins_s: Mapping[str, int], crew_of: Mapping[str, int]
) -> dict[str, str | None]:
    # of people whom nothing tells apart, a free one takes the next step, best the one who was last at that job
    steps = work.by_key()
    who: dict[str, str | None] = {one.key: one.person for one in work.steps if one.is_under_way}
    free_s = {one.key: -1 for one in work.people}
    for one in work.steps:
        if one.is_under_way and one.person in free_s:
            free_s[one.person] = max(free_s[one.person], begins_s[one.key] + one.attended_s)
    last_at: dict[str, str] = {}
    for key in sorted(crew_of, key=lambda one: (begins_s[one], one)):
        step = steps[key]
        able = [one.key for one in crews[crew_of[key]].people if free_s[one.key] <= begins_s[key]]
        chosen = last_at[step.job] if last_at.get(step.job) in able else able[0]
        who[key], last_at[step.job] = chosen, chosen
        free_s[chosen] = begins_s[key] + step.attended_s
    return who
