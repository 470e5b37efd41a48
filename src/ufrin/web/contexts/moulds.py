"""What the templates of moulds and orders receive, and how their forms are read."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from typing import Any

from ufrin.actions import MouldDetails
from ufrin.actions.moulds.cards import SHARE, MouldCard
from ufrin.actions.moulds.orders import OrderAtWork, OrderPlan
from ufrin.core.casting.cast_cups import SHOT_PARTS
from ufrin.core.casting.cast_kinds import CAST_KINDS
from ufrin.core.degassing.schools import SCHOOLS
from ufrin.core.job.finished_mould import MOULD_OF
from ufrin.core.moulds.generations import FINISHES
from ufrin.core.moulds.life_outlook import LifeLeft, life_model
from ufrin.core.moulds.retirement import CARES, CAUSES, SIGNS
from ufrin.core.moulds.run_plan import RunWish
from ufrin.core.moulds.terms import MOULD_TERMS, ORDER_TERMS
from ufrin.errors import Refused
from ufrin.language import DateText, Text
from ufrin.web.drawings.cost_lines import cost_drawing
from ufrin.web.drawings.life_curve import ShownLife, life_drawing
from ufrin.web.frame.forms import FormReading, fields, read
from ufrin.web.frame.wording_in_units import UnitFormatter

WHOLE = frozenset({"shots_before", "release_every", "clean_every", "rest_every", "parts", "pieces", "moulds_at_once"})


def day_words(day: int | None) -> str:
    """Return a day number as a date: "Thu 3 Dec"."""
    return "" if day is None else DateText(date.fromordinal(day), "weekday")


def left_words(left: LifeLeft) -> str:
    """Return how many more casts are to be expected, with the band: "34 more (19 to 52)"."""
    return Text("{median:.0f} more ({low:.0f} to {high:.0f})", median=left.median, low=left.low, high=left.high)


def read_day(text: str, field: str) -> date | None:
    """Read a date as it was typed; None for an empty one.

    Raises Refused for what is no date.
    """
    if not text.strip():
        return None
    try:
        found = date.fromisoformat(text.strip())
    except ValueError:
        raise Refused(field, Text("Type a date such as 2026-12-03: year, month, day.")) from None
    if not 1990 <= found.year <= 2200:
        raise Refused(field, Text("That year is far away. Type a date such as 2026-12-03."))
    return found


def read_details(
    form: Mapping[str, str], card: MouldCard, say: UnitFormatter
) -> tuple[MouldDetails | None, FormReading]:
    """Read a mould's card as it was typed; None where something can't be read."""
    taken = read(MOULD_TERMS, form, card.mould.details, say.units)
    values: dict[str, Any] = {}
    errors, typed = dict(taken.errors), dict(taken.typed)
    for key, value in taken.changes.items():
        try:
            values[key] = _as_kept(key, value)
        except Refused as refused:
            errors[key], typed[key] = str(refused), form.get(key, "")[:200]
    reading = FormReading(changes=values, errors=errors, typed=typed)
    if errors:
        return None, reading
    kept = {name: getattr(card.mould.details, name) for name in MOULD_TERMS}
    return MouldDetails(**(kept | values)), reading


def _as_kept(key: str, value: object) -> object:
    if key == "made_on":
        found = read_day(str(value or ""), key)
        if found is None:
            raise Refused(key, Text("When was it made? Type a date such as 2026-12-03."))
        return found
    if key in {"shots_before", "master_cost", "work_cost"} and value is None:
        return 0
    if key in WHOLE and value is not None:
        number = float(str(value))
        if not number.is_integer() or number < 0:
            raise Refused(key, Text("Type a whole number."))
        return int(number)
    if isinstance(value, float) and value < 0:
        raise Refused(key, Text("A price is 0 or more."))
    return value


def card_context(card: MouldCard, say: UnitFormatter, orders: list[OrderAtWork]) -> dict[str, Any]:
    """Return what the template of a mould's card receives."""
    expected = life_model(SHARE).times(card.life.prior.median_casts)
    in_use = [one.shots + card.mould.details.shots_before for one in card.cavities if not one.retired]
    costs, price = card.costs, card.mould.details.buy_price
    pays = costs.against(price) if costs and price is not None else None
    settled = card.opened.job.casts.settled()
    return {
        "place": "moulds",
        "card": card,
        "mould": card.mould,
        "details": card.mould.details,
        "say": say,
        "material": card.material or MOULD_OF.get(settled.mould_family, ""),
        "left_words": left_words(card.life.left),
        "orders": orders,
        "day_words": day_words,
        "fields": fields(MOULD_TERMS, card.mould.details, say.units, {}, {}),
        "life_drawing": life_drawing(
            ShownLife(expected=expected, now=card.life.model, own=card.life.curve, made=in_use)
        ),
        "costs": costs,
        "pays": pays,
        "cost_drawing": cost_drawing(costs, price, pays, say.money) if costs else None,
        "signs": SIGNS,
        "causes": CAUSES,
        "cares": CARES,
        "finishes": FINISHES,
        "kind_words": CAST_KINDS,
        "part_words": SHOT_PARTS,
        "schools": SCHOOLS,
        "refused": "",
        "refused_field": "",
    }


