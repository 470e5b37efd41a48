"""What the template of a station receives, and the answer to an action of a station."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import Any

from fastapi import Request
from starlette.responses import Response

from ufrin.actions import Database, Stored
from ufrin.actions.job import stations
from ufrin.actions.job.open_job import OpenJob
from ufrin.actions.job.stations import StationForm
from ufrin.core.box.bed import plaster_for
from ufrin.core.box.jacket import JACKETS
from ufrin.core.inputs.stations import Station
from ufrin.core.inputs.term import Term
from ufrin.core.job.better_answer import improvements
from ufrin.core.job.box_station import cuts, usual_box
from ufrin.core.job.rubber_choice import FamilyAdvice, advised_families
from ufrin.core.job.terms import TERMS
from ufrin.core.job.terms.master import WAY_NEEDS, WAYS
from ufrin.core.master.measuring_ways import EGG_ML, WAY_OF, error_on_an_egg_ml
from ufrin.core.master.stand_in_choice import STAND_IN_NEEDS
from ufrin.core.materials.kinds import POURS
from ufrin.core.measures.quantity_kinds import Units
from ufrin.core.mesh.measured_record import size_in_words
from ufrin.core.opening.mould_styles import STYLES
from ufrin.core.rubber.shore import feel_of
from ufrin.core.rubber.tins import FAMILIES
from ufrin.core.weighing.weigh_plan import total_of
from ufrin.devices import clock
from ufrin.errors import Refused, Stale
from ufrin.language import Text
from ufrin.web.contexts.casts import casts_context, casts_headline
from ufrin.web.contexts.checks import checks_context
from ufrin.web.contexts.next_section import next_section
from ufrin.web.contexts.opening import opening_context
from ufrin.web.contexts.scenes import box_views, views_of_master
from ufrin.web.drawings.cup import cup_section
from ufrin.web.drawings.cut_list import sheet_drawings
from ufrin.web.drawings.displacement import Reading, error_bars
from ufrin.web.drawings.pictures import picture, picture_hatches
from ufrin.web.frame.forms import Field, FormReading, fields, shown_text
from ufrin.web.frame.headlines import headlines
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, is_htmx, render
from ufrin.web.frame.wording_in_units import UnitFormatter


def terms_of(opened: OpenJob | StationForm, station: Station) -> Mapping[str, Term]:
    """Return the terms of a station, with the defaults of this job and of the workshop."""
    terms, workshop, defaults = TERMS[station], opened.workshop, dict[str, float | str]()
    if station in {"master", "rubber"} and workshop.scale_step_g is not None:
        defaults["scale_step_g"] = workshop.scale_step_g
    if station == "rubber":
        defaults |= {"spare_pct": opened.spare_pct, "room_temp_c": workshop.room_temp_c}
    if station == "box":
        defaults |= usual_box(opened.job.box, opened.style)
    if station == "master" and opened.mesh and opened.mesh.figures:
        defaults["mesh_unit"] = opened.mesh.unit if opened.job.master.mesh_unit is None else "mm"
    if station == "casts":
        terms = {
            key: replace(term, default=opened.cast_defaults[key], default_is=Text("calculated"))
            if key in opened.cast_defaults
            else term
            for key, term in terms.items()
        }
    is_shops = {"scale_step_g", "room_temp_c"}
    whose = {True: Text("the shop's"), False: Text("default")}
    return {
        **terms,
        **{
            key: replace(terms[key], default=value, default_is=whose[key in is_shops])
            for key, value in defaults.items()
        },
    }


Conflict = list[tuple[str, str, str, str]]


def conflict_rows(terms: Mapping[str, Any], stale: Stale, units: Units) -> Conflict:
    """Set both sides of a stale save beside each other: key, label, the kept text, the refused text."""
    return [
        (key, terms[key].label, shown_text(terms[key], stale.theirs[key], units), shown_text(terms[key], mine, units))
        for key, mine in stale.mine.items()
    ]


def job_context(opened: OpenJob, station: Station, taken: FormReading) -> dict[str, Any]:
    """Return what a station's template receives."""
    say, plan, terms = (
        UnitFormatter(opened.workshop.units, opened.workshop.currency),
        opened.plan,
        terms_of(opened, station),
    )
    not_made = opened.casts.refusals if station == "casts" and opened.casts else plan.refusals.get(station, ())
    refused = {refusal.field: say.refusal(refusal) for refusal in not_made if refusal.field in terms}
    shown = fields(terms, opened.job.inputs[station], say.units, {**refused, **taken.errors}, taken.typed)
    return {
        **(_master_context(opened, shown, say) if station == "master" else {}),
        **(opening_context(opened, say) if station == "opening" else {}),
        **(_box_context(opened, say) if station == "box" else {}),
        **(rubber_context(opened, say) if station == "rubber" else {}),
        **(checks_context(opened, say) if station == "checks" else {}),
        **(casts_context(opened, say) if station == "casts" else {}),
        "job": opened.job,
        "plan": plan,
        "say": say,
        "station": station,
        "rubber": opened.rubber,
        "mesh": opened.mesh,
        "headlines": headlines(plan, opened.figures, say),
        "fields": shown,
        "refusals": [say.refusal(refusal) for refusal in not_made if refusal.field not in terms],
        "casts_state": opened.casts.state if opened.casts else "empty",
        "casts_headline": casts_headline(opened.casts, say, opened.plan.rubber_settled.scale_step_g),
        "ways": WAYS,
        "is_log": False,
        "mould_id": opened.mould_id,
        "decimals": plan.rubber.mass_decimals if plan.rubber else 0,
        "conflict": [],
        "is_undo_refused": False,
        "styles": STYLES,
        "advice_was": opened.advice_was,
        "halves": plan.halves,
        "printed": opened.printed,
        "is_sheet_old": opened.is_sheet_out_of_date,
        "pour_stages": opened.pour_states(clock.now()),
        "pour_figures": opened.pour_figures(clock.now()),
        "as_weighed": opened.as_weighed(clock.now()),
        "next_section": next_section(opened, station),
        "picture": picture,
        "picture_hatches": picture_hatches,
    }


