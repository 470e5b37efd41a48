"""The plan of the shop: made at once, searched for by a worker, taken or looked at first, and moved by hand."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ufrin.actions.job import long_work
from ufrin.actions.schedule.shop_work import ShopWork, gather
from ufrin.bounded.child import Bounds, BrokeOff, Busy, Stopped, do_apart
from ufrin.core.clocks.moment import Moment
from ufrin.core.schedule.best_plan import best_plan
from ufrin.core.schedule.day_plan import LATE_S, DayPlan, DayStep, Touched, touched
from ufrin.core.schedule.effort import Effort, Progress
from ufrin.core.schedule.first_plan import first_plan, longest_tail_first
from ufrin.core.schedule.plan_findings import plan_findings, unattended_findings
from ufrin.core.schedule.steps import PlacedStep, SchedulePlan, Work
from ufrin.core.wording.findings import Finding, worst_first
from ufrin.errors import Refused
from ufrin.language import Text, english
from ufrin.store import schedule
from ufrin.store.connection import Connection, Database
from ufrin.store.schedule import PlanKind, Search, StoredPlan

HOT_OR_PRESSED = frozenset({"oven", "pot"})
AT_ONCE = Effort(most_s=2.0)
AT_LENGTH = Effort(most_s=20.0)
APART = Bounds(time_s=90.0)
STARTS_S = 3.0  # until a worker has taken it up
AGAIN_S = 120.0  # a search that lasts longer was lost with its worker


@dataclass(frozen=True, slots=True, kw_only=True)
class PlanPage:
    """All that the page of the plan shows."""

    shop: ShopWork | None
    plan: DayPlan | None
    proposed: DayPlan | None
    touched: tuple[Touched, ...]
    search: Search
    findings: tuple[Finding, ...]
    refused: str = ""
    left_off: tuple[tuple[int, str], ...] = ()
    has_worker: bool = True

    @property
    def is_searching(self) -> bool:
        """Whether a worker still looks for a better one."""
        return self.search.state == "waiting"


def look(database: Database, now: Moment) -> PlanPage:
    """Show the plan of the shop; where something has changed, it is made again at once, and a worker improves it."""
    try:
        shop = gather(database, now)
    except Refused as refused:
        return _as_it_was(database, str(refused))
    with database.reading() as connection:
        kept, search = schedule.plans(connection), schedule.search(connection)
        left_off = tuple(schedule.jobs_left_off(connection))
    taken, proposed = _plan(kept, "taken"), _plan(kept, "proposed")
    newest = kept.get("proposed") or kept.get("taken")
    refused_text = ""
    if newest is None or newest.fingerprint != shop.fingerprint or _is_overdue(proposed or taken, now):
        try:
            made = _day_plan(shop, _at_once(shop.work, _order(proposed or taken)))
        except Refused as refused:
            refused_text = str(refused)
        else:
            with database.transaction() as connection:
                taken, proposed = _settle(connection, shop, taken, made)
                schedule.ask(connection, shop.fingerprint)
                search = schedule.search(connection)
    elif search.state == "waiting" and search.asked_s + AGAIN_S < now.wall_s:
        with database.transaction() as connection:
            schedule.ask(connection, shop.fingerprint)
    elif search.state == "refused" and search.fingerprint == shop.fingerprint:
        refused_text = search.refused or ""
    shown = proposed or taken
    own = _findings(shop, _as_placed(shop, shown)) if shown and not refused_text else ()
    return PlanPage(
        shop=shop,
        plan=taken and _in_words(shop, taken),
        proposed=proposed and _in_words(shop, proposed),
        touched=touched(taken, proposed) if taken and proposed else (),
        search=search,
        findings=worst_first((*shop.findings, *own)),
        refused=refused_text,
        left_off=left_off,
        has_worker=search.state != "waiting" or long_work.are_workers_at_work(database),
    )


def _in_words(shop: ShopWork, plan: DayPlan) -> DayPlan:
    """Name the steps and things of a plan as they are called now, so that each reader has them in his language."""
    steps, things = shop.work.by_key(), {english(one.called): one.called for one in shop.work.things}
    return replace(
        plan,
        steps=tuple(
            replace(
                one,
                label=steps[one.key].called if one.key in steps else one.label,
                job=shop.places[one.key].group if one.key in shop.places else one.job,
                uses=tuple(things.get(thing, thing) for thing in one.uses),
            )
            for one in plan.steps
        ),
    )


def _findings(shop: ShopWork, plan: SchedulePlan) -> tuple[Finding, ...]:
    if not plan.placed:
        return ()
    hot = {f"equipment:{one.id}": one.name for one in shop.equipment if one.kind in HOT_OR_PRESSED}
    return (*plan_findings(shop.work, plan), *unattended_findings(shop.work, plan, hot))


def _plan(kept: Mapping[str, StoredPlan], kind: PlanKind) -> DayPlan | None:
    return kept[kind].plan if kind in kept else None


def _as_it_was(database: Database, refused: str) -> PlanPage:
    with database.reading() as connection:
        taken, search = _plan(schedule.plans(connection), "taken"), schedule.search(connection)
        left_off = tuple(schedule.jobs_left_off(connection))
    return PlanPage(
        shop=None, plan=taken, proposed=None, touched=(), search=search, findings=(), refused=refused, left_off=left_off
    )


def _order(plan: DayPlan | None) -> dict[str, float]:
    return {one.key: one.begins_s for one in plan.steps} if plan else {}


def _at_once(work: Work, order: Mapping[str, float]) -> SchedulePlan:
    return first_plan(work, order) or do_apart(best_plan, APART, None, work, AT_ONCE)


def _settle(
    connection: Connection, shop: ShopWork, taken: DayPlan | None, made: DayPlan
) -> tuple[DayPlan, DayPlan | None]:
    # a plan that moves a promise to a later time is looked at by somebody before it counts
    if taken is not None and touched(taken, made):
        schedule.keep_plan(connection, "proposed", shop.fingerprint, made)
        return taken, made
    schedule.keep_plan(connection, "taken", shop.fingerprint, made)
    return made, None


def _is_overdue(plan: DayPlan | None, now: Moment) -> bool:
    return plan is not None and any(
        not one.is_under_way and one.is_attended and one.begins_s + LATE_S < now.wall_s for one in plan.steps
    )


# --- plans as they are kept


def _day_plan(shop: ShopWork, plan: SchedulePlan) -> DayPlan:
    steps, names = shop.work.by_key(), {str(one.id): one.name for one in shop.people}
    things = {one.key: one.called for one in shop.work.things}
    listed = longest_tail_first(shop.work)
    found = []
    for one in plan.placed:
        step, place = steps[one.key], shop.places[one.key]
        found.append(
            DayStep(
                key=one.key,
                job=place.group,
                label=step.called,
                begins_s=float(shop.start_s + one.begins_s),
                hands_off_s=float(shop.start_s + one.hands_off_s),
                ends_s=float(shop.start_s + one.ends_s),
                person=names.get(one.person or "", ""),
                uses=tuple(things[thing] for thing in step.uses),
                wish_s=None if step.finish_by_s is None else float(shop.start_s + step.finish_by_s),
                is_placed=place.is_placed,
                is_under_way=step.is_under_way,
                tick=place.tick,
                job_id=place.href_job,
                order_id=place.order,
                other_id=place.other_work,
            )
        )
    return DayPlan(
        steps=tuple(found),
        start_s=float(shop.start_s),
        late_s=float(plan.late_s),
        gap=plan.gap,
        is_proven=plan.is_proven,
        listed_end_s=float(shop.start_s + listed.makespan_s) if listed else None,
    )


def _as_placed(shop: ShopWork, plan: DayPlan) -> SchedulePlan:
    # a plan that is kept, as the findings look at it, where its steps are still the same
    keys = {one.key for one in plan.steps}
    if keys != set(shop.work.by_key()):
        return SchedulePlan(placed=(), makespan_s=0, late_s=0)
    placed = tuple(
        PlacedStep(
            key=one.key,
            begins_s=int(one.begins_s - shop.start_s),
            hands_off_s=int(one.hands_off_s - shop.start_s),
            ends_s=int(one.ends_s - shop.start_s),
            person=one.person or None,
        )
        for one in plan.steps
    )
    ends_s = max((one.ends_s for one in placed), default=0)
    bound_s = round(ends_s * (1 - plan.gap)) if plan.gap < 1 else 0
    return SchedulePlan(
        placed=placed, makespan_s=ends_s, late_s=int(plan.late_s), bound_s=bound_s, is_proven=plan.is_proven
    )


# --- the search


def search_state(database: Database) -> tuple[Search, bool]:
    """Show where the search for the best plan stands, and whether any worker is there to do it."""
    with database.reading() as connection:
        found = schedule.search(connection)
    return found, long_work.are_workers_at_work(database)


def share_done(search: Search, now: Moment) -> float:
    """Return which share of the search is done, by its time or by what the worker reported."""
    by_time = (now.wall_s - search.asked_s) / (AT_LENGTH.most_s + STARTS_S)
    reported = search.progress["share"] if search.progress else 0.0
    return min(0.98, max(0.02, by_time, reported))


def search(database: Database, fingerprint: str, now: Moment) -> str:
    """Search for the best plan, as a worker does.

    Returns what it came to: "done", "refused", "broke off", or "changed" where something else is to be planned by now.
    """
    shop = gather(database, now)
    if shop.fingerprint != fingerprint:
        with database.transaction() as connection:
            schedule.finish(connection, fingerprint)
        return "changed"

    def report(value: object) -> bool:
        told = None
        if isinstance(value, Progress):
            told = {
                "late_s": float(value.late_s),
                "ends_s": float(shop.start_s + value.makespan_s),
                "share": value.share,
            }
        with database.transaction() as connection:
            return schedule.progress(connection, fingerprint, told)

    with database.reading() as connection:
        kept = schedule.plans(connection)
    order = _order(_plan(kept, "proposed") or _plan(kept, "taken"))
    try:
        found = _day_plan(shop, do_apart(best_plan, APART, report, shop.work, AT_LENGTH, order))
    except Stopped:
        return "changed"
    except (BrokeOff, Busy):  # whoever looks at the plan asks for it again
        return Text("broke off")
    except Refused as refused:
        with database.transaction() as connection:
            schedule.finish(connection, fingerprint, str(refused))
        return "refused"
    with database.transaction() as connection:
        kept = schedule.plans(connection)
        _settle(connection, shop, _plan(kept, "taken"), found)
        schedule.finish(connection, fingerprint)
    return "done"


# --- calendars


def calendar(database: Database, secret: str, now: Moment) -> tuple[str, tuple[DayStep, ...]]:
    """Return whose calendar a secret opens, and the steps in it: those of the plan that counts, of one person or all.

    Raises Missing where it opens none.
    """
    with database.reading() as connection:
        name = schedule.by_secret(connection, secret)
    taken = look(database, now).plan  # whoever subscribes may be the only one who looks
    steps = taken.steps if taken else ()
    return name or "", tuple(one for one in steps if name is None or one.person == name)
