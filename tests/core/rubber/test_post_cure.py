"""Post-cure: as a tin or a job asks for it, and none where nobody does."""

from dataclasses import replace

import pytest
from records import ADDITION

from ufrin.core.rubber.blends import blended
from ufrin.core.rubber.post_cure import PostCure, post_cure
from ufrin.errors import Refused


def test_it_is_both_how_hot_and_for_how_long() -> None:
    assert post_cure(None, None) is None
    assert post_cure(93.0, 180.0) == PostCure(temp_c=93.0, hold_min=180.0)
    with pytest.raises(Refused, match="two figures"):
        post_cure(93.0, None)
    with pytest.raises(Refused, match="two figures"):
        replace(ADDITION, post_cure_min=180.0)
    with pytest.raises(Refused, match="believable"):
        replace(ADDITION, post_cure_c=930.0, post_cure_min=180.0)
    with pytest.raises(Refused, match="more than 0"):
        replace(ADDITION, post_cure_c=93.0, post_cure_min=0.0)


def test_a_blend_takes_the_longer_heat_of_its_two() -> None:
    baked = replace(ADDITION, name="Quay 20", post_cure_c=93.0, post_cure_min=180.0)
    for first, second in ((ADDITION, baked), (baked, ADDITION)):
        mixed = blended(first, second, 0.5)
        assert (mixed.post_cure_c, mixed.post_cure_min) == (93.0, 180.0)
    assert blended(ADDITION, replace(ADDITION, name="Estuary 5"), 0.5).post_cure_min is None
