"""Quick sums of hardness: thinner for a softer rubber, and a blend of two."""

from ufrin.core.inputs.term import Term, quantity
from ufrin.core.quick_sums.quick_sum import QuickSum, SumAnswer, SumInputs
from ufrin.core.rubber.blends import blend_mpa, share_for
from ufrin.core.rubber.shore import SCALES, feel_of, reading
from ufrin.core.rubber.thinner_curve import Curve
from ufrin.core.wording.findings import Amount
from ufrin.errors import Refused

FROM_MEMORY = "Measure a coupon of your own mix: between scales, and for thinner, these are typical figures."


def _hardness(label: str, note: str = "") -> Term:
    return Term(label=label, kind="text", longest=12, help=note)


def _scales(modulus_mpa: float) -> tuple[tuple[str, str], ...]:
    found = [(scale, reading(modulus_mpa, scale)) for scale in SCALES]
    return tuple((f"On the scale {scale}", "off the scale" if at is None else f"{at:.0f}") for scale, at in found)


def _thinned(of: SumInputs) -> SumAnswer:
    curve = Curve(of.hardness("rubber"))
    parts = of.maybe("parts")
    if of.is_typed("target") == (parts is not None):
        raise Refused("target", "Type either the hardness that you want or the thinner that you add.")
    made = curve.at(parts) if parts is not None else curve.dose_for(of.hardness("target"))
    return SumAnswer(
        figures=(("parts of thinner per 100", Amount(made.parts_per_100, "number", 1)),),
        sentence=f"The rubber comes out like {feel_of(made.modulus_mpa).label}.",
        rows=_scales(made.modulus_mpa),
        better=(FROM_MEMORY,),
        findings=made.findings,
    )


HARDNESS = QuickSum(
    key="hardness",
    title="Hardness and thinner",
    what="How much thinner makes a rubber as soft as you want it.",
    terms={
        "rubber": _hardness("Hardness of the rubber", "Scale and reading, such as A 15."),
        "target": _hardness("Hardness that you want", "Such as 00 30."),
        "parts": quantity("Or thinner, parts per 100", "number"),
    },
    work=_thinned,
)


def _blend(of: SumInputs) -> SumAnswer:
    first, second, share_pct = of.hardness("first"), of.hardness("second"), of.maybe("share_pct")
    if of.is_typed("target") == (share_pct is not None):
        raise Refused("target", "Type either the hardness that you want or the share of the second rubber.")
    share = share_pct / 100 if share_pct is not None else share_for(first, second, of.hardness("target"))
    modulus_mpa = blend_mpa(first, second, share)
    return SumAnswer(
        figures=(
            ("of the first rubber", Amount(100 * (1 - share), "percent", 0)),
            ("of the second", Amount(100 * share, "percent", 0)),
        ),
        sentence=f"By weight. The blend comes out like {feel_of(modulus_mpa).label}.",
        rows=_scales(modulus_mpa),
        better=("Blend only rubbers of one family and one maker, and try a small batch first.", FROM_MEMORY),
    )


BLEND = QuickSum(
    key="blend",
    title="Blend",
    what="Two rubbers of one family mixed for a hardness between them.",
    terms={
        "first": _hardness("Hardness of the first rubber", "Scale and reading, such as A 10."),
        "second": _hardness("Hardness of the second"),
        "target": _hardness("Hardness that you want"),
        "share_pct": quantity("Or the share of the second", "percent"),
    },
    work=_blend,
)
