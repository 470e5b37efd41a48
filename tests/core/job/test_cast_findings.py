"""Findings of the Casts station: each limit of tin, powder and colour on both of its sides."""

from dataclasses import replace

import pytest
from materials_to_cast import CAVITY, CHALK, GREY, METAL, PICKS, PLAIN, RESIN

from ufrin.core.casting.cast_cups import CastPicks
from ufrin.core.casting.cast_plan import plan_cast
from ufrin.core.casting.planned_cast import CastCavity
from ufrin.core.casting.resins import Resin
from ufrin.core.job.cast_findings import cast_findings, not_checked, other_family
from ufrin.core.wording.findings import Finding


def found(picks: CastPicks = PICKS, cavity: CastCavity = CAVITY, **inputs: object) -> dict[str, Finding]:
    settled = replace(PLAIN, **inputs)  # type: ignore[arg-type]
    told = cast_findings(plan_cast(settled, cavity, picks), settled, picks)
    assert len({one.code for one in told}) == len(told)
    for one in told:
        assert one.text()
    return {one.code: one for one in told}


def tin(**changes: object) -> CastPicks:
    return replace(PICKS, resin=replace(RESIN, **changes))  # type: ignore[arg-type]


def test_what_is_checked_as_another_material_and_cast_in_a_mould_of_another_family() -> None:
    assert not_checked(RESIN, "polyurethane-resin") == not_checked(RESIN, None) == not_checked(None, "plaster") == []
    (one,) = not_checked(RESIN, "epoxy-resin")
    assert (one.code, one.field, one.facts["resin"]) == ("cast-not-checked", "resin_id", "Test resin")
    foam = Resin(name="Foam", kind="rigid-foam", weight_a=1, weight_b=1, sg_mixed=1.1, rises=10)
    assert not_checked(foam, "polyurethane-resin") == []  # as which it is checked
    assert other_family(RESIN, "") == other_family(None, "plaster") == other_family(RESIN, RESIN.kind) == []
    (one,) = other_family(RESIN, "addition-silicone")
    assert (one.level, one.field) == ("stop", "resin_id")


def test_more_than_the_tin_takes_at_once_in_one_cavity() -> None:
    # four cavities of 22 ml with their gates weigh 83.6 g: 20.9 g in each
    assert "cast-too-heavy" not in found(tin(most_g=21.0))
    told = found(tin(most_g=20.0))["cast-too-heavy"]
    assert told.facts["mixed"].value == pytest.approx(20.9)
    assert "cast-too-heavy" not in found(tin(most_g=1.0), cast_kind="shell")  # a thin coat does not heat up
    # foam rises by itself: its cup is not counted as the resin's
    assert "cast-too-heavy" not in found(tin(most_g=1.0), cast_kind="foam-back")


def test_deeper_than_the_tin_takes_in_one_pour() -> None:
    assert "cast-too-deep" not in found(tin(most_mm=25.0))
    assert found(tin(most_mm=24.0))["cast-too-deep"].facts["deep"].value == pytest.approx(25.0)
    assert "cast-too-deep" not in found(tin(most_mm=13.0), cast_kind="layers", layers="1, 1")  # 12.5 mm each
    assert "cast-too-deep" in found(tin(most_mm=12.0), cast_kind="layers", layers="1, 1")
    assert "cast-too-deep" not in found(tin(most_mm=1.0), CastCavity(volume_ml=20))  # nobody knows how high it is


@pytest.mark.parametrize(
    ("pot_life_min", "cup_ml", "room_c", "code"),
    [
        (10.0, None, 23.0, ""),
        (2.9, None, 23.0, "cast-pot-life-short"),
        (3.0, None, 23.0, ""),
        (4.0, None, 33.0, "cast-pot-life-short"),  # 2 min in a room ten degrees warmer
        (7.4, 18.0, 23.0, "cast-pot-life-over"),  # 88 ml in five cups take 7.5 min
        (7.6, 18.0, 23.0, ""),
        (1.4, None, 23.0, "cast-pot-life-over"),  # one cup takes 1.5 min
    ],
)
def test_a_pot_life_that_is_short_or_too_short_for_so_many_cups(
    pot_life_min: float, cup_ml: float | None, room_c: float, code: str
) -> None:
    told = {one for one in found(tin(pot_life_min=pot_life_min), cup_ml=cup_ml, room_c=room_c) if "pot-life" in one}
    assert told == ({code} if code else set())
    assert not {one for one in found(tin(pot_life_min=None)) if "pot-life" in one}


def test_an_amount_that_cannot_fill_the_cavity_is_told() -> None:
    # 20 ml at the density of the test resin
    takes_g = plan_cast(PLAIN, CAVITY, PICKS).fills_g
    told = found(each_g=takes_g * 0.9)["each-too-little"]
    assert told.facts["takes"].value == pytest.approx(takes_g)
    assert "each-too-little" not in found(each_g=takes_g)


