"""The Rubber station: what is weighed, batch by batch, and what follows from it for hardness, cups, times and cost."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

from ufrin.core.box.mould_box import Box
from ufrin.core.inputs.rubber import RubberInputs, SettledRubber
from ufrin.core.inputs.usual import USUAL
from ufrin.core.job.shelf_picks import ShelfPicks, curve_of, left_on_shelf_g, sg_of
from ufrin.core.rubber.blends import check_blend
from ufrin.core.rubber.cure_times import check_room, time_at
from ufrin.core.rubber.thinner_curve import MOST_PARTS, Thinned
from ufrin.core.rubber.thinner_side_effects import thinned_demould_min
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.cups import Mark, marks
from ufrin.core.shelf.scales import worst_ratio_error_pct
from ufrin.core.weighing.allowance import Allowance
from ufrin.core.weighing.batches import Recipe, batches_of
from ufrin.core.weighing.coats import Coat, coats
from ufrin.core.weighing.drops import Drops, drops
from ufrin.core.weighing.kit_costs import KitUse, kit_use
from ufrin.core.weighing.mix import Mix, MixPlan, Thinner, mix
from ufrin.core.weighing.putty import Lumps, Pad, lumps
from ufrin.core.weighing.ratio import mixed_sg
from ufrin.core.weighing.weigh_plan import Ingredient, WeighPlan
from ufrin.core.weighing.whole_kit import WholeKit, whole_kit
from ufrin.errors import Refused

READ_TO = 0.5  # of a mark, as a step: a cup is read to a quarter of a mark either way (common practice)


@dataclass(frozen=True, slots=True, kw_only=True)
class Pour:
    """The Rubber station worked out.

    Parameters
    ----------
    rubber : Rubber
        The chosen one.
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
        What would be mixed in vain with the displacement forgotten, and what would be missing with spare and loss
        forgotten.
    marks_error_pct : float or None
        The worst ratio error of measuring by the cups' marks.
    allowance : Allowance
        Learnt from past pours.
    pot_life_min, demould_min : float or None
        At the room's temperature; thinner counted in the second.
    tin_demould_min : float or None
        The second at the reference temperature of the tin.
    batch_min : float
        What a batch takes from the first contact of A and B until it is poured.
    thinned : Thinned or None
        The hardness that results, where the tin states one.
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
    tin_demould_min: float | None
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
    """What a pour fills.

    Parameters
    ----------
    box : Box or None
        Worked out.
    size_mm, area_cm2, displaced_ml : (float, float, float) or None, float or None, float or None
        Of the master, where they are known.
    halves_ml : (float, float) or None
        Rubber of the halves of a mould in two parts.
    """

    box: Box | None = None
    size_mm: tuple[float, float, float] | None = None
    area_cm2: float | None = None
    displaced_ml: float | None = None
    halves_ml: tuple[float, float] | None = None


