"""A whole job worked out: states, what was forgotten, and that nothing typed breaks it."""

from dataclasses import fields, replace
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st
from thoroughness import examples

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.inputs.term import Term
from ufrin.core.job.job_plan import JobContext, plan
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.job.terms.box import BOX_TERMS
from ufrin.core.job.terms.master import MASTER_TERMS
from ufrin.core.job.terms.opening import OPENING_TERMS
from ufrin.core.job.terms.rubber import RUBBER_TERMS
from ufrin.core.rubber.tins import Rubber

RUBBER_10 = Rubber(
    name="Saltmarsh 25", weight_a=100, weight_b=10, sg_mixed=1.13, pot_life_min=45, kit_g=300, kit_price=31.5
)
BOTH_WAYS = Rubber(name="Bosun 40", weight_a=100, weight_b=90, volume_a=1, volume_b=1, sg_a=1.05, sg_b=0.945)
AMMONITE = MasterInputs(length_mm=92, width_mm=78, height_mm=31, mass_g=318, hung_reading_g=121.3, scale_step_g=0.1)


def test_ready_from_top_to_bottom() -> None:
    sealed = replace(AMMONITE, material="limestone", sealer="clear-coat")
    made = plan(
        sealed,
        BoxInputs(),
        RubberInputs(rubber_id=1, scale_step_g=0.1),
        JobContext(shelf=ShelfPicks(rubber=RUBBER_10)),
        OpeningInputs(style="open", flat_back=True),
    )
    assert made.states == {"master": "ready", "opening": "ready", "box": "ready", "rubber": "ready", "checks": "ready"}
    assert made.box is not None
    assert made.pour is not None
    need = made.box.net_ml * 1.13
    assert made.pour.need_g == pytest.approx(need)
    assert made.pour.mix.total_g == pytest.approx(need * 1.1 + 5)
    assert made.pour.short_g == pytest.approx(need * 0.1 + 5)
    assert made.pour.too_much_g == pytest.approx(made.box.displaced_ml * 1.13 * 1.1)
    assert made.rubber is not None
    assert made.rubber.kits.packs[0].packs == 2
    assert made.rubber.kits.cost == pytest.approx(made.pour.mix.total_g * 31.5 / 300)
    assert [finding.code for finding in made.findings["rubber"]] == ["kit-short"]


@pytest.mark.parametrize("master", [MasterInputs(), AMMONITE], ids=["not measured", "measured"])
def test_an_impossible_saw_cut_is_refused_also_before_the_master_is_known(master: MasterInputs) -> None:
    made = plan(master, BoxInputs(kerf_mm=500.0), RubberInputs(), JobContext())
    assert [one.field for one in made.refusals["box"]] == ["kerf_mm"]


def test_each_station_waits_for_the_one_before() -> None:
    empty = plan(MasterInputs(), BoxInputs(), RubberInputs(), JobContext(shelf=ShelfPicks(rubber=None)))
    assert set(empty.states.values()) == {"empty"}
    assert plan(AMMONITE, BoxInputs(), RubberInputs(), JobContext(shelf=ShelfPicks(rubber=None))).states == {
        "master": "ready",
        "opening": "ready",
        "box": "ready",
        "rubber": "empty",
        "checks": "empty",
    }
    contradiction = plan(
        replace(AMMONITE, height_mm=3.1), BoxInputs(), RubberInputs(), JobContext(shelf=ShelfPicks(rubber=RUBBER_10))
    )
    assert [finding.code for finding in contradiction.findings["master"]] == ["more-than-outside"]
    assert (contradiction.states["box"], contradiction.box, contradiction.pour) == ("stop", None, None)


def test_a_missing_displacement_is_a_warning_not_a_guess() -> None:
    unknown = plan(
        replace(AMMONITE, hung_reading_g=None),
        BoxInputs(),
        RubberInputs(),
        JobContext(shelf=ShelfPicks(rubber=RUBBER_10)),
    )
    assert unknown.states["box"] == "warning"
    assert unknown.box is not None
    assert unknown.box.net_ml == unknown.box.gross_ml


