"""The kinds of things on the Shelf, as pages show them.

Each has its table, its inputs, the layout of its form, and the columns of its list.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any, Literal

from ufrin.actions import ADDITIONS, CONTAINERS, CUPS, PRODUCTS, RESINS, RUBBERS, SCALES, THERMOMETERS, ShelfTable
from ufrin.actions import ADDITIVES as ADDITIVE_TABLE
from ufrin.core.casting.additions import ADDITION_KINDS
from ufrin.core.casting.resins import RESIN_KINDS
from ufrin.core.casting.shelf_terms import ADDITION_TERMS, RESIN_TERMS
from ufrin.core.inputs.term import Term
from ufrin.core.materials.kinds import SURFACES
from ufrin.core.pairing.releases import PRODUCT_FINISHES, PRODUCT_KINDS, PUT_ON_BY
from ufrin.core.pairing.terms import PRODUCT_TERMS
from ufrin.core.rubber.additives import ADDITIVES, GOES_WITH
from ufrin.core.rubber.terms import ADDITIVE_TERMS, RUBBER_TIN_TERMS
from ufrin.core.rubber.tins import FAMILIES, Rubber
from ufrin.core.shelf.containers import CONTAINER_SHAPES, Container
from ufrin.core.shelf.cups import Cup
from ufrin.core.shelf.terms import CONTAINER_TERMS, CUP_TERMS, SCALE_TERMS, THERMOMETER_TERMS
from ufrin.language import Text
from ufrin.web.frame.wording_in_units import UnitFormatter

KindName = Literal[
    "rubbers", "additives", "resins", "additions", "products", "cups", "containers", "scales", "thermometers"
]
NOTHING = "–"


@dataclass(frozen=True, slots=True, kw_only=True)
class Column:
    """A column of a list: its head, its text for a thing, and whether it is a figure."""

    head: str
    text: Callable[[Any, UnitFormatter], str]
    is_figure: bool = True


class Blank:
    """A thing that nobody has described yet: every field is empty."""

    def __init__(self, terms: Mapping[str, Term]) -> None:
        self._terms = terms

    def __getattr__(self, name: str) -> object:
        return "" if self._terms[name].kind in {"text", "date"} and self._terms[name].default is None else None


@dataclass(frozen=True, slots=True, kw_only=True)
class Kind:
    """A kind of thing on the Shelf."""

    title: str
    one: str
    table: ShelfTable[Any]
    terms: Mapping[str, Term]
    empty: str
    groups: tuple[tuple[str, tuple[str, ...]], ...]
    columns: tuple[Column, ...]
    has_lots: bool = False
    has_parts: bool = False
    has_sheet: bool = False

    def blank(self) -> object:
        """Return a thing that nobody has described yet."""
        return Blank(self.terms)


def _known(name: str, kind: str, decimals: int | None = None) -> Callable[[Any, UnitFormatter], str]:
    def text(thing: object, say: UnitFormatter) -> str:
        value = getattr(thing, name)
        return NOTHING if value is None else say.money(value) if kind == "money" else say.plain(value, kind, decimals)

    return text


def _pair(first: str, second: str) -> Callable[[Any, UnitFormatter], str]:
    def text(thing: object, say: UnitFormatter) -> str:
        a, b = getattr(thing, first), getattr(thing, second)
        return NOTHING if a is None else f"{a:g} : {b:g}"

    return text


def _family(thing: Rubber, say: UnitFormatter) -> str:
    family = FAMILIES[thing.family]
    return Text("{family}, putty", family=family) if thing.form == "putty" else family


def _part(name: str, colour: str) -> Callable[[Any, UnitFormatter], str]:
    return lambda thing, say: getattr(thing, name) + (f", {getattr(thing, colour)}" if getattr(thing, colour) else "")


def _inside(thing: Container, say: UnitFormatter) -> str:
    if thing.shape == "rectangle":
        return f"{say.plain(thing.length_mm or 0, 'length')} × {say.plain(thing.width_mm or 0, 'length')}"
    return f"Ø {say.plain(thing.bottom_mm or 0, 'length')}" + (
        f" to {say.plain(thing.top_mm or 0, 'length')}" if thing.shape == "tapered" else ""
    )


def _across(thing: Cup, say: UnitFormatter) -> str:
    return f"Ø {say.plain(thing.bottom_mm or 0, 'length')}" + (
        f" to {say.plain(thing.top_mm or 0, 'length')}" if thing.top_mm else ""
    )


KINDS: Mapping[KindName, Kind] = {
    "rubbers": Kind(
        title=Text("Rubbers and putties"),
        one=Text("rubber"),
        table=RUBBERS,
        terms=RUBBER_TIN_TERMS,
        has_lots=True,
        has_parts=True,
        has_sheet=True,
        empty=Text(
            "Put a rubber on it from what its tin and data sheet say. Ratio and specific gravity are enough to begin."
        ),
        groups=(
            (Text("What it is"), ("name", "family", "form", "hardness_scale", "hardness")),
            (Text("The parts"), ("a_name", "a_colour", "b_name", "b_colour")),
            (
                Text("Ratio and specific gravity (SG)"),
                (
                    "weight_a",
                    "weight_b",
                    "tolerance_pct",
                    "volume_a",
                    "volume_b",
                    "sg_mixed",
                    "sg_a",
                    "sg_b",
                    "thinner_of",
                ),
            ),
            (
                Text("In the cup and after"),
                (
                    "viscosity_mpa_s",
                    "mix_least_min",
                    "mix_most_min",
                    "pot_life_min",
                    "press_min",
                    "demould_min",
                    "cast_in_min",
                    "full_cure_min",
                    "post_cure_c",
                    "post_cure_min",
                    "elongation_pct",
                    "tear_kn_per_m",
                ),
            ),
            (Text("The kit"), ("kit_g", "kit_price")),
        ),
        columns=(
            Column(head="", text=_family, is_figure=False),
            Column(head=Text("Part A"), text=_part("a_name", "a_colour"), is_figure=False),
            Column(head=Text("Part B"), text=_part("b_name", "b_colour"), is_figure=False),
            Column(head=Text("A : B by weight"), text=_pair("weight_a", "weight_b")),
            Column(head=Text("by volume"), text=_pair("volume_a", "volume_b")),
            Column(
                head=Text("Hardness"),
                text=lambda thing, say: (
                    NOTHING if thing.hardness is None else f"{thing.hardness_scale} {thing.hardness:g}"
                ),
            ),
            Column(head=Text("Pot life"), text=_known("pot_life_min", "time")),
            Column(head=Text("Demould"), text=_known("demould_min", "time")),
        ),
    ),
    "additives": Kind(
        title=Text("Thinners, thickeners, pigments"),
        one=Text("additive"),
        table=ADDITIVE_TABLE,
        terms=ADDITIVE_TERMS,
        has_lots=True,
        has_sheet=True,
        empty=Text(
            "Put thinner, thickener and pigment on it: jobs then weigh them in, and take them from their bottles."
        ),
        groups=(
            (Text("What it is"), ("name", "kind", "colour", "family")),
            (Text("What its label says"), ("sg", "viscosity_mpa_s", "most_parts")),
            (Text("The pack"), ("pack_g", "pack_price")),
        ),
        columns=(
            Column(head="", text=lambda thing, say: ADDITIVES[thing.kind], is_figure=False),
            Column(head=Text("Colour"), text=lambda thing, say: thing.colour or NOTHING, is_figure=False),
            Column(head=Text("Goes with"), text=lambda thing, say: GOES_WITH[thing.family], is_figure=False),
            Column(head="SG", text=_known("sg", "density")),
            Column(head=Text("Viscosity"), text=_known("viscosity_mpa_s", "viscosity")),
            Column(head=Text("Pack"), text=_known("pack_g", "mass", 0)),
        ),
    ),
    "resins": Kind(
        title=Text("Casting materials"),
        one=Text("casting material"),
        table=RESINS,
        terms=RESIN_TERMS,
        has_lots=True,
        has_parts=True,
        empty=Text(
            "Put what you cast on it, from what its tin says: resin, foam, plaster, wax. A ratio "
            "and a specific gravity are enough to begin."
        ),
        groups=(
            (Text("What it is"), ("name", "kind")),
            (Text("The parts"), ("a_name", "a_colour", "b_name", "b_colour")),
            (
                Text("Ratio and specific gravity (SG)"),
                (
                    "weight_a",
                    "weight_b",
                    "tolerance_pct",
                    "volume_a",
                    "volume_b",
                    "drops_per_100_g",
                    "sg_a",
                    "sg_b",
                    "sg_mixed",
                    "rises",
                ),
            ),
            (
                Text("In the cup and after"),
                (
                    "viscosity_mpa_s",
                    "pot_life_min",
                    "handling_min",
                    "demould_min",
                    "full_cure_min",
                    "shrinkage_pct",
                    "most_g",
                    "most_mm",
                    "colour_most_pct",
                ),
            ),
            (Text("The kit"), ("kit_g", "kit_price")),
        ),
        columns=(
            Column(head="", text=lambda thing, say: RESIN_KINDS[thing.kind], is_figure=False),
            Column(head=Text("A : B by weight"), text=_pair("weight_a", "weight_b")),
            Column(head=Text("by volume"), text=_pair("volume_a", "volume_b")),
            Column(head=Text("Pot life"), text=_known("pot_life_min", "time")),
            Column(head=Text("Demould"), text=_known("demould_min", "time")),
            Column(head=Text("At most at once"), text=_known("most_g", "mass", 0)),
        ),
    ),
    "additions": Kind(
        title=Text("Fillers and colours of casts"),
        one=Text("filler or colour"),
        table=ADDITIONS,
        terms=ADDITION_TERMS,
        has_lots=True,
        empty=Text(
            "Put powders and colours for casts on it: a scoop then counts for what it really "
            "takes up, and what clumps in resin is noticed before it is stirred in."
        ),
        groups=(
            (Text("What it is"), ("name", "kind", "colour")),
            (Text("A powder"), ("bulk_sg", "true_sg", "most_volumes", "dry_min", "dry_c")),
            (Text("The pack"), ("pack_g", "pack_price")),
        ),
        columns=(
            Column(head="", text=lambda thing, say: ADDITION_KINDS[thing.kind], is_figure=False),
            Column(head=Text("Colour"), text=lambda thing, say: thing.colour or NOTHING, is_figure=False),
            Column(head=Text("Bulk"), text=_known("bulk_sg", "density")),
            Column(head=Text("Grains"), text=_known("true_sg", "density")),
            Column(head=Text("Dry for"), text=_known("dry_min", "time")),
            Column(head=Text("Pack"), text=_known("pack_g", "mass", 0)),
        ),
    ),
    "products": Kind(
        title=Text("Releases and sealers"),
        one=Text("release or sealer"),
        table=PRODUCTS,
        terms=PRODUCT_TERMS,
        has_sheet=True,
        empty=Text("Put releases and sealers on it under their kind: the checks then name the ones that you have."),
        groups=(
            (Text("What it is"), ("name", "kind", "by", "finish")),
            (Text("What its tin says"), ("sets_min", "shots", "pack_price")),
        ),
        columns=(
            Column(head=Text("Kind"), text=lambda thing, say: PRODUCT_KINDS[thing.kind], is_figure=False),
            Column(head=Text("Put on"), text=lambda thing, say: PUT_ON_BY[thing.by], is_figure=False),
            Column(
                head=Text("Leaves the cast"), text=lambda thing, say: PRODUCT_FINISHES[thing.finish], is_figure=False
            ),
            Column(head=Text("Ready in"), text=_known("sets_min", "time")),
            Column(head=Text("Casts"), text=_known("shots", "number", 0)),
        ),
    ),
    "cups": Kind(
        title=Text("Cups to mix in"),
        one=Text("cup"),
        table=CUPS,
        terms=CUP_TERMS,
        empty=Text(
            "Measure the inside of the cups you mix in: batches are then cut to fit, and a strip "
            "shows how high each part stands."
        ),
        groups=((Text("What it is"), ("name", "mark_ml")), (Text("Its inside"), ("bottom_mm", "top_mm", "height_mm"))),
        columns=(
            Column(head=Text("Inside"), text=_across),
            Column(head=Text("Height"), text=_known("height_mm", "length")),
            Column(head=Text("Holds"), text=_known("holds_ml", "volume")),
            Column(head=Text("Marked every"), text=_known("mark_ml", "volume")),
        ),
    ),
    "containers": Kind(
        title=Text("Containers to mould in"),
        one=Text("container"),
        table=CONTAINERS,
        terms=CONTAINER_TERMS,
        empty=Text(
            "Measure the inside of pots, tubs and boxes that lie about: they are then compared "
            "with built boxes for every master."
        ),
        groups=(
            (Text("What it is"), ("name", "shape", "material")),
            (Text("Its inside"), ("length_mm", "width_mm", "height_mm", "bottom_mm", "top_mm")),
        ),
        columns=(
            Column(head=Text("Shape"), text=lambda thing, say: CONTAINER_SHAPES[thing.shape], is_figure=False),
            Column(head=Text("Of"), text=lambda thing, say: SURFACES[thing.material], is_figure=False),
            Column(head=Text("Inside"), text=_inside),
            Column(head=Text("Height"), text=_known("height_mm", "length")),
            Column(head=Text("Holds"), text=_known("holds_ml", "volume")),
        ),
    ),
    "scales": Kind(
        title=Text("Scales"),
        one=Text("scale"),
        table=SCALES,
        terms=SCALE_TERMS,
        empty=Text("Connect a scale and the bench reads it by itself. Without one, weights are typed."),
        groups=((Text("What it is"), ("name", "step_g", "most_g")), (Text("Where it is"), ("address", "baud"))),
        columns=(
            Column(head=Text("Where"), text=lambda thing, say: thing.address, is_figure=False),
            Column(head=Text("Steps"), text=_known("step_g", "mass", 2)),
            Column(head=Text("At most"), text=_known("most_g", "mass", 0)),
        ),
    ),
    "thermometers": Kind(
        title=Text("Thermometers"),
        one=Text("thermometer"),
        table=THERMOMETERS,
        terms=THERMOMETER_TERMS,
        empty=Text(
            "Connect a thermometer where the moulds cure, and their clocks follow the room by "
            "themselves. Without one, its temperature is typed at the bench."
        ),
        groups=((Text("What it is"), ("name",)), (Text("Where it is"), ("address", "baud"))),
        columns=(Column(head=Text("Where"), text=lambda thing, say: thing.address, is_figure=False),),
    ),
}