def read_wish(form: Mapping[str, str], usual: RunWish, say: UnitFormatter) -> tuple[RunWish | None, dict[str, str]]:
    """Read a run as it was typed; None with what is wrong where something can't be read."""
    shown = shown_wish(usual)
    taken = read(ORDER_TERMS, form, shown, say.units)
    errors = dict(taken.errors)
    values: dict[str, Any] = {name: getattr(shown, name) for name in ORDER_TERMS}
    values |= taken.changes
    try:
        start = read_day(str(values["start_on"] or ""), "start_on")
        due = read_day(str(values["due_on"] or ""), "due_on")
        whole = {}
        for name in ("pieces", "moulds_at_once"):
            number = values[name]
            if name in errors:
                continue
            if number is None or not float(number).is_integer():
                raise Refused(name, Text("Type a whole number."))
            whole[name] = int(number)
        if errors:
            return None, errors
        return (
            RunWish(
                pieces=whole["pieces"],
                start_day=start.toordinal() if start else usual.start_day,
                due_day=due.toordinal() if due else None,
                cavities=usual.cavities,
                moulds_at_once=whole["moulds_at_once"],
                cycle_min=values["cycle_min"] or usual.cycle_min,
                hours_a_day=values["hours_a_day"] or usual.hours_a_day,
                flawed_pct=values["flawed_pct"] or 0.0,
                days=usual.days,
                mould_days=usual.mould_days,
            ),
            {},
        )
    except Refused as refused:
        names = {"due_day": "due_on", "start_day": "start_on"}
        return None, errors | {names.get(refused.field, refused.field): say.refusal(refused)}


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownWish:
    """A wish by the names of its form."""

    pieces: float
    start_on: str
    due_on: str
    moulds_at_once: float
    cycle_min: float
    hours_a_day: float
    flawed_pct: float


def shown_wish(wish: RunWish) -> ShownWish:
    """Return a wish by the names of its form."""
    return ShownWish(
        pieces=float(wish.pieces),
        start_on=date.fromordinal(wish.start_day).isoformat(),
        due_on=date.fromordinal(wish.due_day).isoformat() if wish.due_day else "",
        moulds_at_once=float(wish.moulds_at_once),
        cycle_min=wish.cycle_min,
        hours_a_day=wish.hours_a_day,
        flawed_pct=wish.flawed_pct,
    )


def order_context(planned: OrderPlan, say: UnitFormatter) -> dict[str, Any]:
    """Return what the template of a planned run receives."""
    return {"plan": planned, "run": planned.run, "say": say, "day_words": day_words}
