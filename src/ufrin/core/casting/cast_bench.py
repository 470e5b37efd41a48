"""The bench plan of a shot: its cups as the bench weighs them, part B first, and the clocks that begin with A."""

from collections.abc import Mapping, Sequence

from ufrin.core.casting.cast_cups import DROPS_PER_ML, CastCup, CastIngredient, CastPicks
from ufrin.core.casting.planned_cast import CastPlan
from ufrin.core.casting.resins import ONE_PART, SIFTED, Resin
from ufrin.core.inputs.casts import SettledCasts
from ufrin.core.weighing.method import Method
from ufrin.core.weighing.weigh_plan import Ingredient, OtherMaterial, Role, RotationAim, WeighPlan
from ufrin.errors import Refused
from ufrin.language import Text

CAST_STYLE = "cast"  # under which demoulding has the steps for a cast
MIX_MIN = 1.0  # a small cup of resin; common practice
POUR_MIN = 1.0
CAST_ROLES: Mapping[str, Role] = {
    "A": "A",
    "B": "B",
    "foam A": "A",
    "foam B": "B",
    "filler": "filler",
    "colour": "colour",
}


def cast_weigh_plan(
    made: CastPlan,
    settled: SettledCasts,
    picks: CastPicks,
    *,
    shelf: Mapping[str, str],
    step_g: float,
    air: str = "",
    vibrate_min: float = 0.0,
    pot_kpa: float = 0.0,
) -> WeighPlan:
    """Write down what the bench needs to know of a shot.

    Parameters
    ----------
    made : CastPlan
        The shot.
    settled : SettledCasts
        The Casts station.
    picks : CastPicks
        From the Shelf, with a resin.
    shelf : mapping of key to str
        Where the lots of each ingredient stand, such as "resin:7".
    step_g : float
        Of the scale.
    air, vibrate_min, pot_kpa : str, float, float, optional
        How air is got out of the cast.

    Returns
    -------
    WeighPlan
        Each cup of the shot in as many batches as it needs to fit. A cast that is rotated is followed by the weight
        of its mould; foam behind a shell has a pot life of its own.

    Raises
    ------
    Refused
        Without a resin.
    """
    resin = picks.resin
    if resin is None:
        raise Refused("resin_id", Text("Which casting material? Choose one from the Shelf."))
    batches: list[tuple[Ingredient, ...]] = []
    names: list[str] = []
    parts: list[str] = []
    for cup in made.cups:
        batches += [tuple(_ingredients(cup.times(1 / cup.mixes), shelf))] * cup.mixes
        names += [cup.what] * cup.mixes
        parts += [cup.part] * cup.mixes
    planned = {one.key: one.g for one in made.totals.values()}
    counts_drops = any(one.drops is not None for one in made.totals.values())
    return WeighPlan(
        what=Text("the cast") if made.filled == 1 else Text("{filled} cavities", filled=made.filled),
        how="cast",
        rubber=resin.name,
        b_per_a=planned.get("B", 0.0) / planned["A"],
        tolerance_pct=resin.tolerance_pct,
        step_g=step_g,
        sg=made.cups[0].total_g / made.cups[0].volume_ml,
        need_g=made.shot_g / (1 + settled.spare_pct / 100),
        batches=tuple(batches),
        cup_ml=settled.cup_ml,
        pot_life_min=resin.pot_life_min,
        handling_min=resin.handling_min,
        demould_min=resin.demould_min,
        full_cure_min=resin.full_cure_min,
        mix_min=MIX_MIN,
        pour_min=POUR_MIN,
        method=Method(
            how="cast",
            basis="volume" if settled.basis == "volume" and resin.by_volume else "weight",
            air=air,
            least_mix_min=_mix_min(resin),
            vibrate_min=vibrate_min,
            pot_kpa=pot_kpa,
            drops_per_ml=DROPS_PER_ML if counts_drops else None,
            melts=resin.kind in ONE_PART,
            is_rotated=made.target_g is not None,
            sifts=resin.kind in SIFTED,
            takes_off=bool(made.taken_shares),
        ),
        family=resin.kind,
        style=CAST_STYLE,
        in_coats=made.target_g is not None or (len(batches) > 1 and any(cup.recoat for cup in made.cups)),
        cup_names=tuple(names) if len(batches) > 1 and made.target_g is None else (),
        cup_parts=tuple(parts) if any(parts) else (),
        rotation=_rotation(made, settled, resin),
        other=_foam(picks.foam, parts),
        cast_kind=made.kind,
        set_in_before=_set_in_before(made),
        taken_shares=made.taken_shares,
    )


def _mix_min(resin: Resin) -> float:
    return min(MIX_MIN, (resin.pot_life_min or MIX_MIN) / 3)


def _rotation(made: CastPlan, settled: SettledCasts, resin: Resin) -> RotationAim | None:
    if made.target_g is None or not made.cavity.area_cm2:
        return None
    return RotationAim(
        target_g=made.target_g * made.filled,
        area_cm2=made.cavity.area_cm2 * made.filled,
        sg=resin.mix_by(settled.basis).sg,
        coat_mm=settled.coat_mm,
    )


def _set_in_before(made: CastPlan) -> int | None:
    if made.set_in is None:
        return None
    return sum(cup.mixes for cup in made.cups[: made.set_in.after_layer])


def _foam(foam: Resin | None, parts: Sequence[str]) -> OtherMaterial | None:
    batches = tuple(number for number, part in enumerate(parts) if part == "foam")
    if foam is None or not batches:
        return None
    return OtherMaterial(
        batches=batches,
        name=foam.name,
        tolerance_pct=foam.tolerance_pct,
        sg=foam.mix_by("weight").sg,
        least_mix_min=_mix_min(foam),
        pot_life_min=foam.pot_life_min,
        handling_min=foam.handling_min,
        demould_min=foam.demould_min,
        full_cure_min=foam.full_cure_min,
    )


def _ingredients(cup: CastCup, shelf: Mapping[str, str]) -> list[Ingredient]:
    found: list[Ingredient] = []
    for one in cup.ingredients:
        # the halves of a metal powder are two things to weigh
        again = sum(other.key.startswith(one.key) for other in found) if CAST_ROLES[one.key] == "filler" else 0
        key = f"{one.key}{again + 1}" if again else one.key
        found.append(
            Ingredient(
                key=key, role=CAST_ROLES[one.key], name=one.name, g=one.g, sg=_sg(one), shelf=shelf.get(one.key, "")
            )
        )
    return found


def _sg(one: CastIngredient) -> float | None:
    if one.drops:
        return one.g / one.drops * DROPS_PER_ML
    return one.g / one.ml if one.ml else None
