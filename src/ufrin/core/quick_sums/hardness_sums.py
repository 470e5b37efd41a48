"""Quick sums of hardness: thinner for a softer rubber, and a blend of two."""

from dataclasses import replace

from ufrin.core.inputs.term import Term, quantity
from ufrin.core.quick_sums.mixing_sums import SG, THINNER_SG
from ufrin.core.quick_sums.quick_sum import QuickSum, StationInputs, SumAnswer, SumInputs
from ufrin.core.rubber.blends import blend_mpa, share_for
from ufrin.core.rubber.shore import SCALES, feel_of, reading
from ufrin.core.rubber.thinner_curve import Curve
from ufrin.core.wording.findings import Amount
from ufrin.errors import Refused
from ufrin.language import Text

FROM_MEMORY = Text("Measure a coupon of your own mix: between scales, and for thinner, these are typical figures.")


def _hardness(label: str, note: str = "") -> Term:
    return Term(label=label, kind="text", longest=12, help=note)


def _scales(modulus_mpa: float) -> tuple[tuple[str, str], ...]:
    found = [(scale, reading(modulus_mpa, scale)) for scale in SCALES]
    return tuple(
        (Text("On the scale {scale}", scale=scale), Text("off the scale") if at is None else f"{at:.0f}")
        for scale, at in found
    )


def _thinned(of: SumInputs) -> SumAnswer:
    curve = Curve(of.hardness("rubber"), rubber_sg=of.number("sg"), thinner_sg=of.number("thinner_sg"))
    parts = of.maybe("parts")
    if of.is_typed("target") == (parts is not None):
        raise Refused("target", Text("Type either the hardness that you want or the thinner that you add."))
    made = curve.at(parts) if parts is not None else curve.dose_for(of.hardness("target"))
    return SumAnswer(
        figures=((Text("parts of thinner per 100"), Amount(made.parts_per_100, "number", 1)),),
        sentence=Text("The rubber comes out like {label}.", label=feel_of(made.modulus_mpa).label),
        rows=_scales(made.modulus_mpa),
        better=(FROM_MEMORY,),
        findings=made.findings,
    )


def _job_of_target(of: SumInputs) -> StationInputs:
    if not of.is_typed("target"):
        return {}
    wanted = of.hardness("target")
    return {"rubber": {"target_scale": wanted.scale, "target_shore": wanted.shore}}


HARDNESS = QuickSum(
    key="hardness",
    title=Text("Hardness and thinner"),
    what=Text("How much thinner makes a rubber as soft as you want it."),
    terms={
        "rubber": _hardness(Text("Hardness of the rubber"), Text("Scale and reading, such as A 15.")),
        "target": _hardness(Text("Hardness that you want"), Text("Such as 00 30.")),
        "parts": quantity(Text("Or thinner, parts per 100"), "number"),
        "sg": replace(SG, label=Text("Specific gravity of the rubber")),
        "thinner_sg": THINNER_SG,
    },
    work=_thinned,
    for_job=_job_of_target,
)


def _blend(of: SumInputs) -> SumAnswer:
    first, second, share_pct = of.hardness("first"), of.hardness("second"), of.maybe("share_pct")
    if of.is_typed("target") == (share_pct is not None):
        raise Refused("target", Text("Type either the hardness that you want or the share of the second rubber."))
    share = share_pct / 100 if share_pct is not None else share_for(first, second, of.hardness("target"))
    modulus_mpa = blend_mpa(first, second, share)
    return SumAnswer(
        figures=(
            (Text("of the first rubber"), Amount(100 * (1 - share), "percent", 0)),
            (Text("of the second"), Amount(100 * share, "percent", 0)),
        ),
        sentence=Text("By weight. The blend comes out like {label}.", label=feel_of(modulus_mpa).label),
        rows=_scales(modulus_mpa),
        better=(Text("Blend only rubbers of one family and one maker, and try a small batch first."), FROM_MEMORY),
    )


BLEND = QuickSum(
    key="blend",
    title=Text("Blend"),
    what=Text("Two rubbers of one family mixed for a hardness between them."),
    terms={
        "first": _hardness(Text("Hardness of the first rubber"), Text("Scale and reading, such as A 10.")),
        "second": _hardness(Text("Hardness of the second")),
        "target": _hardness(Text("Hardness that you want")),
        "share_pct": quantity(Text("Or the share of the second"), "percent"),
    },
    work=_blend,
    for_job=_job_of_target,
)
