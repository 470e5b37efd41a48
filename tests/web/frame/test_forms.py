"""Forms: an unchanged field changes nothing, whatever the units."""

from types import SimpleNamespace

from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.job.terms.box import BOX_TERMS
from ufrin.core.rubber.terms import RUBBER_TIN_TERMS
from ufrin.web.frame.forms import fields, read, shown_text


@given(
    st.builds(BoxInputs, side_mm=st.none() | st.floats(0, 5000), count=st.none() | st.integers(1, 40).map(float)),
    st.sampled_from(["metric", "us"]),
)
def test_a_page_sent_back_untouched_changes_nothing(inputs: BoxInputs, units: str) -> None:
    page = {key: shown_text(term, getattr(inputs, key), units) for key, term in BOX_TERMS.items()}
    assert read(BOX_TERMS, page, inputs, units).changes == {}


def test_errors_keep_what_was_typed_and_the_rest_is_read() -> None:
    taken = read(
        BOX_TERMS, {"side_mm": "9 kg", "over_mm": "1/2 in", "rows": "", "shape": "cube"}, BoxInputs(rows=2.0), "metric"
    )
    assert taken.changes == {"over_mm": 12.7, "rows": None}
    assert taken.typed == {"side_mm": "9 kg", "shape": "cube"}
    shown = fields(BOX_TERMS, BoxInputs(over_mm=12.7), "us", taken.errors, taken.typed)
    assert (shown["side_mm"].text, shown["over_mm"].text, shown["over_mm"].is_default, shown["gap_mm"].is_default) == (
        "9 kg",
        "0.5 in",
        False,
        True,
    )
    assert "measures a weight" in shown["side_mm"].error


def test_nothing_is_refused_where_something_is_needed() -> None:
    blank = SimpleNamespace(**dict.fromkeys(RUBBER_TIN_TERMS))
    taken = read(
        RUBBER_TIN_TERMS,
        {"pot_life_min": "0", "weight_a": "0", "kit_price": "0", "name": "a\x00b\u202ec" + " " * 5 + "d"},
        blank,
        "metric",
    )
    assert set(taken.errors) == {"pot_life_min", "weight_a"}
    assert taken.changes == {"kit_price": 0.0, "name": "a b c d"}
