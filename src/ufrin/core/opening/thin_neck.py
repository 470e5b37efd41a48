"""A thin neck of a master: where what hangs above it would break off as a one-piece mould is opened."""

from dataclasses import dataclass
from math import pi, sqrt

import numpy as np

from ufrin.core.data_files import read_data
from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form
from ufrin.core.mesh.rays import columns, grid, stretches
from ufrin.core.opening.form_analysis import CELLS, analysed_mesh

FIGURES = {key: float(figure["value"]) for key, figure in read_data("opening", "thin_neck").items()}


@dataclass(frozen=True, slots=True, kw_only=True)
class ThinNeck:
    """A neck: its height, how thick it is there (of a round bar of its section), and the volume that hangs above it."""

    height_mm: float
    across_mm: float
    above_ml: float


@kept_by_form(24)
def thin_neck(form: Form) -> ThinNeck | None:
    """Find the thinnest neck of a master, as it stands.

    Parameters
    ----------
    form : Form
        Of the master.

    Returns
    -------
    ThinNeck or None
        The level with the smallest section for what lies above and below it, where that is much thinner than the
        widest sections there (common practice); None where nothing is.
    """
    mesh = analysed_mesh(form)
    low, cell, shape = grid(mesh, CELLS)
    cast = stretches(columns(mesh, axis=2, low_mm=low, cell_mm=cell, shape=shape))
    levels = low[2] + (np.arange(shape[2]) + 0.5) * cell
    begin = np.searchsorted(levels, cast.low_mm)
    end = np.searchsorted(levels, cast.high_mm)
    change = np.bincount(begin, minlength=shape[2] + 1) - np.bincount(end, minlength=shape[2] + 1)
    section = np.cumsum(change[: shape[2]]) * cell**2
    held = np.flatnonzero(section > 0)
    if len(held) < 3:
        return None
    section, levels = section[held[0] : held[-1] + 1], levels[held[0] : held[-1] + 1]
    # a neck has something wider on both sides: a foot or a tip that runs out is none
    wider = np.minimum(np.maximum.accumulate(section[::-1])[::-1], np.maximum.accumulate(section))
    ratio = section / np.maximum(wider, 1e-9)
    at = int(np.argmin(ratio[:-1]))
    across = 2 * sqrt(float(section[at]) / pi)
    above_ml = float(section[at + 1 :].sum()) * cell / 1000
    is_thin = across < FIGURES["thin_mm"] or ratio[at] < FIGURES["thin_share"]
    if not (is_thin and ratio[at] < FIGURES["least_widening"] and above_ml > FIGURES["least_share"] * form.volume_ml):
        return None
    return ThinNeck(height_mm=float(levels[at]), across_mm=across, above_ml=above_ml)
