"""Rubbers as their tins describe them, and whether the figures of a tin agree with each other."""

from dataclasses import dataclass, replace
from typing import Literal, cast

from ufrin.core.rubber.post_cure import post_cure
from ufrin.core.rubber.shore import HARDEST_A, Hardness, ShoreScale
from ufrin.core.wording.findings import Amount, Finding
from ufrin.errors import Refused
from ufrin.language import Text

MUCH_MORE_B = 3.0  # to 1 of A: of parts so unlike, B is the catalyst (common practice)
SG_AGREES = 0.02  # common practice: tins round to two figures, and fillers pack
# of a rubber or a part of it: beyond them a point has slipped, or figures contradict each other
LIGHTEST_SG, HEAVIEST_SG = 0.7, 3.0
FORMS: dict[str, str] = {"liquid": Text("Poured"), "putty": Text("Putty, kneaded")}
THINNED: dict[str, str] = {"A+B": Text("of A and B together"), "A": Text("of A alone")}
Family = Literal["addition-silicone", "condensation-silicone", "polyurethane-rubber"]
FAMILIES: dict[str, str] = {
    "addition-silicone": Text("Addition-cure silicone"),
    "condensation-silicone": Text("Condensation-cure silicone"),
    "polyurethane-rubber": Text("Polyurethane rubber"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Rubber:
    """A two-part rubber as its tin describes it. What the tin does not state is None.

    Parameters
    ----------
    name, family, form : str
        Its name, one of ``FAMILIES``, and one of ``FORMS``.
    a_name, a_colour, b_name, b_colour : str
        Names and colours of the parts, so that nobody mixes A with A.
    weight_a, weight_b : float or None
        Ratio by weight.
    volume_a, volume_b : float or None
        Ratio by volume.
    sg_a, sg_b, sg_mixed : float or None
        Specific gravities.
    tolerance_pct : float
        How far the ratio may be off.
    viscosity_mpa_s, pot_life_min, demould_min, full_cure_min : float or None
        Viscosity, pot life, times to demould and to full cure.
    mix_least_min, mix_most_min, press_min, cast_in_min : float or None
        How long it is mixed or kneaded; of a putty, until when it can be pressed on; when the mould may be cast in.
    post_cure_c, post_cure_min : float or None
        How hot and for how long a new mould is heated before the first cast, where the tin asks for it.
    hardness_scale, hardness : str, float or None
        Shore.
    thinner_of : "A+B" or "A"
        Of what the tin counts thinner per 100 parts.
    elongation_pct, tear_kn_per_m : float or None
        At break.
    kit_g, kit_price : float or None
        Weight (both parts) and price of a kit.
    """

    name: str
    family: str = "addition-silicone"
    form: str = "liquid"
    a_name: str = Text("Part A")
    a_colour: str = ""
    b_name: str = Text("Part B")
    b_colour: str = ""
    weight_a: float | None = None
    weight_b: float | None = None
    volume_a: float | None = None
    volume_b: float | None = None
    sg_a: float | None = None
    sg_b: float | None = None
    sg_mixed: float | None = None
    tolerance_pct: float = 2.0
    viscosity_mpa_s: float | None = None
    pot_life_min: float | None = None
    demould_min: float | None = None
    full_cure_min: float | None = None
    hardness_scale: str = "A"
    hardness: float | None = None
    thinner_of: str = "A+B"
    elongation_pct: float | None = None
    tear_kn_per_m: float | None = None
    kit_g: float | None = None
    kit_price: float | None = None
    mix_least_min: float | None = None
    mix_most_min: float | None = None
    press_min: float | None = None
    cast_in_min: float | None = None
    post_cure_c: float | None = None
    post_cure_min: float | None = None

    def __post_init__(self) -> None:
        self._check_ratios()
        for name, word in (
            ("pot_life_min", Text("pot life")),
            ("demould_min", Text("demould time")),
            ("full_cure_min", Text("full cure")),
            ("mix_least_min", Text("mixing time")),
            ("mix_most_min", Text("mixing time")),
            ("press_min", Text("press window")),
            ("cast_in_min", Text("time to the first cast")),
            ("post_cure_min", Text("post-cure")),
            ("kit_g", Text("kit")),
        ):
            value = getattr(self, name)
            if value is not None and not value > 0:
                raise Refused(
                    name,
                    Text("The {what} must be more than 0. Leave the field empty if the tin does not say.", what=word),
                )
        if self.mix_least_min and self.mix_most_min and self.mix_most_min < self.mix_least_min:
            raise Refused("mix_most_min", Text("The longest mixing time can't be shorter than the shortest one."))
        if self.hardness is not None and not 0 <= self.hardness <= 100:
            raise Refused("hardness", Text("Shore hardness runs from 0 to 100."))
        post_cure(self.post_cure_c, self.post_cure_min)
        if self.form not in FORMS or self.thinner_of not in THINNED or self.family not in FAMILIES:
            raise Refused("form", Text("That is not one of the choices. Choose again."))
        if not self.tolerance_pct > 0:
            raise Refused(
                "tolerance_pct", Text("No scale is perfect: the tolerance must be more than nothing. 2 % is usual.")
            )
        if self.sg_mixed is None and (self.sg_a is None or self.sg_b is None):
            raise Refused(
                "sg_mixed",
                Text(
                    "The specific gravity of the mix, or of both parts, is needed to turn millilitres "
                    "into grams. It is on the data sheet."
                ),
            )

    def _check_ratios(self) -> None:
        for first, second in (("weight_a", "weight_b"), ("volume_a", "volume_b")):
            pair = getattr(self, first), getattr(self, second)
            if (pair[0] is None) != (pair[1] is None):
                raise Refused(
                    first if pair[0] is None else second, Text("A ratio has two numbers: one for A and one for B.")
                )
            for name, part in zip((first, second), pair, strict=True):
                if part is not None and not part > 0:
                    raise Refused(
                        name, Text("A ratio of nothing to something never sets. Both numbers must be more than 0.")
                    )
        if self.weight_a is None and not self.by_volume:
            raise Refused(
                "weight_a",
                Text("A ratio is needed: by weight, or by volume together with the specific gravity of both parts."),
            )

    @property
    def press_window_min(self) -> float | None:
        """Of a putty, until when it can be pressed on: as its tin states, or its pot life; None for a liquid."""
        return (self.press_min or self.pot_life_min) if self.form == "putty" else None

    @property
    def by_volume(self) -> bool:
        """Whether it may be measured by volume: the ratio and both parts' SG are known."""
        return None not in (self.volume_a, self.volume_b, self.sg_a, self.sg_b)

    @property
    def b_per_100_a_by_volume_ratio(self) -> float | None:
        """Part B per 100 of A by weight, from the ratio by volume: 100 vb db / (va da)."""
        if self.volume_a is None or self.volume_b is None or self.sg_a is None or self.sg_b is None:
            return None
        return 100 * self.volume_b * self.sg_b / (self.volume_a * self.sg_a)

    @property
    def weight_ratio(self) -> tuple[float, float]:
        """A and B by weight; from the ratio by volume where the tin states no other."""
        if self.weight_a is not None and self.weight_b is not None:
            return self.weight_a, self.weight_b
        return 100.0, self.b_per_100_a_by_volume_ratio or 0.0

    @property
    def sg(self) -> float:
        """SG of the mix in g/ml: as the tin states, or from its parts, whose volumes add."""
        if self.sg_mixed is not None or self.sg_a is None or self.sg_b is None:
            return self.sg_mixed or 1.0
        a, b = self.weight_ratio
        return (a + b) / (a / self.sg_a + b / self.sg_b)

    @property
    def sg_parts(self) -> dict[str, float] | None:
        """SG of A and B, where both are known."""
        return {"A": self.sg_a, "B": self.sg_b} if self.sg_a is not None and self.sg_b is not None else None

    def completed(self) -> "Rubber":
        """Return the same with ratios and SGs filled in that follow from the others.

        Returns
        -------
        Rubber
            Of the ratio by weight, the ratio by volume and the SGs of A and of B, any one follows from the other
            three: b / a by weight is vb db / (va da). An SG also follows from that of the mix, whose volumes add.
        """
        weight, volume, sg_a, sg_b = self._weights, self._volumes, self.sg_a, self.sg_b
        if weight and (sg_a is None or sg_b is None):
            sg_a, sg_b = self._worked_out_sgs(weight, volume)
        if sg_a is not None and sg_b is not None:
            if not weight and volume:
                weight = 100.0, 100 * volume[1] * sg_b / (volume[0] * sg_a)
            elif weight and not volume:
                volume = 100.0, 100 * weight[1] * sg_a / (weight[0] * sg_b)
        a, b = weight or (None, None)
        va, vb = volume or (None, None)
        made = replace(self, weight_a=a, weight_b=b, volume_a=va, volume_b=vb, sg_a=sg_a, sg_b=sg_b)
        return replace(made, sg_mixed=made.sg)

    @property
    def _weights(self) -> tuple[float, float] | None:
        return (self.weight_a, self.weight_b) if self.weight_a is not None and self.weight_b is not None else None

    @property
    def _volumes(self) -> tuple[float, float] | None:
        return (self.volume_a, self.volume_b) if self.volume_a is not None and self.volume_b is not None else None

    def _worked_out_sgs(
        self, weight: tuple[float, float], volume: tuple[float, float] | None
    ) -> tuple[float | None, float | None]:
        a, b = weight
        sg_a, sg_b, mixed = self.sg_a, self.sg_b, self.sg_mixed
        if volume:
            times = b * volume[0] / (a * volume[1])  # how many times as heavy B is as A
            if sg_a is not None:
                return sg_a, sg_a * times
            if sg_b is not None:
                return sg_b / times, sg_b
            if mixed is not None:
                sg_a = mixed * (a + b / times) / (a + b)
                return sg_a, sg_a * times
        elif mixed is not None and (sg_a is None) != (sg_b is None):
            known, of_known, of_other = (sg_a, a, b) if sg_a is not None else (sg_b, b, a)
            left_ml = (a + b) / mixed - of_known / (known or 1.0)
            other = of_other / left_ml if left_ml > 0 else None
            if other is not None and LIGHTEST_SG <= other <= HEAVIEST_SG:
                return (sg_a, other) if sg_a is not None else (other, sg_b)
        return sg_a, sg_b

    @property
    def reading(self) -> Hardness | None:
        """Its hardness, where the tin states one."""
        if self.hardness is None:
            return None
        return Hardness(
            scale=cast(ShoreScale, self.hardness_scale),
            shore=min(self.hardness, HARDEST_A) if self.hardness_scale == "A" else self.hardness,
        )

    def parts_of_both(self, parts: float) -> float:
        """Convert a dose of thinner as the tin counts it to parts per 100 of A + B.

        Parameters
        ----------
        parts : float
            Per 100 of A + B, or of A.

        Returns
        -------
        float
            Per 100 of A + B.
        """
        a, b = self.weight_ratio
        return parts * a / (a + b) if self.thinner_of == "A" else parts

    def parts_as_told(self, parts: float) -> float:
        """Convert parts per 100 of A + B to the dose as the tin counts it.

        Parameters
        ----------
        parts : float
            Per 100 of A + B.

        Returns
        -------
        float
            Per 100 of A + B, or of A.
        """
        a, b = self.weight_ratio
        return parts * (a + b) / a if self.thinner_of == "A" else parts

    def findings(self) -> tuple[Finding, ...]:
        """Check the two ratios against each other, and the SG of the mix against those of its parts.

        Returns
        -------
        tuple of Finding
            ``ratios-disagree`` when they differ by more than the tolerance, ``sgs-disagree`` when they differ by more
            than tins are rounded; ``ratio-turned`` for far more B than A, which hardly any tin asks for, and
            ``sg-unusual`` for an SG that hardly any rubber has.
        """
        found = []
        by_volume = self.b_per_100_a_by_volume_ratio
        if by_volume is not None and self.weight_a is not None and self.weight_b is not None:
            by_weight = 100 * self.weight_b / self.weight_a
            if abs(by_volume / by_weight - 1) * 100 > self.tolerance_pct:
                facts = {"by_volume": Amount(by_volume, "number", 1), "by_weight": Amount(by_weight, "number", 1)}
                found.append(Finding(code="ratios-disagree", facts=facts, field="volume_a"))
        if self.sg_mixed is not None and self.sg_a is not None and self.sg_b is not None:
            of_parts = replace(self, sg_mixed=None).sg
            if abs(of_parts / self.sg_mixed - 1) > SG_AGREES:
                facts = {"mixed": Amount(self.sg_mixed, "density"), "parts": Amount(of_parts, "density")}
                found.append(Finding(code="sgs-disagree", facts=facts, field="sg_mixed"))
        a, b = self.weight_ratio
        if b > MUCH_MORE_B * a:
            found.append(Finding(code="ratio-turned", facts={"times": Amount(b / a, "number", 1)}, field="weight_a"))
        for field in ("sg_a", "sg_b", "sg_mixed"):
            sg = getattr(self, field)
            if sg is not None and not LIGHTEST_SG <= sg <= HEAVIEST_SG:
                found.append(Finding(code="sg-unusual", facts={"sg": Amount(sg, "density")}, field=field))
        return tuple(found)
