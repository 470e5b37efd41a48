"""The scene of a GLB file: what it holds, places and nests is counted before a reader takes memory for it.

Khronos Group, glTF 2.0 Specification (ISO/IEC 12113:2022), chapters 3.5 (scenes), 3.6 (accessors) and 4.4 (GLB).
"""

import json
import struct
from collections.abc import Mapping
from typing import Any

from ufrin.core.mesh.package_3mf import MOST_TRIANGLES, refuse_too_much
from ufrin.errors import Refused
from ufrin.language import Text

MOST_SCENE_BYTES = 32 * 1024 * 1024
MOST_NODES, MOST_DEPTH, MOST_PARTS = 10_000, 64, 10_000
_HEAD = 20


def check_scene(data: bytes) -> None:
    """Refuse a GLB file that is cut short, points to other files, or would take more room than is allowed.

    Parameters
    ----------
    data : bytes
        The file.

    Raises
    ------
    Refused
        With the limit that it breaks.
    """
    length, kind = struct.unpack_from("<I4s", data, 12)
    if kind != b"JSON" or _HEAD + length > len(data) or struct.unpack_from("<I", data, 8)[0] > len(data):
        raise Refused("file", Text("The file stops before its end: it is cut short. Export or copy it again."))
    if length > MOST_SCENE_BYTES:
        refuse_too_much(
            Text("The description of its scene takes {length} MB; 33 MB is the most", length=length // 1_000_000)
        )
    # the names of nodes are counted in the text, before the tree is made
    if data.count(b"{", _HEAD, _HEAD + length) > 10 * (MOST_NODES + MOST_PARTS):
        refuse_too_much(
            Text("Its scene has more parts than are taken: {most_nodes} nodes are the most", most_nodes=MOST_NODES)
        )
    tree = json.loads(data[_HEAD : _HEAD + length])
    _check_pointers(tree)
    nodes, meshes, accessors = _list(tree, "nodes"), _list(tree, "meshes"), _list(tree, "accessors")
    if len(nodes) > MOST_NODES:
        refuse_too_much(
            Text("Its scene has {nodes} nodes; {most_nodes} is the most", nodes=len(nodes), most_nodes=MOST_NODES)
        )
    if len(meshes) > MOST_PARTS or len(accessors) > MOST_PARTS:
        refuse_too_much(Text("It has more than {most_parts} parts, which is the most", most_parts=MOST_PARTS))
    if sum(_count(one) for one in accessors) > 12 * MOST_TRIANGLES:
        refuse_too_much(
            Text("It holds more than {most_triangles} triangles, which is the most", most_triangles=MOST_TRIANGLES)
        )
    _check_depth(nodes)
    of_mesh = [sum(_triangles(part, accessors) for part in _list(mesh, "primitives")) for mesh in meshes]
    placed = [node["mesh"] for node in nodes if isinstance(node.get("mesh"), int)]
    if sum(of_mesh[number] for number in placed if 0 <= number < len(of_mesh)) > MOST_TRIANGLES:
        refuse_too_much(
            Text(
                "Its scene places more than {most_triangles} triangles, which is the most",
                most_triangles=MOST_TRIANGLES,
            )
        )


def _list(tree: Mapping[str, Any], key: str) -> list[dict[str, Any]]:
    return [one for one in tree.get(key, []) if isinstance(one, dict)]


def _count(accessor: Mapping[str, Any]) -> int:
    return int(accessor.get("count", 0))


def _check_pointers(tree: Mapping[str, Any]) -> None:
    named = [str(part.get("uri", "")) for key in ("buffers", "images") for part in _list(tree, key)]
    if any(uri and not uri.startswith("data:") for uri in named):
        raise Refused(
            "file",
            Text(
                "The file keeps its triangles in another file that it points to, and Ufrin follows no "
                "pointers. Export it in one piece."
            ),
        )


def _check_depth(nodes: list[dict[str, Any]]) -> None:
    # a node has one parent at most, so that a scene is a tree; its levels are walked from the roots
    children = [[int(child) for child in node.get("children", [])] for node in nodes]
    named = [child for some in children for child in some]
    if len(set(named)) != len(named):
        raise Refused(
            "file", Text("A part of its scene hangs on two others at once, which no GLB file may. Export it again.")
        )
    level = [number for number in range(len(nodes)) if number not in set(named)]
    seen = depth = 0
    while level:
        depth, seen = depth + 1, seen + len(level)
        if depth > MOST_DEPTH:
            refuse_too_much(Text("Its scene is nested more than {most_depth} deep", most_depth=MOST_DEPTH))
        level = [child for number in level for child in children[number] if child < len(nodes)]
    if seen != len(nodes):
        raise Refused("file", Text("Its scene runs in a circle. Export the model again."))


def _triangles(part: Mapping[str, Any], accessors: list[dict[str, Any]]) -> int:
    number = part.get("indices", part.get("attributes", {}).get("POSITION", -1))
    return _count(accessors[number]) // 3 if isinstance(number, int) and 0 <= number < len(accessors) else 0
