"""The table of all ways to box a job's master, and taking one of them."""

from typing import Any

from fastapi import APIRouter, Request
from starlette.responses import Response

from ufrin.actions.job import box_comparison, long_work, stations
from ufrin.core.job.mould_style import BOXLESS
from ufrin.core.job.terms.box import SHAPES
from ufrin.core.master.turned_profiles import parse_direction
from ufrin.core.measures.parsing import parse
from ufrin.errors import Refused, Stale
from ufrin.language import Text
from ufrin.web.contexts.station import job_context
from ufrin.web.frame.forms import FormReading, form_version, whole_number
from ufrin.web.frame.links import Links
from ufrin.web.frame.pages import go_to, render
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, Posted, TheDatabase

router = APIRouter(include_in_schema=False)
MOST_ROWS = 60
ORDERS = {"rubber": Text("least rubber"), "height": Text("least height"), "cost": Text("least cost")}


@router.get("/jobs/{job_id}/ways")
def show(request: Request, database: TheDatabase, job_id: Number, order: str = "rubber") -> Response:
    """Show the table; it is requested again by itself while attitudes are still being compared."""
    table = box_comparison.compared(database, job_id)
    keys: dict[str, Any] = {
        "height": lambda way: (not way.fits, way.fill_mm),
        "cost": lambda way: (not way.fits, way.cost if way.cost is not None else way.net_ml),
    }
    rows = sorted(table.ways, key=keys[order]) if order in keys else list(table.ways)
    say = UnitFormatter(table.opened.workshop.units, table.opened.workshop.currency)
    context = {
        **job_context(table.opened, "box", FormReading(changes={})),
        "rows": rows[:MOST_ROWS],
        "left_out": max(0, len(rows) - MOST_ROWS),
        "work": table.work,
        "say": say,
        "shapes": SHAPES,
        "boxless": BOXLESS,
        "order": order if order in ORDERS else "rubber",
        "orders": ORDERS,
    }
    return render(request, "station/box_comparison.html", context)


@router.post("/jobs/{job_id}/ways/stop")
def stop(request: Request, database: TheDatabase, job_id: Number) -> Response:
    """Give up the comparison of attitudes."""
    opened = stations.open_job(database, job_id, "box")
    if opened.mesh:
        long_work.stop_work(database, opened.mesh.kept.hash, "attitudes")
    return go_to(request, Links.job(job_id, "box"))


@router.post("/jobs/{job_id}/use")
def use(request: Request, database: TheDatabase, job_id: Number, form: Posted) -> Response:
    """Take one way: how the master stands and what it stands in."""
    shape, container, bed = form.get("shape", ""), form.get("container_id", ""), form.get("bed_mm", "")
    if shape not in SHAPES or (container and whole_number(container) is None):
        raise Refused("shape", Text("That is not one of the ways in the table. Open it again."))
    box: dict[str, object] = {"shape": shape, "container_id": whole_number(container)}
    box |= {"bed_mm": round(parse(bed, "length", "metric", field="bed_mm"), 2), "sunk_mm": None} if bed else {}
    master = {"up": parse_direction(form["up"]), "spin_deg": None} if form.get("up") else {}
    versions = {"master": form_version({"version": form.get("master_version", "")}), "box": form_version(form)}
    try:
        stations.use_way(database, job_id, versions=versions, master=master, box=box)  # type: ignore[arg-type]
    except Stale:
        return go_to(request, Links.job(job_id, "ways"))
    return go_to(request, Links.job(job_id, "box"))
