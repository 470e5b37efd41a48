"""The kinds of casts, in a maker's words."""

from collections.abc import Mapping

from ufrin.language import Text

CAST_KINDS: Mapping[str, str] = {
    "solid": Text("Solid"),
    "filled": Text("Solid, with filler"),
    "cold-cast": Text("Cold cast with metal powder"),
    "shell": Text("Hollow shell in coats"),
    "foam-back": Text("Shell with foam behind it"),
    "rotated": Text("Hollow, rotated by hand"),
    "layers": Text("In layers, with things set in"),
    "squeeze": Text("Pressed between two halves"),
    "marbled": Text("Marbled"),
    "colours": Text("Several colours side by side"),
}
SHELLS = frozenset({"shell", "foam-back", "rotated"})
WITH_POWDER = frozenset({"filled", "cold-cast"})
IN_SHARES = frozenset({"marbled", "colours"})
EXPLAINED: Mapping[str, str] = {
    "solid": Text("One pour fills the cavity."),
    "filled": Text("Powder takes up room that resin would: cheaper, heavier or lighter, and cooler."),
    "cold-cast": Text("Equal volumes of A, B and powder; rubbed with steel wool afterwards, the metal shows."),
    "shell": Text("Brushed or rolled on, each coat before the last no longer bonds to it."),
    "foam-back": Text("A thin shell carries the detail, foam behind it makes it light and stiff."),
    "rotated": Text("The closed mould is turned by hand until the resin gels on its walls; it is weighed as it fills."),
    "layers": Text("Poured from the bottom up; a thing is laid on one layer and covered by the next."),
    "squeeze": Text("A little too much is put in, and the halves are pressed together until it comes out all round."),
    "marbled": Text("A part is taken off and coloured, and goes back in without much stirring."),
    "colours": Text("Each colour is mixed in a cup of its own."),
}
