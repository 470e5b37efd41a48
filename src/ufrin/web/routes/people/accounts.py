"""Who may sign in, what each may do, and who did what."""

from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.people import accounts, change_log
from ufrin.errors import Refused, TooManyTries
from ufrin.language import Text
from ufrin.web.contexts.change_words import shown
from ufrin.web.frame.access import asks, party_in
from ufrin.web.frame.forms import whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.qr_code import qr_code
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
ROLE_WORDS = {
    "owner": (Text("Owner"), Text("runs the shop: settings, people, devices, backups, and all that a maker does")),
    "maker": (Text("Maker"), Text("plans, weighs, casts and changes jobs and the Shelf")),
    "reader": (Text("Reader"), Text("sees everything and changes nothing")),
}


@router.get("/people")
@asks("run shop")
def show(request: Request, database: TheDatabase) -> Response:
    """Show who may sign in."""
    return _page(request, database)


@router.post("/people")
@asks("run shop")
def add(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Enter somebody, and show the address at which they choose a password."""
    try:
        account_id, code = accounts.add(
            database,
            party_in(request),
            name=form.get("name", ""),
            role=form.get("role", ""),
            own_password=form.get("own_password", ""),
        )
    except (Refused, TooManyTries) as error:
        typed = {key: form.get(key, "")[:80] for key in ("name", "role")}
        field = error.field if isinstance(error, Refused) else "own_password"
        return _page(request, database, errors={field: str(error)}, typed=typed)
    return _page(request, database, code_of=account_id, code=code)


@router.post("/people/{number}/role")
@asks("run shop")
def change_role(request: Request, database: TheDatabase, number: Number, form: Posted) -> Response:
    """Change what somebody may do."""
    password = form.get("own_password", "")
    try:
        accounts.change_role(database, party_in(request), number, form.get("role", ""), own_password=password)
    except (Refused, TooManyTries) as error:
        return _page(request, database, errors={f"role-{number}": str(error)})
    return go_to(request, Links.accounts)


@router.post("/people/{number}/code")
@asks("run shop")
def new_code(request: Request, database: TheDatabase, number: Number) -> Response:
    """Show a new address at which somebody chooses a password."""
    return _page(
        request, database, code_of=number, code=accounts.new_code(database, party_in(request), account_id=number)
    )


@router.post("/people/{number}/end")
@asks("run shop")
def end(request: Request, database: TheDatabase, number: Number) -> Response:
    """Let somebody sign in no more."""
    try:
        accounts.end(database, number)
    except Refused as refused:
        return _page(request, database, errors={f"role-{number}": str(refused)})
    return go_to(request, Links.accounts)


@router.post("/people/{number}/back")
@asks("run shop")
def take_back(request: Request, database: TheDatabase, number: Number) -> Response:
    """Let somebody sign in again."""
    code = accounts.take_back(database, party_in(request), number)
    return _page(request, database, code_of=number, code=code)


@router.get("/changes")
@asks("run shop")
def changes(request: Request, database: TheDatabase, before: str = "", doer: str = "") -> Response:
    """Show who did what."""
    page = change_log.look(database, before=whole_number(before), doer=doer[:130].replace("\0", ""))
    return render(request, "people/changes.html", {"page": page, "lines": shown(page), "doer": doer[:130]})


def _page(
    request: Request,
    database: Database,
    *,
    errors: dict[str, str] | None = None,
    typed: dict[str, str] | None = None,
    code_of: int | None = None,
    code: str = "",
) -> Response:
    address = f"{str(request.base_url).rstrip('/')}{Links.choose_password(code)}" if code else ""
    context: dict[str, Any] = {
        "accounts": accounts.every(database),
        "role_words": ROLE_WORDS,
        "code_of": code_of,
        "address": address,
        "qr": qr_code(address) if address else "",
        "errors": errors or {},
        "typed": typed or {},
    }
    return render(request, "people/accounts.html", context, status_code=422 if errors else 200)
