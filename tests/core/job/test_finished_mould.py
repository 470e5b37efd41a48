"""A mould that is there already: how a cast meets what it is of, and what is put into it first."""

import pytest
from materials_to_cast import FOAM, RESIN

from ufrin.core.casting.resins import Resin
from ufrin.core.inputs.casts import SettledCasts
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.job.checks_station import ShopWays
from ufrin.core.job.finished_mould import MOULD_OF, FinishedMould, finished_mould
from ufrin.core.materials.kinds import POURS

SILICONE = Resin(name="Bilge 20", kind="addition-silicone", weight_a=1, weight_b=1, sg_mixed=1.1)


def met(family: str, resin: Resin | None = RESIN, between: str | None = None, release: str = "spare") -> FinishedMould:
    found = finished_mould(
        SettledCasts(mould_family=family), resin, CheckInputs(between_cast=between), ShopWays(release=release)
    )
    assert found is not None
    return found


def test_before_a_material_is_chosen_nothing_meets() -> None:
    assert finished_mould(SettledCasts(mould_family="plaster"), None, CheckInputs(), ShopWays()) is None


@pytest.mark.parametrize("family", MOULD_OF)
def test_the_cast_is_what_is_poured_and_the_mould_what_is_touched(family: str) -> None:
    pair = met(family).pair
    assert (pair.contact.key, pair.contact.pour, pair.contact.touches) == ("cast", "polyurethane-resin", family)
    assert pair.ruling.why


def test_a_resin_in_its_own_kind_bonds_unless_a_release_lies_between() -> None:
    bare = met("polyurethane-resin", between="none")
    assert bare.finding is not None
    assert bare.finding.field == "mould_family"  # the choice that can be changed here
    assert met("polyurethane-resin", between="silicone-free-release").finding is None
    assert [step.phase for step in met("polyurethane-resin", between="silicone-free-release").steps] == ["cast"]


def test_silicone_in_silicone_wants_a_release_and_resin_in_silicone_does_not() -> None:
    # common practice: rubber of one family bonds to itself, and resins let go of silicone by themselves
    assert met("addition-silicone", SILICONE, "none").finding is not None
    assert met("addition-silicone").finding is None
    assert met("addition-silicone").steps == ()
    assert met("addition-silicone", release="always").steps  # a shop that always takes one


def test_a_foam_is_judged_as_the_resin_that_it_is() -> None:
    assert met("plaster", FOAM).pair.contact.pour == "polyurethane-resin"
    assert "polyurethane-resin" in POURS
