"""The findings of the Rubber station."""

from collections.abc import Iterator

from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.rubber_station import Pour
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.rubber.tins import FAMILIES, Rubber
from ufrin.core.shelf.lots import stock_findings
from ufrin.core.wording.findings import Amount, Finding, worst_first


def rubber_findings(made: Pour | None, inputs: RubberInputs, shelf: ShelfPicks) -> tuple[Finding, ...]:
    """Return the findings of the Rubber station.

    Parameters
    ----------
    made : Pour or None
        Worked out.
    inputs : RubberInputs
        As filled in.
    shelf : ShelfPicks
        What they point to.

    Returns
    -------
    tuple of Finding
        Worst first.
    """
    rubber = shelf.rubber
    if rubber is None:
        return ()
    found = [*rubber.findings(), *_tin(rubber, inputs, shelf)]
    if made is not None:
        found += [
            *_mix(made, inputs, rubber),
            *(made.thinned.findings if made.thinned else ()),
            *_times(made),
            *_whole_kit(made),
            *_additives(shelf, rubber),
            *_stock(made, shelf),
        ]
    return worst_first(found)


def _tin(rubber: Rubber, inputs: RubberInputs, shelf: ShelfPicks) -> Iterator[Finding]:
    if shelf.retired:
        yield Finding(code="retired", facts={"name": rubber.name}, field="rubber_id")
    if inputs.basis == "volume" and not rubber.by_volume:
        yield Finding(code="no-volume-ratio", field="basis")


def _mix(made: Pour, inputs: RubberInputs, rubber: Rubber) -> Iterator[Finding]:
    by_volume = inputs.basis == "volume"
    # by volume the scale is not used, so its step does not matter
    yield from (finding for finding in made.mix.findings if not (by_volume and finding.code == "scale-too-coarse"))
    worst = made.marks_error_pct
    if by_volume and rubber.by_volume and (worst is None or worst > rubber.tolerance_pct):
        facts = {
            "mark": Amount(inputs.settled().cup_mark_ml, "volume"),
            "worst": Amount(worst, "percent") if worst is not None else "any amount",
            "tolerance": Amount(rubber.tolerance_pct, "percent"),
        }
        yield Finding(code="marks-too-coarse", facts=facts, field="cup_mark_ml")
    if made.kits and made.kits.kits > 1 and rubber.kit_g:
        facts = {"kits": str(made.kits.kits), "kit": Amount(rubber.kit_g, "mass", 0)}
        yield Finding(code="kit-short", facts=facts, field="rubber_id")


def _times(made: Pour) -> Iterator[Finding]:
    if not made.pot_life_min:
        return
    number = len(made.batches)
    facts = {"batch": Amount(made.batch_min, "time"), "pot_life": Amount(made.pot_life_min, "time")}
    if made.how != "putty" and made.batch_min > made.pot_life_min:
        yield Finding(code="pot-life-over", facts=facts, field="mix_min")
    elif number > 1 and made.how == "poured" and number * made.batch_min > made.pot_life_min:
        yield Finding(code="pot-life-short", facts={"batches": str(number), **facts}, field="cup_ml")


def _whole_kit(made: Pour) -> Iterator[Finding]:
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


def _stock(made: Pour, shelf: ShelfPicks) -> Iterator[Finding]:
    ingredients = [one for batch in made.batches for one in batch]
    for key in dict.fromkeys(one.key for one in ingredients):
        stocked = shelf.stock.get(key)
        if stocked:
            same = [one for one in ingredients if one.key == key]
            part = same[0].role if same[0].role in {"A", "B"} else "all"
            yield from stock_findings(same[0].name, stocked.lots, {part: sum(one.g for one in same)})
