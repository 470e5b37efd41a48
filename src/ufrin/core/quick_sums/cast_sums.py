"""Quick sums of casting: a solid cast, a shell in coats, a resin with filler, and what pieces cost."""

from ufrin.core.casting.cast_amount import CastMix, solid_cast
from ufrin.core.casting.filled_cast import filled_cast
from ufrin.core.casting.shell_cast import shell_coats, shell_mass_g
from ufrin.core.inputs.term import positive_quantity, quantity
from ufrin.core.inputs.usual import USUAL
from ufrin.core.money.making import MakingCosts
from ufrin.core.quick_sums.mixing_sums import RATIO
from ufrin.core.quick_sums.quick_sum import QuickSum, SumAnswer, SumInputs
from ufrin.core.wording.findings import Amount

SPARE = quantity("Spare", "percent", default=USUAL["casts"]["spare_pct"])
SG = positive_quantity("Specific gravity of the mix", "density", "From the tin; resins lie near 1.1.", 1.1)
CAVITY = positive_quantity("One cavity holds", "volume", "Fill it with water and measure that.")


def _mix_of(of: SumInputs) -> CastMix:
    return CastMix(ratio=of.ratio(), sg_mixed=of.number("sg"))


def _parts(of: SumInputs, mass_g: float) -> tuple[tuple[str, Amount], ...]:
    return tuple((name, Amount(part.g, "mass", 1)) for name, part in (_mix_of(of).parts(mass_g) or {}).items())


def _cast(of: SumInputs) -> SumAnswer:
    count = int(of.number("count"))
    made = solid_cast(_mix_of(of), cavity_ml=of.number("cavity_ml"), count=count, spare_pct=of.number("spare_pct"))
    return SumAnswer(
        figures=_parts(of, made.mass_g),
        sentence=f"For {count} {'cavity' if count == 1 else 'cavities'}: [{made.mass_g:.6g} mass ~0] in all.",
        rows=(("Poured", Amount(made.volume_ml, "volume", 1)),),
    )


CAST = QuickSum(
    key="cast",
    title="Cast",
    what="How much casting material a shot takes.",
    terms={
        "cavity_ml": CAVITY,
        "count": quantity("Cavities", "count", default=1),
        "ratio": RATIO,
        "sg": SG,
        "spare_pct": SPARE,
    },
    work=_cast,
    for_job=lambda of: {"casts": {"cavity_ml": of.maybe("cavity_ml"), "cavities": of.maybe("count")}},
)


def _shell(of: SumInputs) -> SumAnswer:
    thickness_mm = of.number("thickness_mm")
    coats = shell_coats(thickness_mm, of.number("coat_mm"))
    mass_g = shell_mass_g(of.number("area_cm2"), thickness_mm, of.number("sg"))
    return SumAnswer(
        figures=_parts(of, mass_g / coats.number),
        sentence=f"For each of {coats.number} coats; the shell weighs [{mass_g:.6g} mass ~0] in all.",
        rows=(("Reached", Amount(coats.reached_mm, "length", 1)),),
        better=("Weigh the mould as you go: what it gained tells how thick the shell is.",),
    )


SHELL = QuickSum(
    key="shell",
    title="Hollow shell",
    what="How much each coat of a hollow cast takes.",
    terms={
        "area_cm2": positive_quantity("Surface of the cavity", "area"),
        "thickness_mm": positive_quantity("Thickness that you want", "length", default=3.0),
        "coat_mm": positive_quantity("One coat", "length", default=1.0),
        "ratio": RATIO,
        "sg": SG,
    },
    work=_shell,
    for_job=lambda of: {
        "casts": {
            "cast_kind": "shell",
            "area_cm2": of.maybe("area_cm2"),
            "thickness_mm": of.maybe("thickness_mm"),
            "coat_mm": of.maybe("coat_mm"),
        }
    },
)


def _filler(of: SumInputs) -> SumAnswer:
    ratio = of.ratio()
    sg = of.number("sg")
    made = filled_cast(
        of.number("need_ml"),
        parts_by_volume={**ratio, "filler": of.number("scoops")},
        sg_parts={"A": sg, "B": sg},
        bulk_sg=of.number("bulk_sg"),
        true_sg=of.number("true_sg"),
    )
    return SumAnswer(
        figures=(
            ("A", Amount(made.a_g, "mass", 1)),
            ("B", Amount(made.b_g, "mass", 1)),
            ("filler", Amount(made.filler_g, "mass", 1)),
        ),
        sentence=f"The filler is [{made.scoop_ml:.6g} volume ~0] in level scoops. It goes into B first, a little at a "
        "time.",
        rows=(("It weighs in all", Amount(made.total_g, "mass", 1)), ("Its density", Amount(made.sg, "density", 2))),
        better=("Dry the filler first, and weigh a full scoop for its density.",),
    )


FILLER = QuickSum(
    key="filler",
    title="Filler",
    what="How much resin a filled cast still takes, and how much filler.",
    terms={
        "need_ml": positive_quantity("Volume that is filled", "volume"),
        "scoops": quantity("Scoops of filler to the scoops of A and B", "number", default=1.0),
        "ratio": RATIO,
        "sg": SG,
        "bulk_sg": positive_quantity("Filler in the scoop", "density", "A full scoop, weighed.", 0.8),
        "true_sg": positive_quantity("Its grains", "density", "From its data sheet; chalk is about 2.7.", 2.7),
    },
    work=_filler,
    for_job=lambda of: {"casts": {"cast_kind": "filled", "cavity_ml": of.maybe("need_ml")}},
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
    moulds = f"{pieces} pieces take {made.moulds} {'mould' if made.moulds == 1 else 'moulds'}."
    if price is None:
        pays = ""
    else:
        even = costs.against(price)
        pays = (
            " Making never pays at this price."
            if even.first_count is None
            else f" Making pays from {even.first_count} pieces on"
            + (
                f", and for good from {even.stays_from_count}."
                if even.stays_from_count is not None and even.stays_from_count != even.first_count
                else "."
            )
        )
    return SumAnswer(
        figures=(("a piece", Amount(made.cost_per_piece, "money")),),
        sentence=moulds + pays,
        rows=(("In all", Amount(made.total_cost, "money")),),
    )


COST = QuickSum(
    key="cost",
    title="Cost and break-even",
    what="What a piece costs, and from how many on making pays.",
    terms={
        "pieces": quantity("Pieces", "number", default=50.0),
        "mould_cost": quantity("One mould costs", "money", default=0.0),
        "mould_life_casts": positive_quantity("Casts that a mould makes", "number", default=25.0),
        "unit_cost": quantity("Material of a piece", "money", default=0.0),
        "master_cost": quantity("The master costs", "money", default=0.0),
        "buy_price": quantity("A piece bought elsewhere", "money"),
    },
    work=_cost,
    for_job=lambda of: {"casts": {"pieces": of.maybe("pieces")}},
)