def pour(target: PourTarget, inputs: RubberInputs, shelf: ShelfPicks) -> Pour | None:
    """Work out a pour.

    Parameters
    ----------
    target : PourTarget
        What it fills.
    inputs : RubberInputs
        As filled in.
    shelf : ShelfPicks
        What they point to.

    Returns
    -------
    Pour or None
        None while there is no rubber, or nothing to fill.

    Raises
    ------
    Refused
        When figures contradict each other, beside the field that can mend it.
    """
    rubber = shelf.rubber
    if rubber is None:
        return None
    allowance = shelf.allowance
    settled = inputs.settled()
    if inputs.spare_pct is None:
        settled = replace(settled, spare_pct=allowance.spare_pct)
    how = settled.how or ("putty" if rubber.form == "putty" else "poured")
    check_room(settled.room_temp_c)
    planned = _coats(target, settled) if how == "brushed" else ()
    need_ml = _need_ml(target, settled, how, planned)
    if need_ml is None:
        return None
    plan = _mix_plan(shelf, rubber, settled, need_ml, len(planned))
    mixed = mix(plan)
    sg, dose = mixed.sg_mixed or 1.0, rubber.parts_of_both(settled.thinner_parts)
    wanted_g = need_ml * sg * (1 + settled.spare_pct / 100) + settled.cling_g
    kit = whole_kit(plan, wanted_g, shelf.waiting) if settled.amount == "kit" else None
    batches = batches_of(mixed, _recipe(shelf, rubber, settled), planned)
    b = next(one for one in batches[0] if one.role == "B")
    rubber_g, tin_demould_min = sum(part.g for part in mixed.parts.values()), thinned_demould_min(rubber, dose)
    halves_ml = target.halves_ml if how == "poured" else None
    return Pour(
        rubber=rubber,
        how=how,
        mix=mixed,
        batches=batches,
        need_ml=need_ml,
        need_g=need_ml * sg,
        kits=kit_use(rubber_g=rubber_g, kit_g=rubber.kit_g, kit_price=rubber.kit_price) if rubber.kit_g else None,
        too_much_g=_forgotten_g(target, settled, sg) if how == "poured" and not kit else 0.0,
        short_g=mixed.total_g - need_ml * sg,
        marks_error_pct=_marks_error_pct(mixed, settled) if settled.basis == "volume" else None,
        allowance=allowance,
        pot_life_min=time_at(rubber.pot_life_min, settled.room_temp_c) if rubber.pot_life_min else None,
        demould_min=time_at(tin_demould_min, settled.room_temp_c) if tin_demould_min else None,
        tin_demould_min=tin_demould_min,
        batch_min=settled.mix_min + settled.degas_min + settled.pour_min,
        thinned=_thinned(shelf, settled, dose),
        cup_marks=_cup_marks(mixed, rubber, shelf, len(batches)),
        b_drops=drops(b.g, b.sg or sg, settled.drops_per_ml) if settled.drops_per_ml else None,
        cup_ml=_cup_ml(shelf, settled),
        lumps=_lumps(mixed, rubber, sg) if how == "putty" else None,
        coats=planned,
        whole_kit=kit,
        halves_ml=halves_ml,
        half=settled.half if halves_ml else "",
    )


def _forgotten_g(target: PourTarget, settled: SettledRubber, sg: float) -> float:
    # what would be mixed in vain if nobody took the displacement off
    if target.box is None or target.halves_ml:
        return 0.0
    return (target.box.displaced_ml - target.box.filler_ml) * sg * (1 + settled.spare_pct / 100)


def _lumps(mixed: Mix, rubber: Rubber, sg: float) -> Lumps:
    return lumps(mixed.parts["A"].g, mixed.parts["B"].g, sg, sg_a=rubber.sg_a, sg_b=rubber.sg_b)


def _cup_marks(mixed: Mix, rubber: Rubber, shelf: ShelfPicks, batch_count: int) -> tuple[Mark, ...]:
    part_ml = {name: part.ml / batch_count for name, part in mixed.parts.items() if part.ml is not None}
    return marks(shelf.cup, part_ml) if shelf.cup and set(part_ml) == {"A", "B"} and rubber.by_volume else ()


def _cup_ml(shelf: ShelfPicks, settled: SettledRubber) -> float | None:
    return shelf.cup.holds_ml if shelf.cup else settled.cup_ml


def _coats(target: PourTarget, settled: SettledRubber) -> tuple[Coat, ...]:
    area = settled.coat_area_cm2 or target.area_cm2
    if not area:
        raise Refused(
            "coat_area_cm2", "How large is the surface that is brushed? Type it, or give the master a mesh or a size."
        )
    return coats(area_cm2=area, number=settled.coats, coat_mm=settled.coat_mm)


def _need_ml(target: PourTarget, settled: SettledRubber, how: str, planned: Sequence[Coat]) -> float | None:
    if how == "brushed":
        return sum(coat.volume_ml for coat in planned)
    if how == "putty":
        return _pad_ml(target, settled)
    if target.box is None:
        return None
    if not target.box.net_ml > 0:
        raise Refused("", "The box leaves no room for rubber. Look at its clearances first.")
    if not target.halves_ml:
        return target.box.net_ml
    half_ml = target.halves_ml[1 if settled.half == "second" else 0]
    if not half_ml > 0:
        raise Refused(
            "half",
            "This half takes no rubber: the master lies on the board, or reaches the top. Give the box rubber under "
            "and over it.",
        )
    return half_ml


def _pad_ml(target: PourTarget, settled: SettledRubber) -> float | None:
    if target.size_mm is None:
        return None
    length, width, height = target.size_mm
    around_mm = 2 * settled.pad_mm
    thick = settled.pad_thickness_mm or height + USUAL["putty"]["over_mm"]
    return Pad(
        length_mm=length + around_mm,
        width_mm=width + around_mm,
        thickness_mm=thick,
        displaced_ml=target.displaced_ml or 0.0,
    ).need_ml


