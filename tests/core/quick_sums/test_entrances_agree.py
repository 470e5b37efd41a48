"""A sum and the stations with the same givens: the same grams; and every answer is worded and can be shown."""

from collections.abc import Iterable
from dataclasses import replace
from pathlib import Path
from typing import Any

import pytest
from babel.messages.pofile import read_po
from records import ADDITION

import ufrin
from ufrin.core.casting.cast_cups import CastPicks
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.casts import CastInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.casts_station import CastsAnswer, answer_casts
from ufrin.core.job.hardness_station import answer_hardness
from ufrin.core.job.job_plan import JobContext, Plan, plan
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.measures.display import say_amounts, show
from ufrin.core.quick_sums.all_sums import SUMS
from ufrin.core.quick_sums.quick_sum import SumAnswer, SumInputs
from ufrin.core.rubber.additives import Additive
from ufrin.core.wording.findings import Amount
from ufrin.language import Joined, Text

SIZE = {"length_mm": 85.0, "width_mm": 60.0, "height_mm": 40.0}
BOXED = SIZE | {"displaced_ml": 118.0, "side_mm": 10.0, "over_mm": 15.0}
GIVEN: list[tuple[str, dict[str, Any]]] = [
    ("mix", {"need_ml": 300.0, "ratio": "10:1", "sg": 1.13, "cup_ml": 100.0, "thinner_parts": 10.0}),
    ("mix", {"need_g": 300.0, "ratio_by": "volume", "ratio": "1:1", "sg_a": 1.1, "sg_b": 1.0}),
    ("mend", {"a_g": 100.0, "b_g": 12.0, "ratio": "10:1"}),
    ("mend", {"a_g": 100.0, "b_g": 10.1, "ratio": "10:1"}),
    ("weight", {"volume_ml": 300.0, "sg": 1.1}),
    ("box", BOXED | {"count": 3.0}),
    ("box", SIZE | {"level_before_ml": 300.0, "level_after_ml": 418.0}),
    ("pot", {"bottom_mm": 80.0, "top_mm": 100.0, "height_mm": 90.0, "bed_mm": 20.0, "displaced_ml": 50.0}),
    ("hardness", {"rubber": "A 15", "target": "00 50"}),
    ("hardness", {"rubber": "A 15", "parts": 12.0}),
    ("blend", {"first": "A 10", "second": "A 30", "share_pct": 50.0}),
    ("bubbles", {"viscosity_mpa_s": 20000.0, "pot_life_min": 30.0}),
    ("cure", {"tin_min": 240.0, "room_temp_c": 19.0}),
    ("clock", {"tin_min": 240.0, "room_temp_c": 19.0}),
    ("cast", {"cavity_ml": 100.0, "count": 2.0, "ratio": "100:90", "sg": 1.06}),
    ("shell", {"area_cm2": 340.0, "thickness_mm": 3.5, "coat_mm": 1.0, "sg": 1.05, "cavity_ml": 820.0}),
    ("filler", {"need_ml": 180.0, "scoops": 1.5, "ratio": "100:100", "sg": 1.1}),
    ("cost", {"pieces": 50.0, "mould_cost": 45.0, "mould_life_casts": 25.0, "unit_cost": 2.1, "buy_price": 9.5}),
    ("grams", BOXED | {"ratio": "10:1", "sg": 1.13, "spare_pct": 7.0}),
]


def given(key: str, typed: dict[str, Any]) -> SumInputs:
    return SumInputs(terms=SUMS[key].terms, typed=typed)


def messages(shown: object) -> Iterable[str]:
    """Return the messages that a text is made of, with those that fill its gaps."""
    if isinstance(shown, Joined):
        for part in shown.parts:
            yield from messages(part)
    elif isinstance(shown, Text):
        yield shown.message
        for gap in shown.gaps.values():
            yield from messages(gap)


def amounts(made: SumAnswer) -> list[Amount]:
    return [amount for _, amount in made.figures] + [one for _, one in made.rows if isinstance(one, Amount)]


@pytest.mark.parametrize(("key", "typed"), GIVEN)
def test_an_answer_has_its_words_in_the_catalogue_and_is_shown_in_both_unit_systems(
    key: str, typed: dict[str, Any]
) -> None:
    with (Path(ufrin.__file__).parent / "locale" / "de.po").open("rb") as file:
        known = {form for one in read_po(file) for form in ([one.id] if isinstance(one.id, str) else one.id)}
    made = SUMS[key].work(given(key, typed))
    told = [made.sentence, *made.better, *(label for label, _ in (*made.figures, *made.rows))]
    told += [one for _, one in made.rows if not isinstance(one, Amount)]
    assert {message for one in told for message in messages(one)} <= known | {""}
    for text in told:
        assert "None" not in str(text)
        for units in ("metric", "us"):
            assert "[" not in say_amounts(str(text), units)  # type: ignore[arg-type]
    for one in amounts(made):
        for units in ("metric", "us"):
            assert show(one.value, one.kind, units, one.decimals)  # type: ignore[arg-type]


