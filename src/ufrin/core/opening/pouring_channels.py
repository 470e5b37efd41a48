"""Pouring channels: how wide gate and vents are for what is cast, how long in the rubber, and the volume they hold."""

from dataclasses import dataclass
from math import pi
from typing import Any, Literal

import numpy as np

from ufrin.core.data_files import read_data
from ufrin.core.mesh.triangles import Floats
from ufrin.core.opening.gates_and_vents import CastPlan, Riser

_DATA: dict[str, dict[str, Any]] = read_data("opening", "pouring_channels")
FIGURES = {key: float(figure["value"]) for key, figure in _DATA["figures"].items()}
VISCOSITIES: dict[str, float] = _DATA["viscosity_mpa_s"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Channel:
    """A gate or a vent cut or formed in the rubber.

    Parameters
    ----------
    kind, number : str, int
        As they are numbered on the page.
    width_mm, length_mm : float
        Across, and from the cavity to the outside of the mould.
    volume_ml : float
        That it holds: so much more is cast, and so much less rubber is poured where a rod on the master forms it.
    """

    kind: Literal["gate", "vent"]
    number: int
    width_mm: float
    length_mm: float
    volume_ml: float


def gate_width_mm(cast: str) -> float:
    """Return the width of a gate that is wide enough for what is cast.

    Parameters
    ----------
    cast : str
        Its kind; an unknown one counts as a resin of middling thickness.

    Returns
    -------
    float
        By the viscosity that is typical of it.
    """
    viscosity = VISCOSITIES.get(cast, VISCOSITIES["unknown"])
    return next(float(width) for limit, width in _DATA["gates"].items() if viscosity <= float(limit))


def channels(cast_plan: CastPlan, turn: Floats, block_mm: tuple[Floats, Floats], cast: str) -> tuple[Channel, ...]:
    """Return the channels of a mould.

    Parameters
    ----------
    cast_plan : CastPlan
        Gates and vents as the mould is held.
    turn : (3, 3) float64
        From the master as it stands to the mould as it is held.
    block_mm : ((3,) float64, (3,) float64)
        The lowest and highest corner of the rubber, as the master stands.
    cast : str
        What is cast.

    Returns
    -------
    tuple of Channel
        Gates, each a round bore with a funnel at its end, then vents, V-grooves.
    """
    width = gate_width_mm(cast)
    found = []
    for number, riser in enumerate(cast_plan.gates, 1):
        length = _length_mm(riser, turn, block_mm)
        funnel = min(length, FIGURES["funnel_mm"])
        wide = FIGURES["funnel_times"] * width
        bore_ml = pi / 4 * width**2 * (length - funnel) / 1000
        funnel_ml = pi * funnel * (wide**2 + wide * width + width**2) / 12 / 1000
        found.append(
            Channel(kind="gate", number=number, width_mm=width, length_mm=length, volume_ml=bore_ml + funnel_ml)
        )
    groove_mm2 = FIGURES["vent_mm"] * FIGURES["vent_depth_mm"] / 2
    for number, riser in enumerate(cast_plan.vents, 1):
        length = _length_mm(riser, turn, block_mm)
        found.append(
            Channel(
                kind="vent",
                number=number,
                width_mm=FIGURES["vent_mm"],
                length_mm=length,
                volume_ml=groove_mm2 * length / 1000,
            )
        )
    return tuple(found)


def _length_mm(riser: Riser, turn: Floats, block_mm: tuple[Floats, Floats]) -> float:
    # from the cavity along the way until it leaves the block of rubber
    at, way = np.array(riser.at_mm) @ turn, np.array(riser.way or (0.0, 0.0, 1.0)) @ turn
    with np.errstate(divide="ignore", invalid="ignore"):
        far = np.where(way > 0, block_mm[1] - at, block_mm[0] - at) / way
    ahead = far[np.abs(way) > 1e-9]
    return max(0.0, float(ahead.min())) if len(ahead) else 0.0
