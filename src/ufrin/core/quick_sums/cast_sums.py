"""Quick sums of casting: a solid cast, a shell in coats, a resin with filler, and what pieces cost."""

from dataclasses import replace

from ufrin.core.casting.additions import Addition
from ufrin.core.casting.cast_amount import CastMix, solid_cast
from ufrin.core.casting.filled_cast import counted_in_scoops, filled_cast, thickened
from ufrin.core.casting.resins import Resin
from ufrin.core.casting.shell_cast import shell_coats, shell_mass_g
from ufrin.core.inputs.term import positive_quantity, quantity
from ufrin.core.inputs.usual import USUAL
from ufrin.core.money.making import MakingCosts
from ufrin.core.quick_sums.mixing_sums import EITHER_RATIO, RATIO, mixed_sg_of, sg_parts
from ufrin.core.quick_sums.quick_sum import QuickSum, SumAnswer, SumInputs, Tins, weighed
from ufrin.core.wording.findings import Amount
from ufrin.language import Counted, Text

SPARE = quantity(Text("Spare"), "percent", default=USUAL["casts"]["spare_pct"])
SG = positive_quantity(Text("Specific gravity of the mix"), "density", Text("From the tin; resins lie near 1.1."), 1.1)
CAVITY = positive_quantity(Text("One cavity holds"), "volume", Text("Fill it with water and measure that."))


def _mix_of(of: SumInputs) -> CastMix:
    parts = sg_parts(of)
    return CastMix(ratio=of.ratio(), basis="volume" if parts else "weight", sg_parts=parts, sg_mixed=mixed_sg_of(of))


def _parts(of: SumInputs, mass_g: float) -> tuple[tuple[str, Amount], ...]:
    return weighed({name: part.g for name, part in (_mix_of(of).parts(mass_g) or {}).items()})


def _resin_of(of: SumInputs) -> Resin:
    # the casting material that a sum is about, named by its figures until somebody gives it its own name
    (a, b), parts, sg = of.ratio().values(), sg_parts(of), mixed_sg_of(of)
    if parts:
        name = Text("Resin {a:g}:{b:g} by volume, {sg:.2f} g/ml", a=a, b=b, sg=_mix_of(of).sg)
        return Resin(name=name, volume_a=a, volume_b=b, sg_a=parts["A"], sg_b=parts["B"], sg_mixed=sg)
    return Resin(name=Text("Resin {a:g}:{b:g}, {sg:.2f} g/ml", a=a, b=b, sg=sg), weight_a=a, weight_b=b, sg_mixed=sg)


def _cast(of: SumInputs) -> SumAnswer:
    count = int(of.number("count"))
    made = solid_cast(_mix_of(of), cavity_ml=of.number("cavity_ml"), count=count, spare_pct=of.number("spare_pct"))
    return SumAnswer(
        figures=_parts(of, made.mass_g),
        sentence=Counted(
            "For {n} cavity: [{mass_g:.6g} mass ~0] in all.",
            "For {n} cavities: [{mass_g:.6g} mass ~0] in all.",
            n=count,
            mass_g=made.mass_g,
        ),
        rows=((Text("Poured"), Amount(made.volume_ml, "volume", 1)),),
    )


CAST = QuickSum(
    key="cast",
    title=Text("Cast"),
    what=Text("How much casting material a shot takes."),
    terms={
        "cavity_ml": CAVITY,
        "count": quantity(Text("Cavities"), "count", default=1),
        **EITHER_RATIO,
        "sg": SG,
        "spare_pct": SPARE,
    },
    work=_cast,
    for_job=lambda of: {
        "casts": {
            "cavity_ml": of.maybe("cavity_ml"),
            "cavities": of.maybe("count"),
            "spare_pct": of.number("spare_pct"),
            "basis": "volume" if sg_parts(of) else None,
        }
    },
    tins=lambda of: {"casts": {"resin_id": _resin_of(of)}},
)


def _shell(of: SumInputs) -> SumAnswer:
    coats = shell_coats(of.number("thickness_mm"), of.number("coat_mm"))
    mass_g = shell_mass_g(of.number("area_cm2"), coats.reached_mm, of.number("sg"))
    return SumAnswer(
        figures=_parts(of, mass_g / coats.number),
        sentence=Text(
            "For each of {number} coats; the shell weighs [{mass_g:.6g} mass ~0] in all.",
            number=coats.number,
            mass_g=mass_g,
        ),
        rows=((Text("Reached"), Amount(coats.reached_mm, "length", 1)),),
        better=(Text("Weigh the mould as you go: what it gained tells how thick the shell is."),),
    )


SHELL = QuickSum(
    key="shell",
    title=Text("Hollow shell"),
    what=Text("How much each coat of a hollow cast takes."),
    terms={
        "area_cm2": positive_quantity(Text("Surface of the cavity"), "area"),
        "thickness_mm": positive_quantity(Text("Thickness that you want"), "length", default=3.0),
        "coat_mm": positive_quantity(Text("One coat"), "length", default=1.0),
        "ratio": RATIO,
        "sg": SG,
        "cavity_ml": replace(CAVITY, help=Text("Needed only to make it a job: a shell must leave room in it.")),
    },
    work=_shell,
    for_job=lambda of: {
        "casts": {
            "cast_kind": "shell",
            **{key: of.maybe(key) for key in ("area_cm2", "thickness_mm", "coat_mm", "cavity_ml")},
            "spare_pct": 0.0,
        }
    },
    tins=lambda of: {"casts": {"resin_id": _resin_of(of)}},
)


