"""Quick sums of mixing: what to weigh, how to mend a mix, and millilitres as grams."""

from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.inputs.usual import USUAL
from ufrin.core.quick_sums.quick_sum import QuickSum, SumAnswer, SumInputs
from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.mix import MixPlan, Thinner, mix
from ufrin.core.weighing.ratio_mend import check
from ufrin.core.wording.findings import Amount
from ufrin.errors import Refused

USUAL_SG = 1.1  # g/ml, common practice: most two-part silicones lie between 1.05 and 1.30
RATIO = Term(label="Ratio A : B, by weight", kind="text", default="1:1", longest=20, help="From the tin, such as 10:1.")
SG = positive_quantity(
    "Specific gravity of the mix", "density", "From the tin; most silicones are 1.05 to 1.30.", USUAL_SG
)
SPARE = quantity("Spare", "percent", "What stays on cups and sticks, and a little over.", USUAL["rubber"]["spare_pct"])


def rubber_of(of: SumInputs) -> Rubber:
    """Return the rubber that a sum is about, named by its figures until somebody gives it its own name."""
    ratio, sg = of.ratio(), of.number("sg")
    return Rubber(
        name=f"Rubber {ratio['A']:g}:{ratio['B']:g}, {sg:.2f} g/ml",
        weight_a=ratio["A"],
        weight_b=ratio["B"],
        sg_mixed=sg,
    )


def _mix(of: SumInputs) -> SumAnswer:
    need_ml, need_g = of.maybe("need_ml"), of.maybe("need_g")
    if (need_ml is None) == (need_g is None):
        raise Refused("need_ml", "Type either the volume or the weight that is needed.")
    parts = of.maybe("thinner_parts")
    made = mix(
        MixPlan(
            ratio=of.ratio(),
            need_ml=need_ml,
            need_g=need_g,
            sg_mixed=of.number("sg"),
            spare_pct=of.number("spare_pct"),
            thinner=Thinner(parts_per_100=parts) if parts else None,
            cup_ml=of.maybe("cup_ml"),
        )
    )
    number = len(made.batches)
    batch = made.batches[0]
    figures = [
        (f"{name}, each batch" if number > 1 else name, Amount(g, "mass", 1)) for name, g in batch.parts_g.items()
    ]
    if batch.thinner_g:
        figures.append(("thinner", Amount(batch.thinner_g, "mass", 1)))
    how = f"{number} equal batches, in all" if number > 1 else "One batch of"
    return SumAnswer(
        figures=tuple(figures),
        sentence=f"{how} [{made.total_g:.6g} mass ~1].",
        rows=(
            *((f"{name} in all", Amount(part.g, "mass", 1)) for name, part in made.parts.items()),
            ("Total", Amount(made.total_g, "mass", 1)),
            *((("The same as a volume", Amount(made.total_ml, "volume", 1)),) if made.total_ml else ()),
        ),
        better=() if of.is_typed("sg") else ("Read the specific gravity on the tin: 1.10 is a guess.",),
        findings=made.findings,
    )


MIX = QuickSum(
    key="mix",
    title="Mix",
    what="How much of A and of B for a volume or a weight of rubber.",
    terms={
        "need_ml": positive_quantity("Volume that is needed", "volume"),
        "need_g": positive_quantity("Or its weight", "mass"),
        "ratio": RATIO,
        "sg": SG,
        "spare_pct": SPARE,
        "thinner_parts": quantity("Thinner, parts per 100", "number"),
        "cup_ml": positive_quantity("Cup holds", "volume", "More than fits is divided into equal batches."),
    },
    work=_mix,
    for_job=lambda of: {"rubber": {key: of.maybe(key) for key in ("cup_ml", "spare_pct") if of.is_typed(key)}},
    rubber=rubber_of,
)


def _mend(of: SumInputs) -> SumAnswer:
    made = check(
        ratio=of.ratio(),
        poured_g={"A": of.number("a_g"), "B": of.number("b_g")},
        tolerance_pct=of.number("tolerance_pct"),
    )
    off = f"B is off by {made.ratio_error_pct:+.1f} %"
    if made.add_part is None or made.verdict == "within":
        return SumAnswer(
            figures=(("to add", Amount(0.0, "mass", 1)),),
            sentence=f"{off}, which is within the tolerance. Leave it.",
            rows=(("In the cup", Amount(made.total_g_after - made.add_g, "mass", 1)),),
        )
    return SumAnswer(
        figures=((f"more {made.add_part}", Amount(made.add_g, "mass", 1)),),
        sentence=f"{off}. Add [{made.add_g:.6g} mass ~1] of {made.add_part} and stir well: nothing is taken out.",
        rows=(("In the cup afterwards", Amount(made.total_g_after, "mass", 1)),),
    )


MEND = QuickSum(
    key="mend",
    title="Mend a mix",
    what="What to add when too much of one part went in.",
    terms={
        "a_g": positive_quantity("A in the cup", "mass"),
        "b_g": quantity("B in the cup", "mass"),
        "ratio": RATIO,
        "tolerance_pct": positive_quantity("Tolerance of the ratio", "percent", "From the tin; 2 % is usual.", 2.0),
    },
    work=_mend,
)


def _weight(of: SumInputs) -> SumAnswer:
    volume_ml, mass_g, sg = of.maybe("volume_ml"), of.maybe("mass_g"), of.maybe("sg")
    if sum(one is None for one in (volume_ml, mass_g, sg)) > 1:
        raise Refused("volume_ml", "Type two of the three: volume, weight and specific gravity.")
    if volume_ml is not None and sg is not None:
        return SumAnswer(
            figures=(("weighs", Amount(volume_ml * sg, "mass", 1)),),
            sentence=f"[{volume_ml:.6g} volume ~1] at [{sg:.6g} density ~2].",
        )
    if mass_g is not None and sg is not None:
        return SumAnswer(
            figures=(("takes up", Amount(mass_g / sg, "volume", 1)),),
            sentence=f"[{mass_g:.6g} mass ~1] at [{sg:.6g} density ~2].",
        )
    return SumAnswer(
        figures=(("specific gravity", Amount((mass_g or 0.0) / (volume_ml or 1.0), "density", 2)),),
        sentence="Weigh a full cup that holds exactly this much, with the empty cup tared.",
    )


WEIGHT = QuickSum(
    key="weight",
    title="Millilitres and grams",
    what="Volume, weight and specific gravity: type two, and the third follows.",
    terms={
        "volume_ml": positive_quantity("Volume", "volume"),
        "mass_g": positive_quantity("Weight", "mass"),
        "sg": positive_quantity("Specific gravity", "density"),
    },
    work=_weight,
)
