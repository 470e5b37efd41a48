"""3MF packages: objects placed in objects, held against the reader of another library and against counting by hand."""

import io
import re
import zipfile

import numpy as np
import pytest
import trimesh
from bursting import CORE, TETRAHEDRON, package
from shapes import egg

from ufrin.core.mesh.files import read
from ufrin.core.mesh.package_3mf import read_3mf
from ufrin.core.mesh.written_files import write_3mf
from ufrin.errors import Refused

TETRAHEDRON_MM3 = 9**3 / 6
ONE = f'<object id="1" type="model">{TETRAHEDRON}</object>'


def model(text: str) -> bytes:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as archive:
        archive.writestr("3D/3dmodel.model", text)
    return packed.getvalue()


def volume_mm3(data: bytes) -> float:
    return read(data, "x.3mf").mesh.volume_mm3


def test_it_agrees_with_the_reader_of_another_library() -> None:
    data = write_3mf(egg())
    vertices, faces, unit = read_3mf(data)
    other = trimesh.load(io.BytesIO(data), file_type="3mf", force="mesh", process=False)
    assert unit == "mm"
    assert np.array_equal(np.asarray(other.faces), faces)
    assert np.allclose(np.asarray(other.vertices), vertices, atol=1e-12)


def test_objects_placed_in_placed_objects_land_where_another_reader_puts_them() -> None:
    pair = (
        '<object id="2" type="model"><components><component objectid="1" transform="0 1 0 -1 0 0 0 0 1 5 6 7"/>'
        '<component objectid="1" transform="2 0 0 0 2 0 0 0 2 -40 0 0"/></components></object>'
    )
    data = package(ONE + pair, '<item objectid="2" transform="1 0 0 0 0 1 0 -1 0 100 0 0"/><item objectid="1"/>')
    got = read(data, "x.3mf")
    other = trimesh.load(io.BytesIO(data), file_type="3mf", force="mesh")
    assert got.triangles == 12
    assert got.mesh.volume_mm3 == pytest.approx(TETRAHEDRON_MM3 * (1 + 8 + 1))
    assert np.allclose(got.mesh.bounds_mm, other.bounds)


def test_a_mirrored_placement_is_wound_back() -> None:
    mirrored = package(ONE, '<item objectid="1" transform="-1 0 0 0 1 0 0 0 1 0 0 0"/>')
    assert volume_mm3(mirrored) == pytest.approx(TETRAHEDRON_MM3)


def test_the_order_of_attributes_prefixes_and_materials_do_not_matter() -> None:
    turned = TETRAHEDRON.replace('x="9" y="0" z="0"', 'z="0" y="0" x="9"').replace(
        'v1="0" v2="2" v3="1"', 'v1="0" v2="2" v3="1" pid="5" p1="0" p2="1" p3="1"'
    )
    assert volume_mm3(package(f'<object id="1">{turned}</object>', '<item objectid="1"/>')) == pytest.approx(
        TETRAHEDRON_MM3
    )
    named = re.sub(r"<(/?)", r"<\1m:", ONE)
    prefixed = model(f'<m:model xmlns:m="{CORE}"><m:resources>{named}</m:resources><m:build/></m:model>')
    assert volume_mm3(prefixed) == pytest.approx(TETRAHEDRON_MM3)


def test_without_build_items_everything_that_nothing_is_made_of_is_built() -> None:
    pair = (
        '<object id="2"><components><component objectid="1"/>'
        '<component objectid="1" transform="1 0 0 0 1 0 0 0 1 20 0 0"/></components></object>'
    )
    assert volume_mm3(package(ONE + pair, "")) == pytest.approx(2 * TETRAHEDRON_MM3)


@pytest.mark.parametrize(("word", "unit"), [("inch", "in"), ("meter", "m"), ("micron", "")])
def test_the_unit_is_the_roots(word: str, unit: str) -> None:
    data = model(f'<model unit="{word}" xmlns="{CORE}"><resources>{ONE}</resources><build/></model>')
    assert read_3mf(data)[2] == unit


@pytest.mark.parametrize(
    ("data", "says"),
    [
        (package(ONE, '<item objectid="7"/>'), "places an object that is not in the file"),
        (package(ONE.replace('v3="3"', 'v3="9"'), '<item objectid="1"/>'), "name corners that are not in the file"),
        (package(ONE.replace('x="9"', 'x="nine"'), '<item objectid="1"/>'), "damaged"),
        (package(ONE.replace('v3="1"/>', "/>", 1), '<item objectid="1"/>'), "cut short or damaged"),
        (package(ONE, '<item objectid="1" transform="1 0 0"/>'), "cut short or damaged"),
        (package(ONE, '<item objectid="1"/>')[:-40], "cut short or damaged"),
    ],
)
def test_a_damaged_package_is_refused(data: bytes, says: str) -> None:
    with pytest.raises(Refused, match=says):
        read(data, "x.3mf")