def test_by_volume_only_where_the_tin_allows() -> None:
    by_volume = RubberInputs(rubber_id=1, basis="volume")
    allowed = plan(AMMONITE, BoxInputs(), by_volume, JobContext(shelf=ShelfPicks(rubber=BOTH_WAYS))).pour
    assert allowed is not None
    assert allowed.mix.parts["A"].ml == pytest.approx(allowed.mix.parts["B"].ml)
    assert allowed.marks_error_pct is not None
    refused = plan(AMMONITE, BoxInputs(), by_volume, JobContext(shelf=ShelfPicks(rubber=RUBBER_10)))
    assert "no-volume-ratio" in [finding.code for finding in refused.findings["rubber"]]
    assert refused.states["rubber"] == "stop"


def test_the_two_ratios_of_a_tin_are_compared() -> None:
    assert BOTH_WAYS.findings() == ()
    assert BOTH_WAYS.b_per_100_a_by_volume_ratio == pytest.approx(90)
    assert [finding.code for finding in replace(BOTH_WAYS, weight_b=80.0).findings()] == ["ratios-disagree"]


PLAIN: dict[str, st.SearchStrategy[Any]] = {
    "text": st.just(""),
    "flag": st.booleans(),
    "reference": st.none(),
    "hidden": st.none(),
    "direction": st.sampled_from([None, "0, 0, -1", "1, 2, 3"]),
    "profile": st.sampled_from(["", "0 46; 12 30", "0 10; 0 30; 9 0", "5 4; 3 4"]),
}


def _any(
    kind: type, terms: dict[str, Term], besides: dict[str, st.SearchStrategy[Any]] | None = None
) -> st.SearchStrategy[Any]:
    numbers = st.none() | st.floats(0, 1e4, allow_nan=False) | st.sampled_from([0.0, 1e-9, 1.0, 10.0, 1e7])
    made: dict[str, st.SearchStrategy[Any]] = {}
    for name, term in terms.items():
        made[name] = numbers
        if term.choices:
            made[name] = st.none() | st.sampled_from(sorted(term.choices))
        elif term.kind in PLAIN:
            made[name] = PLAIN[term.kind]
        elif term.kind == "count":
            made[name] = st.none() | st.integers(1, 40).map(float)
    made |= besides or {}
    return st.builds(kind, **made)


SPOTS = {
    "gates": st.sampled_from([None, "0, 0, 5", "1e6, 0, 0; 1, 1, 1"]),
    "vents": st.sampled_from([None, "none", "3, -2, 9"]),
    "keys": st.sampled_from([None, "1, 2; -30, 4; 1e6, 0"]),
    "show": st.sampled_from([None, "0, -1, 0", "1, 2, 3"]),
    "cast_up": st.sampled_from([None, "0, 0, 1", "0, 1e-5, -1"]),
}


@examples(25)
@given(
    _any(MasterInputs, dict(MASTER_TERMS)),
    _any(OpeningInputs, dict(OPENING_TERMS), SPOTS),
    _any(BoxInputs, dict(BOX_TERMS)),
    _any(RubberInputs, dict(RUBBER_TERMS)),
    st.sampled_from([None, RUBBER_10, BOTH_WAYS]),
)
def test_whatever_was_typed_a_plan_comes_out_and_every_finding_speaks(
    master: MasterInputs, opening: OpeningInputs, box: BoxInputs, rubber: RubberInputs, tin: Rubber | None
) -> None:
    made = plan(master, box, rubber, JobContext(shelf=ShelfPicks(rubber=tin)), opening)
    for units in ("metric", "us"):
        for found in made.findings.values():
            assert all(len(finding.text(units)) > 30 for finding in found)
    assert made.pour is None or made.pour.mix.total_g > 0


@pytest.mark.parametrize(
    ("kind", "terms"),
    [
        (MasterInputs, MASTER_TERMS),
        (OpeningInputs, OPENING_TERMS),
        (BoxInputs, BOX_TERMS),
        (RubberInputs, RUBBER_TERMS),
    ],
)
def test_every_input_has_its_words(kind: type, terms: dict[str, Term]) -> None:
    assert [f.name for f in fields(kind)] == list(terms)
    assert all(term.label for term in terms.values())
