"""Hollows with holes into them, and necks that would break."""

from math import pi

import pytest
from manifold3d import Manifold
from shapes import CUBE, dumbbell

from ufrin.core.master.master_form import Form, stand_form
from ufrin.core.mesh.manifolds import from_manifold
from ufrin.core.opening.open_hollows import open_hollows
from ufrin.core.opening.thin_neck import thin_neck


def standing(made: Manifold) -> Form:
    return stand_form(from_manifold(made), (0, 0, 1))


def box(*holes_mm: float) -> Manifold:
    """A box of 60 x 50 x 70 mm with walls of 4 mm, and holes through its floor."""
    made = Manifold.cube((60, 50, 70)) - Manifold.cube((52, 42, 62)).translate((4, 4, 4))
    for number, across in enumerate(holes_mm):
        made -= Manifold.cylinder(10, across / 2, across / 2, 48).translate((12 + 18 * number, 25, -2))
    return made


@pytest.mark.parametrize("across", [2.5, 4.0, 8.0])
@pytest.mark.parametrize("number", [1, 3])
def test_drain_holes_are_found_and_counted(across: float, number: int) -> None:
    (hollow,) = open_hollows(standing(box(*[across] * number)))
    assert hollow.volume_ml == pytest.approx(52 * 42 * 62 / 1000, rel=0.02)
    assert len(hollow.holes_mm) == number
    assert hollow.widest_mm == pytest.approx(across, abs=1.6)  # two cells
    assert sorted(x for x, _, _ in hollow.holes_mm) == pytest.approx(
        [12 + 18 * one - 30 for one in range(number)], abs=1.5
    )


def test_what_a_ball_can_enter_is_no_hollow() -> None:
    vase = Manifold.cylinder(80, 25, 30, 64) - Manifold.cylinder(80, 20, 26, 64).translate((0, 0, 5))
    for made in (box(), box(16.0), vase, Manifold.cube((40, 40, 40))):
        assert open_hollows(standing(made)) == ()


def test_a_neck_is_as_thick_as_the_bar_of_its_section() -> None:
    ball = Manifold.sphere(15, 96).translate((0, 0, 40))
    found = thin_neck(standing(Manifold.cylinder(30, 2.5, 2.5, 96) + ball + Manifold.cylinder(5, 20, 20, 96)))
    assert found is not None
    assert found.across_mm == pytest.approx(5, rel=0.03)
    assert 5 < found.height_mm < 26
    assert found.above_ml == pytest.approx(4 / 3 * pi * 15**3 / 1000, rel=0.06)


def test_a_foot_or_a_tip_is_no_neck() -> None:
    cone = Manifold.cylinder(60, 20, 0.5, 64)
    for form in (standing(cone), standing(Manifold.sphere(20, 64)), stand_form(CUBE, (0, 0, 1))):
        assert thin_neck(form) is None
    assert thin_neck(stand_form(dumbbell(), (0, 0, 1))) is None  # its neck is half as thick as its balls
