"""The scene of a GLB file: each of its limits, just kept and just broken, by the layout of glTF 2.0, chapter 4.4."""

import json
import struct
from typing import Any

import pytest

from ufrin.core.mesh.package_3mf import MOST_TRIANGLES
from ufrin.core.mesh.scene_glb import MOST_DEPTH, MOST_NODES, MOST_PARTS, check_scene
from ufrin.errors import Refused


def glb(tree: dict[str, Any], *, kind: bytes = b"JSON", length: int | None = None, whole: int | None = None) -> bytes:
    text = json.dumps(tree).encode()
    head = struct.pack("<4sII", b"glTF", 2, whole if whole is not None else 20 + len(text))
    return head + struct.pack("<I4s", length if length is not None else len(text), kind) + text


def scene(triangles: int = 1, placed: int = 1) -> dict[str, Any]:
    return {
        "nodes": [{"mesh": 0} for _ in range(placed)],
        "meshes": [{"primitives": [{"indices": 0}]}],
        "accessors": [{"count": 3 * triangles}],
    }


def chain(length: int) -> dict[str, Any]:
    return {"nodes": [{"children": [number + 1]} for number in range(length - 1)] + [{}]}


SOUND = (
    {},
    scene(),
    chain(MOST_DEPTH),
    {"nodes": [{} for _ in range(MOST_NODES)]},
    {"accessors": [{"count": 1} for _ in range(MOST_PARTS)]},
    scene(MOST_TRIANGLES // 4, 4),
    {"buffers": [{"uri": "data:application/octet-stream;base64,AA=="}, {}]},
    {"nodes": [{"mesh": 7}, {"mesh": -1}, {"mesh": "0"}]},
    {"nodes": [{"children": [1, 2]}, {}, {}]},
)
BROKEN = (
    (glb({}, kind=b"BIN\0"), "cut short"),
    (glb({}, length=100), "cut short"),
    (glb({}, whole=400), "cut short"),
    (glb({"nodes": [{} for _ in range(MOST_NODES + 1)]}), "nodes"),
    (glb({"accessors": [{"count": 1} for _ in range(MOST_PARTS + 1)]}), "parts"),
    (glb({"accessors": [{"count": 12 * MOST_TRIANGLES + 1}]}), "triangles"),
    (glb(scene(MOST_TRIANGLES // 4 + 1, 4)), "places more than"),
    (glb(chain(MOST_DEPTH + 1)), "nested more than"),
    (glb({"nodes": [{"children": [1]}, {"children": [0]}]}), "circle"),
    (glb({"nodes": [{}, {"children": [2]}, {"children": [1]}]}), "circle"),
    (glb({"nodes": [{"children": [2]}, {"children": [2]}, {}]}), "two others"),
    (glb({"images": [{"uri": "skin.png"}]}), "another file"),
    (glb({"buffers": [{"uri": "data:x"}, {"uri": "far.bin"}]}), "another file"),
)


@pytest.mark.parametrize("number", range(len(SOUND)))
def test_a_scene_within_its_limits_is_let_through(number: int) -> None:
    check_scene(glb(SOUND[number]))


@pytest.mark.parametrize("number", range(len(BROKEN)))
def test_a_scene_that_breaks_a_limit_is_refused_and_says_which(number: int) -> None:
    data, says = BROKEN[number]
    with pytest.raises(Refused, match=says) as refused:
        check_scene(data)
    assert refused.value.field == "file"


def test_many_small_braces_are_refused_before_the_tree_is_made() -> None:
    with pytest.raises(Refused, match="more parts"):
        check_scene(glb({"extras": [{} for _ in range(10 * (MOST_NODES + MOST_PARTS) + 1)]}))


def test_triangles_without_indices_are_counted_by_their_corners() -> None:
    plain = {"meshes": [{"primitives": [{"attributes": {"POSITION": 0}}]}], "nodes": [{"mesh": 0}] * 5}
    check_scene(glb(plain | {"accessors": [{"count": 3 * (MOST_TRIANGLES // 5)}]}))
    with pytest.raises(Refused, match="places more than"):
        check_scene(glb(plain | {"accessors": [{"count": 3 * (MOST_TRIANGLES // 5 + 1)}]}))
