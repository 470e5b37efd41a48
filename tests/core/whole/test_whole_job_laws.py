"""Laws of whole jobs: whatever is combined, the amounts add up, and more of one thing never gives less of another."""

from dataclasses import replace

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st
from records import ADDITION

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.job_plan import JobContext, Plan, plan
from ufrin.core.job.shelf_picks import ShelfPicks, Stocked
from ufrin.core.rubber.additives import Additive
from ufrin.core.shelf.containers import Container

CRATE = Container(name="Crate", length_mm=400, width_mm=300, height_mm=300)
SECOND = replace(ADDITION, name="Neap 30", sg_mixed=1.15, demould_min=480, pot_life_min=25)
OIL, THICK = Additive(name="Ebb", sg=0.97), Additive(name="Weft", kind="thickener", sg=1.0)
STOCK = {"A": Stocked(shelf="rubber:1"), "B": Stocked(shelf="rubber:1")}
sizes = st.floats(20, 150)


@st.composite
def masters(draw: st.DrawFn) -> MasterInputs:
    length, width, height = draw(sizes), draw(sizes), draw(sizes)
    outside_ml = length * width * height / 1000
    volume_ml = outside_ml * draw(st.floats(0.1, 0.7))
    return MasterInputs(
        length_mm=length,
        width_mm=width,
        height_mm=height,
        mass_g=volume_ml * draw(st.floats(0.3, 3)),
        known_ml=volume_ml,
        outline=draw(st.sampled_from(["rectangle", "round"])) if length == width else "rectangle",
    )


@st.composite
def boxes(draw: st.DrawFn) -> BoxInputs:
    bed_mm = draw(st.sampled_from([0.0, 0.0, 10.0]))
    return BoxInputs(
        shape=draw(st.sampled_from([None, "rectangle", "round", "container"])),
        container_id=1,
        count=float(draw(st.integers(1, 4))),
        side_mm=draw(st.floats(5, 30)),
        over_mm=draw(st.floats(6, 30)),
        under_mm=draw(st.sampled_from([0.0, 8.0])),
        gap_mm=draw(st.floats(3, 20)),
        bed_mm=bed_mm,
        sunk_mm=bed_mm / 2,
        filler_ml=draw(st.sampled_from([None, 5.0])),
        filler_family="addition-silicone",
    )


@st.composite
def rubbers(draw: st.DrawFn) -> RubberInputs:
    return RubberInputs(
        rubber_id=1,
        blend_id=draw(st.sampled_from([None, 2])),
        blend_pct=draw(st.floats(10, 90)),
        thinner_id=1,
        thinner_parts=draw(st.sampled_from([None, 5.0, 20.0])),
        pigment_pct=draw(st.sampled_from([None, 1.5])),
        spare_pct=draw(st.floats(0, 30)),
        cling_g=draw(st.floats(0, 10)),
        cup_ml=draw(st.sampled_from([None, 400.0, 900.0])),
        rise_factor=draw(st.sampled_from([None, 3.0])),
        amount=draw(st.sampled_from([None, None, "kit"])),
        kit_left_a_g=700.0,
        room_temp_c=draw(st.floats(8, 35)),
    )


STYLES = st.sampled_from(["open", "slit", "two-part", "squeeze", "tray", "skin"])


def made(master: MasterInputs, box: BoxInputs, poured: RubberInputs, style: str | None) -> Plan:
    shelf = ShelfPicks(
        rubber=ADDITION,
        blend=SECOND if poured.blend_id else None,
        thinner=OIL if poured.thinner_parts else None,
        thickener=THICK,
        stock=STOCK,
    )
    context = JobContext(shelf=shelf, container=CRATE if box.shape == "container" else None)
    return plan(master, box, poured, context, OpeningInputs(style=style))


@given(masters(), boxes(), rubbers(), STYLES)
def test_amounts_over_all_batches_and_halves_add_up(
    master: MasterInputs, box: BoxInputs, poured: RubberInputs, style: str
) -> None:
    found = made(master, box, poured, style)
    if found.rubber is None:
        assert any(found.refusals.values()) or found.box is None
        return
    by_role: dict[str, float] = {}
    for pour in found.pours:
        for batch in pour.batches:
            for one in batch:
                by_role[one.role] = by_role.get(one.role, 0.0) + one.g
    both_g = by_role["A"] + by_role["B"]
    dose = poured.thinner_parts or 0.0
    # ADDITION is one to one by weight, and so is the blend
    assert by_role["A"] == pytest.approx(by_role["B"])
    assert by_role.get("thinner", 0.0) == pytest.approx(both_g * dose / 100)
    assert by_role.get("pigment", 0.0) == pytest.approx(
        (both_g + by_role.get("thinner", 0)) * (poured.pigment_pct or 0) / 100
    )
    assert sum(by_role.values()) == pytest.approx(found.rubber.total_g)
    assert found.rubber.total_g - by_role.get("thickener", 0.0) == pytest.approx(
        sum(pour.mix.total_g for pour in found.pours)
    )
    if poured.amount == "kit":
        first_g = sum(one.g for pour in found.pours for batch in pour.batches for one in batch if one.key == "A")
        assert first_g == pytest.approx(700)
        return
    cups = sum(pour.batch_count for pour in found.pours)
    need_g = sum(pour.need_g for pour in found.pours)
    whole_g = sum(pour.mix.total_g for pour in found.pours)
    assert whole_g == pytest.approx(need_g * (1 + poured.spare_pct / 100) + poured.cling_g * cups)


