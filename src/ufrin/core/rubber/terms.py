"""The terms of a rubber, an additive and a test coupon, as the forms of the Shelf ask for them."""

from collections.abc import Mapping

from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.rubber.additives import ADDITIVES, GOES_WITH
from ufrin.core.rubber.shore import SCALES
from ufrin.core.rubber.tins import FAMILIES, FORMS, THINNED

RUBBER_TIN_TERMS: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "family": Term(label="Family", kind="choice", choices=FAMILIES, default="addition-silicone"),
    "form": Term(label="It is", kind="choice", choices=FORMS, default="liquid"),
    "a_name": Term(label="Part A is called", kind="text", default="Part A"),
    "a_colour": Term(label="Colour of A", kind="text", longest=40),
    "b_name": Term(label="Part B is called", kind="text", default="Part B"),
    "b_colour": Term(label="Colour of B", kind="text", longest=40),
    "weight_a": positive_quantity("By weight, A", "number"),
    "weight_b": positive_quantity("By weight, B", "number"),
    "volume_a": positive_quantity("By volume, A", "number"),
    "volume_b": positive_quantity("By volume, B", "number"),
    "sg_a": quantity("SG of A", "density"),
    "sg_b": quantity("SG of B", "density"),
    "sg_mixed": quantity("SG of the mix", "density"),
    "tolerance_pct": positive_quantity("Ratio may be off by", "percent", default=2.0),
    "viscosity_mpa_s": quantity("Viscosity, mixed", "viscosity"),
    "pot_life_min": positive_quantity("Pot life", "time"),
    "demould_min": positive_quantity("Demould after", "time"),
    "full_cure_min": positive_quantity("Full cure after", "time"),
    "mix_least_min": positive_quantity("Mix or knead for at least", "time"),
    "mix_most_min": positive_quantity("Mix or knead for at most", "time"),
    "press_min": positive_quantity("Press on within", "time", "Of a putty: from the first contact of A and B."),
    "cast_in_min": positive_quantity("May be cast in after", "time"),
    "hardness_scale": Term(label="Hardness scale", kind="choice", choices=SCALES, default="A"),
    "hardness": quantity("Hardness", "number"),
    "thinner_of": Term(label="Thinner is counted to 100", kind="choice", choices=THINNED, default="A+B"),
    "elongation_pct": quantity("Elongation at break", "stretch"),
    "tear_kn_per_m": quantity("Tear strength", "tear"),
    "kit_g": positive_quantity("Kit, A and B together", "mass"),
    "kit_price": quantity("Price of a kit", "money"),
}

ADDITIVE_TERMS: Mapping[str, Term] = {
    "name": Term(label="Name", kind="text"),
    "kind": Term(label="It is", kind="choice", choices=ADDITIVES, default="thinner"),
    "colour": Term(label="Colour", kind="text", longest=40),
    "family": Term(label="Goes with", kind="choice", choices=GOES_WITH, default="any"),
    "sg": quantity("SG", "density"),
    "viscosity_mpa_s": positive_quantity("Viscosity", "viscosity", "Of a thinner: tells how thin it makes the mix."),
    "most_parts": positive_quantity("At most, parts per 100", "number"),
    "pack_g": positive_quantity("Pack holds", "mass"),
    "pack_price": quantity("Price of a pack", "money"),
}

COUPON_TERMS: Mapping[str, Term] = {
    "parts": quantity("Parts of thinner per 100", "number", "Of A + B together.", default=0.0),
    "scale": Term(label="Gauge", kind="choice", choices=SCALES, default="A"),
    "readings": Term(label="Readings", kind="text", help="Five, such as 24 25 23.5 24.5 26."),
    "thickness_mm": positive_quantity("Puck thick", "length", default=8.0),
    "edge_mm": quantity("Nearest to the edge", "length", default=12.0),
    "apart_mm": quantity("Nearest to each other", "length", default=6.0),
}
