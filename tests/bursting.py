"""Small files that would burst whoever took them at their word, made by code."""

import io
import json
import struct
import zipfile

CORE = "http://schemas.microsoft.com/3dmanufacturing/core/2015/02"
TETRAHEDRON = (
    "<mesh><vertices>"
    '<vertex x="0" y="0" z="0"/><vertex x="9" y="0" z="0"/><vertex x="0" y="9" z="0"/><vertex x="0" y="0" z="9"/>'
    "</vertices><triangles>"
    '<triangle v1="0" v2="2" v3="1"/><triangle v1="0" v2="1" v3="3"/>'
    '<triangle v1="1" v2="2" v3="3"/><triangle v1="0" v2="3" v3="2"/>'
    "</triangles></mesh>"
)


def package(objects: str, items: str, more: str = "") -> bytes:
    """Pack a 3MF file."""
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr(
            "3D/3dmodel.model",
            f'<?xml version="1.0"?><model unit="millimeter" xmlns="{CORE}"><resources>{objects}</resources>'
            f"<build>{items}</build>{more}</model>",
        )
    return packed.getvalue()


def many_items(number: int = 1_000_000) -> bytes:
    """Place one tetrahedron a million times: about 100 kB."""
    return package(f'<object id="1" type="model">{TETRAHEDRON}</object>', '<item objectid="1"/>' * number)


def unpacks_to(megabytes: int = 390) -> bytes:
    """Unpack to hundreds of megabytes of corners: about 1 MB."""
    corner = '<vertex x="0" y="0" z="0"/>'
    objects = f'<object id="1" type="model"><mesh><vertices>{corner * (megabytes * 1_000_000 // len(corner))}'
    return package(f"{objects}</vertices><triangles/></mesh></object>", '<item objectid="1"/>')


def many_corners(number: int = 12_000_000) -> bytes:
    """Hold millions of different corners and no triangle: it is not packed so well that it shows at once."""
    corners = "".join(f'<vertex x="{n * 2654435761 % 999983}" y="0" z="{n}"/>' for n in range(number // 12)) * 12
    return package(f'<object id="1"><mesh><vertices>{corners}</vertices><triangles/></mesh></object>', "")


def one_long_word(megabytes: int = 390) -> bytes:
    """Unpack to one attribute of hundreds of megabytes."""
    return package("", "", f'<metadata name="{"x" * (megabytes * 1_000_000)}"/>')


def multiplying(levels: int = 7, each: int = 10) -> bytes:
    """Build ten of ten of ten ... tetrahedra: about 1 kB."""
    objects = [f'<object id="1" type="model">{TETRAHEDRON}</object>']
    for level in range(2, levels + 2):
        inside = f'<component objectid="{level - 1}"/>' * each
        objects.append(f'<object id="{level}" type="model"><components>{inside}</components></object>')
    return package("".join(objects), f'<item objectid="{levels + 1}"/>')


def in_a_circle() -> bytes:
    """Make two objects of each other."""
    objects = "".join(
        f'<object id="{one}" type="model"><components><component objectid="{other}"/></components></object>'
        for one, other in ((1, 2), (2, 1))
    )
    return package(objects, '<item objectid="1"/>')


def glb(tree: dict[str, object], binary: bytes = b"") -> bytes:
    """Pack a GLB file."""
    text = json.dumps(tree, separators=(",", ":")).encode()
    text += b" " * (-len(text) % 4)
    chunks = struct.pack("<I4s", len(text), b"JSON") + text
    if binary:
        chunks += struct.pack("<I4s", len(binary), b"BIN\0") + binary
    return struct.pack("<4sII", b"glTF", 2, 12 + len(chunks)) + chunks


def many_nodes(number: int = 1_000_000) -> bytes:
    """Hang a million nodes into a scene: about 20 MB."""
    return glb({"asset": {"version": "2.0"}, "scenes": [{"nodes": [0]}], "nodes": [{"name": "nnnnnn"}] * number})


def deep_nodes(depth: int = 5000) -> bytes:
    """Hang each node into the one before."""
    nodes: list[dict[str, object]] = [{"children": [number + 1]} for number in range(depth)]
    return glb({"asset": {"version": "2.0"}, "scenes": [{"nodes": [0]}], "nodes": [*nodes, {}]})


def endless_accessor() -> bytes:
    """State ten milliard corners that are nowhere in the file."""
    return glb(
        {
            "asset": {"version": "2.0"},
            "nodes": [{"mesh": 0}],
            "meshes": [{"primitives": [{"attributes": {"POSITION": 0}}]}],
            "accessors": [{"componentType": 5126, "count": 10_000_000_000, "type": "VEC3"}],
        }
    )


def wide_face(corners: int = 10_000_000) -> bytes:
    """Make one face of ten million corners: about 20 MB of OBJ."""
    return b"v 0 0 0\nv 1 0 0\nv 0 1 0\nf " + b"1 2 3 " * (corners // 3) + b"\n"


def wide_off(corners: int = 10_000_000) -> bytes:
    """Make the same as OFF."""
    return b"OFF\n3 1 0\n0 0 0\n1 0 0\n0 1 0\n%d " % corners + b"0 1 2 " * (corners // 3) + b"\n"


def endless_ply() -> bytes:
    """State a milliard corners that are not in the file."""
    return (
        b"ply\nformat binary_little_endian 1.0\nelement vertex 1000000000\nproperty float x\nproperty float y\n"
        b"property float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n"
    )
