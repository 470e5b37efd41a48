"""The kinds of casts, in a maker's words."""

from collections.abc import Mapping

CAST_KINDS: Mapping[str, str] = {
    "solid": "Solid",
    "filled": "Solid, with filler",
    "cold-cast": "Cold cast with metal powder",
    "shell": "Hollow shell in coats",
    "foam-back": "Shell with foam behind it",
    "rotated": "Hollow, rotated by hand",
    "layers": "In layers, with things set in",
    "squeeze": "Pressed between two halves",
    "marbled": "Marbled",
    "colours": "Several colours side by side",
}
SHELLS = frozenset({"shell", "foam-back", "rotated"})
WITH_POWDER = frozenset({"filled", "cold-cast"})
IN_SHARES = frozenset({"marbled", "colours"})
EXPLAINED: Mapping[str, str] = {
    "solid": "One pour fills the cavity.",
    "filled": "Powder takes up room that resin would: cheaper, heavier or lighter, and cooler.",
    "cold-cast": "Equal volumes of A, B and powder; rubbed with steel wool afterwards, the metal shows.",
    "shell": "Brushed or rolled on, each coat before the last no longer bonds to it.",
    "foam-back": "A thin shell carries the detail, foam behind it makes it light and stiff.",
    "rotated": "The closed mould is turned by hand until the resin gels on its walls; it is weighed as it fills.",
    "layers": "Poured from the bottom up; a thing is laid on one layer and covered by the next.",
    "squeeze": "A little too much is put in, and the halves are pressed together until it comes out all round.",
    "marbled": "A part is taken off and coloured, and goes back in without much stirring.",
    "colours": "Each colour is mixed in a cup of its own.",
}
