"""Quick sums of mixing: what to weigh, how to mend a mix, and millilitres as grams."""

from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.inputs.usual import USUAL
from ufrin.core.quick_sums.quick_sum import QuickSum, SumAnswer, SumInputs
from ufrin.core.rubber.additives import USUAL_SG as ADDITIVE_SG
from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.mix import MixPlan, Thinner, mix
from ufrin.core.weighing.ratio_mend import check
from ufrin.core.wording.findings import Amount
from ufrin.errors import Refused
from ufrin.language import Text

USUAL_SG = 1.1  # g/ml, common practice: most two-part silicones lie between 1.05 and 1.30
RATIO = Term(
    label=Text("Ratio A : B, by weight"),
    kind="text",
    default="1:1",
    longest=20,
    help=Text("From the tin, such as 10:1."),
)
SG = positive_quantity(
    Text("Specific gravity of the mix"), "density", Text("From the tin; most silicones are 1.05 to 1.30."), USUAL_SG
)
SPARE = quantity(
    Text("Spare"), "percent", Text("What stays on cups and sticks, and a little over."), USUAL["rubber"]["spare_pct"]
)


def rubber_of(of: SumInputs) -> Rubber:
    """Return the rubber that a sum is about, named by its figures until somebody gives it its own name."""
    ratio, sg = of.ratio(), of.number("sg")
    return Rubber(
        name=Text("Rubber {a:g}:{b:g}, {sg:.2f} g/ml", a=ratio["A"], b=ratio["B"], sg=sg),
        weight_a=ratio["A"],
        weight_b=ratio["B"],
        sg_mixed=sg,
    )


def _mix(of: SumInputs) -> SumAnswer:
    need_ml, need_g = of.maybe("need_ml"), of.maybe("need_g")
    if (need_ml is None) == (need_g is None):
        raise Refused("need_ml", Text("Type either the volume or the weight that is needed."))
    parts = of.maybe("thinner_parts")
    made = mix(
        MixPlan(
            ratio=of.ratio(),
            need_ml=need_ml,
            need_g=need_g,
            sg_mixed=of.number("sg"),
            spare_pct=of.number("spare_pct"),
            thinner=Thinner(parts_per_100=parts, sg=ADDITIVE_SG["thinner"]) if parts else None,
            cup_ml=of.maybe("cup_ml"),
        )
    )
    number = len(made.batches)
    batch = made.batches[0]
    figures = [
        (Text("{name}, each batch", name=name) if number > 1 else name, Amount(g, "mass", 1))
        for name, g in batch.parts_g.items()
    ]
    if batch.thinner_g:
        figures.append(("thinner", Amount(batch.thinner_g, "mass", 1)))
    how = Text("{number} equal batches, in all", number=number) if number > 1 else Text("One batch of")
    return SumAnswer(
        figures=tuple(figures),
        sentence=f"{how} [{made.total_g:.6g} mass ~1].",
        rows=(
            *((Text("{name} in all", name=name), Amount(part.g, "mass", 1)) for name, part in made.parts.items()),
            (Text("Total"), Amount(made.total_g, "mass", 1)),
            *(((Text("The same as a volume"), Amount(made.total_ml, "volume", 1)),) if made.total_ml else ()),
        ),
        better=() if of.is_typed("sg") else (Text("Read the specific gravity on the tin: 1.10 is a guess."),),
        findings=made.findings,
    )


MIX = QuickSum(
    key="mix",
    title=Text("Mix"),
    what=Text("How much of A and of B for a volume or a weight of rubber."),
    terms={
        "need_ml": positive_quantity(Text("Volume that is needed"), "volume"),
        "need_g": positive_quantity(Text("Or its weight"), "mass"),
        "ratio": RATIO,
        "sg": SG,
        "spare_pct": SPARE,
        "thinner_parts": quantity(Text("Thinner, parts per 100"), "number"),
        "cup_ml": positive_quantity(Text("Cup holds"), "volume", Text("More than fits is divided into equal batches.")),
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
    off = Text("B is off by {ratio_error_pct:+.1f} %", ratio_error_pct=made.ratio_error_pct)
    if made.add_part is None or made.verdict == "within":
        return SumAnswer(
            figures=((Text("to add"), Amount(0.0, "mass", 1)),),
            sentence=Text("{off}, which is within the tolerance. Leave it.", off=off),
            rows=((Text("In the cup"), Amount(made.total_g_after - made.add_g, "mass", 1)),),
        )
    return SumAnswer(
        figures=((Text("more {add_part}", add_part=made.add_part), Amount(made.add_g, "mass", 1)),),
        sentence=Text(
            "{off}. Add [{add_g:.6g} mass ~1] of {add_part} and stir well: nothing is taken out.",
            off=off,
            add_g=made.add_g,
            add_part=made.add_part,
        ),
        rows=((Text("In the cup afterwards"), Amount(made.total_g_after, "mass", 1)),),
    )


MEND = QuickSum(
    key="mend",
    title=Text("Mend a mix"),
    what=Text("What to add when too much of one part went in."),
    terms={
        "a_g": positive_quantity(Text("A in the cup"), "mass"),
        "b_g": quantity(Text("B in the cup"), "mass"),
        "ratio": RATIO,
        "tolerance_pct": positive_quantity(
            Text("Tolerance of the ratio"), "percent", Text("From the tin; 2 % is usual."), 2.0
        ),
    },
    work=_mend,
)


def _weight(of: SumInputs) -> SumAnswer:
    volume_ml, mass_g, sg = of.maybe("volume_ml"), of.maybe("mass_g"), of.maybe("sg")
    if sum(one is None for one in (volume_ml, mass_g, sg)) > 1:
        raise Refused("volume_ml", Text("Type two of the three: volume, weight and specific gravity."))
    if volume_ml is not None and sg is not None:
        return SumAnswer(
            figures=(("weighs", Amount(volume_ml * sg, "mass", 1)),),
            sentence=f"[{volume_ml:.6g} volume ~1] at [{sg:.6g} density ~2].",
        )
    if mass_g is not None and sg is not None:
        return SumAnswer(
            figures=((Text("takes up"), Amount(mass_g / sg, "volume", 1)),),
            sentence=f"[{mass_g:.6g} mass ~1] at [{sg:.6g} density ~2].",
        )
    return SumAnswer(
        figures=((Text("specific gravity"), Amount((mass_g or 0.0) / (volume_ml or 1.0), "density", 2)),),
        sentence=Text("Weigh a full cup that holds exactly this much, with the empty cup tared."),
    )


WEIGHT = QuickSum(
    key="weight",
    title=Text("Millilitres and grams"),
    what=Text("Volume, weight and specific gravity: type two, and the third follows."),
    terms={
        "volume_ml": positive_quantity(Text("Volume"), "volume"),
        "mass_g": positive_quantity(Text("Weight"), "mass"),
        "sg": positive_quantity(Text("Specific gravity"), "density"),
    },
    work=_weight,
)
