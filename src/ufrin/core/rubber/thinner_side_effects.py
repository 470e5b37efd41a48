"""The side effects of thinner on viscosity, time, tear strength and bleeding; all of them guesses until tested."""

from dataclasses import dataclass
from typing import Literal

from ufrin.core.rubber.blends import viscosity_of_mix
from ufrin.core.rubber.thinner_curve import MOST_PARTS, polymer_fraction
from ufrin.core.rubber.tins import Rubber

Bleeding = Literal["none", "unlikely", "possible", "likely"]
DOUBLES_DEMOULD_PARTS = 50.0  # common practice: 50 parts per 100 doubled a rubber's time to demould
TEAR_EXPONENT, TEAR_EXPONENT_WORST = 1.5, 3.0  # from memory; the tear energy of swollen networks falls at least as fast
VISCOSITY_DOUBT = 2.0
BLEEDS: tuple[tuple[float, Bleeding], ...] = (
    (0.0, "none"),
    (20.0, "unlikely"),
    (35.0, "possible"),
)  # up to so many parts; common practice


@dataclass(frozen=True, slots=True, kw_only=True)
class SideEffects:
    """The side effects of a dose. What the Shelf does not know is None; ranges run from low to high.

    Parameters
    ----------
    viscosity_mpa_s, viscosity_range_mpa_s : float or None, pair or None
        Of the mix; it may be off by a factor of two.
    demould_min : float or None
        At the reference temperature of the tin.
    tear_range_kn_per_m : pair or None
        What remains.
    tear_lost_pct : pair
        Least and most.
    bleeding : str
        The likelihood that oil bleeds out.
    """

    viscosity_mpa_s: float | None
    viscosity_range_mpa_s: tuple[float, float] | None
    demould_min: float | None
    tear_range_kn_per_m: tuple[float, float] | None
    tear_lost_pct: tuple[float, float]
    bleeding: Bleeding


def side_effects(
    rubber: Rubber, parts_per_100: float, *, thinner_mpa_s: float | None = None, thinner_sg: float | None = None
) -> SideEffects:
    """Work out the side effects of a dose of thinner.

    Parameters
    ----------
    rubber : Rubber
        As its tin describes it.
    parts_per_100 : float
        Of thinner to A + B.
    thinner_mpa_s, thinner_sg : float or None
        Of the thinner.

    Returns
    -------
    SideEffects
        Each figure is to be tested first.
    """
    viscosity = None
    if rubber.viscosity_mpa_s and (thinner_mpa_s or not parts_per_100):
        viscosity = viscosity_of_mix([100, parts_per_100], [rubber.viscosity_mpa_s, thinner_mpa_s or 1.0])
    fraction = polymer_fraction(parts_per_100, rubber_sg=rubber.sg_mixed, thinner_sg=thinner_sg)
    left = (fraction**TEAR_EXPONENT_WORST, fraction**TEAR_EXPONENT)
    doubt = VISCOSITY_DOUBT if parts_per_100 else 1.0
    return SideEffects(
        viscosity_mpa_s=viscosity,
        viscosity_range_mpa_s=(viscosity / doubt, min(viscosity * doubt, rubber.viscosity_mpa_s or viscosity))
        if viscosity
        else None,
        demould_min=thinned_demould_min(rubber, parts_per_100),
        tear_range_kn_per_m=(rubber.tear_kn_per_m * left[0], rubber.tear_kn_per_m * left[1])
        if rubber.tear_kn_per_m
        else None,
        tear_lost_pct=(100 * (1 - left[1]), 100 * (1 - left[0])),
        bleeding=next((word for most, word in BLEEDS if parts_per_100 <= most), "likely"),
    )


def demould_factor(parts_per_100: float) -> float:
    """Return how many times longer it takes to demould.

    It doubles at 50 parts per 100 (common practice), and grows by equal ratios in between.

    Parameters
    ----------
    parts_per_100 : float
        Of thinner to A + B.

    Returns
    -------
    float
        1 or more.

    Examples
    --------
    >>> demould_factor(50)
    2.0
    """
    return float(2 ** (parts_per_100 / DOUBLES_DEMOULD_PARTS))


def thinned_demould_min(rubber: Rubber, parts_per_100: float) -> float | None:
    """Return the time to demould of a thinned rubber at the reference temperature of its tin.

    Parameters
    ----------
    rubber : Rubber
        As its tin describes it.
    parts_per_100 : float
        Of thinner to A + B; more than the curve of hardness covers counts as its end.

    Returns
    -------
    float or None
        In min; None where the tin states no time.
    """
    return rubber.demould_min * demould_factor(min(parts_per_100, MOST_PARTS)) if rubber.demould_min else None


def thinned_full_cure_min(rubber: Rubber, parts_per_100: float) -> float | None:
    """Return the time to full cure of a thinned rubber at the reference temperature of its tin.

    Parameters
    ----------
    rubber : Rubber
        As its tin describes it.
    parts_per_100 : float
        Of thinner to A + B; it delays the full cure as it delays demoulding.

    Returns
    -------
    float or None
        In min; None where the tin states no time.
    """
    return rubber.full_cure_min * demould_factor(min(parts_per_100, MOST_PARTS)) if rubber.full_cure_min else None


def thinned_cast_in_min(rubber: Rubber, parts_per_100: float) -> float | None:
    """Return the time until a thinned rubber may be cast in, at the reference temperature of its tin.

    Parameters
    ----------
    rubber : Rubber
        As its tin describes it.
    parts_per_100 : float
        Of thinner to A + B; it delays the first cast as it delays demoulding.

    Returns
    -------
    float or None
        In min; None where the tin states no time.
    """
    return rubber.cast_in_min * demould_factor(min(parts_per_100, MOST_PARTS)) if rubber.cast_in_min else None
