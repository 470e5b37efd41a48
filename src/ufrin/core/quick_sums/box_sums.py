"""Quick sums of boxes: from a master to grams in six questions, a box, and a pot with a bed."""

from ufrin.core.box.bed import plaster_for
from ufrin.core.box.box_plan import BoxPlan
from ufrin.core.box.mould_box import Box, box
from ufrin.core.inputs.term import positive_quantity, quantity
from ufrin.core.inputs.usual import USUAL
from ufrin.core.master.displacement import MeasuredVolume, known, level_rise
from ufrin.core.master.master_form import Master
from ufrin.core.quick_sums.mixing_sums import RATIO, SG, SPARE, rubber_of, spare_of
from ufrin.core.quick_sums.quick_sum import QuickSum, StationInputs, SumAnswer, SumInputs, weighed
from ufrin.core.shelf.containers import Pot
from ufrin.core.weighing.mix import MixPlan, mix
from ufrin.core.wording.findings import Amount, Finding
from ufrin.errors import Refused
from ufrin.language import Text

_USUAL = USUAL["box"]
SIZE = {
    "length_mm": positive_quantity(Text("Length of the master"), "length"),
    "width_mm": positive_quantity(Text("Its width"), "length"),
    "height_mm": positive_quantity(Text("Its height"), "length"),
}
WATER = {
    "level_before_ml": positive_quantity(
        Text("Water level in a jug, without the master"),
        "volume",
        Text("What it displaces. Empty: nothing is deducted."),
    ),
    "level_after_ml": positive_quantity(Text("and with the master under water"), "volume"),
}
DISPLACEMENT = {**WATER, "displaced_ml": positive_quantity(Text("Or its displacement, if you know it"), "volume")}
CLEARANCES = {
    "side_mm": positive_quantity(Text("Rubber beside it"), "length", default=_USUAL["side_mm"]),
    "over_mm": positive_quantity(Text("Rubber over it"), "length", default=_USUAL["over_mm"]),
}


def _displaced(of: SumInputs) -> MeasuredVolume | None:
    # of one master; None where nobody measured it
    if not any(of.is_typed(key) for key in WATER):
        known_ml = of.maybe("displaced_ml")
        return None if known_ml is None else known(volume_ml=known_ml)
    if of.is_typed("displaced_ml"):
        raise Refused("displaced_ml", Text("Type either the water in the jug or the displacement."))
    return level_rise(
        before_ml=of.number("level_before_ml"), after_ml=of.number("level_after_ml"), mark_ml=USUAL["master"]["mark_ml"]
    )


def _box_of(of: SumInputs) -> Box:
    displaced = _displaced(of)
    one = Master(
        length_mm=of.number("length_mm"),
        width_mm=of.number("width_mm"),
        height_mm=of.number("height_mm"),
        volume_ml=displaced.volume_ml if displaced else None,
        count=int(of.maybe("count") or 1) if "count" in of.terms else 1,
    )
    return box(BoxPlan(masters=(one,), side_mm=of.number("side_mm"), over_mm=of.number("over_mm")))


def _findings(made: Box) -> tuple[Finding, ...]:
    # that the displacement is missing is said with what would make the answer better
    return tuple(finding for finding in made.findings if finding.code != "no-displacement")


def _size(made: Box) -> str:
    return Text(
        "Build a box [{length_mm:.6g} length ~1] by [{width_mm:.6g} length ~1] inside and "
        "fill it to [{fill_mm:.6g} length ~1]",
        length_mm=made.length_mm or 0,
        width_mm=made.width_mm or 0,
        fill_mm=made.fill_mm,
    )


def _displaced_row(of: SumInputs, made: Box, label: str) -> tuple[str, Amount | str]:
    one = _displaced(of)
    if one is None or of.is_typed("displaced_ml"):
        return label, Amount(made.displaced_ml, "volume", 1)
    error_ml = one.plus_minus_ml * made.displaced_ml / one.volume_ml
    return label, Text("[{ml:.6g} volume ~1] ± [{error_ml:.6g} volume ~1]", ml=made.displaced_ml, error_ml=error_ml)


def _job_of_box(of: SumInputs) -> StationInputs:
    measured = {key: of.maybe(key) for key in WATER}
    return {
        "master": {key: of.maybe(key) for key in SIZE} | measured | {"known_ml": of.maybe("displaced_ml")},
        # a box for one pour, in which the master stands on the board: the sum knows of no halves
        "opening": {"style": "open", "flat_back": True},
        "box": {key: of.maybe(key) for key in CLEARANCES if of.is_typed(key)}
        | ({"count": of.maybe("count")} if "count" in of.terms and of.is_typed("count") else {}),
    }


