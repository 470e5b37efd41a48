"""Pairings: any of them looked up, the shop's own tests noted, withdrawn, taken in from a file and written to one."""

from types import SimpleNamespace
from typing import Annotated, Any

from fastapi import APIRouter, File, Request, UploadFile
from fastapi.responses import JSONResponse
from starlette.responses import Response

from ufrin.actions import RUBBERS, Database
from ufrin.actions.shelf import things
from ufrin.actions.shop import pairing_tests, workshop_settings
from ufrin.core.exchange.pairing_tests_json import MOST_BYTES, SCHEMA
from ufrin.core.inputs.term import Term
from ufrin.core.materials.kinds import BETWEENS, LONGEST_OWN, NOTHING_BETWEEN, POURS, SOMETHING_ELSE, SURFACES
from ufrin.core.pairing.rules import VERDICT_WORDS, OwnRule, contradictions, judge
from ufrin.core.wording.one_line import one_line
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.web.frame.forms import fields
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
LOOKED_UP = {
    "pour": ("addition-silicone", POURS),
    "touches": ("photopolymer-print", SURFACES),
    "between": (NOTHING_BETWEEN, BETWEENS),
}
TEST = {
    "verdict": Term(
        label=Text("What came of it"),
        kind="choice",
        choices={str(key): words for key, words in VERDICT_WORDS.items()},
        default="fine",
    ),
    "why": Term(
        label=Text("What was seen"), kind="text", longest=400, help=Text("Such as: set as in its cup, came off clean.")
    ),
    "tried_on": Term(label=Text("Tried on"), kind="date"),
}
BLANK = SimpleNamespace(verdict=None, why="", tried_on=None)


@router.get("/pairings")
def show(
    request: Request, database: TheDatabase, pour: str = "", touches: str = "", between: str = "", rubber: str = ""
) -> Response:
    """Show one pairing, and the shop's own tests."""
    return _page(request, database, {"pour": pour, "touches": touches, "between": between, "rubber": rubber[:120]})


@router.post("/pairings")
def note(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Note a test."""
    looked_up = {key: one_line(form.get(key, "")) for key in (*LOOKED_UP, "rubber")}
    typed = {key: form.get(key, "")[:500] for key in TEST}
    try:
        text = one_line(typed["why"])
        pairing_tests.note(
            database,
            OwnRule(
                pour=looked_up["pour"],
                touches=looked_up["touches"],
                between=looked_up["between"],
                rubber=looked_up["rubber"],
                verdict=typed["verdict"],
                why=text,
                tried_on=typed["tried_on"].strip(),
            ),
        )
    except Refused as refused:
        return _page(request, database, looked_up, errors={refused.field: str(refused)}, typed=typed)
    return go_to(request, Links.pairing(**looked_up))


@router.post("/pairings/{number}/{what}")
def withdraw(request: Request, database: TheDatabase, number: Number, what: str) -> Response:
    """Exclude a test, or include it again."""
    if what in {"withdraw", "count"}:
        pairing_tests.withdraw(database, number, withdrawn=what == "withdraw")
    return go_to(request, Links.pairings + "#own")


@router.get("/pairings/tests.json")
def give(database: TheDatabase) -> Response:
    """Give the shop's own tests as a file."""
    return Response(
        pairing_tests.as_file(database),
        media_type="application/json",
        headers={"Content-Disposition": 'attachment; filename="ufrin-pairing-tests.json"'},
    )


@router.get("/pairings/tests.schema.json")
def schema() -> Response:
    """Return the schema of that file."""
    return JSONResponse(SCHEMA)


@router.post("/pairings/tests")
def take_in(request: Request, database: TheDatabase, file: Annotated[UploadFile | None, File()] = None) -> Response:
    """Take tests in from a file."""
    try:
        if file is None or not file.size:
            raise Refused("file", Text("Choose a rule file first: one that was written here, or made in its form."))
        fresh, known = pairing_tests.take_in(database, file.file.read(MOST_BYTES + 1))
    except Refused as refused:
        return _page(request, database, {}, errors={"file": str(refused)})
    return _page(
        request,
        database,
        {},
        taken=Text(
            "{fresh} taken in{known}.",
            fresh=fresh,
            known=Text(", {known} were here already", known=known) if known else "",
        ),
    )


def _page(
    request: Request,
    database: Database,
    looked_up: dict[str, str],
    *,
    errors: dict[str, str] | None = None,
    typed: dict[str, str] | None = None,
    taken: str = "",
) -> Response:
    kept = pairing_tests.own_rules(database, withdrawn=True)
    own = [one.rule for one in kept if not one.withdrawn_at]
    case = {
        key: looked_up.get(key, "") if looked_up.get(key, "") in known else default
        for key, (default, known) in LOOKED_UP.items()
    }
    named = one_line(looked_up.get("touches", ""))[:LONGEST_OWN]
    if named and named != SOMETHING_ELSE:  # a surface may have a name of the shop's own
        case["touches"] = named
    surfaces = {**SURFACES, **{one.rule.touches: one.rule.touches for one in kept if one.rule.touches not in SURFACES}}
    surfaces.setdefault(case["touches"], case["touches"])
    rubber = looked_up.get("rubber", "")
    names = [one.thing.name for one in things.shelf(database, RUBBERS).things if not one.retired_at]
    context: dict[str, Any] = {
        "case": case,
        "rubber": rubber if rubber in names else "",
        "rubbers": names,
        "known": {"pour": POURS, "touches": surfaces, "between": BETWEENS},
        "ruling": judge(**case, own=own, rubber=rubber),
        "table": [
            (key, label, judge(case["pour"], case["touches"], key, own, rubber)) for key, label in BETWEENS.items()
        ],
        "matrix": [
            (key, label, [(pour, judge(pour, key, own=own)) for pour in POURS]) for key, label in SURFACES.items()
        ],
        "kept": kept,
        "against": {older.id for _, older in contradictions(own)},
        "pours": POURS,
        "surfaces": surfaces,
        "betweens": BETWEENS,
        "verdict_words": VERDICT_WORDS,
        "errors": errors or {},
        "taken": taken,
        "say": UnitFormatter("metric"),
        "fields": fields(
            TEST,
            BLANK,
            "metric",
            errors or {},
            typed or {"tried_on": workshop_settings.settings(database).today.isoformat()},
        ),
    }
    return render(request, "shop/pairings.html", context, status_code=422 if errors else 200)
