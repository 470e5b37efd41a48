"""Long work on the mesh of a job: measuring it, comparing how it could stand, ranking its pulls.

Each function reports as it goes, so that it can run in a process of its own.
"""

from collections.abc import Callable
from dataclasses import asdict
from typing import Any

from ufrin.core.box.box_comparison import AttitudeFigures, are_alike, attitude_figures
from ufrin.core.master.attitudes import attitudes
from ufrin.core.mesh.files import read
from ufrin.core.mesh.line_work import reduced
from ufrin.core.mesh.measured_record import MeshFigures, figures_of
from ufrin.core.mesh.mesh_volume import as_displaced, measure
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.opening.pull_ranking import Ranking, rankings

Report = Callable[[object], None]


def measure_file(report: Report, data: bytes, name: str) -> tuple[MeshFigures, Mesh, Mesh]:
    """Read a mesh file, measure it and thin it out for drawing.

    Parameters
    ----------
    report : function
        Receives the share that is done, 0 to 1.
    data : bytes
        The file.
    name : str
        Its name.

    Returns
    -------
    MeshFigures, Mesh, Mesh
        The record, the solid, and the one for drawing, all in the file's own unit.
    """
    got = read(data, name)
    report(0.35)
    measured = as_displaced(measure(got.mesh))
    report(0.75)
    return figures_of(got, measured), measured.solid, reduced(measured.solid)


def compare_attitudes(report: Report, whole: Mesh, drawn: Mesh) -> list[dict[str, Any]]:
    """Compare the ways a mesh could stand.

    Parameters
    ----------
    report : function
        Receives the share that is done, 0 to 1.
    whole, drawn : Mesh
        The solid, and the one for drawing.

    Returns
    -------
    list of dict
        Those that differ, as plain values.
    """
    found: list[AttitudeFigures] = []
    volume_ml = whole.volume_mm3 / 1000
    ways = attitudes(drawn)
    for number, attitude in enumerate(ways, 1):
        one = attitude_figures(whole, drawn, attitude, volume_ml)
        if not any(are_alike(one, other) for other in found):
            found.append(one)
        report(number / len(ways) * 0.98)
    return [_plain(one) for one in found]


def _plain(one: AttitudeFigures) -> dict[str, Any]:
    attitude, form, under = one.attitude, one.form, one.under
    return {
        "attitude": {"up": attitude.up, "said": attitude.words, "stable": attitude.stable} if attitude else None,
        "form": form.to_plain() if form else None,
        "under": asdict(under) if under else None,
    }


def rank_pulls(report: Report, whole: Mesh) -> Ranking:
    """Rank the pull directions of a mesh; rankings from coarser searches are reported before the last.

    Parameters
    ----------
    report : function
        Receives a ranking so far, then the share that is done.
    whole : Mesh
        The solid.

    Returns
    -------
    Ranking
        The whole one.
    """
    found = None
    for found, share in zip(rankings(whole), (0.2, 0.65, 1.0), strict=True):
        if not found.is_whole:
            report(found)
            report(share)
    assert found is not None
    return found
