"""A solid cut by a level plane: volumes add up, and a ball's cap has the volume of solid geometry."""

from math import pi

import pytest
from shapes import CUBE, ball, mushroom, torn

from ufrin.core.mesh.plane_cut import cut_level
from ufrin.errors import Refused


@pytest.mark.parametrize("height_mm", [3.0, 12.5, 21.0, 29.9])
def test_both_parts_make_up_the_whole(height_mm: float) -> None:
    whole = mushroom()
    low = whole.bounds_mm[0, 2]
    below, above = cut_level(whole, low + height_mm)
    assert below.volume_mm3 + above.volume_mm3 == pytest.approx(whole.volume_mm3)
    assert below.extents_mm[2] == pytest.approx(height_mm)
    assert above.bounds_mm[0, 2] == pytest.approx(low + height_mm)


def test_a_cap_of_a_ball_has_the_volume_of_solid_geometry() -> None:
    # V = pi h^2 (3 r - h) / 3, solid geometry
    whole = ball(50, 192)
    _, cap = cut_level(whole, whole.bounds_mm[1, 2] - 10)
    assert cap.volume_mm3 == pytest.approx(pi * 10**2 * (3 * 25 - 10) / 3, rel=0.01)


@pytest.mark.parametrize("height_mm", [-1.0, 0.0, 10.0, 1e6])
def test_a_plane_that_misses_is_refused(height_mm: float) -> None:
    low = CUBE.bounds_mm[0, 2]
    with pytest.raises(Refused, match="does not pass"):
        cut_level(CUBE, low + height_mm)


def test_a_surface_that_is_no_solid_is_refused() -> None:
    whole = torn()
    with pytest.raises(Refused, match="not that of one solid"):
        cut_level(whole, float(whole.bounds_mm[:, 2].mean()))
