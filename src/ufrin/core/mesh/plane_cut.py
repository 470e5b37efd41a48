"""A solid cut in two by a level plane."""

from manifold3d import Error

from ufrin.core.mesh.manifolds import from_manifold, manifold
from ufrin.core.mesh.triangles import Mesh
from ufrin.errors import Refused
from ufrin.language import Text


def cut_level(mesh: Mesh, height_mm: float) -> tuple[Mesh, Mesh]:
    """Cut a solid by a level plane; both faces of the cut are closed flat.

    Parameters
    ----------
    mesh : Mesh
        Closed, wound one way, in mm.
    height_mm : float
        Of the plane.

    Returns
    -------
    (Mesh, Mesh)
        What is below the plane, and what is above it.

    Raises
    ------
    Refused
        When the plane misses the solid, or its surface is not that of one.
    """
    low, high = mesh.bounds_mm[:, 2]
    if not low < height_mm < high:
        raise Refused(
            "cut_mm",
            Text(
                "At [{height_mm:.1f} length] the plane does not pass through the master. Choose a "
                "height between [{word:.1f} length] and [{high:.1f} length].",
                height_mm=height_mm,
                word=max(0.0, low),
                high=high,
            ),
        )
    solid = manifold(mesh)
    if solid.status() != Error.NoError:
        raise Refused(
            "cut_mm",
            Text(
                "This model can't be cut, since its surface is not that of one solid. Mend it in the "
                "program that made it, or cut it there."
            ),
        )
    above, below = solid.split_by_plane((0.0, 0.0, 1.0), float(height_mm))
    if above.is_empty() or below.is_empty():
        raise Refused("cut_mm", Text("The plane only grazes the master. Choose a height further inside it."))
    return from_manifold(below), from_manifold(above)
