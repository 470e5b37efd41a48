"""The stations of a job in the order of the work, and the inputs of each."""

from collections.abc import Mapping
from typing import Literal

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.casts import CastInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs

Station = Literal["master", "opening", "box", "rubber", "checks", "casts"]
State = Literal["empty", "ready", "warning", "stop"]
STATIONS: tuple[Station, ...] = ("master", "opening", "box", "rubber", "checks", "casts")

# the mould is made by these; the last one is for what comes out of it
MOULD_STATIONS = STATIONS[:-1]

Inputs = MasterInputs | OpeningInputs | BoxInputs | RubberInputs | CheckInputs | CastInputs
INPUTS: Mapping[Station, type[Inputs]] = {
    "master": MasterInputs,
    "opening": OpeningInputs,
    "box": BoxInputs,
    "rubber": RubberInputs,
    "checks": CheckInputs,
    "casts": CastInputs,
}


def is_filled_in(value: object) -> bool:
    """Return whether a maker filled an input in: a 0 counts, an empty text and a box that is not ticked do not.

    Parameters
    ----------
    value : object
        Of one input.

    Returns
    -------
    bool
        False for None, empty text and False.
    """
    return value is not None and value is not False and value != ""
