"""Test coupons of a rubber: the recipe for a puck, its readings logged, and the curve that they make."""

from typing import Any, cast

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.shelf import coupons
from ufrin.actions.shop.workshop_settings import settings
from ufrin.core.rubber.coupons import Coupon, puck_recipe, read_readings
from ufrin.core.rubber.shore import ShoreScale
from ufrin.core.rubber.terms import COUPON_TERMS
from ufrin.core.rubber.thinner_curve import MOST_PARTS
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.contexts.shelf import Blank
from ufrin.web.drawings.hardness import ChosenDose, hardness_curve
from ufrin.web.frame.forms import fields, form_units, read, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/shelf/rubbers/{number}/coupons")
def show(request: Request, database: TheDatabase, number: Number, thinner: str = "") -> Response:
    """Show a rubber's coupons."""
    return _page(request, database, number, thinner, {}, {})


@router.post("/shelf/rubbers/{number}/coupons")
def log(request: Request, database: TheDatabase, number: Number, form: Posted) -> Response:
    """Log a coupon."""
    taken = read(COUPON_TERMS, form, Blank(COUPON_TERMS), form_units(form, settings(database).units))
    errors = dict(taken.errors)
    thinner = whole_number(form.get("thinner", ""))
    if not errors:
        try:
            values = {
                key: term.default if taken.changes.get(key) is None else taken.changes[key]
                for key, term in COUPON_TERMS.items()
            }
            _log(database, number, values, thinner)
        except Refused as refused:
            errors = {refused.field.removeprefix("points.").replace("parts_per_100", "parts"): str(refused)}
    if errors:
        return _page(
            request, database, number, form.get("thinner", ""), errors, {key: text[:200] for key, text in form.items()}
        )
    return go_to(request, Links.thing("rubbers", number, "coupons"))


def _log(database: Database, number: int, values: dict[str, Any], thinner: int | None) -> None:
    if values["parts"] and thinner is None:
        raise Refused("thinner", Text("Which thinner was in it? A curve belongs to one thinner."))
    if not 0 <= values["parts"] <= MOST_PARTS:
        raise Refused(
            "parts",
            Text("A test point has between 0 and {most_parts:g} parts of thinner per 100.", most_parts=MOST_PARTS),
        )
    sizes = {key: values[key] for key in ("thickness_mm", "edge_mm", "apart_mm")}
    coupon = Coupon(scale=cast(ShoreScale, values["scale"]), readings=read_readings(values["readings"] or ""), **sizes)
    coupons.log(database, number, coupon, thinner_id=thinner if values["parts"] else None, parts=values["parts"])


@router.post("/shelf/rubbers/{number}/coupons/{coupon_id}/{what}")
def withdraw(request: Request, database: TheDatabase, number: Number, coupon_id: Number, what: str) -> Response:
    """Take a coupon off the curve, or put it back."""
    if what in {"withdraw", "count"}:
        coupons.withdraw(database, number, coupon_id, withdrawn=what == "withdraw")
    return go_to(request, Links.thing("rubbers", number, "coupons"))


def _page(
    request: Request, database: Database, number: int, thinner: str, errors: dict[str, str], typed: dict[str, str]
) -> Response:
    tested = coupons.coupons_of(database, number, whole_number(thinner))
    say = UnitFormatter(tested.workshop.units, tested.workshop.currency)
    rubber = tested.rubber.thing
    context: dict[str, Any] = {
        "tested": tested,
        "rubber": rubber,
        "rows": [
            (
                one,
                one.coupon.findings(),
                next((kept.thing.name for kept in tested.thinners if kept.id == one.thinner_id), ""),
            )
            for one in tested.coupons
        ],
        "curve": hardness_curve(tested.curve, ChosenDose()) if tested.curve else None,
        "fields": fields(COUPON_TERMS, Blank(COUPON_TERMS), say.units, errors, typed if errors else {}),
        "wrong": errors.get("", "") or errors.get("thinner", ""),
        "puck": puck_recipe(rubber, rubber.sg),
        "say": say,
        "findings": tested.curve.at(min(tested.curve.last_dose, MOST_PARTS)).findings
        if tested.curve and tested.curve.last_dose
        else (),
    }
    return render(request, "station/coupons.html", context, status_code=422 if errors else 200)
