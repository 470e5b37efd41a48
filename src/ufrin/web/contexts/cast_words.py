"""The wording of a cast at the bench: what is said of each part as it is weighed, and how the cup at work is poured."""

from collections.abc import Mapping

from ufrin.core.casting.cast_cups import FACE_CUP, FOAM_CUP
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.weigh_plan import Ingredient, leading_role
from ufrin.web.frame.wording_in_units import UnitFormatter

Words = tuple[str, str, str]
KEEP = "Keep a little in the cup: it tells when it has set."
_INTO_THE_MOULD: Words = (
    "Cast it",
    f"Into the gate or the lowest corner, in a thin stream, until every cavity is full. {KEEP}",
    "It is in the mould",
)
_COAT: Words = (
    "Brush it on",
    f"Into every corner first, then evenly over the whole surface, rim included. {KEEP}",
    "It is on",
)
# by the name of the cup where that has its own way, or by the kind of cast
_BY_CUP: Mapping[str, Words] = {
    FOAM_CUP: (
        "Pour the foam in",
        "Behind the shell, all at once, and close the lid with its small holes before it rises.",
        "The lid is on",
    ),
    FACE_CUP: _COAT,
}
_BY_KIND: Mapping[str, Words] = {
    "shell": _COAT,
    "foam-back": _COAT,
    "rotated": ("Pour it in", f"Through the gate, then close it. {KEEP}", "It is in the mould"),
    "squeeze": (
        "Put it in and press",
        f"Into both halves, more than they hold; then press them together until it comes out all round. {KEEP}",
        "It is pressed",
    ),
    "layers": (
        "Pour the layer",
        f"Slowly, on to the lowest place, until it is as high as the drawing shows; let it level itself. {KEEP}",
        "The layer is in",
    ),
    "marbled": (
        "Pour it in",
        f"The plain part first, then the coloured one in a thin ribbon, drawn through once and no more. {KEEP}",
        "It is in the mould",
    ),
    "colours": (
        "Pour this colour",
        f"Where it belongs, beside the others, while they are still liquid or once they no longer run. {KEEP}",
        "It is in the mould",
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
        return f"In drops: {state.target_drops}, counted with the dropper held upright."
    if one.role == leading_role(state.batch):
        return "A little over or under does no harm: all that follows goes by what is really in the cup."
    if one.role == "A" and state.plan.method and state.plan.method.sifts:
        water = next(other.name for other in state.batch if other.role == "B").lower()
        return f"Sprinkle it into the {say.plain(state.b_g, 'mass')} of {water}, never the water on to the powder."
    if one.role in {"A", "B"}:
        first, first_g = ("B", state.b_g) if one.role == "A" else ("A", state.a_g)
        return f"For the {say.plain(first_g, 'mass')} of {first} in the cup. Slowly at the end: the clock runs."
    if one.role == "filler":
        return "Sprinkle it into the liquid and stir until no dry lump is left; never the liquid on to the powder."
    return "Stir it in until it is even. Colour always goes into the same part."
