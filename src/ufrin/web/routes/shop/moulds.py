"""Moulds: their list, the card of each, its signs, care and retirement; and one that was made before is entered."""

from collections.abc import Callable, Mapping
from typing import Annotated

from fastapi import APIRouter, File, Request, UploadFile
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.bench import photos
from ufrin.actions.job import stations
from ufrin.actions.moulds import cards, orders
from ufrin.actions.shop.workshop_settings import settings
from ufrin.core.inputs.casts import CastInputs
from ufrin.core.job.terms.casts import CASTS_TERMS
from ufrin.core.moulds.terms import MOULD_TERMS
from ufrin.devices import clock
from ufrin.errors import Refused, Stale
from ufrin.language import Text
from ufrin.web.contexts.moulds import card_context, left_words, read_details
from ufrin.web.frame.forms import FormReading, fields, form_units, form_version, read, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, is_htmx, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
ASKED = {key: CASTS_TERMS[key] for key in ("mould_family", "mould_parts", "mould_cavities", "cavity_ml", "area_cm2")}


@router.get("/moulds")
def show_list(request: Request, database: TheDatabase, search: str = "", page: str = "1") -> Response:
    """Show the shop's moulds, those in use first."""
    found = cards.page(database, search=search, number=whole_number(page, most_digits=6) or 1)
    say = UnitFormatter(found.workshop.units, found.workshop.currency)
    context = {"place": "moulds", "moulds": found, "say": say, "left_words": left_words}
    return render(request, "shop/moulds.html", context)


@router.get("/moulds/near-end")
def near_end(request: Request, database: TheDatabase) -> Response:
    """Show the moulds near their end to an open Board."""
    if not is_htmx(request):
        return go_to(request, Links.moulds)
    return render(request, "shop/_near_end.html", {"moulds": cards.near_end(database), "left_words": left_words})


def _new_page(
    request: Request, database: Database, name: str, error: str, taken: FormReading, typed: Mapping[str, str]
) -> Response:
    workshop = settings(database)
    say = UnitFormatter(workshop.units, workshop.currency)
    shown = {key: text[:200] for key, text in typed.items() if key in ASKED}
    context = {
        "place": "moulds",
        "name": name,
        "name_error": error,
        "fields": fields(ASKED, CastInputs(), workshop.units, taken.errors, shown),
        "say": say,
    }
    return render(request, "shop/new_mould.html", context, status_code=422 if error or taken.errors else 200)


@router.get("/moulds/new")
def new(request: Request, database: TheDatabase) -> Response:
    """Ask what is known of a mould that was made before."""
    return _new_page(request, database, "", "", FormReading(changes={}), {})


@router.post("/moulds")
def enter(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Enter it, and go to its Casts station."""
    name = form.get("name", "")
    taken = read(ASKED, form, CastInputs(), form_units(form, settings(database).units))
    try:
        checked = stations.checked_name(name)
    except Refused as refused:
        return _new_page(request, database, name[:500], str(refused), taken, form)
    if taken.errors:
        return _new_page(request, database, checked, "", taken, form)
    job_id = stations.start_mould(database, checked, taken.changes, at_s=clock.now().wall_s)
    return go_to(request, Links.job(job_id, "casts"))


def _card(
    request: Request,
    database: Database,
    number: int,
    *,
    refused: Refused | None = None,
    taken: FormReading | None = None,
    typed: Mapping[str, str] | None = None,
    is_stale: bool = False,
) -> Response:
    card = cards.look(database, number)
    say = UnitFormatter(card.workshop.units, card.workshop.currency)
    context = card_context(card, say, orders.of_card(database, card))
    if refused:
        context |= {"refused": say.refusal(refused), "refused_field": refused.field}
    context["typed"] = {key: text[:200] for key, text in (typed or {}).items()}
    if taken:
        context["fields"] = fields(MOULD_TERMS, card.mould.details, say.units, taken.errors, taken.typed)
    if is_stale:
        context["refused"] = Text(
            "Somebody changed this card meanwhile. What they saved is shown now: change it again."
        )
    status = 409 if is_stale else 422 if refused or (taken and taken.errors) else 200
    return render(request, "shop/mould.html", context, status_code=status)


@router.get("/moulds/{number}")
def show(request: Request, database: TheDatabase, number: Number) -> Response:
    """Show a mould's card."""
    return _card(request, database, number)


@router.get("/jobs/{job_id}/mould")
def of_job(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Go to the card of a job's mould."""
    return go_to(request, Links.mould(cards.number_of(database, job_id)))


@router.post("/moulds/{number}")
def save(request: Request, database: TheDatabase, number: Number, form: Posted) -> Response:
    """Keep what was filled in on a card."""
    card = cards.look(database, number)
    say = UnitFormatter(form_units(form, card.workshop.units), card.workshop.currency)
    details, taken = read_details(form, card, say)
    if details is None:
        return _card(request, database, number, taken=taken)
    try:
        cards.save(database, number, details, version=form_version(form))
    except Stale:
        return _card(request, database, number, is_stale=True)
    except Refused as refused:
        wrong = FormReading(changes={}, errors={refused.field: str(refused)})
        return _card(request, database, number, taken=wrong)
    return go_to(request, Links.mould(number))


def _do(
    request: Request, database: Database, number: int, act: Callable[[], None], anchor: str, typed: Mapping[str, str]
) -> Response:
    try:
        act()
    except Refused as refused:
        return _card(request, database, number, refused=refused, typed=typed)
    return go_to(request, f"{Links.mould(number)}#{anchor}")


@router.post("/moulds/{number}/signs")
def sign(
    request: Request,
    database: TheDatabase,
    number: Number,
    form: Posted,
    photo: Annotated[UploadFile | None, File()] = None,
) -> Response:
    """Note a sign of wear with a picture, or forget one."""

    def act() -> None:
        forgotten = whole_number(form.get("forget", ""))
        if forgotten:
            cards.forget_sign(database, number, forgotten)
            return
        small = photos.made_small(photo.file.read(photos.MOST_BYTES + 1))[0] if photo and photo.size else None
        cards.note_sign(
            database,
            number,
            sign=form.get("sign", ""),
            cavity=whole_number(form.get("cavity", ""), most_digits=4),
            note=form.get("note", ""),
            photo=small,
        )

    return _do(request, database, number, act, "signs", form)


@router.get("/moulds/{number}/signs/{sign_id}")
def show_sign(database: TheDatabase, number: Number, sign_id: Number) -> Response:
    """Give the picture of a sign."""
    return Response(cards.sign_photo(database, number, sign_id), media_type="image/jpeg")


@router.post("/moulds/{number}/care")
def care(request: Request, database: TheDatabase, number: Number, form: Posted) -> Response:
    """Note that a mould was cared for now."""
    return _do(request, database, number, lambda: cards.care(database, number, form.get("care", "")), "care", form)


@router.post("/moulds/{number}/retire")
def retire(request: Request, database: TheDatabase, number: Number, form: Posted) -> Response:
    """Retire a cavity or the whole mould, or take a retirement back."""

    def act() -> None:
        cavity = whole_number(form.get("cavity", ""), most_digits=4)
        if form.get("act") == "back":
            cards.use_again(database, number, cavity)
        else:
            chosen = [cavity] if cavity else []
            cards.retire(database, number, cavities=chosen, cause=form.get("cause", ""), why=form.get("why", ""))

    return _do(request, database, number, act, "cavities", form)
