"""Settings: the workshop's units and currency; and the hidden page that shows every component in every state."""

from types import SimpleNamespace
from typing import cast

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions import SCALES, Database, Workshop
from ufrin.actions.shelf import things
from ufrin.actions.shop import workshop_settings
from ufrin.core.degassing.air_pressure import local_air_kpa
from ufrin.core.degassing.schools import SCHOOLS
from ufrin.core.job.terms.box import BOX_TERMS
from ufrin.core.job.terms.master import MASTER_TERMS
from ufrin.core.measures.parsing import parse
from ufrin.core.measures.quantity_kinds import Units
from ufrin.core.pairing.releases import RELEASE_SCHOOLS
from ufrin.core.wording.findings import Finding
from ufrin.errors import Refused, Stale
from ufrin.language import Text
from ufrin.web.contexts.safekeeping_words import backup_age
from ufrin.web.drawings.pictures import PICTURES, picture, picture_hatches
from ufrin.web.frame.access import asks
from ufrin.web.frame.forms import fields, form_version, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Posted, TheDatabase

router = APIRouter(include_in_schema=False)
AIR_KINDS = {"air_pressure_hpa": "barometer", "height_m": "elevation"}
TYPED = ("currency", "confidence_pct", "room_temp_c", *AIR_KINDS, "scale_hosts")
LONGEST_HOSTS = 400


@router.get("/settings")
def show(request: Request, database: TheDatabase) -> Response:
    """Show the settings."""
    return _page(request, database)


@router.post("/settings")
@asks("run shop")
def change(request: Request, database: TheDatabase, form: Posted) -> Response:
    """Keep new settings."""
    units: Units = "us" if form.get("units") == "us" else "metric"
    try:
        kept = workshop_settings.settings(database)
        sure = parse(form.get("confidence_pct") or f"{kept.confidence_pct:g}", "percent", units, field="confidence_pct")
        room_c, typed_room = kept.room_temp_c, form.get("room_temp_c", "").strip()
        # what was shown is rounded: left as it was, it changes nothing
        if typed_room and typed_room != UnitFormatter(kept.units).plain(room_c, "temperature"):
            room_c = parse(typed_room, "temperature", units, field="room_temp_c")
        scale_id = whole_number(form["scale_id"]) if "scale_id" in form else kept.scale_id
        air = {field: _kept_or_typed(form, field, kept, units) for field in AIR_KINDS}
        workshop_settings.change_settings(
            database,
            version=form_version(form),
            units=units,
            currency=form.get("currency", ""),
            confidence_pct=sure,
            air=form.get("air") or kept.air,
            release=form.get("release") or kept.release,
            room_temp_c=room_c,
            scale_id=scale_id,
            time_zone=form.get("time_zone", kept.time_zone),
            air_pressure_hpa=air["air_pressure_hpa"],
            height_m=air["height_m"],
            scale_hosts=form.get("scale_hosts", kept.scale_hosts)[:LONGEST_HOSTS],
        )
    except Refused as refused:
        typed = {key: form.get(key, "")[:LONGEST_HOSTS] for key in TYPED if key in form}
        sentence = UnitFormatter(units).refusal(refused)
        return _page(request, database, errors={refused.field: sentence}, typed=typed)
    except Stale as stale:
        return _page(request, database, stale=stale)
    request.app.state.workshop_clock.forget()
    return go_to(request, Links.settings)


def _kept_or_typed(form: dict[str, str], field: str, kept: Workshop, units: Units) -> float | None:
    # what was shown is rounded: left as it was, it changes nothing; emptied, it counts no more
    known, typed = getattr(kept, field), form.get(field)
    if typed is None or (known is not None and typed.strip() == _plain(kept, field)):
        return cast(float | None, known)
    return parse(typed, AIR_KINDS[field], units, field=field) if typed.strip() else None


def _plain(kept: Workshop, field: str) -> str:
    known = getattr(kept, field)
    return "" if known is None else UnitFormatter(kept.units).plain(known, AIR_KINDS[field])


def _page(
    request: Request,
    database: Database,
    *,
    errors: dict[str, str] | None = None,
    typed: dict[str, str] | None = None,
    stale: Stale | None = None,
) -> Response:
    kept, scales = workshop_settings.settings(database), things.shelf(database, SCALES).things
    say = UnitFormatter(kept.units)
    labels = {
        "units": Text("Units"),
        "currency": Text("Currency"),
        "confidence_pct": Text("Enough in"),
        "air": Text("Air out of rubber"),
        "release": Text("Release"),
        "room_temp_c": Text("Room"),
        "scale_id": Text("Scale at the bench"),
        "time_zone": Text("Time zone"),
        "air_pressure_hpa": Text("Pressure of the air"),
        "height_m": Text("Height above the sea"),
        "scale_hosts": Text("Hosts of scales"),
    }
    both = [(key, labels[key], str(stale.theirs[key]), str(mine)) for key, mine in stale.mine.items()] if stale else []
    shown = {
        "currency": kept.currency,
        "confidence_pct": f"{kept.confidence_pct:g} %",
        "room_temp_c": say.plain(kept.room_temp_c, "temperature"),
        "air_pressure_hpa": _plain(kept, "air_pressure_hpa"),
        "height_m": _plain(kept, "height_m"),
        "scale_hosts": kept.scale_hosts,
    } | (typed or {})
    context = {
        "kept": kept,
        "errors": errors or {},
        "shown": shown,
        "conflict": both,
        "scales": [
            (one.id, Text("{name}, steps of {step_g}", name=one.thing.name, step_g=say.plain(one.thing.step_g, "mass")))
            for one in scales
            if not one.retired_at or one.id == kept.scale_id
        ],
        "airs": SCHOOLS,
        "releases": RELEASE_SCHOOLS,
        "time_zones": workshop_settings.time_zones(),
        "backed_up": backup_age(database),
        "air_here": say.plain(10 * local_air_kpa(kept.air_pressure_hpa, kept.height_m), "barometer"),
    }
    return render(request, "shop/workshop_settings.html", context, status_code=409 if stale else 422 if errors else 200)


@router.get("/components")
def components(request: Request) -> Response:
    """Show every component in every state, for those who change the style."""
    terms = {key: BOX_TERMS[key] for key in ("shape", "side_mm", "over_mm", "rows")} | {"solid": MASTER_TERMS["solid"]}
    blank = SimpleNamespace(shape=None, side_mm=None, over_mm=8.0, rows=None, solid=True)
    shown = fields(
        terms,
        blank,
        "metric",
        {"over_mm": Text("“9 kg” can't be read as a length. Type it like 90, 9 cm or 3 1/2 in.")},
        {"over_mm": "9 kg"},
    )
    findings = [Finding(code=code, facts={"over": "4.0 mm"}) for code in ("thin-cover", "weight-unknown")]
    return render(
        request,
        "frame/components.html",
        {
            "shown": list(shown.values()),
            "findings": findings,
            "say": UnitFormatter("metric", "EUR"),
            "pictures": PICTURES,
            "picture": picture,
            "picture_hatches": picture_hatches,
        },
    )
