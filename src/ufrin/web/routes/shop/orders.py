"""Orders: a run of casts planned on a mould, compared, kept, and followed."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.moulds import cards, orders
from ufrin.actions.moulds.orders import OrderPlan
from ufrin.actions.shop.workshop_settings import settings
from ufrin.core.moulds.terms import ORDER_TERMS
from ufrin.errors import Refused
from ufrin.web.contexts.moulds import day_words, order_context, read_wish, shown_wish
from ufrin.web.frame.forms import fields, form_units
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)


@router.get("/orders")
def show_list(request: Request, database: TheDatabase, all: str = "") -> Response:  # noqa: A002 - as the address has it
    """Show the orders that are cast."""
    workshop = settings(database)
    context = {
        "place": "moulds",
        "orders": orders.at_work(database, with_closed=bool(all)),
        "is_all": bool(all),
        "say": UnitFormatter(workshop.units, workshop.currency),
        "day_words": day_words,
    }
    return render(request, "shop/orders.html", context)


def _page(request: Request, database: Database, number: int, form: dict[str, str] | None) -> Response:
    card = cards.look(database, number)
    say = UnitFormatter(form_units(form or {}, card.workshop.units), card.workshop.currency)
    usual = orders.usual_wish(card)
    wish, errors = read_wish(form, usual, say) if form is not None else (usual, {})
    planned: OrderPlan | None = None
    refused = ""
    try:
        if wish is not None:
            planned = orders.plan(database, number, wish)
            if form is not None and form.get("act") == "keep":
                orders.keep(database, number, form.get("name", ""), wish)
                return go_to(request, Links.orders)
    except Refused as why:
        refused = say.refusal(why)
        if why.field in ORDER_TERMS:
            errors = errors | {why.field: refused}
    typed = {key: text[:200] for key, text in (form or {}).items() if key in ORDER_TERMS}
    context = {
        "place": "moulds",
        "card": card,
        "say": say,
        "fields": fields(ORDER_TERMS, shown_wish(wish or usual), say.units, errors, typed if errors else {}),
        "refused": refused,
        "name": (form or {}).get("name", "")[:200],
        "plan": None,
        **(order_context(planned, say) if planned else {}),
    }
    return render(request, "shop/order_plan.html", context, status_code=422 if errors or refused else 200)


@router.get("/moulds/{number}/run")
def show(request: Request, database: TheDatabase, number: Number) -> Response:
    """Plan a run on a mould as is usual."""
    return _page(request, database, number, None)


@router.post("/moulds/{number}/run")
def plan(request: Request, database: TheDatabase, number: Number, form: Posted) -> Response:
    """Plan a run as it is wished, and keep it as an order where that is asked for."""
    return _page(request, database, number, dict(form))


@router.post("/orders/{number}/close")
def close(request: Request, database: TheDatabase, number: Number) -> Response:
    """Close an order."""
    orders.close(database, number)
    return go_to(request, Links.orders)