@pytest.mark.parametrize(
    ("shares", "counted"),
    [
        ("60, 30", "67 %, 33 %"),
        ("80, 20", ""),
        ("3, 1", ""),
        ("33, 33, 33", "33 %, 33 %, 33 %"),
        ("33.3 33.3 33.4", ""),
    ],
)
def test_shares_that_make_no_whole_are_told_as_they_count(shares: str, counted: str) -> None:
    for kind in ("colours", "marbled"):
        told = found(cast_kind=kind, colour_shares=shares).get("shares-not-whole")
        assert (str(told.facts["counted"]) if told else "") == counted


def test_a_foam_that_gels_too_soon_is_told_as_a_resin_is() -> None:
    quick = Resin(name="Spume", kind="rigid-foam", weight_a=1, weight_b=1, sg_mixed=1.1, rises=9, pot_life_min=2)
    told = found(replace(PICKS, foam=quick), CastCavity(volume_ml=80, area_cm2=90), cast_kind="foam-back")
    assert str(told["cast-pot-life-short"].facts["resin"]) == "Spume"


def test_drops_are_counted_out_loud() -> None:
    dripped = Resin(name="Gel", kind="polyester-resin", drops_per_100_g=30, sg_a=1.1, sg_b=1.0)
    told = found(CastPicks(resin=dripped))["cast-drops"]
    assert told.facts["drops"] == str(round(88 * 1.1 / 100 * 30))
    assert "cast-drops" not in found()


def test_powder_beyond_its_label_is_told_and_dried_first() -> None:
    assert "filler-beyond-most" not in found(cast_kind="filled", scoops=2.0)
    assert "filler-beyond-most" not in found(cast_kind="filled")  # what nobody chose is what the label allows
    assert found(cast_kind="filled", scoops=2.1)["filler-beyond-most"].facts["most"] == "2"
    damp = replace(PICKS, filler=replace(CHALK, dry_min=240.0, dry_c=66.0))
    assert found(damp, cast_kind="filled")["filler-dry"].facts["dry_min"].value == 240.0
    assert "filler-dry" not in found(cast_kind="filled")
    assert "filler-dry" not in found(damp)  # it stays in its bag


def test_dust_of_minerals_and_metals_is_warned_of() -> None:
    assert "metal-dust" in found(cast_kind="filled")
    assert "metal-dust" in found(replace(PICKS, filler=METAL), cast_kind="cold-cast")
    light = replace(CHALK, kind="light-filler", bulk_sg=0.1, true_sg=0.4)
    assert "metal-dust" not in found(replace(PICKS, filler=light), cast_kind="filled")


def test_a_mix_that_powder_makes_stiff_is_told_from_where_it_is_stiff() -> None:
    # Krieger-Dougherty with a share of 0.2 at 0.5 scoops: thicker by about half, not past 3,000 mPa s
    assert not {one for one in found(tin(viscosity_mpa_s=500.0), cast_kind="filled", scoops=0.5) if "filler-t" in one}
    stiff = found(tin(viscosity_mpa_s=2500.0), cast_kind="filled", scoops=1.0)["filler-thickens"]
    assert stiff.facts["viscosity"].value > 3000
    assert stiff.facts["plain"].value == 2500.0
    # 1 scoop of chalk: 0.4 of it grains, beside two volumes of resin (by hand)
    assert stiff.facts["share"].value == pytest.approx(100 * 0.4 / 2.4)
    packed = found(cast_kind="filled", scoops=20.0)["filler-too-stiff"]
    assert packed.field == "scoops"


def test_colour_that_clumps_and_more_colour_than_the_tin_takes() -> None:
    water = replace(GREY, kind="water-colour")
    assert set(found(replace(PICKS, colour=water), colour_pct=50.0)) & {"colour-clumps", "colour-beyond-most"} == {
        "colour-clumps"
    }
    assert "colour-beyond-most" not in found(replace(PICKS, colour=GREY), colour_pct=10.0)
    assert found(replace(PICKS, colour=GREY), colour_pct=10.5)["colour-beyond-most"].facts["most"].value == 10.0


def test_each_kind_has_its_own_word() -> None:
    assert set(found()) == set()
    assert set(found(cast_kind="shell")) == {"shell-cool"}
    assert set(found(cavity=replace(CAVITY, area_cm2=None), cast_kind="shell")) == {"shell-first-trial"}
    assert "foam-lid" in found(cast_kind="foam-back")
    assert "layers-as-block" in found(cast_kind="layers")
    shaped = replace(CAVITY, below_ml=lambda up: 20 * up / 25)
    assert "layers-as-block" not in found(cavity=shaped, cast_kind="layers")


def test_what_is_laid_into_a_cast_floats_or_sinks_by_its_weight() -> None:
    # 2 ml displace 1.9 g of a mix of 0.95 g/ml
    laid = {"cast_kind": "layers", "set_in_ml": 2.0}
    assert found(**laid, set_in_g=1.4)["set-in-floats"].facts["lift"].value == pytest.approx(0.5)
    assert "set-in-sinks" in found(**laid, set_in_g=2.0)
    assert not {"set-in-floats", "set-in-sinks"} & set(found(cast_kind="layers"))


def test_without_a_resin_nothing_is_said() -> None:
    assert cast_findings(plan_cast(PLAIN, CAVITY, PICKS), PLAIN, CastPicks()) == []
