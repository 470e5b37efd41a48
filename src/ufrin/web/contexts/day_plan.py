"""What the page of the plan shows: the next step, today's list, the lanes, what is late and what would change."""

from collections.abc import Sequence
from datetime import date, datetime, timedelta
from typing import Any

from ufrin.actions.schedule.day_plan import PlanPage, share_done
from ufrin.actions.schedule.shop_work import ShopWork
from ufrin.core.clocks.moment import Moment
from ufrin.core.schedule.day_plan import DayPlan
from ufrin.language import DateText, Text
from ufrin.web.drawings.day_plan import PlanView, Span, day_plan_svg
from ufrin.web.frame.links import Links
from ufrin.web.frame.wording_in_units import UnitFormatter

SPANS: dict[int, str] = {1: Text("Today"), 3: Text("3 days"), 7: Text("A week")}
HOURS_APART = 2
LOOKS_BACK_S = 900.0


def plan_context(page: PlanPage, now: Moment, *, days: int, chosen: str = "") -> dict[str, Any]:
    """Return what the page of the plan shows.

    Parameters
    ----------
    page : PlanPage
        As it was looked up.
    now : Moment
        By the server's clock.
    days : int
        How many are drawn; one of ``SPANS``.
    chosen : str
        Key of the step whose form is open; empty for none.

    Returns
    -------
    dict of str to object
        For the template.
    """
    shown = page.proposed or page.plan
    shop = page.shop
    context: dict[str, Any] = {
        "place": "plan",
        "page": page,
        "days": days,
        "spans": SPANS,
        "shown": shown,
        "svg": "",
        "today": (),
        "later": (),
        "list_of": Text("Today"),
        "list_s": 0.0,
        "next_step": None,
        "chosen": shown.step(chosen) if shown else None,
        "now_s": now.wall_s,
        "share": share_done(page.search, now),
    }
    if shop is None or shown is None:
        return context
    when = Clock(shop, now)
    to_do = [one for one in shown.steps if one.ends_s > now.wall_s and (one.is_attended or one.is_under_way)]
    # today's list; on a day without work, that of the next day with some
    by_hand = [one for one in to_do if one.is_attended and not one.is_under_way]
    first_s = max(now.wall_s, by_hand[0].begins_s) if by_hand else now.wall_s
    ahead, list_ends_s = next(
        (number - 1, ends_s) for number in range(1, 400) if (ends_s := when.midnight_s(number)) > first_s
    )
    return context | {
        "say": UnitFormatter(shop.workshop.units, shop.workshop.currency),
        "when": when,
        "svg": _drawing(shop, shown, now, when, days),
        "list_s": when.midnight_s(ahead),
        "list_of": when.day(when.midnight_s(ahead)) if ahead else Text("Today"),
        "today": [one for one in to_do if one.begins_s < list_ends_s],
        "later": [one for one in to_do if one.begins_s >= list_ends_s],
        "next_step": next((one for one in to_do if not one.is_under_way), None),
        "saved_s": _saved_s(shown),
        "people": shop.people,
        "jobs": jobs_on(shown),
    }


def jobs_on(plan: DayPlan) -> dict[int, str]:
    """Return the jobs on a plan, by their numbers.

    Parameters
    ----------
    plan : DayPlan
        As it is shown.

    Returns
    -------
    dict of int to str
        Without orders.
    """
    return {one.job_id: one.job for one in plan.steps if one.job_id is not None and one.order_id is None}


def _saved_s(plan: DayPlan) -> float:
    return max(0.0, plan.listed_end_s - plan.ends_s) if plan.listed_end_s is not None else 0.0