def _grams(of: SumInputs) -> SumAnswer:
    made = _box_of(of)
    mixed = mix(
        MixPlan(ratio=of.ratio(), need_ml=made.net_ml, sg_mixed=of.number("sg"), spare_pct=of.number("spare_pct"))
    )
    better = []
    if _displaced(of) is None:
        better.append(
            Text("Measure the displacement in a jug of water: until then you mix too much by all that it takes up.")
        )
    if not of.is_typed("sg"):
        better.append(Text("Read the specific gravity on the tin: 1.10 is a guess, and the grams follow it."))
    if not of.is_typed("ratio"):
        better.append(Text("Check the ratio on the tin: 1:1 is assumed."))
    better.append(Text("Make it a job to choose your rubber: pot life, demould time, checks and the bench follow."))
    return SumAnswer(
        figures=weighed({name: part.g for name, part in mixed.parts.items()}),
        sentence=Text(
            "{made}: it takes [{net_ml:.6g} volume ~0] of rubber, [{total_g:.6g} mass ~0] with the spare.",
            made=_size(made),
            net_ml=made.net_ml,
            total_g=mixed.total_g,
        ),
        rows=(
            (Text("Box, up to the fill line"), Amount(made.gross_ml, "volume", 1)),
            _displaced_row(of, made, Text("less displaced by the master")),
            (Text("Net rubber"), Amount(made.net_ml, "volume", 1)),
            (Text("Weighed in all"), Amount(mixed.total_g, "mass", 1)),
        ),
        better=tuple(better),
        findings=(*_findings(made), *mixed.findings),
    )


GRAMS = QuickSum(
    key="grams",
    title=Text("From a master to grams"),
    what=Text("Six questions from the master on the table to the grams of A and B."),
    terms={**SIZE, **DISPLACEMENT, "ratio": RATIO, "sg": SG, **CLEARANCES, "spare_pct": SPARE},
    work=_grams,
    for_job=lambda of: {**_job_of_box(of), "rubber": spare_of(of)},
    tins=lambda of: {"rubber": {"rubber_id": rubber_of(of)}},
)


def _box(of: SumInputs) -> SumAnswer:
    made = _box_of(of)
    return SumAnswer(
        figures=((Text("of rubber, net"), Amount(made.net_ml, "volume", 0)),),
        sentence=Text("{made}, with walls [{rim_mm:.6g} length ~1] high.", made=_size(made), rim_mm=made.rim_mm),
        rows=(
            (Text("Box, up to the fill line"), Amount(made.gross_ml, "volume", 1)),
            _displaced_row(of, made, Text("less displaced")),
            (Text("Net rubber"), Amount(made.net_ml, "volume", 1)),
            *_grid(made),
        ),
        better=() if _displaced(of) else (Text("Measure the displacement: nothing is deducted yet."),),
        findings=_findings(made),
    )


def _grid(made: Box) -> tuple[tuple[str, str], ...]:
    if made.rows * made.columns == 1:
        return ()
    stand = Text(
        "{rows} by {columns}, [{gap_mm:.6g} length] between them",
        rows=made.rows,
        columns=made.columns,
        gap_mm=_USUAL["gap_mm"],
    )
    return ((Text("The masters stand"), stand),)


BOX = QuickSum(
    key="box",
    title=Text("Box"),
    what=Text("How large a box is, and how much rubber it takes."),
    terms={**SIZE, **DISPLACEMENT, "count": quantity(Text("Masters in the box"), "count", default=1), **CLEARANCES},
    work=_box,
    for_job=_job_of_box,
)


def _pot(of: SumInputs) -> SumAnswer:
    pot = Pot(bottom_mm=of.number("bottom_mm"), top_mm=of.number("top_mm"), height_mm=of.number("height_mm"))
    bed_mm, fill_mm = of.number("bed_mm"), of.maybe("fill_mm") or of.number("height_mm")
    if not bed_mm < fill_mm <= pot.height_mm:
        raise Refused("fill_mm", Text("The fill line lies above the bed and not above the rim."))
    displaced_ml = of.number("displaced_ml")
    bed_ml = pot.holds_ml(bed_mm)
    net_ml = pot.holds_ml(fill_mm) - bed_ml - displaced_ml
    if net_ml <= 0:
        raise Refused("displaced_ml", Text("The master takes up more than the pot holds above the bed."))
    plaster_g, water_g = plaster_for(bed_ml) if bed_ml else (0.0, 0.0)
    return SumAnswer(
        figures=((Text("of rubber, net"), Amount(net_ml, "volume", 0)),),
        sentence=Text("Filled to [{fill_mm:.6g} length ~1]", fill_mm=fill_mm)
        + (Text(", over a bed of [{bed_ml:.6g} volume ~0].", bed_ml=bed_ml) if bed_ml else Text(", without a bed.")),
        rows=(
            (Text("Pot, up to the fill line"), Amount(pot.holds_ml(fill_mm), "volume", 1)),
            (Text("less the bed"), Amount(bed_ml, "volume", 1)),
            (Text("less displaced"), Amount(displaced_ml, "volume", 1)),
            *(
                ((Text("The bed in plaster"), Amount(plaster_g, "mass", 0)), ("with water", Amount(water_g, "mass", 0)))
                if bed_ml
                else ()
            ),
        ),
    )


POT = QuickSum(
    key="pot",
    title=Text("Pot and bed"),
    what=Text("How much rubber a tapered pot takes over a bed of clay or plaster."),
    terms={
        "bottom_mm": positive_quantity(Text("Inside diameter at the bottom"), "length"),
        "top_mm": positive_quantity(Text("Inside diameter at the rim"), "length"),
        "height_mm": positive_quantity(Text("Height to the rim"), "length"),
        "fill_mm": positive_quantity(Text("Filled to"), "length", Text("Measured from the bottom. Empty: to the rim.")),
        "bed_mm": quantity(Text("Bed, thickness"), "length", default=0.0),
        "displaced_ml": quantity(Text("Displaced by the master, above the bed"), "volume", default=0.0),
    },
    work=_pot,
)
