"""A job whose master has a part cut off: what it saves, and going on with what remains."""

from dataclasses import dataclass

from ufrin.actions.job import meshes, stations
from ufrin.actions.job.open_job import OpenJob
from ufrin.core.job.cut_off import NO_READINGS, Part, RemainingPart, remaining_parts
from ufrin.core.mesh.written_files import write_stl
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store.connection import Database


@dataclass(frozen=True, slots=True, kw_only=True)
class CutJob:
    """A job, and what it takes with either part of its master alone; ``parts`` is empty where ``refused`` says why."""

    opened: OpenJob
    cut_mm: float | None
    parts: tuple[RemainingPart, ...] = ()
    refused: Refused | None = None


def cut_job(database: Database, job_id: int, cut_mm: float | None) -> CutJob:
    """Work out what a job takes without a part of its master; half its height where none is named."""
    opened = stations.open_job(database, job_id, "box")
    form = opened.plan.master.form
    if form is None or form.is_standin:
        refused = Refused(
            "", Text("Only a master with a mesh can be cut. Give any other the size of what remains of it.")
        )
        return CutJob(opened=opened, cut_mm=cut_mm, refused=refused)
    height_mm = round(form.size_mm[2] / 2, 1) if cut_mm is None else cut_mm
    job = opened.job
    try:
        parts = remaining_parts(
            form,
            height_mm,
            master=job.master,
            box=job.box,
            rubber=job.rubber,
            opening=job.opening,
            checks=job.checks,
            context=opened.context,
        )
    except Refused as refused:
        return CutJob(opened=opened, cut_mm=height_mm, refused=refused)
    return CutJob(opened=opened, cut_mm=height_mm, parts=parts)


def take_part(database: Database, job_id: int, part: Part, cut_mm: float, *, version: int) -> None:
    """Go on with one part of a job's master, kept as a mesh of its own; what was measured of the whole lapses.

    Raises Refused when it can't be cut there, Stale when someone saved meanwhile.
    """
    cut = cut_job(database, job_id, cut_mm)
    if cut.refused:
        raise cut.refused
    taken = next(one for one in cut.parts if one.part == part)
    whole = cut.opened.mesh.kept.name.rsplit(".", 1)[0] if cut.opened.mesh else "master"
    kept = meshes.take_in(database, f"{whole}, {part} {cut_mm:g} mm.stl", write_stl(taken.mesh))
    changes = {**NO_READINGS, "mesh": kept, "mesh_unit": "mm"}
    stations.change_station(database, job_id, "master", version=version, changes=changes, own_step=True)
