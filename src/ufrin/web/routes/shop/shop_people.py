"""People and equipment: who and what the plan shares out, and when they can be had."""

from datetime import datetime

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.schedule import shop_people
from ufrin.core.measures.parsing import parse
from ufrin.errors import Refused
from ufrin.language import DateText, Text
from ufrin.web.frame.forms import whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
DAY_NAMES = (
    Text("Monday"),
    Text("Tuesday"),
    Text("Wednesday"),
    Text("Thursday"),
    Text("Friday"),
    Text("Saturday"),
    Text("Sunday"),
)
KIND_NAMES = {
    "oven": Text("Oven, for post-cures"),
    "chamber": Text("Vacuum chamber, for mixed rubber"),
    "pot": Text("Pressure pot, until it has set"),
    "table": Text("Vibrating table, while it is poured"),
    "other": Text("Other equipment"),
}


def _page(request: Request, database: Database, errors: dict[str, str], typed: dict[str, str]) -> Response:
    found = shop_people.look(database)
    zone = found.workshop.zone
    context = {
        "place": "plan",
        "found": found,
        "say": UnitFormatter(found.workshop.units, found.workshop.currency),
        "day_names": DAY_NAMES,
        "kind_names": KIND_NAMES,
        "when": lambda at_s: DateText(datetime.fromtimestamp(at_s, zone), "weekday", "%H:%M"),
        "calendar": str(request.base_url).rstrip("/"),
        "errors": errors,
        "typed": {key: text[:200] for key, text in typed.items()},
    }
    return render(request, "shop/shop_people.html", context, status_code=422 if errors else 200)


def _days(form: dict[str, str]) -> list[int]:
    return [number for number in range(1, 8) if form.get(f"day-{number}")]


def _amount(text: str, field: str) -> float:
    try:
        return float(text.strip() or "0")
    except ValueError as error:
        raise Refused(field, Text("This must be a number, such as 18.50.")) from error


def _choice(text: str) -> int | None:
    return whole_number(text) if text else None


@router.get("/plan/shop")
def show(request: Request, database: TheDatabase) -> Response:
    """Show who and what there is."""
    return _page(request, database, {}, {})


@router.post("/plan/shop/{what}")
def change(request: Request, database: TheDatabase, what: str, form: Posted) -> Response:
    """Enter hours, a person, days off, equipment, what is lent out, or other work; or forget one of them."""
    try:
        _act(database, what, form)
    except Refused as refused:
        return _page(request, database, {refused.field or what: str(refused)}, {"what": what} | dict(form))
    return go_to(request, f"{Links.shop_people}#{what}")


@router.post("/plan/shop/{what}/{number}/forget")
def forget(request: Request, database: TheDatabase, what: str, number: Number) -> Response:
    """Forget a person, days off, equipment, or that some is lent out."""
    try:
        shop_people.forget(database, what, number)
    except Refused as refused:
        return _page(request, database, {refused.field or what: str(refused)}, {})
    return go_to(request, Links.shop_people)


def _act(database: Database, what: str, form: dict[str, str]) -> None:
    text = {key: value[:200] for key, value in form.items()}
    match what:
        case "hours":
            shop_people.change_hours(
                database,
                hours=text.get("hours", ""),
                days=_days(form),
                hour_cost=_amount(text.get("hour_cost", ""), "hour_cost"),
            )
        case "person":
            shop_people.save_person(
                database,
                _choice(text.get("id", "")),
                name=text.get("name", ""),
                hours=text.get("hours", ""),
                days=_days(form),
            )
        case "off":
            shop_people.add_days_off(
                database,
                person_id=_choice(text.get("person_id", "")),
                first=text.get("first_day", ""),
                last=text.get("last_day", ""),
            )
        case "equipment":
            shop_people.add_equipment(
                database,
                name=text.get("equipment_name", ""),
                kind=text.get("kind", ""),
                number=whole_number(text.get("number", "1"), most_digits=4) or 0,
                price=_amount(text.get("price", ""), "price"),
            )
        case "lent":
            shop_people.lend(
                database,
                _choice(text.get("equipment_id", "")) or 0,
                from_at=text.get("from_at", ""),
                until_at=text.get("until_at", ""),
            )
        case "other":
            shop_people.add_other_work(
                database,
                name=text.get("work_name", ""),
                attended_min=parse(text.get("attended_min", ""), "time", "metric", field="attended_min"),
                person_id=_choice(text.get("person_id", "")),
                equipment_id=_choice(text.get("equipment_id", "")),
                by=text.get("finish_by", ""),
            )
        case "secrets":
            shop_people.new_addresses(database)
        case _:
            raise Refused("", Text("That is not one of the choices. Choose again."))
