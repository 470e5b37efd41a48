"""Powder in a cast, by hand: where it thickens, where it no longer flows, and what can't be."""

import pytest

from ufrin.core.casting.filled_cast import MOST_SHARE, PACKS_TO, STIFF_MPA_S, check_filler, filled_viscosity, thickened
from ufrin.core.wording.findings import Amount
from ufrin.errors import Refused


def test_what_powder_does_to_the_flow_of_a_mix() -> None:
    # Krieger and Dougherty 1959: (1 - 0.315 / 0.63)^(-2.5 x 0.63) = 2^1.575
    assert filled_viscosity(1000, 0.315) == pytest.approx(1000 * 2**1.575)
    assert filled_viscosity(1000, MOST_SHARE * PACKS_TO) is None
    assert filled_viscosity(1000, MOST_SHARE * PACKS_TO - 1e-6) is not None
    (note,) = thickened(0.315, "Quayside 70", 2000)
    assert (note.code, note.field, note.level) == ("filler-thickens", "scoops", "note")
    assert dict(note.facts) == {
        "share": Amount(31.5, "percent", 0),
        "viscosity": Amount(pytest.approx(2000 * 2**1.575), "viscosity"),  # type: ignore[arg-type]
        "plain": Amount(2000, "viscosity"),
    }
    (stop,) = thickened(0.62, "Quayside 70")
    assert (stop.code, stop.field, stop.level) == ("filler-too-stiff", "scoops", "stop")
    assert dict(stop.facts) == {"share": Amount(62, "percent", 0), "resin": "Quayside 70"}
    # what pours well, and a tin that states nothing, say nothing
    assert thickened(0.315, "Quayside 70", STIFF_MPA_S / 2**1.575 - 1) == ()
    assert thickened(0.315, "Quayside 70") == ()


@pytest.mark.parametrize(("bulk_sg", "true_sg"), [(0.0, 2.5), (1.0, 0.0), (2.6, 2.5)])
def test_a_powder_that_cannot_be(bulk_sg: float, true_sg: float) -> None:
    with pytest.raises(Refused) as refused:
        check_filler(bulk_sg, true_sg)
    assert refused.value.field == "filler_bulk_sg"
    check_filler(1.0, 2.5)