def rubber_context(opened: OpenJob, say: UnitFormatter) -> dict[str, Any]:
    """Return what the templates of the Rubber station receive in addition: what the Shelf offers, and drawings."""
    inputs, pour = opened.job.rubber, opened.plan.pour

    def offered(kept: Sequence[Stored[Any]], chosen: int | None) -> list[tuple[int, str]]:
        return [
            (one.id, say.thing(one.thing) + (" (retired)" if one.retired_at else ""))
            for one in kept
            if not one.retired_at or one.id == chosen
        ]

    def of_kind(kind: str) -> list[Stored[Any]]:
        return [one for one in opened.additives if one.thing.kind == kind]

    thinned = pour.thinned if pour else None
    return {
        "rubbers": offered(opened.rubbers, inputs.rubber_id),
        "blends": [
            (number, name) for number, name in offered(opened.rubbers, inputs.blend_id) if number != inputs.rubber_id
        ],
        "thinners": offered(of_kind("thinner"), inputs.thinner_id),
        "thickeners": offered(of_kind("thickener"), inputs.thickener_id),
        "pigments": offered(of_kind("pigment"), inputs.pigment_id),
        "cups": offered(opened.cups, inputs.cup_id),
        "allowance": opened.shelf.allowance,
        "hardness_said": say.hardness(thinned.modulus_mpa) if thinned else "",
        "feel": feel_of(thinned.modulus_mpa).label if thinned else "",
        "by_volume": inputs.basis == "volume" and bool(opened.rubber and opened.rubber.by_volume),
        "settled": opened.plan.rubber_settled,
        "strip": cup_section(opened.shelf.cup, pour.cup_marks, say.plain)
        if pour and pour.cup_marks and opened.shelf.cup
        else None,
        "total_of": total_of,
        "thickener": opened.shelf.thickener,
        "families": _families(opened),
        "casts_of": POURS.get(opened.job.checks.cast_material or "", ""),
        "cup_has_marks": bool(opened.shelf.cup and opened.shelf.cup.mark_ml),
        "newer_spare_pct": _newer_spare_pct(opened),
        "better": improvements(opened.plan, opened.job.master, inputs, room_c=opened.workshop.room_temp_c),
    }


