"""Mixes: how much of each part to weigh for a pour, in batches, and how far the scale can put the ratio off."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from math import ceil
from typing import Literal

from ufrin.core.rubber.thinner_curve import MOST_PARTS
from ufrin.core.shelf.scales import smallest_batch_g, worst_ratio_error_pct
from ufrin.core.weighing.ratio import Basis, check_ratio, mixed_sg, weight_shares
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.errors import Refused
from ufrin.language import Text

MOST_BATCHES = 1000
PIGMENT_USUAL_PCT = 2.0  # common practice
THINNER_USUAL_PARTS = 20.0  # common practice
DEFAULT_TOLERANCE_PCT = 2.0
EXACT = 1e-9  # rounding errors must not add a batch


@dataclass(frozen=True, slots=True, kw_only=True)
class Thinner:
    """Thinner in parts per 100 by mass.

    Parameters
    ----------
    parts_per_100 : float
        The dose.
    of : "A+B" or "A"
        What the 100 parts are.
    sg : float or None
        Its specific gravity.
    """

    parts_per_100: float
    of: Literal["A+B", "A"] = "A+B"
    sg: float | None = None

    def __post_init__(self) -> None:
        if not 0 <= self.parts_per_100 <= 200:
            raise Refused(
                "thinner.parts_per_100", Text("Thinner is given in parts per 100: 0 to 200, and 10 to 20 is usual.")
            )
        if self.sg is not None and not 0.1 <= self.sg <= 22.6:
            raise Refused(
                "thinner.sg", Text("A specific gravity between 0.1 and 22.6 is believable; thinners lie near 0.97.")
            )


@dataclass(frozen=True, slots=True, kw_only=True)
class MixPlan:
    """What is to be mixed. Exactly one of ``need_ml``, ``need_g``, ``have_g`` is given.

    Parameters
    ----------
    ratio : mapping of part name to number
        "A", "B" and so on, by ``basis``.
    basis : "weight" or "volume"
        Of the ratio; volume needs every part's SG.
    need_ml, need_g : float or None
        To be poured, before spare.
    have_g : mapping of one part name to grams, or None
        How much of a part is to be used up.
    sg_parts : mapping of part name to SG, or None
        Of the parts.
    sg_mixed : float or None
        Of A + B; where both are known it takes precedence over the parts'.
    spare_pct, cling_g : float
        Added to the need: a percentage, then what stays on each cup and its stick.
    thinner : Thinner or None
        Its volume counts in the SG of the pour (volumes add).
    pigment_pct : float
        Of A + B + thinner; does not change the SG.
    scale_step_g, tolerance_pct : float or None, float
        The step of the scale, and the tolerance of the rubber.
    weighings : int
        How often each part is weighed for a batch: twice in a blend, once from each tin.
    cup_ml, rise_factor : float or None, float
        The vessel, and how many times its volume the mix rises under vacuum.
    """

    ratio: Mapping[str, float]
    basis: Basis = "weight"
    need_ml: float | None = None
    need_g: float | None = None
    have_g: Mapping[str, float] | None = None
    sg_parts: Mapping[str, float] | None = None
    sg_mixed: float | None = None
    spare_pct: float = 0.0
    cling_g: float = 0.0
    thinner: Thinner | None = None
    pigment_pct: float = 0.0
    scale_step_g: float | None = None
    tolerance_pct: float = DEFAULT_TOLERANCE_PCT
    weighings: int = 1
    cup_ml: float | None = None
    rise_factor: float = 1.0

    @property
    def off_g(self) -> float | None:
        """What the scale's steps can put the whole of a part off by, twice: each of its weighings by half a step."""
        return self.scale_step_g * self.weighings if self.scale_step_g else None

    def __post_init__(self) -> None:
        check_ratio(self.ratio, self.basis, self.sg_parts)
        if sum(need is not None for need in (self.need_ml, self.need_g, self.have_g)) != 1:
            raise Refused(
                "need_ml",
                Text(
                    "Give exactly one of need_ml, need_g and have_g: how much is to be poured, or how "
                    "much of a part there is."
                ),
            )
        for name, least, most, unit in _LIMITS:
            value = getattr(self, name)
            if value is not None and not least <= value <= most:
                raise Refused(
                    name,
                    Text(
                        "{name} must be from {least:g} to {most:g} {unit}.",
                        name=name,
                        least=least,
                        most=most,
                        unit=unit,
                    ).replace(" .", "."),
                )
        if self.have_g is not None and (len(self.have_g) != 1 or not set(self.have_g) <= set(self.ratio)):
            raise Refused("have_g", Text("have_g names one part of the ratio and how many grams of it there are."))
        if self.have_g is not None and not all(0 < grams <= 1e7 for grams in self.have_g.values()):
            raise Refused("have_g", Text("What you have of a part must be more than nothing and at most 10 t."))


