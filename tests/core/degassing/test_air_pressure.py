"""The pressure of the workshop's air, and what follows from it for a vacuum and a pressure pot."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.degassing.air_pressure import local_air_kpa, standard_air_hpa
from ufrin.core.degassing.bubbles import absolute_kpa, pot_ratio
from ufrin.core.degassing.schools import AirRemoval, Liquid, SchoolSettings, schools, wart_findings
from ufrin.errors import Refused

LIQUID = Liquid(viscosity_mpa_s=20_000, sg=1.1, depth_mm=60, volume_ml=300, still_min=30, pour_min=2)


# ISO 2533:1975, pressures of the standard atmosphere by geopotential height, values from memory
@pytest.mark.parametrize(
    ("height_m", "hpa"), [(0, 1013.25), (500, 954.61), (1000, 898.75), (2000, 794.95), (3000, 701.09), (5000, 540.20)]
)
def test_the_standard_atmosphere(height_m: float, hpa: float) -> None:
    assert standard_air_hpa(height_m) == pytest.approx(hpa, abs=0.02)


def test_the_barometer_counts_before_the_height_and_the_sea_where_neither_is_known() -> None:
    assert local_air_kpa(None, None) == pytest.approx(101.325)
    assert local_air_kpa(None, 1000.0) == pytest.approx(89.875, abs=2e-3)
    assert local_air_kpa(850.0, 1000.0) == 85.0
    for pressure, height in ((400.0, None), (float("nan"), None), (None, 9000.0), (None, float("nan"))):
        with pytest.raises(Refused, match="barometer|Workshops stand"):
            local_air_kpa(pressure, height)


@given(st.floats(60, 105), st.floats(1, 600))
def test_boyle_holds_in_a_pot_whatever_the_air(air_kpa: float, gauge_kpa: float) -> None:
    # pressure times volume is the same before and after
    assert pot_ratio(gauge_kpa, air_kpa) * (air_kpa + gauge_kpa) == pytest.approx(air_kpa)


def test_a_gauge_reads_from_the_air_where_it_hangs() -> None:
    assert absolute_kpa(80.0, 84.5) == pytest.approx(4.5)
    assert absolute_kpa(80.0) == pytest.approx(21.325)
    with pytest.raises(Refused, match="84.5"):
        absolute_kpa(90.0, 84.5)


def test_high_up_a_vacuum_does_less_and_a_pot_more() -> None:
    def slow_mm(air_kpa: float) -> dict[str, float | None]:
        return {one.key: one.slow_mm for one in schools(LIQUID, SchoolSettings(air_kpa=air_kpa, vacuum_kpa=3.0))}

    sea, high = slow_mm(101.325), slow_mm(70.0)
    assert high["vacuum"] > sea["vacuum"]  # type: ignore[operator] # bubbles grow less, so the smallest that leaves is larger
    assert high["pressure"] > sea["pressure"]  # type: ignore[operator] # a larger one shrinks out of sight
    assert high["clear"] == sea["clear"]
    left = [
        wart_findings(AirRemoval(mould="clear", cast="pressure", mould_kpa=0, cast_kpa=275, air_kpa=air_kpa))[0]
        for air_kpa in (101.325, 70.0)
    ]
    assert [round(one.facts["left"].value) for one in left] == [27, 20]  # type: ignore[union-attr]