def _newer_spare_pct(opened: OpenJob) -> float | None:
    # what past pours teach now, where it differs from what was settled when the rubber was chosen
    inputs, now_pct = opened.job.rubber, opened.shelf.allowance.spare_pct
    if inputs.spare_pct is not None or inputs.learnt_spare_pct in {None, now_pct}:
        return None
    return now_pct


def _box_context(opened: OpenJob, say: UnitFormatter) -> dict[str, Any]:
    box = opened.plan.box
    cut = cuts(box, opened.plan.box_inputs) if box else None
    return {
        "views": box_views(opened, say),
        "containers_offered": [
            (kept.id, kept.thing.name + (" (retired)" if kept.retired_at else ""))
            for kept in opened.containers
            if not kept.retired_at or kept.id == opened.job.box.container_id
        ],
        "other_jobs": opened.other_jobs,
        "cut": cut,
        "sheets": sheet_drawings(cut, say.plain) if cut else (),
        "plaster": plaster_for(box.bed_ml) if box and box.bed_ml > 0 else None,
        "families": FAMILIES,
        "jackets": JACKETS,
    }


def _families(opened: OpenJob) -> tuple[FamilyAdvice, ...]:
    return advised_families(opened.job.checks.cast_material)


def _master_context(opened: OpenJob, shown: dict[str, Field], say: UnitFormatter) -> dict[str, Any]:
    answer = opened.plan.master
    readings = [
        Reading(value=way.measured.volume_ml, plus_minus=way.measured.plus_minus_ml)
        for way in answer.ways
        if way.measured
    ]
    bars = iter(error_bars(readings) if readings else [])
    form = answer.form
    return {
        "way_of": WAY_OF,
        "ways_offered": [
            (key, WAY_NEEDS[key], error_on_an_egg_ml(key, opened.job.master)) for key in WAY_OF if not answer.measured
        ],
        "egg_ml": EGG_ML,
        "families": _families(opened),
        "casts": {"": Text("not known yet"), **POURS},
        "results": {way.key: way for way in answer.ways},
        "compared": [(way, next(bars) if way.measured else "") for way in answer.ways],
        "views": views_of_master(opened, say),
        "size_words": size_in_words(max(form.size_mm)) if form else "",
        "attitudes": opened.attitudes,
        "standin_needs": STAND_IN_NEEDS.get(opened.job.master.standin or "", ()),
        # a round master has one size across; it is kept as its length
        "diameter": replace(shown["length_mm"], term=replace(shown["length_mm"].term, label=Text("Diameter"))),
    }


def act_and_show(
    request: Request, database: Database, job_id: int, station: Station, act: Callable[[], None]
) -> Response:
    """Do an action of a station, and show the station as it is then.

    A refusal, or a save by somebody else meanwhile, is shown on it.
    """
    refused: Refused | None = None
    status = 200
    try:
        act()
    except Stale:
        refused = Refused(
            "",
            Text(
                "Somebody changed this meanwhile. What they saved is shown now: look at it, and do it "
                "again if it is still wanted."
            ),
        )
        status = 409
    except Refused as why:
        refused, status = why, 422
    if refused is None and not is_htmx(request):
        return go_to(request, Links.job(job_id, station))
    context = job_context(stations.open_job(database, job_id, station), station, FormReading(changes={}))
    context["refusals"] = [*([context["say"].refusal(refused)] if refused else []), *context["refusals"]]
    return render(
        request, "station/_station.html" if is_htmx(request) else "station/station.html", context, status_code=status
    )
