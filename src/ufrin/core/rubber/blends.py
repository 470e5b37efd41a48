"""Blends: two rubbers of one family and ratio mixed for a hardness in between, and the viscosity of mixes."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from math import exp, log

from ufrin.core.rubber.shore import Hardness
from ufrin.core.rubber.tins import Rubber
from ufrin.errors import Refused
from ufrin.language import Text

SAME_RATIO_PCT = 1.0


def blend_mpa(first: Hardness, second: Hardness, second_share: float) -> float:
    """Return the modulus of a blend: ln E mixes by mass (a rule of thumb).

    Parameters
    ----------
    first, second : Hardness
        Of the two.
    second_share : float
        By mass, from 0 to 1.

    Returns
    -------
    float
        In MPa. With the log-linear relation of Qi, Joyce and Boyce the same rule mixes the Shore numbers themselves.

    Examples
    --------
    >>> round(blend_mpa(Hardness(scale="A", shore=10), Hardness(scale="A", shore=30), 0.5), 6)
    0.686613
    """
    return exp((1 - second_share) * log(first.modulus_mpa) + second_share * log(second.modulus_mpa))


def blend_range_mpa(first: Hardness, second: Hardness, second_share: float) -> tuple[float, float]:
    """Return the range in which a blend may lie: by Gent's relation, and by mixing the Shore numbers themselves.

    The first is the rule of thumb; the second is the same rule with the log-linear relation.

    Parameters
    ----------
    first, second : Hardness
        Of the two.
    second_share : float
        By mass, from 0 to 1.

    Returns
    -------
    float, float
        Softer and harder, in MPa; both relations are from memory, and about a point or two of hardness apart.
    """
    made = [blend_mpa(first, second, second_share)]
    if first.scale == second.scale:
        shore = (1 - second_share) * first.shore + second_share * second.shore
        made.append(Hardness(scale=first.scale, shore=shore).modulus_mpa)
    return min(made), max(made)


def share_for(first: Hardness, second: Hardness, target: Hardness) -> float:
    """Find the share of the second rubber that gives a hardness.

    Parameters
    ----------
    first, second, target : Hardness
        Of the two, and wanted.

    Returns
    -------
    float
        By mass, from 0 to 1.

    Raises
    ------
    Refused
        When the target does not lie between the two.
    """
    low, high, wanted = (log(hardness.modulus_mpa) for hardness in (first, second, target))
    if not min(low, high) - 1e-9 <= wanted <= max(low, high) + 1e-9:
        raise Refused(
            "target",
            Text(
                "A blend lies between its two: {first} and {second}. {target} does not.",
                first=first,
                second=second,
                target=target,
            ),
        )
    return 0.0 if low == high else min(1.0, max(0.0, (wanted - low) / (high - low)))


def check_blend(first: Rubber, second: Rubber) -> None:
    """Refuse two rubbers that can't be blended.

    Other families inhibit each other's cure, and other ratios can't be weighed as one.

    Parameters
    ----------
    first, second : Rubber
        From the Shelf.

    Raises
    ------
    Refused
        Which names the difference.
    """
    if first.family != second.family:
        raise Refused(
            "blend_id",
            Text(
                "{name} and {name2} are of different families and would not set together. Blend rubbers of one family.",
                name=first.name,
                name2=second.name,
            ),
        )
    ratios = [b / a for a, b in (first.weight_ratio, second.weight_ratio)]
    if abs(ratios[0] / ratios[1] - 1) * 100 > SAME_RATIO_PCT:
        raise Refused(
            "blend_id",
            Text(
                "{name} and {name2} have different ratios of A to B, so they can't be weighed as one. "
                "Blend rubbers of one ratio.",
                name=first.name,
                name2=second.name,
            ),
        )


def blended(first: Rubber, second: Rubber, second_share: float) -> Rubber:
    """Return two rubbers as the one that they make together.

    Parameters
    ----------
    first, second : Rubber
        From the Shelf.
    second_share : float
        Of the second, by mass, from 0 to 1.

    Returns
    -------
    Rubber
        Nobody states the figures of a blend, so each is the one that does no harm if it is wrong: the shorter pot life,
        the longer times to demould and to full cure, the smaller tolerance, elongation and tear strength; viscosity
        mixes by mass, SG by volume. A figure that one of the tins does not state is not known. Kits are each tin's own.

    Raises
    ------
    Refused
        When the two can't be blended.
    """
    check_blend(first, second)
    # heat that one of the tins asks for, the blend wants too; of two, the longer
    hot = max(first, second, key=lambda one: one.post_cure_min or 0.0)
    viscosity = None
    if first.viscosity_mpa_s and second.viscosity_mpa_s:
        shares = [1 - second_share, second_share]
        viscosity = viscosity_of_mix(shares, [first.viscosity_mpa_s, second.viscosity_mpa_s])
    return replace(
        first,
        name=Text("{first} with {share:g} % {second}", first=first.name, share=second_share * 100, second=second.name),
        volume_a=None,
        volume_b=None,
        sg_a=None,
        sg_b=None,
        weight_a=first.weight_ratio[0],
        weight_b=first.weight_ratio[1],
        sg_mixed=1 / ((1 - second_share) / first.sg + second_share / second.sg),
        tolerance_pct=min(first.tolerance_pct, second.tolerance_pct),
        viscosity_mpa_s=viscosity,
        pot_life_min=_known(min, first.pot_life_min, second.pot_life_min),
        demould_min=_known(max, first.demould_min, second.demould_min),
        full_cure_min=_known(max, first.full_cure_min, second.full_cure_min),
        mix_least_min=_known(max, first.mix_least_min, second.mix_least_min),
        mix_most_min=None,
        cast_in_min=_known(max, first.cast_in_min, second.cast_in_min),
        elongation_pct=_known(min, first.elongation_pct, second.elongation_pct),
        tear_kn_per_m=_known(min, first.tear_kn_per_m, second.tear_kn_per_m),
        post_cure_c=hot.post_cure_c,
        post_cure_min=hot.post_cure_min,
        hardness=None,
        kit_g=None,
        kit_price=None,
    )


def _known(choose: Callable[[float, float], float], first: float | None, second: float | None) -> float | None:
    return choose(first, second) if first is not None and second is not None else None


def viscosity_of_mix(masses_g: Sequence[float], viscosities_mpa_s: Sequence[float]) -> float:
    """Return the viscosity of a mix: ln eta adds up by mass (Arrhenius 1887).

    For a filled rubber with a thin oil it can be off by a factor of 2.

    Parameters
    ----------
    masses_g, viscosities_mpa_s : sequence of float
        Of what is mixed, in the same order.

    Returns
    -------
    float
        In mPa s.
    """
    whole = sum(masses_g)
    return exp(sum(mass / whole * log(viscosity) for mass, viscosity in zip(masses_g, viscosities_mpa_s, strict=True)))
