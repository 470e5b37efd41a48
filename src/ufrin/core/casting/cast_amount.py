"""The amount of a cast: its volume, its mass, and the parts to weigh or measure."""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.weighing.ratio import Basis, check_ratio, mixed_sg, weight_shares
from ufrin.errors import Refused
from ufrin.language import Text

MOST_CAVITIES = 1000
MOST_ML, MOST_G = 1e7, 1e7  # 10 m3 and 10 t: what is more is a slip


@dataclass(frozen=True, slots=True, kw_only=True)
class CastPart:
    """One part of the mix: its mass in g, and its volume in ml where its SG is known."""

    g: float
    ml: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class CastMix:
    """How a casting material is mixed.

    Parameters
    ----------
    ratio : mapping of part name to number, or None
        "A" and "B", by ``basis``; None for what has one part, such as wax.
    basis : "weight" or "volume"
        Of the ratio.
    sg_parts : mapping of part name to SG, or None
        Needed for a ratio by volume, and for the volume of each part.
    sg_mixed : float or None
        As its data sheet states; None takes the volumes of the parts as adding up.
    """

    ratio: Mapping[str, float] | None = None
    basis: Basis = "weight"
    sg_parts: Mapping[str, float] | None = None
    sg_mixed: float | None = None

    def __post_init__(self) -> None:
        if self.ratio is not None:
            check_ratio(self.ratio, self.basis, self.sg_parts)
        if self.sg_mixed is not None and not 0.005 <= self.sg_mixed <= 22.6:
            raise Refused(
                "sg_mixed", Text("A specific gravity between 0.005 and 22.6 is believable; resins lie near 1.1.")
            )
        if self.sg_mixed is None and (self.ratio is None or set(self.sg_parts or ()) != set(self.ratio)):
            raise Refused(
                "sg_mixed",
                Text("The specific gravity of the mix, or of every part, is needed to turn millilitres into grams."),
            )

    @property
    def sg(self) -> float:
        """SG of the mix in g/ml."""
        if self.sg_mixed is not None:
            return self.sg_mixed
        shares = weight_shares(self.ratio or {}, self.basis, self.sg_parts)
        return mixed_sg(shares, self.sg_parts or {})

    def parts(self, mass_g: float) -> dict[str, CastPart] | None:
        """Divide a mass into its parts.

        Parameters
        ----------
        mass_g : float
            Of the whole mix.

        Returns
        -------
        dict of part name to CastPart, or None
            None for what has one part.
        """
        if self.ratio is None:
            return None
        shares, sgs = weight_shares(self.ratio, self.basis, self.sg_parts), self.sg_parts or {}
        return {
            name: CastPart(g=share * mass_g, ml=share * mass_g / sgs[name] if name in sgs else None)
            for name, share in shares.items()
        }


@dataclass(frozen=True, slots=True, kw_only=True)
class CastAmount:
    """What a cast takes: mass in g, volume in ml, and its parts where it has several."""

    mass_g: float
    volume_ml: float
    parts: Mapping[str, CastPart] | None


def poured_ml(*, cavity_ml: float, sprue_ml: float = 0.0, overfill_pct: float = 0.0, count: int = 1) -> float:
    """Return what is poured into the cavities of a shot that fills them.

    Parameters
    ----------
    cavity_ml, sprue_ml : float
        Of one cavity, and of the gate and vents that belong to it.
    overfill_pct : float, optional
        What is poured above the cavity, of its volume.
    count : int, optional
        Cavities filled in the shot.

    Returns
    -------
    float
        volume = (cavity + sprue) x (1 + overfill) x count (common practice).
    """
    return (cavity_ml + sprue_ml) * (1 + overfill_pct / 100) * count


def solid_cast(
    mix: CastMix,
    *,
    cavity_ml: float,
    count: int = 1,
    sprue_ml: float = 0.0,
    overfill_pct: float = 0.0,
    spare_pct: float = 0.0,
) -> CastAmount:
    """Return what a shot of solid casts takes.

    Parameters
    ----------
    mix : CastMix
        Of the casting material.
    cavity_ml, sprue_ml : float
        Of one cavity, and of the gate and vents that belong to it.
    count : int, optional
        Cavities filled in the shot.
    overfill_pct, spare_pct : float, optional
        What is poured above the cavity, of its volume; and what is mixed beyond what is poured, of its mass.

    Returns
    -------
    CastAmount
        The volume of ``poured_ml``; mass = volume x SG x (1 + spare) (common practice).

    Raises
    ------
    Refused
        For no cavity, or more than anybody pours at once.

    Examples
    --------
    >>> round(solid_cast(CastMix(sg_mixed=1.06), cavity_ml=118).mass_g, 2)
    125.08
    """
    if not cavity_ml > 0:
        raise Refused("cavity_ml", Text("How much does the cavity hold? Fill the mould with water and measure it."))
    if not 1 <= count <= MOST_CAVITIES:
        raise Refused(
            "count", Text("A shot fills between 1 and {most_cavities} cavities.", most_cavities=MOST_CAVITIES)
        )
    volume_ml = poured_ml(cavity_ml=cavity_ml, sprue_ml=sprue_ml, overfill_pct=overfill_pct, count=count)
    mass_g = volume_ml * mix.sg * (1 + spare_pct / 100)
    if volume_ml > MOST_ML or mass_g > MOST_G:
        raise Refused(
            "cavity_ml", Text("That is more than 10 m³ or 10 t in one shot. Check the figures and their units.")
        )
    return CastAmount(mass_g=mass_g, volume_ml=volume_ml, parts=mix.parts(mass_g))
