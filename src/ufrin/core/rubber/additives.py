"""Additives: thinners, thickeners and pigments on the Shelf."""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.rubber.tins import FAMILIES
from ufrin.errors import Refused
from ufrin.language import Text

ADDITIVES: Mapping[str, str] = {"thinner": Text("Thinner"), "thickener": Text("Thickener"), "pigment": Text("Pigment")}
GOES_WITH: Mapping[str, str] = {"any": Text("Any rubber"), **FAMILIES}
USUAL_SG: Mapping[str, float] = {"thinner": 0.97, "thickener": 1.0, "pigment": 1.1}  # common practice


@dataclass(frozen=True, slots=True, kw_only=True)
class Additive:
    """What is stirred into a rubber.

    Parameters
    ----------
    name, kind : str
        Its name, and one of ``ADDITIVES``.
    colour : str
        Its colour, so that nobody takes one for another.
    family : str
        Of the rubbers that it goes with, or "any".
    sg : float or None
        Specific gravity; None takes the usual one.
    viscosity_mpa_s : float or None
        Of a thinner.
    most_parts : float or None
        The most per 100 of A + B that its tin allows.
    pack_g, pack_price : float or None
        What a pack weighs and costs.
    """

    name: str
    kind: str = "thinner"
    colour: str = ""
    family: str = "any"
    sg: float | None = None
    viscosity_mpa_s: float | None = None
    most_parts: float | None = None
    pack_g: float | None = None
    pack_price: float | None = None

    def __post_init__(self) -> None:
        if self.kind not in ADDITIVES:
            raise Refused("kind", Text("That is not one of the choices. Choose again."))
        if self.family not in GOES_WITH:
            raise Refused("family", Text("That is not one of the choices. Choose again."))
        if self.sg is not None and not 0.1 <= self.sg <= 22.6:
            raise Refused("sg", Text("A specific gravity between 0.1 and 22.6 is believable; thinners lie near 0.97."))
        for name in ("pack_g", "most_parts", "viscosity_mpa_s"):
            value = getattr(self, name)
            if value is not None and not value > 0:
                raise Refused(
                    name, Text("This must be more than 0. Leave the field empty if the tin does not state it.")
                )

    @property
    def sg_or_usual(self) -> float:
        """Its SG, or the usual one of its kind."""
        return self.sg if self.sg is not None else USUAL_SG[self.kind]

    def goes_with(self, family: str) -> bool:
        """Return whether it is meant for a rubber family.

        Parameters
        ----------
        family : str
            Of the rubber.

        Returns
        -------
        bool
            True also where it goes with any.
        """
        return self.family in {"any", family}
