"""Meshes: taken in, measured here or by a worker, given to a job, and stood on the board."""

from collections.abc import Hashable
from dataclasses import dataclass
from threading import Condition

from cachetools import LRUCache, cached

from ufrin.bounded.child import Bounds, do_apart
from ufrin.core.box.box_comparison import AttitudeFigures
from ufrin.core.inputs.master import MasterInputs, SettledMaster
from ufrin.core.job.mesh_work import measure_file
from ufrin.core.master.attitudes import Attitude, attitudes, stand, words_as_kept
from ufrin.core.master.master_form import Form, KnownForm, stand_form
from ufrin.core.master.turned_profiles import direction_vector
from ufrin.core.mesh.files import UNITS_MM, kind_of
from ufrin.core.mesh.measured_record import MeshFigures
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.opening.pull_ranking import Ranking
from ufrin.core.opening.undercuts import UnderAMaster
from ufrin.store import meshes
from ufrin.store.connection import Connection, Database
from ufrin.store.meshes import StoredMesh

LARGE_BYTES = 10_000_000  # a binary STL of 200,000 triangles: a larger one is left to a worker
UPLOAD = Bounds(time_s=60.0)  # what an upload that is waited for may take
FACES_REMEMBERED = 6_000_000
WORKED_OUT = 100_000  # what is kept with a form weighs about as much as that many faces


def _weight(form: Form) -> int:
    return len(form.mesh.faces) + len(form.drawn.faces) + WORKED_OUT


@dataclass(frozen=True, slots=True, kw_only=True)
class MeshState:
    """The state of a job's mesh: what is kept of it, its figures in the unit that counts, and that unit."""

    kept: StoredMesh
    figures: MeshFigures | None
    unit: str


def take_in(database: Database, name: str, data: bytes) -> str:
    """Keep a mesh file; a small one is measured at once, a large one put on the queue.

    Raises Refused when it is no mesh or holds no volume; a large file is looked at by a worker first. Nothing is kept
    then.
    """
    name = "".join(sign for sign in name.replace("\\", "/").rsplit("/", 1)[-1] if sign.isprintable())[:200] or "mesh"
    known = meshes.hash_of(data)
    with database.reading() as connection:
        kept = meshes.facts(connection, known)
    if kept is not None and kept.figures is not None:
        return known
    if len(data) > LARGE_BYTES:
        kind_of(data, name)
        with database.transaction() as connection:
            mesh = meshes.keep(connection, name, data)
            if meshes.ask(connection, mesh, "measure"):
                meshes.defer(connection, mesh, "measure")
        return mesh
    figures, whole, drawn = do_apart(measure_file, UPLOAD, None, data, name)
    with database.transaction() as connection:
        mesh = meshes.keep(connection, name, data)
        if meshes.ask(connection, mesh, "measure"):
            meshes.keep_measured(connection, mesh, figures.to_plain(), whole, drawn)
    return mesh


def compared_attitudes_of(
    connection: Connection, inputs: MasterInputs, state: MeshState
) -> tuple[AttitudeFigures, ...] | None:
    """Return the attitudes in which a job's mesh could stand, where they were compared.

    Sizes are in mm; returns None before they were compared.
    """
    found = meshes.attitudes(connection, state.kept.hash)
    if found is None:
        return None
    scale = _scale(inputs, state)
    return tuple(
        AttitudeFigures(
            attitude=Attitude(
                up=tuple(one["attitude"]["up"]),
                words=words_as_kept(one["attitude"]["said"]),
                stable=one["attitude"]["stable"],
            ),
            form=KnownForm(one["form"], scale),
            under=UnderAMaster(
                trapped_ml=one["under"]["trapped_ml"] * scale**3,
                overhang_ml=one["under"]["overhang_ml"] * scale**3,
                cell_mm=one["under"]["cell_mm"] * scale,
            ),
        )
        for one in found
    )


def directions_of(connection: Connection, inputs: MasterInputs, state: MeshState) -> Ranking | None:
    """Return the ranking of the pull directions of a job's mesh, so far.

    Sizes are in mm; returns None before anything is known.
    """
    found = meshes.directions(connection, state.kept.hash)
    return Ranking.from_plain(found, _scale(inputs, state)) if found else None


def _scale(inputs: MasterInputs, state: MeshState) -> float:
    # from the units of the file to mm, enlarged for the shrinkage of the rubber
    return UNITS_MM[state.unit] * (1 + inputs.settled().shrink_pct / 100)


def state_of(connection: Connection, inputs: MasterInputs) -> MeshState | None:
    """Return the state of a job's mesh.

    Returns None without a mesh.
    """
    if not inputs.mesh:
        return None
    kept = meshes.facts(connection, inputs.mesh)
    if kept is None:
        return None
    if kept.figures is None:
        return MeshState(kept=kept, figures=None, unit=inputs.mesh_unit or "mm")
    figures = MeshFigures.from_plain(kept.figures)
    unit = inputs.mesh_unit or figures.unit
    return MeshState(kept=kept, figures=figures.in_unit(unit), unit=unit)


# solids and forms, the newest first; a mesh is identified by its content, so that nothing here is ever out of date;
# of several who ask for the same one at once, one works it out and the others wait
@cached(
    LRUCache(FACES_REMEMBERED, getsizeof=lambda mesh: len(mesh.faces)),
    key=lambda connection, mesh, drawn: (mesh, drawn),
    condition=Condition(),
)
def _solid(connection: Connection, mesh: str, drawn: bool) -> Mesh:
    return meshes.solid(connection, mesh, drawn=drawn)


def solid_of(connection: Connection, state: MeshState, *, drawn: bool = False) -> Mesh:
    """Return a job's solid, in mm, as drawn."""
    unscaled = _solid(connection, state.kept.hash, drawn)
    factor = UNITS_MM[state.unit]
    return unscaled if factor == 1 else Mesh(vertices_mm=unscaled.vertices_mm * factor, faces=unscaled.faces)


def form_of(connection: Connection, inputs: MasterInputs, state: MeshState | None = None) -> Form | None:
    """Stand a job's mesh on the board.

    Returns None without a mesh that is measured.
    """
    state = state or state_of(connection, inputs)
    if state is None or state.figures is None:
        return None
    settled = inputs.settled()
    key = (state.kept.hash, state.unit, settled.up, settled.spin_deg, settled.shrink_pct)
    return _stood_up(connection, state, settled, state.figures.volume_ml, key)


@cached(
    LRUCache(FACES_REMEMBERED, getsizeof=_weight),
    key=lambda connection, state, settled, volume_ml, key: key,
    condition=Condition(),
)
def _stood_up(
    connection: Connection, state: MeshState, settled: SettledMaster, volume_ml: float, key: Hashable
) -> Form:
    up, scale = direction_vector(settled.up), 1 + settled.shrink_pct / 100
    return stand_form(
        solid_of(connection, state),
        up,
        settled.spin_deg,
        scale,
        volume_ml=volume_ml * scale**3,
        drawn=stand(solid_of(connection, state, drawn=True), up, settled.spin_deg, scale),
        key=key,
    )


def attitudes_of(connection: Connection, state: MeshState) -> tuple[Attitude, ...]:
    """Return the attitudes in which a job's mesh could stand, without comparing them."""
    if state.figures is None:
        return ()
    return _attitudes(connection, state)


@cached(LRUCache(256), key=lambda connection, state: state.kept.hash, condition=Condition())
def _attitudes(connection: Connection, state: MeshState) -> tuple[Attitude, ...]:
    return attitudes(solid_of(connection, state, drawn=True))
