"""The terms of a casting material and of what is stirred into it, as the forms of the Shelf ask for them."""

from collections.abc import Mapping

from ufrin.core.casting.additions import ADDITION_KINDS
from ufrin.core.casting.resins import RESIN_KINDS
from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.language import Text

RESIN_TERMS: Mapping[str, Term] = {
    "name": Term(label=Text("Name"), kind="text"),
    "kind": Term(label=Text("Kind"), kind="choice", choices=RESIN_KINDS, default="polyurethane-resin"),
    "a_name": Term(label=Text("Part A is called"), kind="text", default=Text("Part A")),
    "a_colour": Term(label=Text("Colour of A"), kind="text", longest=40),
    "b_name": Term(label=Text("Part B is called"), kind="text", default=Text("Part B")),
    "b_colour": Term(label=Text("Colour of B"), kind="text", longest=40),
    "weight_a": positive_quantity(Text("By weight, A"), "number"),
    "weight_b": positive_quantity(Text("By weight, B"), "number"),
    "tolerance_pct": positive_quantity(Text("Ratio may be off by"), "percent", default=2.0),
    "volume_a": positive_quantity(Text("By volume, A"), "number"),
    "volume_b": positive_quantity(Text("By volume, B"), "number"),
    "drops_per_100_g": positive_quantity(
        Text("Drops of B"), "number", Text("To [100 mass] of A, where the tin counts drops.")
    ),
    "sg_a": positive_quantity(Text("SG of A"), "density"),
    "sg_b": positive_quantity(Text("SG of B"), "density"),
    "sg_mixed": positive_quantity(Text("SG of the mix"), "density", Text("Of a foam: before it rises.")),
    "rises": positive_quantity(Text("Rises to"), "number", Text("Of a foam: how many times its volume.")),
    "viscosity_mpa_s": positive_quantity(Text("Viscosity, mixed"), "viscosity"),
    "shrinkage_pct": quantity(Text("Shrinks by"), "percent", Text("Each length of the cast.")),
    "colour_most_pct": quantity(Text("Colour at most"), "percent", Text("Of its volume."), default=10.0),
    "pot_life_min": positive_quantity(Text("Pot life"), "time"),
    "handling_min": positive_quantity(Text("May be handled after"), "time"),
    "demould_min": positive_quantity(Text("Demould after"), "time"),
    "full_cure_min": positive_quantity(Text("Full cure after"), "time"),
    "most_g": positive_quantity(Text("At most at once"), "mass", Text("More gets too hot.")),
    "most_mm": positive_quantity(Text("At most so deep"), "length", Text("In one pour.")),
    "kit_g": positive_quantity(Text("A kit weighs"), "mass"),
    "kit_price": quantity(Text("A kit costs"), "money"),
}

ADDITION_TERMS: Mapping[str, Term] = {
    "name": Term(label=Text("Name"), kind="text"),
    "kind": Term(label=Text("Kind"), kind="choice", choices=ADDITION_KINDS, default="filler"),
    "colour": Term(label=Text("Colour"), kind="text", longest=40),
    "bulk_sg": positive_quantity(Text("Bulk density"), "density", Text("Of a powder, as it lies in the scoop.")),
    "true_sg": positive_quantity(Text("Density of its grains"), "density"),
    "most_volumes": positive_quantity(Text("At most, scoops"), "number", Text("To 1 of each part; 2 is usual.")),
    "dry_min": positive_quantity(Text("Dry for"), "time"),
    "dry_c": quantity(Text("Dry at"), "temperature"),
    "pack_g": positive_quantity(Text("A pack weighs"), "mass"),
    "pack_price": quantity(Text("A pack costs"), "money"),
}
