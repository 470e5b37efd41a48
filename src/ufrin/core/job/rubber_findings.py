"""The findings of the Rubber station."""

from collections.abc import Iterator, Sequence

from ufrin.core.inputs.rubber import SettledRubber
from ufrin.core.job.rubber_station import Pour, RubberPlan, post_cure_figures
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.job.weighed_pours import WeighedPour, still_to_take
from ufrin.core.rubber.tins import FAMILIES, Rubber
from ufrin.core.shelf.lots import stock_findings
from ufrin.core.weighing.method import LEAST_PRESS_MIN
from ufrin.core.weighing.putty import KNEAD_MIN
from ufrin.core.weighing.weigh_plan import Ingredient
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.language import Text


def rubber_findings(
    made: RubberPlan | None,
    settled: SettledRubber,
    shelf: ShelfPicks,
    mixed: Rubber | None,
    *,
    weighed: Sequence[WeighedPour] = (),
) -> tuple[Finding, ...]:
    """Return the findings of the Rubber station.

    Parameters
    ----------
    made : RubberPlan or None
        Worked out.
    settled : SettledRubber
        The figures that count.
    shelf : ShelfPicks
        What they point to.
    mixed : Rubber or None
        As it is mixed.
    weighed : sequence of WeighedPour
        The pours of the mould at work whose weighing has begun: what is in their cups is not taken again.

    Returns
    -------
    tuple of Finding
        Worst first.
    """
    if shelf.rubber is None or mixed is None:
        return ()
    found = [*shelf.rubber.findings(), *(shelf.blend.findings() if shelf.blend else ()), *_tin(mixed, settled, shelf)]
    if made is not None:
        # the halves of a mould differ in their amounts alone: what is wrong with both is said once, by the worse
        found += _worst_of([finding for pour in made.pours for finding in _pour(pour, settled)])
        found += [*_kits(made), *_whole_kit(made), *_doses(made, settled, shelf)]
        found += _stock(still_to_take(made.pours, weighed), settled, shelf)
    found += _additives(shelf, mixed)
    return worst_first(found)


def _pour(pour: Pour, settled: SettledRubber) -> Iterator[Finding]:
    yield from _mix(pour, settled)
    yield from pour.thinned.findings if pour.thinned else ()
    yield from _times(pour, settled)
    yield from _post_cure(pour, settled)


def _worst_of(found: Sequence[Finding]) -> list[Finding]:
    # of findings of one code, the one with the larger figures: those of the tin, such as its tolerance, are the same
    def weight(finding: Finding) -> list[float]:
        return sorted((fact.value for fact in finding.facts.values() if isinstance(fact, Amount)), reverse=True)

    worst: dict[str, Finding] = {}
    for finding in found:
        if finding.code not in worst or weight(finding) > weight(worst[finding.code]):
            worst[finding.code] = finding
    return list(worst.values())


def _tin(rubber: Rubber, settled: SettledRubber, shelf: ShelfPicks) -> Iterator[Finding]:
    if shelf.retired and shelf.rubber:
        yield Finding(code="retired", facts={"name": shelf.rubber.name}, field="rubber_id")
    if settled.basis == "volume" and not rubber.by_volume:
        yield Finding(code="no-volume-ratio", field="basis")


def _mix(pour: Pour, settled: SettledRubber) -> Iterator[Finding]:
    by_volume = settled.basis == "volume"
    # by volume the scale is not used, so its step does not matter
    yield from (finding for finding in pour.mix.findings if not (by_volume and finding.code == "scale-too-coarse"))
    worst, rubber = pour.marks_error_pct, pour.rubber
    if by_volume and rubber.by_volume and (worst is None or worst > rubber.tolerance_pct):
        facts = {
            "mark": Amount(pour.mark_ml, "volume"),
            "worst": Amount(worst, "percent") if worst is not None else Text("any amount"),
            "tolerance": Amount(rubber.tolerance_pct, "percent"),
        }
        yield Finding(code="marks-too-coarse", facts=facts, field="cup_mark_ml")