class Clock:
    """Times as the page writes them, by the workshop's own clock.

    Parameters
    ----------
    shop : ShopWork
        With its time zone.
    now : Moment
        By the server's clock.
    """

    def __init__(self, shop: ShopWork, now: Moment) -> None:
        self._zone = shop.workshop.zone
        self._today = datetime.fromtimestamp(now.wall_s, self._zone).date()

    def __call__(self, at_s: float) -> str:
        """Write a time, with its day where that is not today.

        Parameters
        ----------
        at_s : float
            Seconds since 1970.

        Returns
        -------
        str
            Such as "Fri 4 Dec 15:00".
        """
        at = datetime.fromtimestamp(at_s, self._zone)
        return f"{at:%H:%M}" if at.date() == self._today else DateText(at, "weekday", "%H:%M")

    def listed(self, at_s: float, list_s: float) -> str:
        """Write a time in the list of a day: without that day, and with any other.

        Parameters
        ----------
        at_s, list_s : float
            The time, and when the day of the list begins; in seconds since 1970.

        Returns
        -------
        str
            Such as "15:00", or "today 15:00" in the list of another day.
        """
        day, of_list = (datetime.fromtimestamp(one, self._zone).date() for one in (at_s, list_s))
        if day == of_list:
            return f"{datetime.fromtimestamp(at_s, self._zone):%H:%M}"
        return Text("today {at_s}", at_s=self(at_s)) if day == self._today else self(at_s)

    def typed(self, at_s: float) -> str:
        """Write a time as a field for a day and a time takes it.

        Parameters
        ----------
        at_s : float
            Seconds since 1970.

        Returns
        -------
        str
            Such as "2026-12-04T15:00".
        """
        return f"{datetime.fromtimestamp(at_s, self._zone):%Y-%m-%dT%H:%M}"

    def day(self, at_s: float) -> str:
        """Write a day.

        Parameters
        ----------
        at_s : float
            Seconds since 1970.

        Returns
        -------
        str
            Such as "Friday 4 December".
        """
        return DateText(datetime.fromtimestamp(at_s, self._zone), "whole_day")

    def midnight_s(self, ahead: int) -> float:
        """Return when a day begins.

        Parameters
        ----------
        ahead : int
            Days from today.

        Returns
        -------
        float
            Seconds since 1970.
        """
        return self.begin_s(self._today + timedelta(days=ahead))

    def begin_s(self, day: date) -> float:
        """Return when a day begins.

        Parameters
        ----------
        day : date
            By the workshop's own calendar.

        Returns
        -------
        float
            Seconds since 1970.
        """
        return datetime(day.year, day.month, day.day, tzinfo=self._zone).timestamp()

    def days(self, span: Span) -> list[tuple[float, str]]:
        """Return the days that begin within a span, with their names; the first one at its begin.

        Parameters
        ----------
        span : tuple of float
            From and to.

        Returns
        -------
        list of tuple of float and str
            In their order.
        """
        day = datetime.fromtimestamp(span[0], self._zone).date()
        found: list[tuple[float, str]] = [(span[0], DateText(day, "weekday"))]
        while (begins_s := self.begin_s(day := day + timedelta(days=1))) < span[1]:
            found.append((begins_s, DateText(day, "weekday")))
        return found

    def hours(self, span: Span, working: Sequence[Span]) -> list[tuple[float, str]]:
        """Return the full hours of working time within a span, every second one.

        Parameters
        ----------
        span : tuple of float
            From and to.
        working : sequence of tuple of float
            When anybody works.

        Returns
        -------
        list of tuple of float and str
            In their order.
        """
        found = []
        for begins_s, _ in self.days(span):
            day = datetime.fromtimestamp(begins_s, self._zone).date()
            for hour in range(0, 24, HOURS_APART):
                at_s = datetime(day.year, day.month, day.day, hour, tzinfo=self._zone).timestamp()
                if span[0] <= at_s < span[1] and any(begin <= at_s < end for begin, end in working):
                    found.append((at_s, f"{hour}:00"))
        return found


def _drawing(shop: ShopWork, shown: DayPlan, now: Moment, when: Clock, days: int) -> str:
    working = tuple(
        sorted({(shop.start_s + begin, shop.start_s + end) for one in shop.work.people for begin, end in one.windows})
    )
    first_s = min([now.wall_s, *(one.begins_s for one in shown.steps if one.is_under_way)])
    begin_s = max(first_s, now.wall_s - LOOKS_BACK_S)
    last_s = max([shown.ends_s, *(one.wish_s for one in shown.steps if one.wish_s is not None)])
    end_s = next(
        one for one in map(when.midnight_s, range(1, days + 1)) if one >= last_s or one == when.midnight_s(days)
    )
    if end_s <= min((one.begins_s for one in shown.steps), default=end_s):  # nothing more today: the next day of work
        end_s = next((begin for begin, _ in working if begin >= end_s), end_s) + 86_400 / 2
    span = (begin_s, end_s)
    view = PlanView(
        span=span,
        working=working,
        now_s=now.wall_s,
        days=tuple(when.days(span)),
        hours=tuple(when.hours(span, working)),
    )
    return day_plan_svg(
        shown, [one.name for one in shop.people], view, lambda key: f"{Links.day_plan(days=days, step=key)}#step"
    )
