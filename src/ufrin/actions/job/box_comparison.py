"""The comparison of the ways to box a job's master, in one table."""

from dataclasses import dataclass

from ufrin.actions.job import long_work, meshes, stations
from ufrin.actions.job.open_job import OpenJob
from ufrin.core.box.box_comparison import AttitudeFigures, BoxOption, are_alike, attitude_figures, box_options
from ufrin.core.master.attitudes import attitudes
from ufrin.core.master.stand_in_choice import stand_in_mesh
from ufrin.core.rubber.tins import Rubber
from ufrin.store.connection import Database
from ufrin.store.meshes import Work


@dataclass(frozen=True, slots=True, kw_only=True)
class WaysTable:
    """The ways to box a job's master.

    ``work`` is the progress of the comparison of attitudes, None where there is nothing to wait for.
    """

    opened: OpenJob
    ways: tuple[BoxOption, ...]
    work: Work | None


def compared(database: Database, job_id: int) -> WaysTable:
    """Compare all ways to box a job's master."""
    opened = stations.open_job(database, job_id, "box")
    if opened.plan.box_plan is None:
        return WaysTable(opened=opened, ways=(), work=None)
    figures, work = _attitude_figures(database, opened)
    offered = {kept.id: kept.thing for kept in opened.containers if not kept.retired_at}
    ways = box_options(
        opened.plan.box_plan, figures, offered, _cost_per_ml(opened.rubber, opened.plan.box_plan.rubber_sg)
    )
    return WaysTable(opened=opened, ways=ways, work=work)


def _attitude_figures(database: Database, opened: OpenJob) -> tuple[tuple[AttitudeFigures, ...], Work | None]:
    as_it_is, form = (AttitudeFigures(attitude=None, form=None),), opened.plan.master.form
    if form is None:
        return as_it_is, None
    if form.is_standin:
        mesh = stand_in_mesh(opened.job.master, opened.plan.master.measured)
        if mesh is None:
            return as_it_is, None
        found: list[AttitudeFigures] = []
        for one in (attitude_figures(mesh, mesh, way, form.volume_ml) for way in attitudes(mesh)):
            if not any(are_alike(one, other) for other in found):
                found.append(one)
        return tuple(found), None
    if opened.mesh is None:
        return as_it_is, None
    long_work.ask_for(database, opened.mesh.kept.hash, "attitudes")
    with database.reading() as connection:
        known = meshes.compared_attitudes_of(connection, opened.job.master, opened.mesh)
        if known is not None:
            return known, None
        state = meshes.state_of(connection, opened.job.master)
    return as_it_is, state.kept.work.get("attitudes") if state else None


def _cost_per_ml(rubber: Rubber | None, sg: float | None) -> float | None:
    if rubber is None or sg is None or not rubber.kit_g or rubber.kit_price is None:
        return None
    return sg * rubber.kit_price / rubber.kit_g
