"""Post-cure: 3 h at 93 degC for the silicones that want it (common practice), and none for the others."""

from ufrin.core.rubber.post_cure import PostCure, post_cure_of
from ufrin.core.rubber.tins import FAMILIES


def test_which_families_are_baked() -> None:
    baked = {family: post_cure_of(family) for family in FAMILIES if post_cure_of(family)}
    assert baked
    assert set(baked) <= {"addition-silicone", "condensation-silicone"}
    assert set(baked.values()) == {PostCure(temp_c=93.0, hold_min=180.0)}
    assert post_cure_of("tar") is None
