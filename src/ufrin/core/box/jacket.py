"""The jacket of a brushed skin: a rigid shell in two halves, bolted along one seam, of plaster or of resin."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import ceil

from ufrin.core.box.bed import plaster_for
from ufrin.core.data_files import read_data
from ufrin.core.measures.plain_volumes import block_side_cm2
from ufrin.errors import Refused
from ufrin.language import Text

JACKETS: Mapping[str, str] = {"plaster": Text("Plaster with fibre"), "resin": Text("Resin with glass mat")}
FIGURES: Mapping[str, float] = {key: float(figure["value"]) for key, figure in read_data("box", "jacket").items()}


@dataclass(frozen=True, slots=True, kw_only=True)
class Jacket:
    """A jacket worked out.

    Parameters
    ----------
    material : str
        One of ``JACKETS``.
    thickness_mm, flange_mm : float
        Of the shell and its flange, and how wide the flange is.
    area_cm2, volume_ml, mass_g : float
        The outside of the skin, and the jacket with both flanges.
    seam_mm : float
        The one seam, up one side and down the other.
    bolts : int
        Along the seam.
    parts_g : mapping of what to g
        What it is mixed or laid up of.
    halves : int
        It comes apart in so many.
    """

    material: str
    thickness_mm: float
    flange_mm: float
    area_cm2: float
    volume_ml: float
    mass_g: float
    seam_mm: float
    bolts: int
    parts_g: Mapping[str, float]
    halves: int = 2


def jacket(
    *,
    size_mm: tuple[float, float, float],
    coated_cm2: float,
    skin_mm: float,
    material: str = "plaster",
    thickness_mm: float | None = None,
) -> Jacket:
    """Plan the jacket of a skin.

    Parameters
    ----------
    size_mm : (float, float, float)
        Outside of the master, as it stands.
    coated_cm2 : float
        Surface that the skin covers.
    skin_mm : float
        All coats together.
    material : str, optional
        One of ``JACKETS``.
    thickness_mm : float or None, optional
        None takes the usual one of its material.

    Returns
    -------
    Jacket
        Its area is that of the master, grown as a block grows by the skin; the seam runs over the narrow way.

    Raises
    ------
    Refused
        For an unknown material, or a shell that is too thin or too thick to be one.
    """
    if material not in JACKETS:
        raise Refused("jacket_material", Text("A jacket is made of plaster or of resin. Choose one."))
    thick_mm = thickness_mm if thickness_mm is not None else FIGURES[f"{material}_mm"]
    if not 1 <= thick_mm <= 200:
        raise Refused(
            "jacket_mm",
            Text(
                "A jacket is [1 length] to [200 length] thick; plaster is usually [{plaster_mm:g} "
                "length], resin [{resin_mm:g} length].",
                plaster_mm=FIGURES["plaster_mm"],
                resin_mm=FIGURES["resin_mm"],
            ),
        )
    length, width, height = size_mm
    grown = block_side_cm2(length + 2 * skin_mm, width + 2 * skin_mm, height + skin_mm)
    area_cm2 = coated_cm2 * grown / block_side_cm2(length, width, height)
    seam_mm = 2 * (height + skin_mm) + min(length, width) + 2 * skin_mm
    flange_mm = FIGURES["flange_mm"]
    volume_ml = (area_cm2 * 100 + 2 * seam_mm * flange_mm) * thick_mm / 1000
    parts_g = _parts_g(material, volume_ml)
    return Jacket(
        material=material,
        thickness_mm=thick_mm,
        flange_mm=flange_mm,
        area_cm2=area_cm2,
        volume_ml=volume_ml,
        mass_g=sum(parts_g.values()),
        seam_mm=seam_mm,
        bolts=max(int(FIGURES["least_bolts"]), ceil(seam_mm / FIGURES["bolt_spacing_mm"])),
        parts_g=parts_g,
    )


def _parts_g(material: str, volume_ml: float) -> Mapping[str, float]:
    if material == "plaster":
        plaster_g, water_g = plaster_for(volume_ml)
        return {"plaster": plaster_g, "water": water_g}
    whole_g = volume_ml * FIGURES["resin_sg"]
    return {"resin, mixed": whole_g * (1 - FIGURES["glass_share"]), "glass mat": whole_g * FIGURES["glass_share"]}
