"""Quick sums of mixing: what to weigh, how to mend a mix, and millilitres as grams."""

from collections.abc import Iterator
from dataclasses import replace

from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.inputs.usual import USUAL
from ufrin.core.quick_sums.quick_sum import SCALE_STEP_G, QuickSum, StationInputs, SumAnswer, SumInputs, Tins, weighed
from ufrin.core.rubber.additives import USUAL_SG as ADDITIVE_SG
from ufrin.core.rubber.additives import Additive
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
# of a ratio by weight, or by volume where both parts' SG are known
EITHER_RATIO = {
    "ratio": Term(
        label=Text("Ratio A : B"),
        kind="text",
        default="1:1",
        longest=20,
        help=Text(
            "From the tin, such as 10:1. By weight; it counts by volume once the specific gravity of A and of B are "
            "typed."
        ),
    ),
    "sg_a": positive_quantity(Text("Specific gravity of A"), "density", Text("For a ratio by volume alone.")),
    "sg_b": positive_quantity(Text("Specific gravity of B"), "density"),
}
SG = positive_quantity(
    Text("Specific gravity of the mix"), "density", Text("From the tin; most silicones are 1.05 to 1.30."), USUAL_SG
)
THINNER_SG = positive_quantity(
    Text("Specific gravity of the thinner"), "density", Text("From its tin."), ADDITIVE_SG["thinner"]
)
SPARE = quantity(
    Text("Spare"), "percent", Text("What stays on cups and sticks, and a little over."), USUAL["rubber"]["spare_pct"]
)


def sg_parts(of: SumInputs) -> dict[str, float] | None:
    """Return the SG of A and of B where a sum's ratio is one by volume; None for one by weight.

    Parameters
    ----------
    of : SumInputs
        As typed.

    Returns
    -------
    dict of "A", "B" to SG, or None
        Both or none.

    Raises
    ------
    Refused
        For one without the other.
    """
    found = {name: of.maybe(key) for name, key in (("A", "sg_a"), ("B", "sg_b")) if key in of.terms}
    known = {name: sg for name, sg in found.items() if sg is not None}
    if len(known) == 1:
        missing = "sg_b" if "A" in known else "sg_a"
        raise Refused(missing, Text("A ratio by volume needs the specific gravity of both parts."))
    return known or None


def mixed_sg_of(of: SumInputs) -> float | None:
    """Return the SG of a sum's mix; None where it follows from those of its parts."""
    return None if sg_parts(of) and not of.is_typed("sg") else of.number("sg")


def rubber_of(of: SumInputs) -> Rubber:
    """Return the rubber that a sum is about, named by its figures until somebody gives it its own name."""
    ratio, parts, sg = of.ratio(), sg_parts(of), mixed_sg_of(of)
    a, b = ratio["A"], ratio["B"]
    if parts:
        made = Rubber(name="", volume_a=a, volume_b=b, sg_a=parts["A"], sg_b=parts["B"], sg_mixed=sg)
        return replace(made, name=Text("Rubber {a:g}:{b:g} by volume, {sg:.2f} g/ml", a=a, b=b, sg=made.sg))
    return Rubber(name=Text("Rubber {a:g}:{b:g}, {sg:.2f} g/ml", a=a, b=b, sg=sg), weight_a=a, weight_b=b, sg_mixed=sg)


def spare_of(of: SumInputs) -> dict[str, object]:
    """Return what a job keeps of a sum's spare: as much as the sum, which knows of no loss on cups."""
    return {"spare_pct": of.number("spare_pct"), "cling_g": 0.0}


