"""Whatever bytes arrive as a mesh, a solid comes out or a sentence: sound files that were cut, flipped and mixed up."""

import io
from collections.abc import Callable

import numpy as np
import pytest
import trimesh
from hypothesis import given
from hypothesis import strategies as st
from shapes import CUBE, cup
from thoroughness import examples

from ufrin.core.mesh.files import FORMATS, UNITS_MM, in_mm, kind_of, read
from ufrin.core.mesh.triangles import Mesh
from ufrin.core.mesh.written_files import write_3mf, write_stl
from ufrin.errors import Refused


def exported(kind: str, **more: object) -> bytes:
    mesh = cup(sides=8)
    made = trimesh.Trimesh(mesh.vertices_mm, mesh.faces, process=False).export(file_type=kind, **more)
    return made.encode() if isinstance(made, str) else bytes(made)


SOUND: dict[str, bytes] = {
    "stl": write_stl(cup(sides=8)),
    "ascii.stl": exported("stl_ascii"),
    "obj": exported("obj"),
    "ply": exported("ply"),
    "ascii.ply": exported("ply", encoding="ascii"),
    "off": exported("off"),
    "glb": exported("glb"),
    "3mf": write_3mf(cup(sides=8)),
}


def read_or_told(data: bytes, name: str) -> Mesh | str:
    """Read a file; any error but a refusal in words fails the test."""
    try:
        found = read(data, name).mesh
    except Refused as refused:
        return refused.why
    assert np.isfinite(found.vertices_mm).all()
    assert found.faces.min() >= 0
    assert found.faces.max() < len(found.vertices_mm)
    return found


@pytest.mark.parametrize("kind", SOUND)
def test_the_same_solid_comes_out_of_each_format(kind: str) -> None:
    found = read(SOUND[kind], f"x.{kind}")
    assert found.format == kind.rsplit(".", maxsplit=1)[-1]
    assert found.mesh.volume_mm3 == pytest.approx(cup(sides=8).volume_mm3, rel=1e-4)
    assert kind_of(SOUND[kind], f"x.{kind}") == found.format
    assert found.format in FORMATS
    # the name may be missing or wrong: what it is decides, where that can be told
    if kind not in {"obj"}:
        assert read(SOUND[kind]).format == found.format
    assert read_or_told(SOUND[kind], "x.txt") is not None


def mutations(kind: str) -> st.SearchStrategy[bytes]:
    data = SOUND[kind]
    places = st.integers(0, len(data) - 1)

    @st.composite
    def changed(draw: st.DrawFn) -> bytes:
        made = bytearray(data)
        for _ in range(draw(st.integers(1, 6))):
            at = draw(places) % len(made)
            match draw(st.sampled_from(["flip", "cut", "insert", "repeat", "number"])):
                case "flip":
                    made[at] = draw(st.integers(0, 255))
                case "cut":
                    del made[at : at + draw(st.integers(1, 40))]
                case "insert":
                    made[at:at] = draw(st.binary(max_size=12))
                case "repeat":
                    made[at:at] = made[at : at + draw(st.integers(1, 60))]
                case "number":
                    made[at : at + 4] = draw(st.sampled_from([b"-1 ", b"nan ", b"1e99", b"\xff\xff\xff\x7f", b"9999"]))
            if not made:
                return b""
        return bytes(made)

    return changed()


@pytest.mark.parametrize("kind", SOUND)
def test_a_file_that_was_damaged_gives_a_mesh_or_a_sentence(kind: str) -> None:
    @examples(25)
    @given(mutations(kind))
    def damaged(data: bytes) -> None:
        told = read_or_told(data, f"x.{kind}")
        assert not isinstance(told, str) or (told[0].isupper() and told.endswith((".", "?")))

    damaged()


@examples(25)
@given(st.binary(max_size=300), st.sampled_from([*FORMATS, "txt", ""]))
def test_any_bytes_under_any_name(data: bytes, ending: str) -> None:
    read_or_told(data, f"x.{ending}")


@pytest.mark.parametrize("make", [write_stl, write_3mf])
def test_what_is_written_is_read_back_corner_for_corner(make: Callable[[Mesh], bytes]) -> None:
    mesh = cup(sides=24)
    again = read(make(mesh), "x.stl" if make is write_stl else "x.3mf")
    assert again.triangles == len(mesh.faces)
    assert again.mesh.volume_mm3 == pytest.approx(mesh.volume_mm3, rel=1e-6)
    assert np.allclose(again.mesh.bounds_mm, mesh.bounds_mm, atol=1e-4)
    theirs = trimesh.load(io.BytesIO(make(mesh)), file_type="stl" if make is write_stl else "3mf", force="mesh")
    assert theirs.volume == pytest.approx(mesh.volume_mm3, rel=1e-5)
    assert again.says_unit == ("" if make is write_stl else "mm")


@pytest.mark.parametrize(("unit", "mm"), [("mm", 1), ("cm", 10), ("m", 1000), ("in", 25.4)])
def test_units_of_files(unit: str, mm: float) -> None:
    assert UNITS_MM[unit] == mm
    tiny = Mesh(vertices_mm=CUBE.vertices_mm / mm, faces=CUBE.faces)
    assert np.allclose(in_mm(tiny, unit).extents_mm, CUBE.extents_mm)
    for longest, says in ((0.009, "a hundredth of a millimetre"), (10_001, "over 10 m")):
        wrong = Mesh(vertices_mm=CUBE.vertices_mm / CUBE.extents_mm.max() * longest / mm, faces=CUBE.faces)
        with pytest.raises(Refused, match=says) as refused:
            in_mm(wrong, unit)
        assert refused.value.field == "units"
    with pytest.raises(Refused, match="mm, cm, m or in"):
        in_mm(CUBE, "ell")
