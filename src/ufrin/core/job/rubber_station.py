"""The Rubber station: what is weighed for each pour, batch by batch, and what follows for hardness, times and cost."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from ufrin.core.clocks.cure_clocks import DEADLINES, ClockKind
from ufrin.core.inputs.rubber import SettledRubber
from ufrin.core.job.pour_mix import cup_ml, mix_plan, recipe_of
from ufrin.core.job.pour_targets import Half, PourTarget
from ufrin.core.job.shelf_picks import ShelfPicks, curve_of
from ufrin.core.rubber.cure_times import check_room, time_at
from ufrin.core.rubber.post_cure import PostCure, post_cure
from ufrin.core.rubber.thinner_curve import MOST_PARTS, Thinned
from ufrin.core.rubber.thinner_side_effects import thinned_cast_in_min, thinned_demould_min, thinned_full_cure_min
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.cups import Mark, marks
from ufrin.core.shelf.scales import mass_decimals, worst_ratio_error_pct
from ufrin.core.weighing.allowance import Allowance
from ufrin.core.weighing.batches import batches_of
from ufrin.core.weighing.coats import Coat, RecoatWindow, recoat_window
from ufrin.core.weighing.drops import Drops, drops
from ufrin.core.weighing.kit_costs import KitUse, PackUse, kit_use
from ufrin.core.weighing.method import How
from ufrin.core.weighing.mix import Mix, mix
from ufrin.core.weighing.putty import Lumps, lumps
from ufrin.core.weighing.weigh_plan import Ingredient, total_of
from ufrin.core.weighing.whole_kit import WholeKit, whole_kit
from ufrin.errors import Refused
from ufrin.language import Text

READ_TO = 0.5  # of a mark, as a step: a cup is read to a quarter of a mark either way (common practice)


@dataclass(frozen=True, slots=True, kw_only=True)
class Pour:
    """One pour of a job worked out.

    Parameters
    ----------
    half : "", "first" or "second"
        Of a mould in two parts.
    how : "poured", "brushed" or "putty"
        How it gets to the master.
    rubber : Rubber
        As it is mixed: blended where there is a second one.
    mix : Mix
        In all; its equal batches, unless coats differ.
    batches : tuple of tuple of Ingredient
        As they are weighed.
    need_ml, need_g : float
        Of box, half, pad or skin, before spare and loss on cups.
    too_much_g, short_g : float
        What would be mixed in vain with the displacement forgotten, and what would be missing with spare and loss
        forgotten.
    mark_ml, marks_error_pct : float, float or None
        The marks of the cups, and the worst ratio error of measuring by them.
    pot_life_min, demould_min, full_cure_min : float or None
        At the room's temperature and by what the shop has learnt of the rubber; thinner counted in the second and
        third.
    press_min, cast_in_min : float or None
        Until when a putty can be pressed on, and when the mould may be cast in, at the room's temperature.
    tin_demould_min, tin_full_cure_min, tin_cast_in_min : float or None
        The times to demould, to full cure and to the first cast at the reference temperature of the tin.
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
    lumps, coats, recoat : Lumps or None, tuple of Coat, RecoatWindow or None
        Of a putty, and of a skin.
    post_cure : PostCure or None
        As the job or the tin asks for it; None while one of its two figures is missing.
    """

    half: Half
    how: How
    rubber: Rubber
    mix: Mix
    batches: tuple[tuple[Ingredient, ...], ...]
    need_ml: float
    need_g: float
    too_much_g: float
    short_g: float
    mark_ml: float
    marks_error_pct: float | None
    pot_life_min: float | None
    demould_min: float | None
    full_cure_min: float | None
    press_min: float | None
    cast_in_min: float | None
    tin_demould_min: float | None
    tin_full_cure_min: float | None
    tin_cast_in_min: float | None
    batch_min: float
    thinned: Thinned | None
    cup_marks: tuple[Mark, ...] = ()
    b_drops: Drops | None = None
    cup_ml: float | None = None
    lumps: Lumps | None = None
    coats: tuple[Coat, ...] = ()
    recoat: RecoatWindow | None = None
    post_cure: PostCure | None = None

    @property
    def total_g(self) -> float:
        """All that is weighed for it, thickener included."""
        return sum(one.g for batch in self.batches for one in batch)

    @property
    def batch_count(self) -> int:
        """How many cups are mixed for it."""
        return len(self.batches)


@dataclass(frozen=True, slots=True, kw_only=True)
class RubberPlan:
    """The Rubber station worked out: every pour of the job, and what they take together.

    Parameters
    ----------
    pours : tuple of Pour
        In the order of the work: one, or the two halves.
    settled : SettledRubber
        The figures that count, the shop's own scale, room and learnt spare among them.
    allowance : Allowance
        Learnt from past pours until now.
    kits : KitUse
        Kits and packs of all pours together, and what they cost.
    whole_kit : WholeKit or None
        Of a kit that is used up.
    """

    pours: tuple[Pour, ...]
    settled: SettledRubber
    allowance: Allowance
    kits: KitUse
    whole_kit: WholeKit | None = None

    @property
    def need_ml(self) -> float:
        """Rubber of all pours, before spare and loss on cups."""
        return sum(pour.need_ml for pour in self.pours)

    @property
    def need_g(self) -> float:
        """Rubber of all pours, before spare and loss on cups."""
        return sum(pour.need_g for pour in self.pours)

    @property
    def total_g(self) -> float:
        """All that is weighed."""
        return sum(pour.total_g for pour in self.pours)

    @property
    def mass_decimals(self) -> int:
        """How many decimals of grams are shown, so that the smallest part still has two digits that count."""
        smallest_g = min(one.g for pour in self.pours for one in pour.batches[0] if one.role in {"A", "B"})
        return mass_decimals(self.settled.scale_step_g, smallest_g)

    @property
    def ingredients(self) -> tuple[Ingredient, ...]:
        """What all pours take together: each ingredient once, with its whole weight."""
        return ingredients_of(self.pours)


def ingredients_of(pours: Iterable[Pour]) -> tuple[Ingredient, ...]:
    """Return what some pours take together.

    Parameters
    ----------
    pours : iterable of Pour
        Of one job.

    Returns
    -------
    tuple of Ingredient
        Each once, with its whole weight.
    """
    batches = [batch for pour in pours for batch in pour.batches]
    named = {one.key: one for batch in batches for one in batch}
    return tuple(replace(named[key], g=grams) for key, grams in total_of(batches).items())


def rubber_plan(
    targets: Sequence[PourTarget], settled: SettledRubber, shelf: ShelfPicks, rubber: Rubber
) -> RubberPlan | None:
    """Work out every pour of a job.

    Parameters
    ----------
    targets : sequence of PourTarget
        What they fill.
    settled : SettledRubber
        The Rubber station, with the shop's own figures in place.
    shelf : ShelfPicks
        What it points to.
    rubber : Rubber
        As it is mixed.

    Returns
    -------
    RubberPlan or None
        None while there is nothing to fill.

    Raises
    ------
    Refused
        When figures contradict each other, beside the field that can mend it.
    """
    if not targets:
        return None
    check_room(settled.room_temp_c)
    check_form(rubber, targets[0].how)
    pours = tuple(_pour(target, settled, shelf, rubber) for target in targets)
    return RubberPlan(
        pours=pours,
        settled=settled,
        allowance=shelf.allowance,
        kits=_kits(pours, shelf, settled.blend_pct / 100),
        whole_kit=_whole_kit(pours, settled, shelf) if settled.amount == "kit" else None,
    )


def _whole_kit(pours: Sequence[Pour], settled: SettledRubber, shelf: ShelfPicks) -> WholeKit:
    cups = sum(len(pour.batches) for pour in pours)
    wanted_g = sum(pour.need_g for pour in pours) * (1 + settled.spare_pct / 100) + settled.cling_g * cups
    return whole_kit(sum(pour.mix.total_g for pour in pours), wanted_g, shelf.waiting)


def check_form(rubber: Rubber, how: How) -> None:
    """Refuse a putty that is to be poured or brushed, and a liquid that is to be pressed on.

    Parameters
    ----------
    rubber : Rubber
        The one chosen.
    how : str
        How the kind of mould takes it.

    Raises
    ------
    Refused
        Which says what to choose instead.
    """
    if how == "putty" and rubber.form != "putty":
        raise Refused(
            "rubber_id",
            Text(
                "A pad is kneaded from a putty, and {name} is poured. Choose a putty, or another kind of mould.",
                name=rubber.name,
            ),
        )
    if how != "putty" and rubber.form == "putty":
        raise Refused(
            "rubber_id",
            Text(
                "{name} is a putty, which is pressed on and can't be {how}. Choose a rubber that is "
                "poured, or putty pressed on as the kind of mould.",
                name=rubber.name,
                how=how,
            ),
        )


def _pour(target: PourTarget, settled: SettledRubber, shelf: ShelfPicks, rubber: Rubber) -> Pour:
    plan = mix_plan(target, shelf, rubber, settled)
    mixed = mix(plan, cups=len(target.coats) or 1)
    sg, dose = mixed.sg_mixed or 1.0, rubber.parts_of_both(settled.thinner_parts)
    batches = batches_of(mixed, recipe_of(shelf, settled), target.coats, cling_g=plan.cling_g)
    b, mark_ml = next(one for one in batches[0] if one.role == "B"), _mark_ml(shelf, settled)
    tin_min: dict[ClockKind, float | None] = {
        "pot-life": rubber.pot_life_min,
        "press": rubber.press_window_min,
        "demould": thinned_demould_min(rubber, dose),
        "cast-in": thinned_cast_in_min(rubber, dose),
        "full-cure": thinned_full_cure_min(rubber, dose),
    }
    here_min = {
        kind: time_at(shelf.cure_factor.real_min(minutes, is_deadline=kind in DEADLINES), settled.room_temp_c)
        if minutes
        else None
        for kind, minutes in tin_min.items()
    }
    return Pour(
        half=target.half,
        how=target.how,
        rubber=rubber,
        mix=mixed,
        batches=batches,
        need_ml=target.need_ml,
        need_g=target.need_ml * sg,
        # what would be mixed in vain if nobody took the displacement off
        too_much_g=0.0 if settled.amount == "kit" else target.displaced_ml * sg * (1 + settled.spare_pct / 100),
        short_g=mixed.total_g - target.need_ml * sg,
        mark_ml=mark_ml,
        marks_error_pct=_marks_error_pct(mixed, mark_ml, plan.weighings) if settled.basis == "volume" else None,
        pot_life_min=here_min["pot-life"],
        demould_min=here_min["demould"],
        full_cure_min=here_min["full-cure"],
        press_min=here_min["press"],
        cast_in_min=here_min["cast-in"],
        tin_demould_min=tin_min["demould"],
        tin_full_cure_min=tin_min["full-cure"],
        tin_cast_in_min=tin_min["cast-in"],
        batch_min=settled.mix_min + settled.degas_min + settled.pour_min,
        thinned=_thinned(shelf, settled, dose),
        cup_marks=_cup_marks(mixed, rubber, shelf, len(batches)),
        b_drops=drops(b.g, b.sg or sg, settled.drops_per_ml) if settled.drops_per_ml else None,
        cup_ml=cup_ml(shelf, settled),
        lumps=_lumps(mixed, rubber, sg) if target.how == "putty" else None,
        coats=target.coats,
        recoat=recoat_window(here_min["pot-life"], here_min["demould"]) if target.coats else None,
        post_cure=_post_cure(settled, rubber),
    )


def _post_cure(settled: SettledRubber, rubber: Rubber) -> PostCure | None:
    temp_c, hold_min = post_cure_figures(settled, rubber)
    # one figure without the other is told of, and asks for nothing yet
    return post_cure(temp_c, hold_min) if temp_c is not None and hold_min else None


def post_cure_figures(settled: SettledRubber, rubber: Rubber) -> tuple[float | None, float | None]:
    """Return how hot and for how long a new mould is heated: each as the job says, and else as the tin does.

    Parameters
    ----------
    settled : SettledRubber
        The Rubber station.
    rubber : Rubber
        As it is mixed.

    Returns
    -------
    tuple of float or None
        In degC and min; no minutes are the maker's word that there is no post-cure.
    """
    return (
        rubber.post_cure_c if settled.post_cure_c is None else settled.post_cure_c,
        rubber.post_cure_min if settled.post_cure_min is None else settled.post_cure_min,
    )


def _kits(pours: Sequence[Pour], shelf: ShelfPicks, blend_share: float) -> KitUse:
    rubber_g = sum(part.g for pour in pours for part in pour.mix.parts.values())
    grams = total_of([batch for pour in pours for batch in pour.batches])
    second_g = rubber_g * blend_share if shelf.blend else 0.0
    packs = [
        PackUse(name=tin.name, used_g=used_g, pack_g=tin.kit_g, price=tin.kit_price)
        for tin, used_g in ((shelf.rubber, rubber_g - second_g), (shelf.blend, second_g))
        if tin
    ]
    packs += [
        PackUse(name=one.name, used_g=grams.get(key, 0.0), pack_g=one.pack_g, price=one.pack_price, is_rubber=False)
        for key, one in (("thinner", shelf.thinner), ("thickener", shelf.thickener), ("pigment", shelf.pigment))
        if one
    ]
    return kit_use(packs)


def _lumps(mixed: Mix, rubber: Rubber, sg: float) -> Lumps:
    return lumps(mixed.parts["A"].g, mixed.parts["B"].g, sg, sg_a=rubber.sg_a, sg_b=rubber.sg_b)


def _cup_marks(mixed: Mix, rubber: Rubber, shelf: ShelfPicks, batch_count: int) -> tuple[Mark, ...]:
    part_ml = {name: part.ml / batch_count for name, part in mixed.parts.items() if part.ml is not None}
    return marks(shelf.cup, part_ml) if shelf.cup and set(part_ml) == {"A", "B"} and rubber.by_volume else ()


def _mark_ml(shelf: ShelfPicks, settled: SettledRubber) -> float:
    # a cup's own marks count before what was filled in for cups at large
    return shelf.cup.mark_ml if shelf.cup and shelf.cup.mark_ml else settled.cup_mark_ml


def _marks_error_pct(mixed: Mix, mark_ml: float, readings: int) -> float | None:
    volumes = {name: part.ml / len(mixed.batches) for name, part in mixed.parts.items() if part.ml is not None}
    if len(volumes) != len(mixed.parts):
        return None
    return worst_ratio_error_pct(volumes, mark_ml * READ_TO * readings)


def _thinned(shelf: ShelfPicks, settled: SettledRubber, dose: float) -> Thinned | None:
    if dose > MOST_PARTS or (dose and shelf.thinner is None):
        return None
    curve = curve_of(shelf, settled)
    return curve.at(dose) if curve else None