def planned(key: str, typed: dict[str, Any], **more: Any) -> tuple[Plan, CastsAnswer | None]:  # noqa: ANN401
    """Work out the job that is made of a sum, as its stations do."""
    inputs = given(key, typed)
    kept, tins = SUMS[key].for_job(inputs), SUMS[key].tins(inputs)
    own = {station: {name: one for name, one in made.items() if one is not None} for station, made in kept.items()}
    rubber, cast = tins.get("rubber", {}), tins.get("casts", {})
    master = own.get("master", {}) | more
    made = plan(
        MasterInputs(**master),
        BoxInputs(**own.get("box", {})),
        RubberInputs(**own.get("rubber", {})),
        JobContext(shelf=ShelfPicks(rubber=rubber.get("rubber_id"), thinner=rubber.get("thinner_id"))),  # type: ignore[arg-type]
        OpeningInputs(**own.get("opening", {})),
    )
    if "casts" not in {*own, *tins}:
        return made, None
    picks = CastPicks(resin=cast.get("resin_id"), filler=cast.get("filler_id"))  # type: ignore[arg-type]
    return made, answer_casts(CastInputs(**own.get("casts", {})), made, picks)


def figures(key: str, typed: dict[str, Any]) -> list[float]:
    return [amount.value for _, amount in SUMS[key].work(given(key, typed)).figures]


@pytest.mark.parametrize("typed", [BOXED, BOXED | {"count": 3.0}, GIVEN[6][1]])
def test_a_box_holds_as_much_rubber(typed: dict[str, Any]) -> None:
    made, _ = planned("box", typed)
    assert made.box is not None
    assert [made.box.net_ml] == pytest.approx(figures("box", typed))
    assert made.style == "open"
    assert not made.halves


def test_its_grams_are_the_same() -> None:
    key, typed = GIVEN[-1]
    made, _ = planned(key, typed)
    assert made.pour is not None
    assert [made.pour.mix.parts[part].g for part in "AB"] == pytest.approx(figures(key, typed))


@pytest.mark.parametrize("typed", [GIVEN[0][1], GIVEN[1][1] | {"need_ml": 300.0, "spare_pct": 3.0}])
def test_a_mix_is_the_same_for_what_the_box_takes(typed: dict[str, Any]) -> None:
    made, _ = planned("mix", typed, **SIZE, known_ml=118.0)
    assert made.pour is not None
    asked = {name: one for name, one in typed.items() if name != "need_g"} | {"need_ml": made.pour.need_ml}
    wanted = figures("mix", asked)
    batches = made.pour.batches
    grams = [one.g for one in batches[0] if one.role in {"A", "B", "thinner"}]
    assert sorted(grams) == pytest.approx(sorted(wanted))
    assert (len(batches) > 1) == ("cup_ml" in typed)


@pytest.mark.parametrize("place", [14, 15, 16])
def test_a_cast_takes_the_same(place: int) -> None:
    key, typed = GIVEN[place]
    _, casts = planned(key, typed)
    assert casts is not None
    assert casts.plan is not None, casts.refusals
    grams = sorted(one.g for one in casts.plan.cups[0].ingredients)
    assert grams == pytest.approx(sorted(figures(key, typed)))
    resin = casts.picks.resin
    assert resin is not None
    assert f"{typed['sg']:.2f} g/ml" in resin.name


def test_what_was_not_typed_is_not_kept() -> None:
    assert SUMS["cure"].for_job(given("cure", {"tin_min": 60.0})) == {"rubber": {}}
    assert SUMS["cure"].for_job(given("cure", {"tin_min": 60.0, "room_temp_c": 19.0})) == {
        "rubber": {"room_temp_c": 19.0}
    }
    target = SUMS["hardness"].for_job(given("hardness", {"rubber": "A 15", "target": "00 50"}))
    assert target == {"rubber": {"target_scale": "00", "target_shore": 50.0}}
    assert SUMS["hardness"].for_job(given("hardness", {"rubber": "A 15", "parts": 12.0})) == {}
    assert "count" not in SUMS["box"].for_job(given("box", BOXED))["box"]


def test_hardness_takes_as_much_thinner_as_its_page() -> None:
    rubber = replace(ADDITION, hardness=15.0, sg_mixed=1.12)
    shelf = ShelfPicks(rubber=rubber, thinner=Additive(name="Slack thinner", sg=0.96))
    page = answer_hardness(None, BoxInputs(), None, RubberInputs(target_scale="00", target_shore=50.0), shelf)
    typed = {"rubber": "A 15", "target": "00 50", "sg": 1.12, "thinner_sg": 0.96}
    assert page.solved is not None
    assert figures("hardness", typed) == pytest.approx([page.solved.parts_per_100])