_LIMITS: tuple[tuple[str, float, float, str], ...] = (
    ("need_ml", 1e-6, 1e7, "ml"),
    ("need_g", 1e-6, 1e7, "g"),
    ("sg_mixed", 0.1, 22.6, "g/ml"),
    ("spare_pct", 0, 1000, "%"),
    ("cling_g", 0, 1e7, "g"),
    ("pigment_pct", 0, 100, "%"),
    ("scale_step_g", 1e-6, 1e5, "g"),
    ("tolerance_pct", 1e-6, 100, "%"),
    ("cup_ml", 1e-3, 1e7, "ml"),
    ("rise_factor", 1, 20, ""),
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Part:
    """One part of a mix: its mass, and its volume where its SG is known."""

    g: float
    ml: float | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Batch:
    """One batch of a mix; all batches are equal."""

    total_g: float
    parts_g: Mapping[str, float]
    thinner_g: float
    pigment_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class Mix:
    """A mix worked out. ``total_g`` includes thinner and pigment.

    ``total_ml`` and ``sg_mixed`` are None where no SG is known.
    """

    total_g: float
    total_ml: float | None
    sg_mixed: float | None
    parts: Mapping[str, Part]
    thinner_g: float
    pigment_g: float
    batches: tuple[Batch, ...]
    worst_ratio_error_pct: float | None
    findings: tuple[Finding, ...]


def mass_needed_g(need_g: float, spare_pct: float, cling_g: float) -> float:
    """Return the mass to mix: the need with its spare, then what stays on cup and stick (convention).

    Parameters
    ----------
    need_g : float
        To be poured.
    spare_pct, cling_g : float
        The share and the loss.

    Returns
    -------
    float
        In g.
    """
    return need_g * (1 + spare_pct / 100) + cling_g


def mix(plan: MixPlan, *, cups: int = 1) -> Mix:
    """Work out what to weigh.

    Parameters
    ----------
    plan : MixPlan
        The need, the ratio and the circumstances.
    cups : int, optional
        At least so many are used; more where the mix does not fit them.

    Returns
    -------
    Mix
        Parts, thinner and pigment add up to ``total_g``; the batches add up to the whole. The loss is that of as many
        cups as it takes. The ratio's worst error is that of one batch, since each batch is weighed for itself.

    Raises
    ------
    Refused
        When an SG is missing that the answer needs, or there would be too many batches.

    Examples
    --------
    >>> weighed = mix(MixPlan(need_g=385, ratio={"A": 100, "B": 10}))
    >>> {name: round(part.g, 6) for name, part in weighed.parts.items()}
    {'A': 350.0, 'B': 35.0}
    """
    while True:
        mixed = _mixed(replace(plan, cling_g=plan.cling_g * cups))
        if len(mixed.batches) <= cups or not plan.cling_g:
            return mixed
        cups = len(mixed.batches)


def _mixed(plan: MixPlan) -> Mix:
    # with the loss of all cups together
    shares = weight_shares(plan.ratio, plan.basis, plan.sg_parts)
    # everything per gram of A + B
    thinner = plan.thinner.parts_per_100 / 100 * (shares["A"] if plan.thinner.of == "A" else 1) if plan.thinner else 0.0
    pigment = plan.pigment_pct / 100 * (1 + thinner)
    sg = _pour_sg(plan, shares, thinner)
    total_g = _total_g(plan, shares, thinner, pigment, sg)
    base_g = total_g / (1 + thinner + pigment)
    total_ml = total_g / sg if sg else None
    number = _batch_count(plan, total_ml)
    sgs = plan.sg_parts or {}
    masses_g = {name: share * base_g for name, share in shares.items()}
    batch = Batch(
        total_g=total_g / number,
        parts_g={name: mass / number for name, mass in masses_g.items()},
        thinner_g=thinner * base_g / number,
        pigment_g=pigment * base_g / number,
    )
    return Mix(
        total_g=total_g,
        total_ml=total_ml,
        sg_mixed=sg,
        parts={name: Part(g=mass, ml=mass / sgs[name] if name in sgs else None) for name, mass in masses_g.items()},
        thinner_g=thinner * base_g,
        pigment_g=pigment * base_g,
        batches=(batch,) * number,
        worst_ratio_error_pct=worst_ratio_error_pct(batch.parts_g, plan.off_g) if plan.off_g else None,
        findings=worst_first(_findings(plan, batch, shares)),
    )


def _pour_sg(plan: MixPlan, shares: Mapping[str, float], thinner: float) -> float | None:
    sg = plan.sg_mixed
    if sg is None and plan.sg_parts and set(plan.sg_parts) == set(shares):
        sg = mixed_sg(shares, plan.sg_parts)
    if sg is None or not thinner or plan.thinner is None:
        return sg
    if plan.thinner.sg is None:
        if plan.need_ml is not None:
            raise Refused(
                "thinner.sg", Text("The thinner's specific gravity is needed: its volume counts in the pour.")
            )
        return None
    return mixed_sg({"base": 1.0, "thinner": thinner}, {"base": sg, "thinner": plan.thinner.sg})


def _total_g(plan: MixPlan, shares: Mapping[str, float], thinner: float, pigment: float, sg: float | None) -> float:
    if plan.have_g is not None:
        ((name, grams),) = plan.have_g.items()
        return grams / shares[name] * (1 + thinner + pigment)
    if plan.need_g is not None:
        return mass_needed_g(plan.need_g, plan.spare_pct, plan.cling_g)
    if sg is None:
        raise Refused(
            "sg_mixed", Text("A need in millilitres asks for the specific gravity of the mix or of every part.")
        )
    return mass_needed_g((plan.need_ml or 0) * sg, plan.spare_pct, plan.cling_g)


def batches_for_cup(total_ml: float, cup_ml: float, rise_factor: float) -> int:
    """Return the fewest equal batches of which each, risen, fits the cup. A batch that just fits counts as fitting.

    Parameters
    ----------
    total_ml, cup_ml : float
        The mix and the vessel.
    rise_factor : float
        How many times its volume the mix rises under vacuum; 1 without.

    Returns
    -------
    int
        At least 1.
    """
    return max(1, ceil(total_ml * rise_factor / cup_ml * (1 - EXACT)))


def _batch_count(plan: MixPlan, total_ml: float | None) -> int:
    if plan.cup_ml is None:
        return 1
    if total_ml is None:
        raise Refused(
            "cup_ml", Text("To tell how many cups it takes, the specific gravity of everything in the mix is needed.")
        )
    number = batches_for_cup(total_ml, plan.cup_ml, plan.rise_factor)
    if number > MOST_BATCHES:
        raise Refused("cup_ml", Text("That would be {number} batches. Take a bigger cup.", number=number))
    return number


def _findings(plan: MixPlan, batch: Batch, shares: Mapping[str, float]) -> list[Finding]:
    found = []
    if plan.pigment_pct > PIGMENT_USUAL_PCT:
        found.append(
            Finding(code="pigment-high", facts={"pigment": Amount(plan.pigment_pct, "percent")}, field="pigment_pct")
        )
    dose = plan.thinner.parts_per_100 if plan.thinner else 0
    for code, limit in (("thinner-beyond-data", MOST_PARTS), ("thinner-high", THINNER_USUAL_PARTS)):
        if dose > limit:
            found.append(Finding(code=code, facts={"parts": f"{dose:g}"}, field="thinner"))
    if plan.scale_step_g and plan.off_g:
        found += _scale_findings(plan.scale_step_g, plan.off_g, plan.tolerance_pct, batch, shares)
    return found


def _scale_findings(
    step_g: float, off_g: float, tolerance_pct: float, batch: Batch, shares: Mapping[str, float]
) -> list[Finding]:
    worst = worst_ratio_error_pct(batch.parts_g, off_g)
    if worst is not None and worst <= tolerance_pct * (1 + EXACT):
        return []
    least_g = smallest_batch_g(shares, off_g, tolerance_pct)
    # errors are proportional to the step, so a sufficient step follows in proportion
    finer_g = step_g * sum(batch.parts_g.values()) / least_g
    facts = {
        "step": Amount(step_g, "mass", 2),
        "worst": Amount(worst, "percent") if worst is not None else Text("any amount"),
        "tolerance": Amount(tolerance_pct, "percent"),
        "least": Amount(least_g, "mass", 0),
        "finer": Amount(finer_g, "mass", 3 if finer_g < 0.1 else 2),
    }
    return [Finding(code="scale-too-coarse", facts=facts, field="scale_step_g")]
