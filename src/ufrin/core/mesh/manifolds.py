"""Meshes as the solids of a library that unites and cuts them."""

import numpy as np
from manifold3d import Manifold
from manifold3d import Mesh64 as Loose

from ufrin.core.mesh.triangles import Mesh, merged


def manifold(mesh: Mesh) -> Manifold:
    """Convert a closed mesh to a solid of manifold3d.

    Parameters
    ----------
    mesh : Mesh
        Closed, wound one way.

    Returns
    -------
    Manifold
        Its status says whether it was accepted.
    """
    return Manifold(Loose(mesh.vertices_mm.astype(np.float64), mesh.faces.astype(np.uint64)))


def from_manifold(made: Manifold) -> Mesh:
    """Convert a solid of manifold3d to a mesh.

    Parameters
    ----------
    made : Manifold
        Not empty.

    Returns
    -------
    Mesh
        With corners shared.
    """
    got = made.to_mesh64()
    return merged(
        Mesh(
            vertices_mm=np.asarray(got.vert_properties[:, :3], dtype=np.float64),
            faces=np.asarray(got.tri_verts, dtype=np.int32),
        )
    )