def _filler(of: SumInputs) -> SumAnswer:
    sgs = dict.fromkeys("AB", of.number("sg"))
    made = filled_cast(
        of.number("need_ml"),
        parts_by_volume=counted_in_scoops(of.ratio(), sgs, of.number("scoops")),
        sg_parts=sgs,
        bulk_sg=of.number("bulk_sg"),
        true_sg=of.number("true_sg"),
    )
    return SumAnswer(
        figures=weighed({"A": made.a_g, "B": made.b_g, Text("filler"): made.filler_g}),
        sentence=Text(
            "The filler is [{scoop_ml:.6g} volume ~0] in level scoops. It goes into B first, a little at a time.",
            scoop_ml=made.scoop_ml,
        ),
        rows=(
            (Text("It weighs in all"), Amount(made.total_g, "mass", 1)),
            (Text("Its density"), Amount(made.sg, "density", 2)),
            (Text("Powder's share of the volume"), Amount(100 * made.filler_share, "percent", 0)),
        ),
        findings=thickened(made.filler_share, Text("the mix")),
        better=(Text("Dry the filler first, and weigh a full scoop for its density."),),
    )


def _tins_of_filled(of: SumInputs) -> Tins:
    sg, bulk_sg, true_sg = of.number("sg"), of.number("bulk_sg"), of.number("true_sg")
    name = Text("Filler, bulk {bulk_sg:.2f}, grains {true_sg:.2f} g/ml", bulk_sg=bulk_sg, true_sg=true_sg)
    return {
        "casts": {
            "resin_id": replace(_resin_of(of), sg_a=sg, sg_b=sg),
            "filler_id": Addition(name=name, bulk_sg=bulk_sg, true_sg=true_sg),
        }
    }


FILLER = QuickSum(
    key="filler",
    title=Text("Filler"),
    what=Text("How much resin a filled cast still takes, and how much filler."),
    terms={
        "need_ml": positive_quantity(Text("Volume that is filled"), "volume"),
        "scoops": quantity(Text("Scoops of filler to 1 of A and 1 of B"), "number", default=1.0),
        "ratio": RATIO,
        "sg": SG,
        "bulk_sg": positive_quantity(Text("Filler in the scoop"), "density", Text("A full scoop, weighed."), 0.8),
        "true_sg": positive_quantity(
            Text("Its grains"), "density", Text("From its data sheet; chalk is about 2.7."), 2.7
        ),
    },
    work=_filler,
    for_job=lambda of: {
        "casts": {
            "cast_kind": "filled",
            "cavity_ml": of.maybe("need_ml"),
            "scoops": of.maybe("scoops"),
            "spare_pct": 0.0,
        }
    },
    tins=_tins_of_filled,
)


def _cost(of: SumInputs) -> SumAnswer:
    costs = MakingCosts(
        master_cost=of.number("master_cost"),
        mould_cost=of.number("mould_cost"),
        mould_life_casts=of.number("mould_life_casts"),
        unit_cost=of.number("unit_cost"),
    )
    pieces, price = int(of.number("pieces")), of.maybe("buy_price")
    made = costs.of(pieces)
    taken = Counted("{n} mould", "{n} moulds", n=made.moulds)
    moulds = Text("{pieces} pieces take {moulds}.", pieces=pieces, moulds=taken)
    if price is None:
        pays = ""
    else:
        even = costs.against(price)
        pays = (
            Text(" Making never pays at this price.")
            if even.first_count is None
            else Text(" Making pays from {first_count} pieces on", first_count=even.first_count)
            + (
                Text(", and for good from {stays_from_count}.", stays_from_count=even.stays_from_count)
                if even.stays_from_count is not None and even.stays_from_count != even.first_count
                else "."
            )
        )
    return SumAnswer(
        figures=((Text("a piece"), Amount(made.cost_per_piece, "money")),),
        sentence=Text("{moulds}{pays}", moulds=moulds, pays=pays),
        rows=((Text("In all"), Amount(made.total_cost, "money")),),
    )


COST = QuickSum(
    key="cost",
    title=Text("Cost and break-even"),
    what=Text("What a piece costs, and from how many on making pays."),
    terms={
        "pieces": quantity(Text("Pieces"), "number", default=50.0),
        "mould_cost": quantity(Text("One mould costs"), "money", default=0.0),
        "mould_life_casts": positive_quantity(Text("Casts that a mould makes"), "number", default=25.0),
        "unit_cost": quantity(Text("Material of a piece"), "money", default=0.0),
        "master_cost": quantity(Text("The master costs"), "money", default=0.0),
        "buy_price": quantity(Text("A piece bought elsewhere"), "money"),
    },
    work=_cost,
    for_job=lambda of: {"casts": {"pieces": of.maybe("pieces")}},
)