@given(
    masters(),
    boxes(),
    rubbers(),
    st.sampled_from([None, "open", "two-part", "squeeze", "tray"]),
    st.sampled_from(["side_mm", "over_mm", "gap_mm", "under_mm"]),
    st.floats(0.5, 20),
)
def test_more_clearance_never_needs_less_rubber(
    master: MasterInputs, box: BoxInputs, poured: RubberInputs, style: str | None, name: str, more: float
) -> None:
    poured = replace(poured, amount=None)
    narrow = made(master, box, poured, style)
    assume(narrow.rubber is not None)
    # advice may change with the clearances: the same kind of mould is compared
    style = style or narrow.style
    wide = made(master, replace(box, **{name: (getattr(box, name) or 0.0) + more}), poured, style)
    assume(wide.rubber is not None)
    assert wide.rubber.need_ml >= narrow.rubber.need_ml * (1 - 1e-9)
    if narrow.box is not None and narrow.box.rim_mm == CRATE.height_mm and name in {"side_mm", "gap_mm"}:
        assert wide.rubber.need_ml == pytest.approx(narrow.rubber.need_ml)  # a container is as wide as it is


@given(masters(), boxes(), rubbers(), STYLES, st.floats(1, 40), st.floats(1, 10))
def test_more_spare_loss_or_pigment_never_means_less_in_the_cups(
    master: MasterInputs, box: BoxInputs, poured: RubberInputs, style: str, spare: float, cling: float
) -> None:
    poured = replace(poured, amount=None)
    plain = made(master, box, poured, style)
    assume(plain.rubber is not None)
    for changed in (
        {"spare_pct": poured.spare_pct + spare},
        {"cling_g": poured.cling_g + cling},
        {"pigment_pct": (poured.pigment_pct or 0) + 1},
    ):
        after = made(master, box, replace(poured, **changed), style)
        assert after.rubber is not None
        # thickener goes by A + B, of which there is less where pigment is a part of the same mix
        before_g, after_g = (sum(pour.mix.total_g for pour in one.pours) for one in (plain, after))
        assert after_g >= before_g * (1 - 1e-9)
        assert after.rubber.need_ml == plain.rubber.need_ml


@given(masters(), boxes(), rubbers(), STYLES, st.floats(1, 15))
def test_a_colder_room_only_changes_times(
    master: MasterInputs, box: BoxInputs, poured: RubberInputs, style: str, colder: float
) -> None:
    assume((poured.room_temp_c or 0) - colder > 0)
    warm, cold = (
        made(master, box, poured, style),
        made(master, box, replace(poured, room_temp_c=poured.room_temp_c - colder), style),
    )
    assume(warm.rubber is not None)
    assert [pour.batches for pour in warm.pours] == [pour.batches for pour in cold.pours]
    for one, other in zip(warm.pours, cold.pours, strict=True):
        assert other.pot_life_min == pytest.approx(one.pot_life_min * 2 ** (colder / 10))
        assert other.demould_min == pytest.approx(one.demould_min * 2 ** (colder / 10))
        assert other.tin_demould_min == one.tin_demould_min


@given(masters(), boxes(), rubbers(), st.sampled_from(["two-part", "squeeze"]))
def test_halves_share_the_box_and_nothing_else(
    master: MasterInputs, box: BoxInputs, poured: RubberInputs, style: str
) -> None:
    found = made(master, replace(box, under_mm=10.0), replace(poured, amount=None), style)
    assume(found.halves is not None and found.box is not None and found.rubber is not None)
    halves = found.halves
    # without a shape the box is parted at half the height of the master, which lies in it with half of itself
    plan_of = found.box_plan
    lower_mm = plan_of.foot_mm + plan_of.height_mm / 2
    masters_ml = sum(one.volume_ml * one.count for one in plan_of.masters)
    assert halves.first_displaced_ml == halves.second_displaced_ml == pytest.approx(masters_ml / 2)
    upper_room = found.box.gross_ml * (1 - lower_mm / found.box.fill_mm) - masters_ml / 2
    lower_room = found.box.gross_ml * lower_mm / found.box.fill_mm - masters_ml / 2
    assert halves.bed_ml == pytest.approx(max(0.0, lower_room))
    assert halves.first_ml * lower_room == pytest.approx(halves.second_ml * upper_room)
    # the half over the clay bed is poured first: it is the upper one while the bed is in
    assert [pour.half for pour in found.pours] == ["first", "second"]
    assert [pour.need_ml for pour in found.pours] == [halves.first_ml, halves.second_ml]


def test_what_will_be_cast_changes_no_amount() -> None:
    master = MasterInputs(length_mm=60, width_mm=40, height_mm=30, known_ml=40, mass_g=50)
    context = JobContext(shelf=ShelfPicks(rubber=ADDITION))
    found = [
        plan(master, BoxInputs(), RubberInputs(rubber_id=1), context, OpeningInputs(style="open"), checked=checked)
        for checked in (CheckInputs(), CheckInputs(cast_material="plaster"), CheckInputs(cast_material="epoxy-resin"))
    ]
    assert found[0].pours == found[1].pours == found[2].pours
