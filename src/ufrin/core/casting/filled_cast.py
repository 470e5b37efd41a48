"""Filled casts: powder scooped by its bulk volume takes up its true volume in the mix."""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.wording.findings import Amount, Finding
from ufrin.errors import Refused
from ufrin.language import Text

USUAL_MOST_VOLUMES = 2.0  # of filler to 1 of each part; common practice
PACKS_TO = 0.63  # largest share of a powder of all shapes; random close packing of balls is 0.64 (from memory)
INTRINSIC = 2.5  # Einstein 1906, for balls
MOST_SHARE = 0.97  # of what packs: beyond it nobody stirs it
STIFF_MPA_S = 3000.0  # thicker than this is worth a word; common practice


@dataclass(frozen=True, slots=True, kw_only=True)
class FilledAmount:
    """What a filled cast takes.

    Parameters
    ----------
    a_ml, b_ml, a_g, b_g : float
        Of the two parts.
    scoop_ml, filler_g : float
        Of the filler: its bulk volume, and its mass.
    filler_true_ml : float
        The volume that it takes up in the mix.
    total_g, volume_ml, sg : float
        Of the mix.
    """

    a_ml: float
    b_ml: float
    a_g: float
    b_g: float
    scoop_ml: float
    filler_g: float
    filler_true_ml: float
    total_g: float
    volume_ml: float
    sg: float

    @property
    def filler_share(self) -> float:
        """The filler's true share of the volume, from 0 to 1."""
        return self.filler_true_ml / self.volume_ml

    @property
    def filler_mass_pct(self) -> float:
        """The filler's share of the mass, in percent."""
        return 100 * self.filler_g / self.total_g


def check_filler(bulk_sg: float, true_sg: float, *, field: str = "filler_bulk_sg") -> None:
    """Refuse a powder that can't be.

    Parameters
    ----------
    bulk_sg, true_sg : float
        As it lies in the scoop, and of its grains.
    field : str, optional
        That a refusal is about.

    Raises
    ------
    Refused
        For a bulk density beyond that of its grains.
    """
    if not bulk_sg > 0 or not true_sg > 0:
        raise Refused(field, Text("A filler has a bulk and a true density of more than nothing."))
    if bulk_sg > true_sg:
        raise Refused(
            field,
            Text(
                "A powder with air between its grains can't be denser than the grains themselves. Are "
                "the two figures the wrong way round?"
            ),
        )


def filled_cast(
    need_ml: float,
    *,
    parts_by_volume: Mapping[str, float],
    sg_parts: Mapping[str, float],
    bulk_sg: float,
    true_sg: float,
) -> FilledAmount:
    """Return what a filled cast takes.

    Parameters
    ----------
    need_ml : float
        That the mix is to fill.
    parts_by_volume : mapping of "A", "B", "filler" to number
        The filler by scoops, that is by its bulk volume.
    sg_parts : mapping of "A", "B" to SG
        Of the two parts.
    bulk_sg, true_sg : float
        Of the filler, in the scoop and of its grains.

    Returns
    -------
    FilledAmount
        Of each scoop only mass / true density is volume in the mix; the air between the grains leaves it. The parts
        are scaled until the volumes add up to the need (common practice).

    Raises
    ------
    Refused
        For parts of nothing, and a filler that can't be.
    """
    check_filler(bulk_sg, true_sg)
    a, b, scoop = (parts_by_volume.get(name, 0.0) for name in ("A", "B", "filler"))
    if not need_ml > 0:
        raise Refused("need_ml", Text("How much is to be filled? It must be more than nothing."))
    if not a > 0 or not b > 0 or scoop < 0:
        raise Refused(
            "parts_by_volume", Text("Both parts must be more than nothing, and the filler not less than nothing.")
        )
    unit_ml = need_ml / (a + b + scoop * bulk_sg / true_sg)
    a_g, b_g, filler_g = a * unit_ml * sg_parts["A"], b * unit_ml * sg_parts["B"], scoop * unit_ml * bulk_sg
    total_g = a_g + b_g + filler_g
    return FilledAmount(
        a_ml=a * unit_ml,
        b_ml=b * unit_ml,
        a_g=a_g,
        b_g=b_g,
        scoop_ml=scoop * unit_ml,
        filler_g=filler_g,
        filler_true_ml=filler_g / true_sg,
        total_g=total_g,
        volume_ml=need_ml,
        sg=total_g / need_ml,
    )


def counted_in_scoops(shares: Mapping[str, float], sg_parts: Mapping[str, float], scoops: float) -> dict[str, float]:
    """Return the parts by volume of a mix whose powder is counted in scoops to the scoops of A and B.

    Parameters
    ----------
    shares : mapping of "A", "B" to number
        By weight, in any measure: 1 to 1 and 100 to 100 are the same.
    sg_parts : mapping of "A", "B" to SG
        Of the two parts.
    scoops : float
        Of powder to 1 of A and 1 of B, where a scoop is as large as the two are on average.

    Returns
    -------
    dict of "A", "B", "filler" to number
        As ``filled_cast`` takes them.
    """
    a, b = (shares[name] / sg_parts[name] for name in "AB")
    return {"A": a, "B": b, "filler": scoops * (a + b) / 2}


def thickened(filler_share: float, mix: str, liquid_mpa_s: float | None = None) -> tuple[Finding, ...]:
    """Return what there is to say about how a mix with powder in it flows.

    Parameters
    ----------
    filler_share : float
        Of its volume that is powder, from 0 to 1.
    mix : str
        What it is called.
    liquid_mpa_s : float or None, optional
        Viscosity of the mix without the powder; None where the tin does not state it.

    Returns
    -------
    tuple of Finding
        A stop where it no longer flows, a note where it has become thick; empty where it pours well.
    """
    facts: dict[str, Amount | str] = {"share": Amount(100 * filler_share, "percent", 0)}
    thick_mpa_s = filled_viscosity(liquid_mpa_s or 1.0, filler_share)
    if thick_mpa_s is None:
        return (Finding(code="filler-too-stiff", facts=facts | {"resin": mix}, field="scoops"),)
    if liquid_mpa_s and thick_mpa_s > STIFF_MPA_S:
        facts |= {"viscosity": Amount(thick_mpa_s, "viscosity"), "plain": Amount(liquid_mpa_s, "viscosity")}
        return (Finding(code="filler-thickens", facts=facts, field="scoops"),)
    return ()


def filled_viscosity(liquid_mpa_s: float, share: float) -> float | None:
    """Estimate the viscosity of a liquid with powder in it.

    Parameters
    ----------
    liquid_mpa_s : float
        Of the liquid alone.
    share : float
        Of the volume that is powder, from 0 to 1.

    Returns
    -------
    float or None
        mu (1 - phi / 0.63)^(-2.5 x 0.63), Krieger and Dougherty 1959, in mPa s; None where so much powder no longer
        flows. An estimate: the shape of the grains and what they drink count as well.

    Examples
    --------
    >>> filled_viscosity(100, 0.0)
    100.0
    """
    if share >= MOST_SHARE * PACKS_TO:
        return None
    thicker: float = (1 - share / PACKS_TO) ** (-INTRINSIC * PACKS_TO)
    return liquid_mpa_s * thicker
