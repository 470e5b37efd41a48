"""A mould's card and label on paper, with the QR code of its page."""

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.moulds import cards
from ufrin.web.contexts.moulds import card_context
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import environment
from ufrin.web.frame.qr_code import qr_code
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, TheDatabase

router = APIRouter(include_in_schema=False)


def _paper(request: Request, database: TheDatabase, number: int, template: str, size: str) -> Response:
    # it takes a second to load, which a server that starts need not wait for
    from ufrin.web.frame.pdf import small_pdf  # noqa: PLC0415

    card = cards.look(database, number)
    say = UnitFormatter(card.workshop.units, card.workshop.currency)
    context = {
        "workshop_clock": request.app.state.workshop_clock,
        "qr": qr_code(f"{str(request.base_url).rstrip('/')}{Links.mould(number)}"),
    }
    body = environment.get_template(template).render(context | card_context(card, say, []))
    made = small_pdf(body, f"{card.mould.label} {card.mould.name}", size)
    return Response(
        made, media_type="application/pdf", headers={"Content-Disposition": f'inline; filename="mould-{number}.pdf"'}
    )


@router.get("/moulds/{number}/card.pdf")
def card(request: Request, database: TheDatabase, number: Number) -> Response:
    """Give the card that hangs on a mould, on A6."""
    return _paper(request, database, number, "paper/_mould_card.html", "A6")


@router.get("/moulds/{number}/label.pdf")
def label(request: Request, database: TheDatabase, number: Number) -> Response:
    """Give a label that sticks to a mould."""
    return _paper(request, database, number, "paper/_mould_label.html", "62mm 29mm")
