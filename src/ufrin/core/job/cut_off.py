"""A part cut off a master by a level plane, and what the job takes without it."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Literal

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.job_plan import JobContext, Plan, plan
from ufrin.core.master.master_form import Form, stand_form
from ufrin.core.master.measuring_ways import WAY_OF
from ufrin.core.master.turned_profiles import direction_vector
from ufrin.core.mesh.plane_cut import cut_level
from ufrin.core.mesh.triangles import Mesh

Part = Literal["above", "below"]
# what was measured of the whole master is not true of a part of it; what it is made of still is
_OF_ANY_PART = {"material", "density_g_per_ml", "density_pm_g_per_ml", "solid"}
NO_READINGS: Mapping[str, object] = {
    name: getattr(MasterInputs(), name)
    for name in {"counted_way", *(name for way in WAY_OF.values() for name in (*way.needs, *way.may))} - _OF_ANY_PART
}


@dataclass(frozen=True, slots=True, kw_only=True)
class RemainingPart:
    """What remains of a master when the rest is cut off.

    Parameters
    ----------
    part : "above" or "below"
        On which side of the plane it is.
    mesh : Mesh
        In the master's own coordinates, in mm, without shrinkage.
    volume_ml, height_mm : float
        As it stands.
    plan : Plan
        Of the job with this part as its master.
    """

    part: Part
    mesh: Mesh
    volume_ml: float
    height_mm: float
    plan: Plan


def remaining_parts(
    form: Form,
    cut_mm: float,
    *,
    master: MasterInputs,
    box: BoxInputs,
    rubber: RubberInputs,
    opening: OpeningInputs,
    checks: CheckInputs,
    context: JobContext,
) -> tuple[RemainingPart, RemainingPart]:
    """Cut a master and work the job out with each part in its place, standing as the whole stood.

    Parameters
    ----------
    form : Form
        The whole master as it stands.
    cut_mm : float
        Height of the plane over its foot.
    master, box, rubber, opening, checks : MasterInputs, BoxInputs, RubberInputs, OpeningInputs, CheckInputs
        The stations of the job.
    context : JobContext
        What they point to.

    Returns
    -------
    (RemainingPart, RemainingPart)
        The part above the plane, then the one below.

    Raises
    ------
    Refused
        When it can't be cut there.
    """
    settled = master.settled()
    inputs: MasterInputs = replace(master, **NO_READINGS)  # type: ignore[arg-type]  # its own fields, by name
    below, above = cut_level(form.mesh, cut_mm)

    def remaining(part: Part, cut: Mesh) -> RemainingPart:
        own = Mesh(vertices_mm=form.to_own_mm(cut.vertices_mm), faces=cut.faces)
        stood = stand_form(own, direction_vector(settled.up), settled.spin_deg, form.scale)
        return RemainingPart(
            part=part,
            mesh=own,
            volume_ml=stood.volume_ml,
            height_mm=stood.size_mm[2],
            plan=plan(inputs, box, rubber, replace(context, mesh=stood), opening, checked=checks),
        )

    return remaining("above", above), remaining("below", below)
