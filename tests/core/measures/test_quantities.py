"""What people type for a quantity."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.measures.conversion import convert
from ufrin.core.measures.display import field_text, show
from ufrin.core.measures.parsing import parse
from ufrin.core.measures.quantity_kinds import KINDS, Units
from ufrin.errors import Refused

SYSTEMS: tuple[Units, ...] = ("metric", "us")


@pytest.mark.parametrize(
    ("text", "kind", "units", "value"),
    [
        ("90", "length", "metric", 90),
        ("90", "length", "us", 2286),
        ("9 cm", "length", "us", 90),
        ("3 1/2 in", "length", "metric", 88.9),
        ("3-1/2", "length", "us", 88.9),
        ('3.5"', "length", "metric", 88.9),
        ("½ in.", "length", "metric", 12.7),
        ("5' 3\"", "length", "metric", 1600.2),
        ("1,5 l", "volume", "metric", 1500),
        ("120 ml", "volume", "us", 120),
        ("4 oz", "volume", "metric", 118.29411825),  # a fluid ounce where a volume is asked for
        ("4 oz", "mass", "metric", 113.3980925),
        ("1 pt", "volume", "metric", 473.176473),
        ("2 fl. oz", "volume", "metric", 59.147059125),
        ("70 °F", "temperature", "metric", 21.1111111111),
        ("1 h 30 min", "time", "metric", 90),
        ("68 lb/ft3", "density", "metric", 1.08925550943),
        ("10 %", "percent", "metric", 10),
    ],
)
def test_reads(text: str, kind: str, units: Units, value: float) -> None:
    assert parse(text, kind, units) == pytest.approx(value, rel=1e-9)


@pytest.mark.parametrize(
    ("text", "kind", "says"),
    [
        ("", "length", "Type a length"),
        ("nan", "length", "can't be read"),
        ("inf", "mass", "can't be read"),
        ("1e400", "mass", "not a unit"),
        ("-3 mm", "length", "less than nothing"),
        ("9 kg", "length", "measures a weight"),
        ("1,000 g", "mass", "comma could mean two things"),
        ("20 m", "length", "more than 10000 mm"),
        ("11 t", "mass", "more than 10000000 g"),
        ("3 in -2 in", "length", "takes one thing from another"),
        ("3 4", "length", "more than one number"),
        ("1/0 in", "length", "divides by nothing"),
        ("2.5", "count", "whole numbers"),
        ("3 cubits", "length", "not a unit"),
        ("<script>", "length", "can't be read"),
        ("9" * 300, "mass", "300 characters"),
    ],
)
def test_refuses(text: str, kind: str, says: str) -> None:
    with pytest.raises(Refused, match=says) as refused:
        parse(text, kind, field="here")
    assert refused.value.field == "here"


@given(st.text(max_size=80), st.sampled_from(sorted(KINDS)), st.sampled_from(SYSTEMS))
def test_any_text_is_a_believable_number_or_a_sentence(text: str, kind: str, units: Units) -> None:
    try:
        value = parse(text, kind, units)
    except Refused as error:
        refused: Refused | None = error
    else:
        refused = None
        assert KINDS[kind].low <= value <= KINDS[kind].high
    assert refused is None or len(str(refused)) > 20


@given(
    st.sampled_from(sorted(set(KINDS) - {"count"})),
    st.sampled_from(SYSTEMS),
    st.sampled_from(SYSTEMS),
    st.floats(0.1, 300),
)
def test_shown_and_typed_back_is_the_same_whatever_the_workshop(
    kind: str, units: Units, later: Units, value: float
) -> None:
    value = min(value, KINDS[kind].high * 0.9)
    text = field_text(value, kind, units)
    # four decimals of the unit that it is shown in
    step = abs(
        convert(1e-4, KINDS[kind].shown[units][1], KINDS[kind].base)
        - convert(0, KINDS[kind].shown[units][1], KINDS[kind].base)
    )
    # an amount without a unit is read in the units of the page it stood on, which its form names
    assert parse(text, kind, later if KINDS[kind].shown[units][0] else units) == pytest.approx(value, abs=step)


@pytest.mark.parametrize(
    ("typed", "cm2"),
    [
        ("44 in2", 44 * 6.4516),
        ("44in^2", 44 * 6.4516),
        ("44 sq in", 44 * 6.4516),
        ("450 cm2", 450),
        ("284 cm^2", 284),
        ("2 ft2", 2 * 929.0304),
        ("12 cm²", 12),
    ],
)
def test_areas_as_they_are_typed(typed: str, cm2: float) -> None:
    assert parse(typed, "area") == pytest.approx(cm2)


@given(st.sampled_from(["length", "mass", "volume", "area"]), st.floats(0.5, 5000), st.integers(0, 3))
def test_what_is_shown_in_other_units_is_read_back_within_half_a_metric_step(
    kind: str, value: float, decimals: int
) -> None:
    shown = show(value, kind, "us", decimals)
    _, metric, _ = KINDS[kind].shown["metric"]
    half_step = abs(convert(0.5 * 10.0**-decimals, metric, KINDS[kind].base) - convert(0.0, metric, KINDS[kind].base))
    assert parse(shown, kind, "us") == pytest.approx(value, abs=half_step * (1 + 1e-9))


def test_figures() -> None:
    assert show(121.53, "volume", "metric", 1) == "121.5 ml"
    assert show(25.4, "length", "us") == "1.000 in"
    assert show(2, "percent", "us") == show(2, "percent") == "2.0 %"
    assert show(960, "time") == "16 h"
    assert show(-0.01, "length") == "0.0 mm"
