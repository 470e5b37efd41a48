"""The masters in their box, as far as it can be worked out: what fails leaves the rest standing."""

from dataclasses import replace

import pytest
from records import ADDITION, MASTER, OPEN, worked_out

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.job.box_findings import box_findings
from ufrin.core.job.boxed import Boxed, boxed, own_master
from ufrin.core.job.job_plan import Plan
from ufrin.core.job.master_station import answer_master
from ufrin.core.master.master_form import Master

FLOAT = Master(length_mm=60, width_mm=40, height_mm=35, volume_ml=50, mass_g=20, name="Float")
HEAVY = replace(FLOAT, mass_g=400, name="Weight")
MEASURED = replace(MASTER, material=None)


def made(*masters: Master, style: str = "open", sg: float | None = 1.2, **inputs: object) -> Boxed:
    return boxed(masters, style, BoxInputs(**inputs), rubber_sg=sg, container=None)  # type: ignore[arg-type]


def codes(of: Boxed, inputs: BoxInputs | None = None, **more: object) -> list[str]:
    given = {"halves": None, "rubber": ADDITION, "not_ready": ()} | more
    return [one.code for one in box_findings(of, inputs=inputs or BoxInputs(), **given)]  # type: ignore[arg-type]


def test_a_master_that_contradicts_itself_is_refused_and_not_boxed() -> None:
    whole = MasterInputs(length_mm=60, width_mm=40, height_mm=35)
    own, why = own_master(whole, answer_master(whole), BoxInputs(count=3.0))
    assert why == ()
    assert own is not None
    assert (own.count, own.height_mm) == (3, 35)
    assert own_master(MasterInputs(), answer_master(MasterInputs()), BoxInputs())[0] is None
    too_much = replace(whole, known_ml=90.0)  # more than 60 x 40 x 35 mm hold
    own, why = own_master(too_much, answer_master(too_much), BoxInputs())
    assert own is None
    assert len(why) == 1


def test_a_box_with_its_walls_and_what_holds_the_masters_down() -> None:
    found = made(FLOAT)
    assert found.box is not None
    assert found.bow is not None
    assert found.refusals == ()
    # 50 ml x 1.2 g/ml less 20 g: 40 g lift it (by hand); what is heavy stays where it is
    (held,) = found.hold_downs
    assert held.lift_g == pytest.approx(40.0)
    assert made(HEAVY).hold_downs == ()
    assert made(FLOAT, sg=None).hold_downs == ()


@pytest.mark.parametrize("style", ["skin", "press"])
def test_kinds_without_a_box_have_none_and_refuse_nothing(style: str) -> None:
    assert made(FLOAT, style=style) == Boxed(masters=(FLOAT,))


def test_what_cannot_be_cut_takes_nothing_away_from_the_box() -> None:
    found = made(FLOAT, kerf_mm=-1.0)
    assert found.box is not None
    assert len(found.refusals) == 1
    wrong = made(FLOAT, rows=1, columns=1, count=1.0, side_mm=0.0, shape="container")
    assert wrong.box is None
    assert wrong.refusals


def test_who_shares_the_box_and_is_not_ready_is_named() -> None:
    (one,) = box_findings(made(), None, BoxInputs(), None, ("Net float",))
    assert (one.code, one.facts["name"]) == ("other-not-ready", "Net float")


def test_a_filler_of_another_family_does_not_bond() -> None:
    found = made(FLOAT, filler_ml=10.0)
    other = BoxInputs(filler_ml=10.0, filler_family="polyurethane-rubber")
    assert "filler-will-not-bond" in codes(found, other)
    assert "filler-will-not-bond" not in codes(found, replace(other, filler_family=ADDITION.family))
    assert "filler-will-not-bond" not in codes(found, replace(other, filler_ml=None))
    assert "filler-will-not-bond" not in codes(found, other, rubber=None)


def test_a_tall_master_beside_low_ones_is_cheaper_alone() -> None:
    tall = Master(length_mm=20, width_mm=20, height_mm=120, volume_ml=40, name="Staff")
    low = Master(length_mm=60, width_mm=60, height_mm=10, volume_ml=30, count=4, name="Tile")
    (one,) = [
        one for one in box_findings(made(tall, low), None, BoxInputs(), ADDITION, ()) if one.code == "tall-in-gang"
    ]
    together, alone, rest = made(tall, low).box, made(tall).box, made(low).box
    assert together is not None
    assert alone is not None
    assert rest is not None
    assert one.facts["saved"].value == pytest.approx(together.net_ml - alone.net_ml - rest.net_ml)
    assert (one.facts["name"], one.facts["height"].value, one.facts["others"].value) == ("“Staff”", 120, 10)
    assert "tall-in-gang" not in codes(made(replace(tall, height_mm=10, volume_ml=3), low))
    assert "tall-in-gang" not in codes(made(tall))


def in_halves(**master: object) -> Plan:
    return worked_out(replace(MEASURED, **master), opening=OpeningInputs(style="two-part"))  # type: ignore[arg-type]


def test_in_a_bed_only_what_the_first_pour_reaches_lifts() -> None:
    plan = in_halves(mass_g=10.0)
    (one,) = [one for one in plan.findings["box"] if one.code == "lifted-out-of-bed"]
    # half of 50 ml lies in the first pour: 25 x 1.08 less 10 g
    assert one.facts["lift"].value == pytest.approx(17.0)
    assert not {"floats", "weight-unknown"} & {one.code for one in plan.findings["box"]}
    assert "lifted-out-of-bed" not in {one.code for one in in_halves(mass_g=30.0).findings["box"]}
    assert "floats" in {one.code for one in worked_out(replace(MEASURED, mass_g=10.0), opening=OPEN).findings["box"]}
