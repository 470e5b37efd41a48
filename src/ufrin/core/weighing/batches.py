"""Batches: what is weighed into each cup, in the order in which it is weighed."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.coats import Coat
from ufrin.core.weighing.mix import Mix
from ufrin.core.weighing.weigh_plan import Ingredient, Role, in_order
from ufrin.language import Text


@dataclass(frozen=True, slots=True, kw_only=True)
class Recipe:
    """What goes into a mix.

    Parameters
    ----------
    rubber, blend : Rubber, Rubber or None
        The rubber, and the one it is blended with.
    blend_share : float
        Of the second rubber, as a fraction of A + B.
    thinner, thickener, pigment : Additive or None
        That are added.
    thickener_parts : float
        Per 100 of A + B, for coats that are thickened.
    shelf : mapping of ingredient key to text
        Where the lots of each stand, such as "rubber:7".
    """

    rubber: Rubber
    blend: Rubber | None = None
    blend_share: float = 0.0
    thinner: Additive | None = None
    thickener: Additive | None = None
    pigment: Additive | None = None
    thickener_parts: float = 0.0
    shelf: Mapping[str, str]


def batches_of(
    mixed: Mix, recipe: Recipe, coats: Sequence[Coat] = (), *, cling_g: float = 0.0
) -> tuple[tuple[Ingredient, ...], ...]:
    """Share a mix out into batches.

    Parameters
    ----------
    mixed : Mix
        In all.
    recipe : Recipe
        What it is made of.
    coats : sequence of Coat, optional
        Of a skin: each coat is a batch of its own.
    cling_g : float, optional
        What of the mix stays on the cup of each coat.

    Returns
    -------
    tuple of tuple of Ingredient
        Equal ones, unless coats differ.
    """
    if not coats:
        number = len(mixed.batches)
        return (_batch(mixed, recipe, 1 / number, 0.0),) * number
    whole_ml = sum(coat.volume_ml for coat in coats)
    parts = recipe.thickener_parts if recipe.thickener else 0.0
    goes_on_g = mixed.total_g - cling_g * len(coats)
    return tuple(
        _batch(
            mixed,
            recipe,
            (goes_on_g * coat.volume_ml / whole_ml + cling_g) / mixed.total_g,
            parts if coat.is_thickened else 0.0,
        )
        for coat in coats
    )


def _batch(mixed: Mix, recipe: Recipe, share: float, thickener_parts: float) -> tuple[Ingredient, ...]:
    a_g, b_g = (mixed.parts[key].g * share for key in "AB")
    second = recipe.blend_share if recipe.blend else 0.0
    parts = _parts_of(recipe.rubber, "", a_g * (1 - second), b_g * (1 - second), recipe.shelf)
    if recipe.blend:
        parts += _parts_of(recipe.blend, "2", a_g * second, b_g * second, recipe.shelf)
    additives: tuple[tuple[Role, Additive | None, float], ...] = (
        ("thinner", recipe.thinner, mixed.thinner_g * share),
        ("thickener", recipe.thickener, thickener_parts / 100 * (a_g + b_g)),
        ("pigment", recipe.pigment, mixed.pigment_g * share),
    )
    return in_order([*parts, *(_additive(role, one, g, recipe.shelf) for role, one, g in additives)])


def _parts_of(rubber: Rubber, number: str, a_g: float, b_g: float, shelf: Mapping[str, str]) -> list[Ingredient]:
    a, b = f"A{number}", f"B{number}"
    return [
        Ingredient(
            key=a, role="A", name=rubber.a_name, colour=rubber.a_colour, g=a_g, sg=rubber.sg_a, shelf=shelf.get(a, "")
        ),
        Ingredient(
            key=b, role="B", name=rubber.b_name, colour=rubber.b_colour, g=b_g, sg=rubber.sg_b, shelf=shelf.get(b, "")
        ),
    ]


def _additive(role: Role, additive: Additive | None, grams: float, shelf: Mapping[str, str]) -> Ingredient:
    # a pigment need not be on the Shelf
    name = additive.name if additive else Text("Pigment")
    colour, sg = (additive.colour, additive.sg_or_usual) if additive else ("", None)
    return Ingredient(key=role, role=role, name=name, colour=colour, g=grams, sg=sg, shelf=shelf.get(role, ""))
