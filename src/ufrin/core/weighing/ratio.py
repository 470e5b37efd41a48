"""Ratios: parts by weight or volume, their fractions by weight, and the SG of what they make."""

from collections.abc import Mapping
from typing import Literal

from ufrin.errors import Refused
from ufrin.language import Text

Basis = Literal["weight", "volume"]


def check_ratio(ratio: Mapping[str, float], basis: Basis, sg_parts: Mapping[str, float] | None) -> None:
    """Refuse a ratio that can't be mixed.

    Parameters
    ----------
    ratio : mapping of part name to number
        By ``basis``.
    basis : "weight" or "volume"
        What its numbers mean.
    sg_parts : mapping of part name to SG, or None
        Of the parts.

    Raises
    ------
    Refused
        For names other than A, B, C, D, without A or B, numbers that are not positive, or SGs that don't fit.
    """
    if not {"A", "B"} <= set(ratio) <= {"A", "B", "C", "D"}:
        raise Refused("ratio", Text('A ratio names its parts "A" and "B", and "C" and "D" where there are more.'))
    if not all(0 < number <= 1e6 for number in ratio.values()):
        raise Refused(
            "ratio",
            Text(
                "A ratio of nothing to something never sets. Every number must be more than 0 (and at most a million)."
            ),
        )
    if sg_parts is not None and not set(sg_parts) <= set(ratio):
        raise Refused("sg_parts", Text("sg_parts may only name parts that the ratio has."))
    if sg_parts is not None and not all(0.1 <= sg <= 22.6 for sg in sg_parts.values()):
        raise Refused(
            "sg_parts", Text("A specific gravity between 0.1 and 22.6 is believable; rubbers lie between 0.9 and 1.6.")
        )
    if basis == "volume" and set(sg_parts or ()) != set(ratio):
        raise Refused(
            "sg_parts", Text("A ratio by volume needs the specific gravity of every part, to turn it into weights.")
        )


def weight_shares(
    ratio: Mapping[str, float], basis: Basis = "weight", sg_parts: Mapping[str, float] | None = None
) -> dict[str, float]:
    """Return each part's fraction of A + B by weight; a ratio by volume is converted, r x SG.

    Parameters
    ----------
    ratio : mapping of part name to number
        By ``basis``.
    basis : "weight" or "volume"
        What its numbers mean.
    sg_parts : mapping of part name to SG, or None
        Needed by volume.

    Returns
    -------
    dict of part name to share
        They add up to 1.

    Examples
    --------
    >>> weight_shares({"A": 100, "B": 25})
    {'A': 0.8, 'B': 0.2}
    """
    weights = {name: number * (sg_parts or {})[name] if basis == "volume" else number for name, number in ratio.items()}
    whole = sum(weights.values())
    return {name: weight / whole for name, weight in weights.items()}


def mixed_sg(masses_g: Mapping[str, float], sgs: Mapping[str, float]) -> float:
    """Return the SG of a mix whose volumes add: sum of masses over sum of volumes.

    Parameters
    ----------
    masses_g, sgs : mapping of name to number
        For each part.

    Returns
    -------
    float
        In g/ml.
    """
    return sum(masses_g.values()) / sum(mass / sgs[name] for name, mass in masses_g.items())
