"""Rubbers with the figures that are typical of their family, for what must be known before one is chosen."""

from ufrin.core.data_files import read_data
from ufrin.core.rubber.tins import FAMILIES, Rubber

_FIGURES = read_data("rubber", "families")


def typical_rubber(family: str) -> Rubber:
    """Return a rubber with the SG and elongation that are typical of a family.

    Parameters
    ----------
    family : str
        One of ``FAMILIES``.

    Returns
    -------
    Rubber
        Named after its family; not to be weighed.
    """
    own = _FIGURES[family]
    return Rubber(
        name=FAMILIES[family],
        family=family,
        weight_a=1,
        weight_b=1,
        sg_mixed=float(own["sg"]["value"]),
        elongation_pct=float(own["elongation_pct"]["value"]),
    )
