"""The terms of a rubber, an additive and a test coupon, as the forms of the Shelf ask for them."""

from collections.abc import Mapping

from ufrin.core.inputs.term import Term, positive_quantity, quantity
from ufrin.core.rubber.additives import ADDITIVES, GOES_WITH
from ufrin.core.rubber.shore import SCALES
from ufrin.core.rubber.tins import FAMILIES, FORMS, THINNED
from ufrin.language import Text

RUBBER_TIN_TERMS: Mapping[str, Term] = {
    "name": Term(label=Text("Name"), kind="text"),
    "family": Term(label=Text("Family"), kind="choice", choices=FAMILIES, default="addition-silicone"),
    "form": Term(label=Text("It is"), kind="choice", choices=FORMS, default="liquid"),
    "a_name": Term(label=Text("Part A is called"), kind="text", default=Text("Part A")),
    "a_colour": Term(label=Text("Colour of A"), kind="text", longest=40),
    "b_name": Term(label=Text("Part B is called"), kind="text", default=Text("Part B")),
    "b_colour": Term(label=Text("Colour of B"), kind="text", longest=40),
    "weight_a": positive_quantity(Text("By weight, A"), "number"),
    "weight_b": positive_quantity(Text("By weight, B"), "number"),
    "volume_a": positive_quantity(Text("By volume, A"), "number"),
    "volume_b": positive_quantity(Text("By volume, B"), "number"),
    "sg_a": quantity(Text("SG of A"), "density"),
    "sg_b": quantity(Text("SG of B"), "density"),
    "sg_mixed": quantity(Text("SG of the mix"), "density"),
    "tolerance_pct": positive_quantity(Text("Ratio may be off by"), "percent", default=2.0),
    "viscosity_mpa_s": quantity(Text("Viscosity, mixed"), "viscosity"),
    "pot_life_min": positive_quantity(Text("Pot life"), "time"),
    "demould_min": positive_quantity(Text("Demould after"), "time"),
    "full_cure_min": positive_quantity(Text("Full cure after"), "time"),
    "mix_least_min": positive_quantity(Text("Mix or knead for at least"), "time"),
    "mix_most_min": positive_quantity(Text("Mix or knead for at most"), "time"),
    "press_min": positive_quantity(
        Text("Press on within"), "time", Text("Of a putty: from the first contact of A and B.")
    ),
    "cast_in_min": positive_quantity(Text("May be cast in after"), "time"),
    "post_cure_c": quantity(
        Text("Post-cure at"), "temperature", Text("Only where the tin asks for it before the first cast.")
    ),
    "post_cure_min": positive_quantity(Text("Post-cure for"), "time"),
    "hardness_scale": Term(label=Text("Hardness scale"), kind="choice", choices=SCALES, default="A"),
    "hardness": quantity(Text("Hardness"), "number"),
    "thinner_of": Term(label=Text("Thinner is counted to 100"), kind="choice", choices=THINNED, default="A+B"),
    "elongation_pct": quantity(Text("Elongation at break"), "stretch"),
    "tear_kn_per_m": quantity(Text("Tear strength"), "tear"),
    "kit_g": positive_quantity(Text("Kit, A and B together"), "mass"),
    "kit_price": quantity(Text("Price of a kit"), "money"),
}

ADDITIVE_TERMS: Mapping[str, Term] = {
    "name": Term(label=Text("Name"), kind="text"),
    "kind": Term(label=Text("It is"), kind="choice", choices=ADDITIVES, default="thinner"),
    "colour": Term(label=Text("Colour"), kind="text", longest=40),
    "family": Term(label=Text("Goes with"), kind="choice", choices=GOES_WITH, default="any"),
    "sg": quantity("SG", "density"),
    "viscosity_mpa_s": positive_quantity(
        Text("Viscosity"), "viscosity", Text("Of a thinner: tells how thin it makes the mix.")
    ),
    "most_parts": positive_quantity(Text("At most, parts per 100"), "number"),
    "pack_g": positive_quantity(Text("Pack holds"), "mass"),
    "pack_price": quantity(Text("Price of a pack"), "money"),
}

COUPON_TERMS: Mapping[str, Term] = {
    "parts": quantity(Text("Parts of thinner per 100"), "number", Text("Of A + B together."), default=0.0),
    "scale": Term(label=Text("Gauge"), kind="choice", choices=SCALES, default="A"),
    "readings": Term(label=Text("Readings"), kind="text", help=Text("Five, such as 24 25 23.5 24.5 26.")),
    "thickness_mm": positive_quantity(Text("Puck thick"), "length", default=8.0),
    "edge_mm": quantity(Text("Nearest to the edge"), "length", default=12.0),
    "apart_mm": quantity(Text("Nearest to each other"), "length", default=6.0),
}
