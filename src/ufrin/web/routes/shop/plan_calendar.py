"""The plan as a calendar: a file, and an address to subscribe to, which holds a secret in place of a sign-in."""

from fastapi import APIRouter
from starlette.responses import Response

from ufrin.actions.schedule import day_plan
from ufrin.devices import clock
from ufrin.language import Text
from ufrin.web.frame.access import asks
from ufrin.web.frame.calendar_file import CalendarEvent, calendar_file
from ufrin.web.routes import TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/calendar/{secret}.ics")
@asks("anybody")
def calendar(database: TheDatabase, secret: str) -> Response:
    """Give the plan that counts, of the shop or of one person, as a calendar."""
    name, steps = day_plan.calendar(database, secret[:100].replace("\0", ""), clock.now())
    events = [
        CalendarEvent(
            uid=f"{one.key}@ufrin",
            summary=f"{one.label}, {one.job}",
            description=", ".join(part for part in (one.person, *one.uses) if part),
            begins_s=one.begins_s,
            # a person's own calendar shows when hands are needed, not how long a cure goes on
            ends_s=one.hands_off_s if name else one.ends_s,
            is_busy=one.is_attended,
            is_settled=one.is_under_way,
            is_over=one.is_under_way,
        )
        for one in steps
    ]
    title = Text("Workshop plan, {name}", name=name) if name else Text("Workshop plan")
    body = calendar_file(title, Text("Workshop plan"), events)
    headers = {"Content-Disposition": 'inline; filename="plan.ics"', "Cache-Control": "private, no-cache"}
    return Response(body, media_type="text/calendar; charset=utf-8", headers=headers)
