"""What a job's box and master are cut and printed from: DXF, true-size SVG, STL and 3MF.

The libraries for DXF and PDF take a second to load and are imported where they are used: a server that starts need not
wait for them.
"""

from collections.abc import Callable, Mapping
from html import escape

import numpy as np
from fastapi import APIRouter
from shapely.geometry import Polygon
from starlette.responses import Response

from ufrin.actions.job import stations
from ufrin.actions.job.open_job import OpenJob
from ufrin.core.box.cut_list import CutList
from ufrin.core.box.printed_box import PrintableBox, printable_box
from ufrin.core.job.box_station import cuts
from ufrin.core.job.opening_station import Opening
from ufrin.core.master.master_form import QUARTER
from ufrin.core.mesh.triangles import Mesh, joined
from ufrin.core.mesh.written_files import write_3mf, write_stl
from ufrin.core.opening.half_solids import GATE_MM, VENT_MM, bore_through, both_halves, parting_plate
from ufrin.core.opening.parting_surface import PartingSurface
from ufrin.errors import Missing, Refused
from ufrin.language import Text
from ufrin.web.contexts.scenes import mould_scene
from ufrin.web.drawings.cup import true_size_strip
from ufrin.web.drawings.cut_list import sheet_drawings, true_size_svg
from ufrin.web.drawings.setting_out import PAPER_MM, setting_out
from ufrin.web.frame.pages import environment
from ufrin.web.frame.wording_in_units import UnitFormatter
from ufrin.web.routes import Number, TheDatabase

router = APIRouter(include_in_schema=False)
POUR_MM = 24.0  # the notch that the stream is poured over


def _cut(opened: OpenJob) -> CutList:
    made = cuts(opened.plan.box, opened.plan.box_inputs) if opened.plan.box else None
    if made is None:
        raise Refused("shape", Text("There is nothing to cut: this box is a container, or it is not known yet."))
    return made


def _printed(opened: OpenJob) -> PrintableBox:
    box = opened.plan.box
    if box is None or not box.panels:
        raise Refused("shape", Text("There is no box to print: choose a built one first."))
    settled = opened.plan.box_inputs.settled()
    return printable_box(
        box.inside_polygon(),
        rim_mm=box.rim_mm,
        thickness_mm=settled.wall_thickness_mm,
        pour_mm=min(POUR_MM, box.inside_mm[0] / 3),
    )


def _master(opened: OpenJob) -> bytes:
    form = opened.plan.master.form
    if form is None:
        raise Refused("mesh", Text("This master has no mesh and no stand-in."))
    return write_stl(form.mesh)


def _parted(opened: OpenJob) -> tuple[PartingSurface, Polygon, Opening]:
    made = opened.plan.opening
    if made is None or made.parting_surface is None or made.inside is None:
        raise Refused("style", Text("Only a mould in two parts has halves. Choose it on the Opening station first."))
    return made.parting_surface, made.inside, made


def _halves(opened: OpenJob) -> Mesh:
    parted, inside, made = _parted(opened)
    form, scene = opened.plan.master.form, mould_scene(opened)
    if form is None or scene is None or made.cast is None:
        raise Refused("mesh", Text("This master has no mesh and no stand-in."))
    masters = joined(
        [
            other.mesh.moved(QUARTER if turned else np.eye(3), np.array([x, y, scene.foot_mm]))
            for other, x, y, turned in scene.places
        ]
    )
    bores = []
    for x, y in ((x, y) for _, x, y, turned in scene.places[:1]):
        for riser, across in [
            *((gate, GATE_MM) for gate in made.cast.gates),
            *((vent, VENT_MM) for vent in made.cast.vents),
        ]:
            at = np.array(riser.at_mm) @ made.cast_turn + np.array([x, y, scene.foot_mm])
            bores.append(bore_through(at, np.array(riser.way or (0.0, 0.0, 1.0)) @ made.cast_turn, across))
    return both_halves(parted, inside, masters, made.keys, bores).side_by_side


def _cut_dxf(opened: OpenJob) -> bytes:
    from ufrin.web.drawings.dxf_files import cut_dxf  # noqa: PLC0415

    return cut_dxf(_cut(opened))


