"""Calendar files (RFC 5545): steps as events with a reminder, times in UTC."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta

REMIND_MIN = 5


@dataclass(frozen=True, slots=True, kw_only=True)
class CalendarEvent:
    """An event, in seconds since 1970.

    Parameters
    ----------
    uid, summary, description : str
        What keeps it apart for ever, and what it says.
    begins_s, ends_s : float
        From and to; at least a minute is shown.
    is_busy : bool
        Whether it takes somebody's time.
    is_settled : bool
        Whether it has begun, so that its time is no plan any more.
    is_over : bool
        Whether nobody need be reminded.
    """

    uid: str
    summary: str
    begins_s: float
    ends_s: float
    description: str = ""
    is_busy: bool = True
    is_settled: bool = False
    is_over: bool = False


def calendar_file(name: str, product: str, events: Sequence[CalendarEvent]) -> bytes:
    """Write a calendar.

    Parameters
    ----------
    name, product : str
        What it is called, and which part of the application wrote it.
    events : sequence of CalendarEvent
        In any order.

    Returns
    -------
    bytes
        As a file.
    """
    # the library takes a moment to load, and few pages need it
    from icalendar import Alarm, Calendar, Event  # noqa: PLC0415

    made = Calendar()
    made.add("prodid", f"-//Ufrin//{product}//EN")
    made.add("version", "2.0")
    made.add("x-wr-calname", name)
    for one in events:
        event = Event()
        event.add("uid", one.uid)
        event.add("dtstamp", datetime.now(UTC))
        event.add("dtstart", datetime.fromtimestamp(one.begins_s, UTC))
        event.add("dtend", datetime.fromtimestamp(max(one.ends_s, one.begins_s + 60), UTC))
        event.add("summary", one.summary)
        if one.description:
            event.add("description", one.description)
        event.add("transp", "OPAQUE" if one.is_busy else "TRANSPARENT")
        event.add("status", "CONFIRMED" if one.is_settled else "TENTATIVE")
        if not one.is_over:
            alarm = Alarm()
            alarm.add("action", "DISPLAY")
            alarm.add("description", one.summary)
            alarm.add("trigger", timedelta(minutes=-REMIND_MIN))
            event.add_component(alarm)
        made.add_component(event)
    made.add_missing_timezones()
    return bytes(made.to_ical())
