"""The findings of the Casts station: limits of the tin, powder and colour, and what each kind of cast asks for."""

from collections.abc import Iterator

from ufrin.core.casting.additions import Addition
from ufrin.core.casting.cast_cups import CastPicks
from ufrin.core.casting.cast_kinds import IN_SHARES, SHELLS
from ufrin.core.casting.filled_cast import thickened
from ufrin.core.casting.planned_cast import CastPlan
from ufrin.core.casting.resins import POURED_AS, RESIN_KINDS, Resin
from ufrin.core.casting.shares import read_shares
from ufrin.core.inputs.casts import SettledCasts
from ufrin.core.materials.kinds import POURS
from ufrin.core.rubber.cure_times import time_at
from ufrin.core.rubber.tins import FAMILIES
from ufrin.core.wording.findings import Amount, Finding
from ufrin.language import Counted, Joined, Text

SHORT_POT_LIFE_MIN = 3.0  # common practice
CUP_TAKES_MIN = 1.5  # to mix and pour a small cup; common practice
EXACT = 1e-6
PERCENTS, NEARLY_WHOLE = (20.0, 200.0), 0.5  # a sum that is meant as percent, and one that is 100 as people round


def not_checked(resin: Resin | None, checked_as: str | None) -> list[Finding]:
    """Return the finding that the Checks reckon with another material than is cast.

    Parameters
    ----------
    resin : Resin or None
        What is cast.
    checked_as : str or None
        What the Checks were told is cast.

    Returns
    -------
    list of Finding
        Empty where the two agree, or nothing was said.
    """
    if resin is None or checked_as is None or checked_as == POURED_AS.get(resin.kind, resin.kind):
        return []
    facts = _facts(resin=resin.name, kind=RESIN_KINDS[resin.kind].lower(), other=POURS.get(checked_as, checked_as))
    return [Finding(code="cast-not-checked", facts=facts, field="resin_id")]


def other_family(resin: Resin | None, only_family: str) -> list[Finding]:
    """Return the stop of a rigid mould that another family than its own is poured in.

    Parameters
    ----------
    resin : Resin or None
        What is cast.
    only_family : str
        That the mould keeps to; empty for any other mould.

    Returns
    -------
    list of Finding
        Empty where they are the same.
    """
    if resin is None or not only_family or resin.kind == only_family:
        return []
    facts = _facts(resin=resin.name, kind=RESIN_KINDS[resin.kind].lower(), family=FAMILIES[only_family].lower())
    return [Finding(code="mould-of-one-family", facts=facts, field="resin_id")]


def cast_findings(made: CastPlan, settled: SettledCasts, picks: CastPicks) -> list[Finding]:
    """Return what is worth a word about a shot.

    Parameters
    ----------
    made : CastPlan
        The shot.
    settled : SettledCasts
        The Casts station.
    picks : CastPicks
        From the Shelf.

    Returns
    -------
    list of Finding
        Limits of the tin, the powder, the colour, and what this kind of cast asks for.
    """
    resin = picks.resin
    if resin is None:
        return []
    return [
        *_each(made, settled),
        *_shares(made, settled),
        *_limits(made, resin),
        *_pot_lives(made, settled, picks),
        *_powder(made, settled, resin, picks.filler),
        *_colour(settled, resin, picks.colour),
        *_by_kind(made, resin),
    ]


def _each(made: CastPlan, settled: SettledCasts) -> Iterator[Finding]:
    fields = {"foam": ("foam_each_g", settled.foam_each_g), "face": ("face_each_g", settled.face_each_g)}
    for part, fills_g in (made.part_fills_g or {"": made.fills_g}).items():
        field, each_g = fields.get(part, ("each_g", settled.each_g))
        if each_g and each_g < fills_g * (1 - EXACT):
            facts = _facts(each=Amount(each_g, "mass", 0), takes=Amount(fills_g, "mass", 0))
            yield Finding(code="each-too-little", facts=facts, field=field)


def _shares(made: CastPlan, settled: SettledCasts) -> Iterator[Finding]:
    # shares in percent that do not make a whole, and how they count
    if made.kind not in IN_SHARES:
        return
    shares = read_shares("colour_shares", settled.colour_shares)
    whole = sum(shares)
    if PERCENTS[0] < whole < PERCENTS[1] and abs(whole - 100) > NEARLY_WHOLE:
        counted = Joined([Text("{share:.0f} %", share=100 * share / whole) for share in shares], ", ")
        facts = _facts(whole=Amount(whole, "percent", 0), counted=counted)
        yield Finding(code="shares-not-whole", facts=facts, field="colour_shares")


