"""Pours: the Rubber station worked out: what is weighed, batch by batch, and what follows from it for hardness, cups, times and cost."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any

from ufrin.core.box.box_volumes import Box
from ufrin.core.inputs.stations import RubberInputs
from ufrin.core.job.shelf_picks import ShelfPicks, curve_of, left_on_shelf_g, sg_of
from ufrin.core.job.terms import RUBBER, settled
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.blends import check_blend
from ufrin.core.rubber.pot_life import check_room, time_at
from ufrin.core.rubber.thinner_curve import MOST_PARTS, Thinned
from ufrin.core.rubber.thinner_side_effects import demould_factor
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.cups import Mark, marks
from ufrin.core.shelf.scales import worst_ratio_error_pct
from ufrin.core.weighing.allowance import Allowance, learn
from ufrin.core.weighing.coats import Coat, coats
from ufrin.core.weighing.drops import Drops, drops
from ufrin.core.weighing.kit_costs import KitUse, kit_use
from ufrin.core.weighing.mix import Mix, MixPlan, Thinner, mix, mixed_sg
from ufrin.core.weighing.putty import Lumps, Pad, lumps
from ufrin.core.weighing.weigh_plan import Ingredient, Role, WeighPlan, in_order
from ufrin.core.weighing.whole_kit import WholeKit, whole_kit
from ufrin.errors import Refused

PAD_UNDER_MM = 10.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Pour:
    """The Rubber station worked out.

    Parameters
    ----------
    rubber : Rubber
        Chosen.
    how : "poured", "brushed" or "putty"
        How it gets to the master.
    mix : Mix
        In all; its equal batches, unless coats differ.
    batches : tuple of tuple of Ingredient
        As they are weighed.
    need_ml, need_g : float
        Of box, pad or skin, before spare and loss on cups.
    kits : KitUse or None
        Cost and kits.
    too_much_g, short_g : float
        What would be mixed for nothing with the displacement forgotten, and missing with spare and loss forgotten.
    marks_error_pct : float or None
        The worst ratio error of measuring by the cups' marks.
    allowance : Allowance
        Learnt from past pours.
    pot_life_min, demould_min : float or None
        At the room's temperature; thinner counted in the second.
    batch_min : float
        What a batch needs from the first contact of A and B until it is poured.
    thinned : Thinned or None
        The hardness that it comes to, where the tin says one.
    cup_marks : tuple of Mark
        Levels of A, then of A and B in the cup.
    b_drops : Drops or None
        Part B of a batch in drops.
    cup_ml : float or None
        What the cup holds, where one is named.
    lumps, coats, whole_kit : Lumps or None, tuple of Coat, WholeKit or None
        Of a putty, of a skin, of a kit that is used up.
    halves_ml, half : (float, float) or None, str
        Rubber of both halves of a mould in two parts, and which of them this pour is.
    """

    rubber: Rubber
    how: str
    mix: Mix
    batches: tuple[tuple[Ingredient, ...], ...]
    need_ml: float
    need_g: float
    kits: KitUse | None
    too_much_g: float
    short_g: float
    marks_error_pct: float | None
    allowance: Allowance
    pot_life_min: float | None
    demould_min: float | None
    batch_min: float
    thinned: Thinned | None
    cup_marks: tuple[Mark, ...] = ()
    b_drops: Drops | None = None
    cup_ml: float | None = None
    lumps: Lumps | None = None
    coats: tuple[Coat, ...] = ()
    whole_kit: WholeKit | None = None
    halves_ml: tuple[float, float] | None = None
    half: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class PourTarget:
    """What a pour goes round: the box, the master by its size, surface and volume where they are known, and the rubber of two halves."""

    box: Box | None = None
    size_mm: tuple[float, float, float] | None = None
    area_cm2: float | None = None
    displaced_ml: float | None = None
    halves_ml: tuple[float, float] | None = None


def pour(around: PourTarget, inputs: RubberInputs, shelf: ShelfPicks) -> Pour | None:
    """Work out a pour.

    Parameters
    ----------
    around : PourTarget
        What it fills.
    inputs : RubberInputs
        As filled in.
    shelf : ShelfPicks
        What they point to.

    Returns
    -------
    Pour or None
        None while there is no rubber, or nothing to pour it round.

    Raises
    ------
    Refused
        When figures contradict each other, beside the field that can mend it.
    """
    rubber = shelf.rubber
    if rubber is None:
        return None
    said = settled(inputs, RUBBER)
    how = said["how"] or ("putty" if rubber.form == "putty" else "poured")
    allowance = learn(shelf.past_over_pct, shelf.confidence_pct)
    if inputs.spare_pct is None:
        said["spare_pct"] = allowance.spare_pct
    check_room(said["room_temp_c"])
    planned = _coats(around, said) if how == "brushed" else ()
    need_ml = _need_ml(around, said, how, planned)
    if need_ml is None:
        return None
    plan = _mix_plan(shelf, said, need_ml, len(planned))
    mixed = mix(plan)
    sg = mixed.sg_mixed or 1.0
    kit = None
    if said["amount"] == "kit":
        kit = whole_kit(plan, (need_ml * sg) * (1 + said["spare_pct"] / 100) + said["cling_g"], shelf.waiting)
    batches = _batches(mixed, shelf, said, planned)
    rubber_g = sum(part.g for part in mixed.parts.values())
    a_ml = {name: part.ml / len(batches) for name, part in mixed.parts.items() if part.ml is not None}
    b = next(one for one in batches[0] if one.role == "B")
    dose = rubber.parts_of_both(said["thinner_parts"])
    box = around.box
    return Pour(
        rubber=rubber,
        how=how,
        mix=mixed,
        batches=batches,
        need_ml=need_ml,
        need_g=need_ml * sg,
        kits=kit_use(rubber_g=rubber_g, kit_g=rubber.kit_g, kit_price=rubber.kit_price) if rubber.kit_g else None,
        too_much_g=(box.displaced_ml - box.filler_ml) * sg * (1 + said["spare_pct"] / 100)
        if box and how == "poured" and not kit and not around.halves_ml
        else 0.0,
        short_g=mixed.total_g - need_ml * sg,
        marks_error_pct=_marks_error_pct(mixed, said) if said["basis"] == "volume" else None,
        allowance=allowance,
        pot_life_min=time_at(rubber.pot_life_min, said["room_temp_c"]) if rubber.pot_life_min else None,
        demould_min=time_at(rubber.demould_min, said["room_temp_c"]) * demould_factor(min(dose, MOST_PARTS))
        if rubber.demould_min
        else None,
        batch_min=said["mix_min"] + said["degas_min"] + said["pour_min"],
        thinned=_thinned(shelf, said, dose),
        cup_marks=marks(shelf.cup, a_ml) if shelf.cup and set(a_ml) == {"A", "B"} and rubber.by_volume else (),
        b_drops=drops(b.g, b.sg or sg, said["drops_per_ml"]) if said["drops_per_ml"] else None,
        lumps=lumps(mixed.parts["A"].g, mixed.parts["B"].g, sg, sg_a=rubber.sg_a, sg_b=rubber.sg_b)
        if how == "putty"
        else None,
        cup_ml=shelf.cup.holds_ml if shelf.cup else said["cup_ml"],
        coats=planned,
        whole_kit=kit,
        halves_ml=around.halves_ml if how == "poured" else None,
        half=said["half"] if around.halves_ml and how == "poured" else "",
    )


def _coats(around: PourTarget, said: Mapping[str, Any]) -> tuple[Coat, ...]:
    area = said["coat_area_cm2"] or around.area_cm2
    if not area:
        raise Refused(
            "coat_area_cm2", "How large is the surface that is brushed? Type it, or give the master a mesh or a size."
        )
    return coats(area_cm2=area, number=int(said["coats"]), coat_mm=said["coat_mm"])


def _need_ml(around: PourTarget, said: Mapping[str, Any], how: str, planned: Sequence[Coat]) -> float | None:
    if how == "brushed":
        return sum(coat.volume_ml for coat in planned)
    if how == "putty":
        if around.size_mm is None:
            return None
        length, width, height = around.size_mm
        beside = 2 * said["pad_mm"]
        thick = said["pad_thickness_mm"] or height + PAD_UNDER_MM
        return Pad(
            length_mm=length + beside,
            width_mm=width + beside,
            thickness_mm=thick,
            displaced_ml=around.displaced_ml or 0.0,
        ).need_ml
    if around.box is None:
        return None
    if not around.box.net_ml > 0:
        raise Refused("", "The box leaves no room for rubber. Look at its clearances first.")
    if around.halves_ml:
        half_ml = around.halves_ml[1 if said["half"] == "second" else 0]
        if not half_ml > 0:
            raise Refused(
                "half",
                "This half takes no rubber: the master lies on the board, or reaches the top. Give the box "
                "rubber under and over it.",
            )
        return half_ml
    return around.box.net_ml


def _mix_plan(shelf: ShelfPicks, said: Mapping[str, Any], need_ml: float, coat_count: int) -> MixPlan:
    rubber = shelf.rubber
    if rubber is None:
        raise Refused("rubber_id", "Choose a rubber first.")
    by_volume = said["basis"] == "volume" and rubber.by_volume and shelf.blend is None
    ratio = (rubber.volume_a or 0, rubber.volume_b or 0) if by_volume else rubber.weight_ratio
    dose = said["thinner_parts"]
    if dose and shelf.thinner is None:
        raise Refused("thinner_id", "Which thinner? Choose it, so that its volume counts and its lot is taken from.")
    whole = said["amount"] == "kit"
    cup_ml = shelf.cup.holds_ml if shelf.cup else said["cup_ml"]
    return MixPlan(
        ratio={"A": ratio[0], "B": ratio[1]},
        basis="volume" if by_volume else "weight",
        need_ml=None if whole else need_ml,
        have_g={"A": _a_left_g(shelf, said)} if whole else None,
        sg_parts=rubber.sg_parts,
        sg_mixed=_sg_of_both(shelf, said),
        spare_pct=said["spare_pct"],
        cling_g=said["cling_g"] * max(1, coat_count),
        thinner=Thinner(parts_per_100=dose, of="A" if rubber.thinner_of == "A" else "A+B", sg=shelf.thinner.sg_or_usual)
        if shelf.thinner and dose
        else None,
        pigment_pct=said["pigment_pct"],
        scale_step_g=said["scale_step_g"] or None,
        tolerance_pct=rubber.tolerance_pct,
        cup_ml=None if coat_count else cup_ml,
        rise_factor=said["rise_factor"],
    )


def _a_left_g(shelf: ShelfPicks, said: Mapping[str, Any]) -> float:
    if said["kit_left_a_g"]:
        return float(said["kit_left_a_g"])
    if (left := left_on_shelf_g(shelf)) > 0:
        return left
    raise Refused("kit_left_a_g", "How much A is left? Put the tin on the scale, less what an empty tin weighs.")


def _sg_of_both(shelf: ShelfPicks, said: Mapping[str, Any]) -> float | None:
    if shelf.rubber is None or shelf.blend is None:
        return shelf.rubber.sg_mixed if shelf.rubber else None
    check_blend(shelf.rubber, shelf.blend)
    share = said["blend_pct"] / 100
    return mixed_sg({"first": 1 - share, "second": share}, {"first": sg_of(shelf.rubber), "second": sg_of(shelf.blend)})


def _batches(
    mixed: Mix, shelf: ShelfPicks, said: Mapping[str, Any], planned: Sequence[Coat]
) -> tuple[tuple[Ingredient, ...], ...]:
    if not planned:
        number = len(mixed.batches)
        return (_ingredients(mixed, shelf, said, 1 / number, 0.0),) * number
    whole_ml = sum(coat.volume_ml for coat in planned)
    parts = said["thickener_parts"] if shelf.thickener else 0.0
    return tuple(
        _ingredients(mixed, shelf, said, coat.volume_ml / whole_ml, parts if coat.is_thickened else 0.0)
        for coat in planned
    )


def _ingredients(
    mixed: Mix, shelf: ShelfPicks, said: Mapping[str, Any], share: float, thickener_parts: float
) -> tuple[Ingredient, ...]:
    rubber, other = shelf.rubber, shelf.blend
    if rubber is None:
        return ()
    a_g, b_g = (mixed.parts[key].g * share for key in "AB")
    second = said["blend_pct"] / 100 if other else 0.0
    stock = {key: stocked.shelf for key, stocked in shelf.stock.items()}
    made = [
        Ingredient(
            key="A",
            role="A",
            name=rubber.a_name,
            colour=rubber.a_colour,
            g=a_g * (1 - second),
            sg=rubber.sg_a,
            shelf=stock.get("A", ""),
        ),
        Ingredient(
            key="B",
            role="B",
            name=rubber.b_name,
            colour=rubber.b_colour,
            g=b_g * (1 - second),
            sg=rubber.sg_b,
            shelf=stock.get("B", ""),
        ),
    ]
    if other:
        made.append(
            Ingredient(
                key="A2",
                role="A",
                name=other.a_name,
                colour=other.a_colour,
                g=a_g * second,
                sg=other.sg_a,
                shelf=stock.get("A2", ""),
            )
        )
        made.append(
            Ingredient(
                key="B2",
                role="B",
                name=other.b_name,
                colour=other.b_colour,
                g=b_g * second,
                sg=other.sg_b,
                shelf=stock.get("B2", ""),
            )
        )
    additives: tuple[tuple[Role, Additive | None, float], ...] = (
        ("thinner", shelf.thinner, mixed.thinner_g * share),
        ("thickener", shelf.thickener, thickener_parts / 100 * (a_g + b_g)),
        ("pigment", shelf.pigment, mixed.pigment_g * share),
    )
    for role, additive, grams in additives:
        name = additive.name if additive else "Pigment"
        colour, sg = (additive.colour, additive.sg_or_usual) if additive else ("", None)
        made.append(
            Ingredient(key=role, role=role, name=name, colour=colour, g=grams, sg=sg, shelf=stock.get(role, ""))
        )
    return in_order(made)


def _marks_error_pct(mixed: Mix, said: Mapping[str, Any]) -> float | None:
    # a cup is read to a quarter of a mark (common practice), so it errs like a scale that steps by half a mark
    volumes = {name: part.ml / len(mixed.batches) for name, part in mixed.parts.items() if part.ml is not None}
    return worst_ratio_error_pct(volumes, said["cup_mark_ml"] / 2) if len(volumes) == len(mixed.parts) else None


def _thinned(shelf: ShelfPicks, said: Mapping[str, Any], dose: float) -> Thinned | None:
    if dose > MOST_PARTS or (dose and shelf.thinner is None):
        return None
    curve = curve_of(shelf, said)
    return curve.at(dose) if curve else None


def weigh_plan(worked_out: Pour, inputs: RubberInputs, what: str) -> WeighPlan:
    """Write down what a bench needs to know.

    Parameters
    ----------
    worked_out : Pour
        As it is now.
    inputs : RubberInputs
        Of the Rubber station.
    what : str
        What is poured.

    Returns
    -------
    WeighPlan
        To be kept with the pour.
    """
    said = settled(inputs, RUBBER)
    rubber = worked_out.rubber
    parts = worked_out.mix.parts
    return WeighPlan(
        what=what,
        rubber=rubber.name,
        b_per_a=parts["B"].g / parts["A"].g,
        tolerance_pct=rubber.tolerance_pct,
        step_g=said["scale_step_g"],
        sg=worked_out.mix.sg_mixed or sg_of(rubber),
        need_g=worked_out.need_g,
        batches=worked_out.batches,
        cup_ml=worked_out.cup_ml,
        pot_life_min=rubber.pot_life_min,
        demould_min=rubber.demould_min * demould_factor(min(rubber.parts_of_both(said["thinner_parts"]), MOST_PARTS))
        if rubber.demould_min
        else None,
        mix_min=said["mix_min"],
        degas_min=said["degas_min"],
        pour_min=said["pour_min"],
    )
