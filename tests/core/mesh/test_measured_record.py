"""What is known of a mesh: kept as plain values, given in a unit, told in words."""

import json

import pytest
from hypothesis import given
from hypothesis import strategies as st
from shapes import CUBE, cup, egg, torn

from ufrin.core.mesh.files import UNITS_MM, in_mm, read
from ufrin.core.mesh.measured_record import MeshFigures, figures_of, size_in_words
from ufrin.core.mesh.mesh_volume import measure
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.mesh.written_files import write_stl


def figures(mesh: Mesh) -> MeshFigures:
    got = read(write_stl(mesh), "x.stl")
    return figures_of(got, measure(got.mesh, cells=40))


@pytest.mark.parametrize("mesh", [CUBE, egg(), cup(), torn()])
def test_it_goes_there_and_back_as_json(mesh: Mesh) -> None:
    known = figures(mesh)
    assert MeshFigures.from_plain(json.loads(json.dumps(known.to_plain()))) == known


@given(st.sampled_from(list(UNITS_MM)))
def test_in_another_unit_it_is_what_measuring_it_in_that_unit_would_say(unit: str) -> None:
    small = Mesh(vertices_mm=torn().vertices_mm / 20, faces=torn().faces)
    got = read(write_stl(small))
    scaled = figures_of(got, measure(got.mesh, cells=40)).in_unit(unit)
    direct = figures_of(got, measure(in_mm(got.mesh, unit), cells=40))
    assert scaled.volume_ml == pytest.approx(direct.volume_ml, rel=1e-6)
    assert scaled.area_cm2 == pytest.approx(direct.area_cm2, rel=1e-6)
    assert scaled.size_mm == pytest.approx(direct.size_mm)
    said, told = (found.findings[0].facts["error"].value for found in (scaled, direct))
    assert said == pytest.approx(told, rel=1e-6)


@pytest.mark.parametrize(
    ("longest", "says", "unit"),
    [
        (82, "", "mm"),
        (3.2, "", "in"),
        (0.09, "", "m"),
        (900, "", "mm"),
        (0.4, "", "in"),
        (5000, "", "mm"),
        (82, "cm", "cm"),
    ],
)
def test_the_unit_is_the_one_in_which_it_is_as_large_as_masters_are(longest: float, says: str, unit: str) -> None:
    known = figures(CUBE)
    plain = known.to_plain() | {"low_mm": [0, 0, 0], "high_mm": [longest, longest / 2, longest / 3], "says_unit": says}
    assert MeshFigures.from_plain(plain).unit == unit


def test_sizes_in_words_grow_with_the_size() -> None:
    words = [size_in_words(size) for size in (3, 20, 35, 55, 82, 150, 300, 600, 1500, 9000, 20_000)]
    assert len(set(words)) == len(words)
    assert words[4] == "a fist"