def _pot_lives(made: CastPlan, settled: SettledCasts, picks: CastPicks) -> Iterator[Finding]:
    for material, is_foam in ((picks.resin, False), (picks.foam, True)):
        cups = [cup for cup in made.cups if (cup.part == "foam") == is_foam]
        if material is None or not material.pot_life_min or not cups:
            continue
        pot_min, mixes = time_at(material.pot_life_min, settled.room_c), max(cup.mixes for cup in cups)
        facts = _facts(resin=material.name, pot_life=Amount(pot_min, "time"))
        takes_min = mixes * CUP_TAKES_MIN
        if takes_min > pot_min:
            cups_take = Counted("{n} cup takes", "{n} cups one after the other take", n=mixes)
            more = _facts(cups=cups_take, takes=Amount(takes_min, "time"))
            yield Finding(code="cast-pot-life-over", facts=facts | more, field="cup_ml")
        elif pot_min < SHORT_POT_LIFE_MIN:
            yield Finding(code="cast-pot-life-short", facts=facts, field="foam_id" if is_foam else "resin_id")


def _limits(made: CastPlan, resin: Resin) -> list[Finding]:
    found, facts = [], _facts(resin=resin.name)
    own = [cup for cup in made.cups if cup.part != "foam"]
    heaviest_g = max(cup.total_g for cup in own) / made.filled  # each cavity heats on its own
    if resin.most_g and heaviest_g > resin.most_g and made.kind not in SHELLS:
        more = _facts(mixed=Amount(heaviest_g, "mass", 0), most=Amount(resin.most_g, "mass", 0))
        found.append(Finding(code="cast-too-heavy", facts=facts | more, field="cast_kind"))
    deep_mm = max((layer.to_mm - layer.from_mm for layer in made.layers), default=made.cavity.height_mm or 0.0)
    if resin.most_mm and deep_mm > resin.most_mm and made.kind not in SHELLS:
        more = _facts(deep=Amount(deep_mm, "length"), most=Amount(resin.most_mm, "length"))
        found.append(Finding(code="cast-too-deep", facts=facts | more, field="cast_kind"))
    counted = next((one for one in made.totals.values() if one.drops is not None), None)
    if counted is not None:
        found.append(Finding(code="cast-drops", facts=_facts(drops=str(counted.drops), part=counted.name)))
    return found


def _facts(**facts: Amount | str) -> dict[str, Amount | str]:
    return facts


def _powder(made: CastPlan, settled: SettledCasts, resin: Resin, filler: Addition | None) -> list[Finding]:
    scoops = [one for cup in made.cups for one in cup.ingredients if one.key == "filler"]
    if filler is None or not scoops:
        return []
    found, powder = [], _facts(filler=filler.name)
    if settled.scoops is not None and settled.scoops > filler.most_scoops:
        facts = powder | _facts(scoops=f"{settled.scoops:g}", most=f"{filler.most_scoops:g}")
        found.append(Finding(code="filler-beyond-most", facts=facts, field="scoops"))
    found += _thickened(made, resin, filler)
    if filler.dry_min:
        facts = _facts(dry_min=Amount(filler.dry_min, "time"), dry_c=Amount(filler.dry_c or 66.0, "temperature", 0))
        found.append(Finding(code="filler-dry", facts=powder | facts, field="filler_id"))
    if filler.kind in {"metal", "filler"}:
        found.append(Finding(code="metal-dust", facts=powder, field="filler_id"))
    return found


def _thickened(made: CastPlan, resin: Resin, filler: Addition) -> tuple[Finding, ...]:
    cup = next(cup for cup in made.cups if any(one.key == "filler" for one in cup.ingredients))
    powder_ml = sum(one.g for one in cup.ingredients if one.key == "filler") / (filler.true_sg or 1.0)
    return thickened(powder_ml / cup.volume_ml, resin.name, resin.viscosity_mpa_s)


def _colour(settled: SettledCasts, resin: Resin, colour: Addition | None) -> list[Finding]:
    if colour is None:
        return []
    if not colour.suits(resin.kind):
        facts = _facts(colour=colour.name, resin=resin.name)
        return [Finding(code="colour-clumps", facts=facts, field="cast_colour_id")]
    if settled.colour_pct > resin.colour_most_pct:
        facts = _facts(
            share=Amount(settled.colour_pct, "percent"), most=Amount(resin.colour_most_pct, "percent"), resin=resin.name
        )
        return [Finding(code="colour-beyond-most", facts=facts, field="colour_pct")]
    return []


def _by_kind(made: CastPlan, resin: Resin) -> list[Finding]:
    found = []
    if made.kind in SHELLS:
        found.append(Finding(code="shell-cool" if made.cavity.area_cm2 else "shell-first-trial"))
    if made.kind == "foam-back":
        found.append(Finding(code="foam-lid"))
    if made.layers and made.cavity.below_ml is None:
        found.append(Finding(code="layers-as-block", field="layers"))
    if made.set_in is not None:
        lift_g = made.set_in.lift_g(resin.mix_by("weight").sg)
        facts = _facts(lift=Amount(lift_g, "mass", 0)) if lift_g > 0 else _facts(resin=resin.name)
        found.append(Finding(code="set-in-floats" if lift_g > 0 else "set-in-sinks", facts=facts, field="set_in_g"))
    return found
