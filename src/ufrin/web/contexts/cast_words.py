"""The wording of a cast at the bench: what is said of each part as it is weighed, and how the cup at work is poured."""

from collections.abc import Mapping

from ufrin.core.casting.cast_cups import FACE_CUP, FOAM_CUP
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.weigh_plan import Ingredient, leading_role
from ufrin.language import Text
from ufrin.web.frame.wording_in_units import UnitFormatter

Words = tuple[str, str, str]
KEEP = Text("Keep a little in the cup: it tells when it has set.")
_INTO_THE_MOULD: Words = (
    Text("Cast it"),
    Text("Into the gate or the lowest corner, in a thin stream, until every cavity is full. {keep}", keep=KEEP),
    Text("It is in the mould"),
)
_COAT: Words = (
    Text("Brush it on"),
    Text("Into every corner first, then evenly over the whole surface, rim included. {keep}", keep=KEEP),
    Text("It is on"),
)
# by the name of the cup where that has its own way, or by the kind of cast
_BY_CUP: Mapping[str, Words] = {
    FOAM_CUP: (
        Text("Pour the foam in"),
        Text("Behind the shell, all at once, and close the lid with its small holes before it rises."),
        Text("The lid is on"),
    ),
    FACE_CUP: _COAT,
}
_BY_KIND: Mapping[str, Words] = {
    "shell": _COAT,
    "foam-back": _COAT,
    "rotated": (
        Text("Pour it in"),
        Text("Through the gate, then close it. {keep}", keep=KEEP),
        Text("It is in the mould"),
    ),
    "squeeze": (
        Text("Put it in and press"),
        Text(
            "Into both halves, more than they hold; then press them together until it comes out all round. {keep}",
            keep=KEEP,
        ),
        Text("It is pressed"),
    ),
    "layers": (
        Text("Pour the layer"),
        Text(
            "Slowly, on to the lowest place, until it is as high as the drawing shows; let it level itself. {keep}",
            keep=KEEP,
        ),
        Text("The layer is in"),
    ),
    "marbled": (
        Text("Pour it in"),
        Text(
            "The plain part first, then the coloured one in a thin ribbon, drawn through once and no more. {keep}",
            keep=KEEP,
        ),
        Text("It is in the mould"),
    ),
    "colours": (
        Text("Pour this colour"),
        Text(
            "Where it belongs, beside the others, while they are still liquid or once they no longer run. {keep}",
            keep=KEEP,
        ),
        Text("It is in the mould"),
    ),
}


def cast_words(state: BenchState) -> Words:
    """Return the heading, the sentence and the button of the pour of the cup at work."""
    plan, batch = state.plan, state.attempt.batch
    cup = plan.cup_names[batch] if batch < len(plan.cup_names) else ""
    return _BY_CUP.get(cup) or _BY_KIND.get(plan.cast_kind, _INTO_THE_MOULD)


def is_solid(state: BenchState, one: Ingredient) -> bool:
    """Return whether a thing is put into the cup rather than poured."""
    method = state.plan.method
    if one.role in {"filler", "colour", "pigment"} or method is None:
        return one.role in {"filler", "colour", "pigment"}
    return method.melts or (method.sifts and one.role == "A")


def cast_sentence(state: BenchState, one: Ingredient, say: UnitFormatter) -> str:
    """Return what is said of a part of a cast: one goes first, and the other follows what is really in the cup."""
    if state.target_drops is not None:
        return Text("In drops: {target_drops}, counted with the dropper held upright.", target_drops=state.target_drops)
    if one.role == leading_role(state.batch):
        return Text("A little over or under does no harm: all that follows goes by what is really in the cup.")
    if one.role == "A" and state.plan.method and state.plan.method.sifts:
        water = next(other.name for other in state.batch if other.role == "B").lower()
        return Text(
            "Sprinkle it into the {b_g} of {water}, never the water on to the powder.",
            b_g=say.plain(state.b_g, "mass"),
            water=water,
        )
    if one.role in {"A", "B"}:
        first, first_g = ("B", state.b_g) if one.role == "A" else ("A", state.a_g)
        return Text(
            "For the {first_g} of {first} in the cup. Slowly at the end: the clock runs.",
            first_g=say.plain(first_g, "mass"),
            first=first,
        )
    if one.role == "filler":
        return Text(
            "Sprinkle it into the liquid and stir until no dry lump is left; never the liquid on to the powder."
        )
    return Text("Stir it in until it is even. Colour always goes into the same part.")