def _mix_plan(shelf: ShelfPicks, rubber: Rubber, settled: SettledRubber, need_ml: float, coat_count: int) -> MixPlan:
    by_volume = settled.basis == "volume" and rubber.by_volume and shelf.blend is None
    ratio = (rubber.volume_a or 0, rubber.volume_b or 0) if by_volume else rubber.weight_ratio
    uses_kit = settled.amount == "kit"
    return MixPlan(
        ratio={"A": ratio[0], "B": ratio[1]},
        basis="volume" if by_volume else "weight",
        need_ml=None if uses_kit else need_ml,
        have_g={"A": _a_left_g(shelf, settled)} if uses_kit else None,
        sg_parts=rubber.sg_parts,
        sg_mixed=_sg_of_both(shelf, rubber, settled),
        spare_pct=settled.spare_pct,
        cling_g=settled.cling_g * max(1, coat_count),
        thinner=_thinner(shelf, rubber, settled.thinner_parts),
        pigment_pct=settled.pigment_pct,
        scale_step_g=settled.scale_step_g or None,
        tolerance_pct=rubber.tolerance_pct,
        cup_ml=None if coat_count else _cup_ml(shelf, settled),
        rise_factor=settled.rise_factor,
    )


def _thinner(shelf: ShelfPicks, rubber: Rubber, parts_per_100: float) -> Thinner | None:
    if not parts_per_100:
        return None
    if shelf.thinner is None:
        raise Refused("thinner_id", "Which thinner? Choose it, so that its volume counts and its lot is taken from.")
    return Thinner(
        parts_per_100=parts_per_100, of="A" if rubber.thinner_of == "A" else "A+B", sg=shelf.thinner.sg_or_usual
    )


def _a_left_g(shelf: ShelfPicks, settled: SettledRubber) -> float:
    if settled.kit_left_a_g:
        return settled.kit_left_a_g
    if (left := left_on_shelf_g(shelf)) > 0:
        return left
    raise Refused("kit_left_a_g", "How much A is left? Put the tin on the scale, less what an empty tin weighs.")


def _sg_of_both(shelf: ShelfPicks, rubber: Rubber, settled: SettledRubber) -> float | None:
    if shelf.blend is None:
        return rubber.sg_mixed
    check_blend(rubber, shelf.blend)
    share = settled.blend_pct / 100
    return mixed_sg({"first": 1 - share, "second": share}, {"first": sg_of(rubber), "second": sg_of(shelf.blend)})


def _recipe(shelf: ShelfPicks, rubber: Rubber, settled: SettledRubber) -> Recipe:
    return Recipe(
        rubber=rubber,
        blend=shelf.blend,
        blend_share=settled.blend_pct / 100,
        thinner=shelf.thinner,
        thickener=shelf.thickener,
        pigment=shelf.pigment,
        thickener_parts=settled.thickener_parts,
        shelf={key: stocked.shelf for key, stocked in shelf.stock.items()},
    )


def _marks_error_pct(mixed: Mix, settled: SettledRubber) -> float | None:
    volumes = {name: part.ml / len(mixed.batches) for name, part in mixed.parts.items() if part.ml is not None}
    if len(volumes) != len(mixed.parts):
        return None
    return worst_ratio_error_pct(volumes, settled.cup_mark_ml * READ_TO)


def _thinned(shelf: ShelfPicks, settled: SettledRubber, dose: float) -> Thinned | None:
    if dose > MOST_PARTS or (dose and shelf.thinner is None):
        return None
    curve = curve_of(shelf, settled)
    return curve.at(dose) if curve else None


def weigh_plan(worked_out: Pour, inputs: RubberInputs, what: str) -> WeighPlan:
    """Write down what the bench needs to know.

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
    settled, rubber, parts = inputs.settled(), worked_out.rubber, worked_out.mix.parts
    return WeighPlan(
        what=what,
        rubber=rubber.name,
        b_per_a=parts["B"].g / parts["A"].g,
        tolerance_pct=rubber.tolerance_pct,
        step_g=settled.scale_step_g,
        sg=worked_out.mix.sg_mixed or sg_of(rubber),
        need_g=worked_out.need_g,
        batches=worked_out.batches,
        cup_ml=worked_out.cup_ml,
        pot_life_min=rubber.pot_life_min,
        demould_min=worked_out.tin_demould_min,
        mix_min=settled.mix_min,
        degas_min=settled.degas_min,
        pour_min=settled.pour_min,
    )