def _kits(made: RubberPlan) -> Iterator[Finding]:
    for one in made.kits.packs:
        if one.is_rubber and one.packs and one.packs > 1 and one.pack_g:
            facts: dict[str, Amount | str] = {
                "name": one.name,
                "kits": str(one.packs),
                "kit": Amount(one.pack_g, "mass", 0),
            }
            yield Finding(code="kit-short", facts=facts, field="rubber_id")


def _doses(made: RubberPlan, settled: SettledRubber, shelf: ShelfPicks) -> Iterator[Finding]:
    # what a tin allows at most, in parts per 100 of A + B
    rubber = made.pours[0].rubber
    doses = (
        ("thinner_parts", shelf.thinner, rubber.parts_of_both(settled.thinner_parts)),
        ("thickener_parts", shelf.thickener, settled.thickener_parts if made.pours[0].coats else 0.0),
        ("pigment_pct", shelf.pigment, _pigment_parts(made)),
    )
    for field, additive, parts in doses:
        if additive and additive.most_parts is not None and parts > additive.most_parts * (1 + 1e-9):
            facts: dict[str, Amount | str] = {
                "name": additive.name,
                "parts": f"{parts:.3g}",
                "most": f"{additive.most_parts:g}",
            }
            yield Finding(code="additive-beyond-tin", facts=facts, field=field)


def _pigment_parts(made: RubberPlan) -> float:
    mixed = made.pours[0].mix
    return 100 * mixed.pigment_g / sum(part.g for part in mixed.parts.values())


def _times(made: Pour, settled: SettledRubber) -> Iterator[Finding]:
    if made.how == "putty":
        yield from _press(made, settled)
        return
    if not made.pot_life_min:
        return
    number = len(made.batches)
    facts = {"batch": Amount(made.batch_min, "time"), "pot_life": Amount(made.pot_life_min, "time")}
    if made.batch_min > made.pot_life_min:
        yield Finding(code="pot-life-over", facts=facts, field="mix_min")
    elif number > 1 and made.how == "poured" and number * made.batch_min > made.pot_life_min:
        yield Finding(code="pot-life-short", facts={"batches": str(number), **facts}, field="cup_ml")


def _post_cure(made: Pour, settled: SettledRubber) -> Iterator[Finding]:
    temp_c, hold_min = post_cure_figures(settled, made.rubber)
    if (temp_c is None) != (hold_min is None) and hold_min != 0:
        yield Finding(code="post-cure-half", field="post_cure_c" if temp_c is None else "post_cure_min")


def _press(made: Pour, settled: SettledRubber) -> Iterator[Finding]:
    if made.press_min is None:
        return
    knead_min = made.rubber.mix_least_min or KNEAD_MIN
    left_min = made.press_min - knead_min
    if left_min < LEAST_PRESS_MIN:
        facts = {
            "room": Amount(settled.room_temp_c, "temperature"),
            "left": Amount(max(0.0, left_min), "time"),
            "knead": Amount(knead_min, "time"),
        }
        yield Finding(code="press-window-short", facts=facts, field="room_temp_c")


def _whole_kit(made: RubberPlan) -> Iterator[Finding]:
    if made.whole_kit and made.whole_kit.over_g < 0:
        facts = {"short": Amount(-made.whole_kit.over_g, "mass", 0)}
        yield Finding(code="whole-kit-short", facts=facts, field="kit_left_a_g")


def _additives(shelf: ShelfPicks, rubber: Rubber) -> Iterator[Finding]:
    picked = (("thinner_id", shelf.thinner), ("thickener_id", shelf.thickener), ("pigment_id", shelf.pigment))
    for field, additive in picked:
        if additive and not additive.goes_with(rubber.family):
            facts = {
                "name": additive.name,
                "family": FAMILIES[additive.family].lower(),
                "rubber": FAMILIES[rubber.family].lower(),
            }
            yield Finding(code="additive-not-for-it", facts=facts, field=field)


def _stock(needed: Sequence[Ingredient], settled: SettledRubber, shelf: ShelfPicks) -> Iterator[Finding]:
    for one in needed:
        stocked = shelf.stock.get(one.key)
        if stocked:
            part = one.role if one.role in {"A", "B"} else "all"
            yield from stock_findings(one.name, stocked.lots, {part: one.g}, unseen_g=settled.scale_step_g / 2)
