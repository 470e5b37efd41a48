"""The terms of a casting material and of what is stirred into it, as the forms of the Shelf ask for them."""

from collections.abc import Mapping

from ufrin.core.casting.additions import ADDITION_KINDS
from ufrin.core.casting.resins import RESIN_KINDS
from ufrin.core.inputs.term import Term, positive_quantity, quantity

RESIN_TERMS: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "kind": Term(label="Kind", kind="choice", choices=RESIN_KINDS, default="polyurethane-resin"),
    "a_name": Term(label="Part A is called", kind="text", default="Part A"),
    "a_colour": Term(label="Colour of A", kind="text", longest=40),
    "b_name": Term(label="Part B is called", kind="text", default="Part B"),
    "b_colour": Term(label="Colour of B", kind="text", longest=40),
    "weight_a": positive_quantity("By weight, A", "number"),
    "weight_b": positive_quantity("By weight, B", "number"),
    "tolerance_pct": positive_quantity("Ratio may be off by", "percent", default=2.0),
    "volume_a": positive_quantity("By volume, A", "number"),
    "volume_b": positive_quantity("By volume, B", "number"),
    "drops_per_100_g": positive_quantity("Drops of B", "number", "To [100 mass] of A, where the tin counts drops."),
    "sg_a": positive_quantity("SG of A", "density"),
    "sg_b": positive_quantity("SG of B", "density"),
    "sg_mixed": positive_quantity("SG of the mix", "density", "Of a foam: before it rises."),
    "rises": positive_quantity("Rises to", "number", "Of a foam: how many times its volume."),
    "viscosity_mpa_s": positive_quantity("Viscosity, mixed", "viscosity"),
    "shrinkage_pct": quantity("Shrinks by", "percent", "Each length of the cast."),
    "colour_most_pct": quantity("Colour at most", "percent", "Of its volume.", default=10.0),
    "pot_life_min": positive_quantity("Pot life", "time"),
    "handling_min": positive_quantity("May be handled after", "time"),
    "demould_min": positive_quantity("Demould after", "time"),
    "full_cure_min": positive_quantity("Full cure after", "time"),
    "most_g": positive_quantity("At most at once", "mass", "More gets too hot."),
    "most_mm": positive_quantity("At most so deep", "length", "In one pour."),
    "kit_g": positive_quantity("A kit weighs", "mass"),
    "kit_price": quantity("A kit costs", "money"),
}

ADDITION_TERMS: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "kind": Term(label="Kind", kind="choice", choices=ADDITION_KINDS, default="filler"),
    "colour": Term(label="Colour", kind="text", longest=40),
    "bulk_sg": positive_quantity("Bulk density", "density", "Of a powder, as it lies in the scoop."),
    "true_sg": positive_quantity("Density of its grains", "density"),
    "most_volumes": positive_quantity("At most, scoops", "number", "To 1 of each part; 2 is usual."),
    "dry_min": positive_quantity("Dry for", "time"),
    "dry_c": quantity("Dry at", "temperature"),
    "pack_g": positive_quantity("A pack weighs", "mass"),
    "pack_price": quantity("A pack costs", "money"),
}