def _cut_paper(opened: OpenJob) -> bytes:
    from ufrin.web.frame.pdf import LIST_SIZES, pdf  # noqa: PLC0415

    cut, units = _cut(opened), opened.workshop.units
    say = UnitFormatter(units, opened.workshop.currency)
    shown = {"job": opened.job, "cut": cut, "sheets": sheet_drawings(cut, say.plain), "say": say}
    return pdf(
        environment.get_template("paper/_cut_list.html").render(shown),
        Text("Cut list, {name}", name=opened.job.name),
        units,
        LIST_SIZES,
    )


def _plan_dxf(opened: OpenJob) -> bytes:
    from ufrin.web.drawings.dxf_files import plan_dxf  # noqa: PLC0415

    parted, inside, made = _parted(opened)
    return plan_dxf(parted, inside, made.keys, 2.0 if parted.flatness_mm < 30 else 5.0)


def _cup_strip(opened: OpenJob) -> str:
    pour, cup = opened.plan.pour, opened.shelf.cup
    if pour is None or cup is None or not pour.cup_marks:
        raise Refused(
            "cup_id",
            Text("There is nothing to mark: choose a cup from the Shelf, and a rubber that may be measured by volume."),
        )
    say = UnitFormatter(opened.workshop.units, opened.workshop.currency)
    return true_size_strip(cup, pour.cup_marks, say.plain, escape(f"{opened.job.name}: {pour.rubber.name}, {cup.name}"))


def _cup_paper(opened: OpenJob) -> bytes:
    from ufrin.web.frame.pdf import true_size_pdf  # noqa: PLC0415

    return true_size_pdf([_cup_strip(opened)], Text("Strip for the cup"), opened.workshop.units)


def _setting_out(opened: OpenJob) -> bytes:
    from ufrin.web.frame.pdf import true_size_pdf  # noqa: PLC0415

    box, units = opened.plan.box, opened.workshop.units
    if box is None:
        raise Refused("shape", Text("There is no box whose masters could be set out."))
    sheets = setting_out(box, opened.plan.masters, opened.job.name, PAPER_MM[units])
    if not sheets:
        raise Refused("shape", Text("This box is too large for a grid on paper. Set it out on the board with a rule."))
    return true_size_pdf(sheets, Text("Grid to set out by"), units)


EXPORTS: Mapping[str, tuple[str, Callable[[OpenJob], bytes]]] = {
    "cut.dxf": ("image/vnd.dxf", _cut_dxf),
    "cut.pdf": ("application/pdf", _cut_paper),
    "cut.svg": ("image/svg+xml", lambda opened: true_size_svg(_cut(opened)).encode()),
    "box.stl": ("model/stl", lambda opened: write_stl(_printed(opened).side_by_side)),
    "box.3mf": ("model/3mf", lambda opened: write_3mf(_printed(opened).side_by_side)),
    "master.stl": ("model/stl", _master),
    "parting.stl": ("model/stl", lambda opened: write_stl(parting_plate(*_parted(opened)[:2]))),
    "halves.stl": ("model/stl", lambda opened: write_stl(_halves(opened))),
    "halves.3mf": ("model/3mf", lambda opened: write_3mf(_halves(opened))),
    "plan.dxf": ("image/vnd.dxf", _plan_dxf),
    "cup.svg": ("image/svg+xml", lambda opened: _cup_strip(opened).encode()),
    "grid.pdf": ("application/pdf", _setting_out),
    "cup.pdf": ("application/pdf", _cup_paper),
}


@router.get("/jobs/{job_id}/files/{name}")
def export(database: TheDatabase, job_id: Number, name: str) -> Response:
    """Give a file."""
    if name not in EXPORTS:
        raise Missing(Text("this file"))
    kind, make = EXPORTS[name]
    made = make(stations.open_job(database, job_id, "rubber" if name.startswith("cup.") else "box"))
    return Response(
        made, media_type=kind, headers={"Content-Disposition": f'attachment; filename="job-{job_id}-{name}"'}
    )
