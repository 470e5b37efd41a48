"""Working time: hours of the day and days of the week as windows on one line of time, by the clock on the wall."""

import re
from collections.abc import Sequence
from datetime import date, datetime, time, timedelta

from ufrin.core.schedule.steps import Window
from ufrin.errors import Refused
from ufrin.language import Text

Hours = tuple[tuple[time, time], ...]  # an end of 00:00 is midnight
MOST_STRETCHES = 12
MIDNIGHT = time(0, 0)
_STRETCH = re.compile(r"(\d{1,2})(?:[:.](\d{2}))?\s*(?:-|–|to)\s*(\d{1,2})(?:[:.](\d{2}))?")


def read_hours(text: str, field: str = "hours") -> Hours:
    """Read working hours as they are typed, such as "8:00-12:00, 13-17".

    Raises Refused for what is no hours, or for stretches that overlap.
    """
    pieces = [piece.strip() for piece in re.split(r"[,;]|\band\b", text) if piece.strip()]
    pairs = []
    for piece in pieces:
        found = _STRETCH.fullmatch(piece)
        if found is None:
            raise Refused(field, Text("Type working hours such as 8:00-12:00, 13:00-17:00."))
        begin, begin_min, end, end_min = found.groups()
        pairs.append((f"{begin}:{begin_min or '00'}", f"{end}:{end_min or '00'}"))
    return checked_hours(pairs, field)


def checked_hours(pairs: Sequence[tuple[str, str]], field: str = "hours") -> Hours:
    """Return working hours in order, from pairs of times such as "08:00"; "24:00" is midnight.

    Raises Refused for what is no time of the day, and for stretches that end before they begin, or overlap.
    """
    if not 1 <= len(pairs) <= MOST_STRETCHES:
        raise Refused(
            field,
            Text(
                "A day has 1 to {most_stretches} stretches of working time, such as 8:00-12:00.",
                most_stretches=MOST_STRETCHES,
            ),
        )
    hours = sorted((read_time(begin, field), read_time(end, field)) for begin, end in pairs)
    for begin, end in hours:
        if end <= begin and end != MIDNIGHT:
            raise Refused(
                field,
                Text(
                    "Working time from {begin:%H:%M} to {end:%H:%M} ends before it begins. Divide a night at midnight.",
                    begin=begin,
                    end=end,
                ),
            )
    for (_, end), (begin, _) in zip(hours, hours[1:], strict=False):
        if end == MIDNIGHT or begin < end:
            raise Refused(
                field, Text("Two stretches of working time overlap at {begin:%H:%M}. Mend one of them.", begin=begin)
            )
    return tuple(hours)


def read_time(text: str, field: str) -> time:
    """Read a time of the day such as "19:00"; "24:00" is midnight.

    Raises Refused for what is none.
    """
    hour, _, minute = text.strip().partition(":")
    if not (hour.isascii() and hour.isdigit() and minute.isascii() and minute.isdigit() and len(text) <= len("00:00")):
        raise Refused(field, Text("“{text}” is no time of the day. Write it as 08:00.", text=text[:20]))
    if (int(hour), int(minute)) == (24, 0):
        return MIDNIGHT
    if int(hour) > 23 or int(minute) > 59:  # noqa: PLR2004 - the day's own figures
        raise Refused(field, Text("“{text}” is no time of the day. Write it as 08:00.", text=text[:20]))
    return time(int(hour), int(minute))


def say_hours(hours: Hours) -> str:
    """Write working hours as they are typed."""
    return ", ".join(f"{begin:%H:%M}-{'24:00' if end == MIDNIGHT else format(end, '%H:%M')}" for begin, end in hours)


def windows(
    start: datetime, hours: Hours, days: frozenset[int], *, most_days: int, off: Sequence[tuple[date, date]] = ()
) -> tuple[Window, ...]:
    """Return the windows of working time from a moment on, in whole seconds since it.

    ``days`` are those of the week, 1 for Monday; ``off`` are first and last days that are free. Hours count by the
    clock on the wall of the start's zone, so that a window in which the clock is set is longer or shorter; a start
    without a zone knows no such nights.
    """
    first = start.date()
    found: list[Window] = []
    for ahead in range(most_days + 1):
        day = first + timedelta(days=ahead)
        if day.isoweekday() not in days or any(begin <= day <= end for begin, end in off):
            continue
        for begin, end in hours:
            last_day = day + timedelta(days=1) if end == MIDNIGHT else day
            from_s, to_s = _since_s(start, day, begin), _since_s(start, last_day, end)
            if to_s <= max(0, from_s):
                continue
            if found and found[-1][1] == from_s:
                found[-1] = (found[-1][0], to_s)
            else:
                found.append((max(0, from_s), to_s))
    return tuple(found)


def _since_s(start: datetime, day: date, at: time) -> int:
    moment = datetime.combine(day, at, start.tzinfo)
    if start.tzinfo is None:
        return round((moment - start).total_seconds())
    return round(moment.timestamp() - start.timestamp())
