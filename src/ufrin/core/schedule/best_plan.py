"""The best plan: asked for here, worked out by the solver, which is loaded when it is first needed."""

from collections.abc import Callable, Mapping

from ufrin.core.schedule.effort import Effort, Progress
from ufrin.core.schedule.first_plan import certain_plan, first_plan
from ufrin.core.schedule.steps import SchedulePlan, Work


def best_plan(
    report: Callable[[Progress], object], work: Work, effort: Effort, order: Mapping[str, float] | None = None
) -> SchedulePlan:
    """Find the plan that is least late, of those the one that ends first, of those the one that waits least.

    Parameters
    ----------
    report : callable
        Receives a ``Progress`` whenever a better plan was found.
    work : Work
        What is planned.
    effort : Effort
        What may be spent.
    order : mapping of key to float, optional
        When steps began by the plan before, to begin the search with.

    Returns
    -------
    SchedulePlan
        Never worse than the first plan, and proven where the time was enough for that.

    Raises
    ------
    Refused
        Where nothing can be planned, with the steps that don't go together; or where the time was not enough to find
        any plan.
    """
    first = first_plan(work, order)
    certain = certain_plan(work, first)
    if certain is not None:
        return certain
    # the solver takes half a second to load, and no page needs it
    from ufrin.core.schedule.cp_sat import solve  # noqa: PLC0415

    return solve(work, first, effort, report)
