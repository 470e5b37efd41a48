"""The analysis of a form: its cells, stretch, trapped air and tilt, each computed once."""

from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form
from ufrin.core.mesh.cells import Cells, refined_cells
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.opening.stretch import Stretch, stretch
from ufrin.core.opening.tilt import Tilt, best_tilt
from ufrin.core.opening.trapped_air import Air, air_round_master

CELLS, FINEST_CELLS = 96, 224
ANALYSED_FACES = 250_000
MOST_KEPT = 24


def analysed_mesh(form: Form) -> Mesh:
    """Return the mesh to analyse: the form's own, or its copy for drawing where the own one is very large.

    Parameters
    ----------
    form : Form
        Of the master.

    Returns
    -------
    Mesh
        Thinning out a large mesh again would take too long for a page.
    """
    return form.mesh if len(form.mesh.faces) <= ANALYSED_FACES else form.drawn


@kept_by_form(MOST_KEPT)
def cells_of(form: Form) -> Cells:
    """Return the cells of a form, finer where its walls are thin.

    Parameters
    ----------
    form : Form
        Of the master.

    Returns
    -------
    Cells
        As it stands.

    Raises
    ------
    Refused
        When no ray meets it.
    """
    return refined_cells(analysed_mesh(form), CELLS, FINEST_CELLS)[0]


@kept_by_form(4 * MOST_KEPT)
def stretch_of(form: Form) -> Stretch:
    """Return the stretch that a one-piece block round a form needs.

    Parameters
    ----------
    form : Form
        Of the master.

    Returns
    -------
    Stretch
        Through a mouth at its foot.
    """
    return stretch(form.drawn)


@kept_by_form(MOST_KEPT)
def air_under(form: Form, board_mm: float = 0.0) -> Air:
    """Return the air that level rising rubber leaves round a form on its board or in its bed.

    Parameters
    ----------
    form : Form
        Of the master.
    board_mm : float, optional
        How high the bed reaches up the master; negative where there is rubber under it.

    Returns
    -------
    Air
        As it stands.

    Raises
    ------
    Refused
        When no ray meets it.
    """
    return air_round_master(cells_of(form), board_mm=board_mm)


@kept_by_form(4 * MOST_KEPT)
def tilt_of(form: Form, limit_deg: float, board_mm: float = 0.0) -> Tilt | None:
    """Return the tilt of the box that leaves the least air round a form.

    Parameters
    ----------
    form : Form
        Of the master.
    limit_deg : float
        At most.
    board_mm : float, optional
        As ``air_under`` takes it.

    Returns
    -------
    Tilt or None
        None where level is as good.
    """
    return best_tilt(analysed_mesh(form), limit_deg, board_mm=board_mm)
