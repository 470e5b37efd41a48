"""The search for the best plan by CP-SAT, the constraint solver of OR-Tools."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace

from ortools.sat.python import cp_model

from ufrin.core.schedule.effort import Effort, Progress
from ufrin.core.schedule.first_plan import first_plan
from ufrin.core.schedule.step_model import Crew, StepModel
from ufrin.core.schedule.steps import SchedulePlan, Work, plan_of
from ufrin.errors import Refused
from ufrin.language import Text

SEED = 1
# shares of the time: for lateness, of what that leaves for the end of all, and of the whole for waiting
FOR_LATENESS, FOR_THE_END, FOR_WAITING = 0.5, 0.85, 0.15
TO_EXPLAIN_S = 8.0


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
        self.model = StepModel(work, known)
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
            found = self._read(solver)
            # what was found when the time ran out may be worse than what was known
            if self.known is None or (found.late_s, found.makespan_s) <= (self.known.late_s, self.known.makespan_s):
                self.known = found
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
            return Refused(
                "", Text("No plan was found in the time. Plan fewer jobs at once, or take a longest wait away.")
            )
        eased = first_plan(_eased(self.work))
        soft = StepModel(self.work, eased, is_soft=True)
        if eased is not None:
            soft.hint({one.key: one.begins_s for one in eased.placed})
        soft.model.minimize(soft.horizon * sum(soft.excess.values()) + sum(soft.moved.values()))
        solver = _solver(TO_EXPLAIN_S, self.effort.threads)
        if solver.solve(soft.model) not in {cp_model.OPTIMAL, cp_model.FEASIBLE}:
            return Refused(
                "", Text("These steps can't all be done in the time that is planned ahead. Plan fewer at once.")
            )
        for (key, before), over in soft.excess.items():
            if solver.value(over):
                step, earlier = soft.steps[key], soft.steps[before]
                at_most_s = next(wait.at_most_s or 0 for wait in step.after if wait.key == before)
                least_s = at_most_s + solver.value(over) * soft.unit_s
                return Refused(
                    "steps",
                    Text(
                        "“{called}” must begin at most {at_most_s:g} min after “{called2}”, and no working "
                        "hours allow that: {least_s:g} min is the shortest there is. Lengthen the wait, add "
                        "hours or hands, or free what it uses.",
                        called=step.called,
                        at_most_s=at_most_s / 60,
                        called2=earlier.called,
                        least_s=least_s / 60,
                    ),
                )
        names = ", ".join(f"“{soft.steps[key].called}”" for key, moved in soft.moved.items() if solver.value(moved))
        return Refused(
            "begins", Text("{names} can't begin at the time that was set. Choose another time.", names=names)
        )


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
    work: Work, crews: Sequence[Crew], begins_s: Mapping[str, int], crew_of: Mapping[str, int]
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