def _mix(of: SumInputs) -> SumAnswer:
    need_ml, need_g = of.maybe("need_ml"), of.maybe("need_g")
    if (need_ml is None) == (need_g is None):
        raise Refused("need_ml", Text("Type either the volume or the weight that is needed."))
    parts = of.maybe("thinner_parts")
    made = mix(
        MixPlan(
            ratio=of.ratio(),
            basis="volume" if sg_parts(of) else "weight",
            sg_parts=sg_parts(of),
            need_ml=need_ml,
            need_g=need_g,
            sg_mixed=mixed_sg_of(of),
            spare_pct=of.number("spare_pct"),
            thinner=Thinner(parts_per_100=parts, sg=of.number("thinner_sg")) if parts else None,
            scale_step_g=of.number("scale_step_g"),
            cup_ml=of.maybe("cup_ml"),
        )
    )
    number = len(made.batches)
    batch = made.batches[0]
    figures = {Text("{name}, each batch", name=name) if number > 1 else name: g for name, g in batch.parts_g.items()}
    if batch.thinner_g:
        figures[Text("thinner")] = batch.thinner_g
    in_all: dict[str, float] = {Text("{name} in all", name=name): part.g for name, part in made.parts.items()}
    in_all[Text("Total")] = made.total_g
    how = Text("{number} equal batches, in all", number=number) if number > 1 else Text("One batch of")
    return SumAnswer(
        figures=weighed(figures),
        sentence=f"{how} [{made.total_g:.6g} mass ~1].",
        rows=(
            *weighed(in_all),
            *(((Text("The same as a volume"), Amount(made.total_ml, "volume", 1)),) if made.total_ml else ()),
        ),
        better=tuple(_guessed(of)),
        findings=made.findings,
    )


def _guessed(of: SumInputs) -> Iterator[str]:
    if mixed_sg_of(of) is not None and not of.is_typed("sg"):
        yield Text("Read the specific gravity on the tin: 1.10 is a guess.")
    if of.maybe("thinner_parts") and not of.is_typed("thinner_sg"):
        yield Text("Read the specific gravity of the thinner on its tin: its volume counts in the pour.")


def _tins_of_mix(of: SumInputs) -> Tins:
    if not of.maybe("thinner_parts"):
        return {"rubber": {"rubber_id": rubber_of(of)}}
    sg = of.number("thinner_sg")
    thinner = Additive(name=Text("Thinner {sg:.2f} g/ml", sg=sg), sg=sg)
    return {"rubber": {"rubber_id": rubber_of(of), "thinner_id": thinner}}


def _job_of_mix(of: SumInputs) -> StationInputs:
    typed = {key: of.maybe(key) for key in ("cup_ml", "thinner_parts", "scale_step_g") if of.is_typed(key)}
    return {"rubber": spare_of(of) | typed | ({"basis": "volume"} if sg_parts(of) else {})}


MIX = QuickSum(
    key="mix",
    title=Text("Mix"),
    what=Text("How much of A and of B for a volume or a weight of rubber."),
    terms={
        "need_ml": positive_quantity(Text("Volume that is needed"), "volume"),
        "need_g": positive_quantity(Text("Or its weight"), "mass"),
        **EITHER_RATIO,
        "sg": SG,
        "spare_pct": SPARE,
        "thinner_parts": quantity(Text("Thinner, parts per 100"), "number"),
        "thinner_sg": THINNER_SG,
        "scale_step_g": positive_quantity(Text("Scale reads in steps of"), "mass", default=SCALE_STEP_G),
        "cup_ml": positive_quantity(Text("Cup holds"), "volume", Text("More than fits is divided into equal batches.")),
    },
    work=_mix,
    for_job=_job_of_mix,
    tins=_tins_of_mix,
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
    (added,) = weighed({Text("more {add_part}", add_part=made.add_part): made.add_g})
    return SumAnswer(
        figures=(added,),
        sentence=Text(
            "{off}. Add [{add_g:.6g} mass ~{decimals}] of {add_part} and stir well: nothing is taken out.",
            off=off,
            add_g=made.add_g,
            decimals=added[1].decimals,
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
            figures=weighed({Text("weighs"): volume_ml * sg}),
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
