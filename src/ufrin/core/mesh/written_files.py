"""Mesh files that are written: STL and 3MF, in millimetres."""

import struct

import numpy as np

from ufrin.core.mesh.triangles import Mesh


def write_stl(mesh: Mesh) -> bytes:
    """Write binary STL, in mm.

    Parameters
    ----------
    mesh : Mesh
        In mm.

    Returns
    -------
    bytes
        The file.
    """
    rows = np.zeros(len(mesh.faces), np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("more", "<u2")]))
    rows["corners"] = mesh.vertices_mm[mesh.faces]
    return b"Ufrin, millimetres".ljust(80, b" ") + struct.pack("<I", len(rows)) + rows.tobytes()


def write_3mf(mesh: Mesh) -> bytes:
    """Write 3MF, in mm.

    Parameters
    ----------
    mesh : Mesh
        In mm.

    Returns
    -------
    bytes
        The file.
    """
    import trimesh  # noqa: PLC0415 - slow to load, and needed for a download alone

    made = trimesh.Trimesh(mesh.vertices_mm, mesh.faces, process=False)
    made.units = "mm"
    return bytes(made.export(file_type="3mf"))  # type: ignore[arg-type] # this format is always bytes
