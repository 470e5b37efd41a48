"""Signing in and out, the first owner, choosing a password with a code, and one's own page."""

from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import Database
from ufrin.actions.people import accounts, signing_in
from ufrin.errors import NotSignedIn, Refused, TooManyTries
from ufrin.web.frame.access import asks, party_in
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.sign_in import SESSION, asker, keep_token, limits_of
from ufrin.web.routes import Posted, TheDatabase

router = APIRouter(include_in_schema=False)
LONGEST_TYPED = 200


def _place(typed: str) -> str:
    # where somebody goes on after signing in: a page of ours, whatever an address from elsewhere says
    is_ours = typed.startswith("/") and not typed.startswith("//") and "\\" not in typed and typed.isprintable()
    return typed[:500] if is_ours and not typed.startswith(Links.sign_in) else Links.board()


def _form(request: Request, template: str, status: int = 200, **context: Any) -> Response:  # noqa: ANN401 - a template's
    shown = {"errors": {}, "typed": {}, "then": Links.board(), **context}
    return render(request, f"people/{template}.html", shown, status_code=status)


def _typed(form: dict[str, str], *fields: str) -> dict[str, str]:
    return {field: form.get(field, "")[:LONGEST_TYPED] for field in fields}


@router.get("/sign-in")
@asks("anybody")
def show(request: Request, database: TheDatabase, then: str = "") -> Response:
    """Ask for name and password; where there is no owner yet, for the first."""
    if not request.app.state.settings.sign_in:
        return go_to(request, Links.board())
    if not accounts.has_owner(database):
        return go_to(request, Links.first_owner)
    return _form(request, "sign_in", then=_place(then))


@router.post("/sign-in")
@asks("anybody")
def sign_in(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Sign somebody in."""
    then, (address, program) = _place(form.get("then", "")), asker(request)
    try:
        token = signing_in.sign_in(
            database,
            name=form.get("name", ""),
            password=form.get("password", ""),
            address=address,
            program=program,
            limits=limits_of(request),
        )
    except (NotSignedIn, TooManyTries) as error:
        typed = _typed(form, "name")
        return _form(request, "sign_in", error.status, errors={"": str(error)}, typed=typed, then=then)
    return keep_token(request, go_to(request, then), SESSION, token)


@router.post("/sign-out")
@asks("anybody")
def sign_out(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Sign out here, or everywhere."""
    party = party_in(request)
    if form.get("where") == "everywhere":
        signing_in.sign_out_everywhere(database, party)
    else:
        signing_in.sign_out(database, party)
    response = go_to(request, Links.sign_in)
    response.delete_cookie(SESSION, path="/")
    response.headers["Clear-Site-Data"] = '"cache"'
    return response


@router.get("/first-owner")
@asks("anybody")
def ask_owner(request: Request, database: TheDatabase) -> Response:
    """Ask for the code that the terminal shows, and for the first owner's name and password."""
    if accounts.has_owner(database):
        return go_to(request, Links.sign_in)
    return _form(request, "first_owner")


@router.post("/first-owner")
@asks("anybody")
def enter_owner(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Enter the first owner."""
    address, program = asker(request)
    try:
        token = accounts.enter_owner(
            database,
            **{field: form.get(field, "") for field in ("code", "name", "password", "again")},
            address=address,
            program=program,
            limits=limits_of(request),
        )
    except (Refused, TooManyTries) as error:
        field = error.field if isinstance(error, Refused) else ""
        typed = _typed(form, "code", "name")
        return _form(request, "first_owner", error.status, errors={field: str(error)}, typed=typed)
    return keep_token(request, go_to(request, Links.board()), SESSION, token)


@router.get("/password/{code}")
@asks("anybody")
def ask_password(request: Request, database: TheDatabase, code: str) -> Response:
    """Ask somebody whom the owner has entered for a password."""
    try:
        return _form(request, "choose_password", account=accounts.whose_code(database, code), code=code)
    except NotSignedIn as error:
        return _form(request, "choose_password", error.status, account=None, code="", errors={"": str(error)})


@router.post("/password/{code}")
@asks("anybody")
def choose_password(request: Request, database: TheDatabase, code: str, form: Posted) -> Response:
    """Keep the password that somebody chose, and sign them in."""
    try:
        token = accounts.choose_password(
            database,
            code=code,
            password=form.get("password", ""),
            again=form.get("again", ""),
            program=asker(request)[1],
            limits=limits_of(request),
        )
    except NotSignedIn as error:
        return _form(request, "choose_password", error.status, account=None, code="", errors={"": str(error)})
    except Refused as refused:
        account, errors = accounts.whose_code(database, code), {refused.field: str(refused)}
        return _form(request, "choose_password", 422, account=account, code=code, errors=errors)
    return keep_token(request, go_to(request, Links.board()), SESSION, token)


@router.get("/me")
@asks("see")
def me(request: Request, database: TheDatabase) -> Response:
    """Show who is signed in, and where."""
    return _me(request, database, {})


@router.post("/me/password")
@asks("see")
def change_password(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Change one's own password."""
    try:
        signing_in.change_password(
            database, party_in(request), old=form.get("old", ""), new=form.get("new", ""), again=form.get("again", "")
        )
    except (Refused, TooManyTries) as error:
        return _me(request, database, {error.field if isinstance(error, Refused) else "old": str(error)})
    return go_to(request, f"{Links.me}?changed=1")


def _me(request: Request, database: Database, errors: dict[str, str]) -> Response:
    context = {
        "sessions": signing_in.my_sessions(database, party_in(request), limits_of(request)),
        "limits": limits_of(request),
        "is_changed": "changed" in request.query_params,
        "errors": errors,
    }
    return render(request, "people/me.html", context, status_code=422 if errors else 200)
