"""Casting materials as their tins describe them: resins, foams, plaster, wax, and rubber that is cast in rubber."""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.casting.cast_amount import CastMix
from ufrin.errors import Refused
from ufrin.language import Text

RESIN_KINDS: Mapping[str, str] = {
    "polyurethane-resin": Text("Polyurethane resin"),
    "clear-polyurethane": Text("Water-clear polyurethane"),
    "epoxy-resin": Text("Epoxy resin"),
    "polyester-resin": Text("Polyester resin"),
    "rigid-foam": Text("Rigid foam"),
    "soft-foam": Text("Soft foam"),
    "polyurethane-rubber": Text("Polyurethane rubber"),
    "addition-silicone": Text("Addition-cure silicone"),
    "condensation-silicone": Text("Condensation-cure silicone"),
    "plaster": Text("Plaster"),
    "wax": Text("Wax"),
}
FOAMS = frozenset({"rigid-foam", "soft-foam"})
ONE_PART = frozenset({"wax"})
SIFTED = frozenset({"plaster"})  # its A is a powder that is sprinkled into its B, water
# what a kind is called where pairings are looked up
POURED_AS: Mapping[str, str] = {"rigid-foam": "polyurethane-resin", "soft-foam": "polyurethane-resin"}


@dataclass(frozen=True, slots=True, kw_only=True)
class Resin:
    """A casting material as its tin describes it. What the tin does not state is None.

    Parameters
    ----------
    name, kind : str
        Its name, and one of ``RESIN_KINDS``.
    a_name, a_colour, b_name, b_colour : str
        Names and colours of the parts, so that nobody mixes A with A; of plaster, A is the powder and B the water.
    weight_a, weight_b, volume_a, volume_b : float or None
        Ratios by weight and by volume; neither for what has one part.
    drops_per_100_g : float or None
        Of a catalyst that is counted into 100 g of A, instead of a ratio.
    sg_a, sg_b, sg_mixed : float or None
        Specific gravities; of a foam, before it rises.
    rises : float or None
        Of a foam: to how many times its volume, unhindered.
    tolerance_pct : float
        How far the ratio may be off.
    viscosity_mpa_s, shrinkage_pct : float or None
        Of the mix; and how much smaller each length of the cast becomes.
    pot_life_min, handling_min, demould_min, full_cure_min : float or None
        At 23 degC: until it gels, may be touched, may be demoulded, and has cured.
    most_g, most_mm : float or None
        The most that may be poured at once, and the deepest.
    colour_most_pct : float
        The most colour that it takes, of its volume.
    kit_g, kit_price : float or None
        Weight (all parts) and price of a kit.
    """

    name: str
    kind: str = "polyurethane-resin"
    a_name: str = Text("Part A")
    a_colour: str = ""
    b_name: str = Text("Part B")
    b_colour: str = ""
    weight_a: float | None = None
    weight_b: float | None = None
    volume_a: float | None = None
    volume_b: float | None = None
    drops_per_100_g: float | None = None
    sg_a: float | None = None
    sg_b: float | None = None
    sg_mixed: float | None = None
    rises: float | None = None
    tolerance_pct: float = 2.0
    viscosity_mpa_s: float | None = None
    shrinkage_pct: float | None = None
    pot_life_min: float | None = None
    handling_min: float | None = None
    demould_min: float | None = None
    full_cure_min: float | None = None
    most_g: float | None = None
    most_mm: float | None = None
    colour_most_pct: float = 10.0
    kit_g: float | None = None
    kit_price: float | None = None

    def __post_init__(self) -> None:
        if self.kind not in RESIN_KINDS:
            raise Refused("kind", Text("That is not one of the choices. Choose again."))
        for first, second in (("weight_a", "weight_b"), ("volume_a", "volume_b")):
            if (getattr(self, first) is None) != (getattr(self, second) is None):
                raise Refused(first, Text("A ratio has two numbers: one for A and one for B."))
        self._check_figures()
        if self.rises is not None and self.kind not in FOAMS:
            raise Refused("rises", Text("Only a foam rises. Choose a foam as its kind, or leave this empty."))
        if self.kind in FOAMS and (self.rises is None or not self.rises > 1):
            raise Refused(
                "rises",
                Text("To how many times its volume does the foam rise? 9 to 10 times is usual for a rigid one."),
            )
        if self.kind not in ONE_PART and not (self.has_ratio or self.drops_per_100_g):
            raise Refused(
                "weight_a",
                Text(
                    "A ratio is needed: by weight, by volume together with the specific gravity of both "
                    "parts, or in drops per [100 mass]."
                ),
            )
        self.mix_by("weight" if self.weight_a is not None or not self.has_ratio else "volume")

    def _check_figures(self) -> None:
        numbers = (
            *("weight_a", "weight_b", "volume_a", "volume_b", "drops_per_100_g", "sg_a", "sg_b", "sg_mixed"),
            *("viscosity_mpa_s", "pot_life_min", "handling_min", "demould_min", "full_cure_min", "most_g", "most_mm"),
            *("kit_g", "tolerance_pct"),
        )
        for name in numbers:
            value = getattr(self, name)
            if value is not None and not value > 0:
                raise Refused(name, Text("This must be more than 0. Leave the field empty if the tin does not say."))
        if self.shrinkage_pct is not None and not -20 <= self.shrinkage_pct <= 50:
            raise Refused("shrinkage_pct", Text("A shrinkage between -20 and 50 % is believable; 0.1 to 2 % is usual."))
        if not 0 <= self.colour_most_pct <= 100:
            raise Refused("colour_most_pct", Text("The most colour is between 0 and 100 % of the volume."))

    @property
    def has_ratio(self) -> bool:
        """Whether a ratio of A to B is known that can be weighed."""
        return self.weight_a is not None or self.by_volume

    @property
    def by_volume(self) -> bool:
        """Whether it may be measured by volume: the ratio and both parts' SG are known."""
        return None not in (self.volume_a, self.volume_b, self.sg_a, self.sg_b)

    def mix_by(self, basis: str) -> CastMix:
        """Return how it is mixed.

        Parameters
        ----------
        basis : "weight" or "volume"
            Where the tin states a ratio by either.

        Returns
        -------
        CastMix
            By drops, A alone fills the mould: the catalyst's mass does not count.

        Raises
        ------
        Refused
            Where neither the SG of the mix nor that of both parts is known.
        """
        sgs = {"A": self.sg_a, "B": self.sg_b} if self.sg_a is not None and self.sg_b is not None else None
        if basis == "volume" and self.volume_a is not None and self.volume_b is not None and sgs:
            ratio = {"A": self.volume_a, "B": self.volume_b}
            return CastMix(ratio=ratio, basis="volume", sg_parts=sgs, sg_mixed=self.sg_mixed)
        if self.weight_a is not None and self.weight_b is not None:
            ratio = {"A": self.weight_a, "B": self.weight_b}
            return CastMix(ratio=ratio, sg_parts=sgs, sg_mixed=self.sg_mixed)
        if self.volume_a is not None and self.volume_b is not None and sgs:
            return self.mix_by("volume")
        return CastMix(sg_mixed=self.sg_mixed or self.sg_a)

    @property
    def price_per_g(self) -> float | None:
        """Of a gram, by the kit."""
        return self.kit_price / self.kit_g if self.kit_price is not None and self.kit_g else None
