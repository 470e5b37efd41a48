"""Demoulding: how a mould of each kind is taken out of its box, and what is done with it then."""

from collections.abc import Mapping

from ufrin.core.data_files import read_data

_STEPS: Mapping[str, Mapping[str, list[str]]] = read_data("opening", "demoulding")


def demould_steps(style: str, half: str = "") -> tuple[str, ...]:
    """Return the steps by which a mould is taken out.

    Parameters
    ----------
    style : str
        The kind of mould; "" while it is not known.
    half : str, optional
        Of a mould in two parts: a first half stays in its box until the second has cured.

    Returns
    -------
    tuple of str
        Sentences, in their order (common practice).
    """
    if half == "first":
        return tuple(_STEPS["first-half"]["steps"])
    return tuple(_STEPS[style if style in _STEPS else "open"]["steps"])
