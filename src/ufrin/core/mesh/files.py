"""Mesh files: STL, OBJ, PLY, 3MF, OFF and GLB read from bytes.

References to other files are never followed.
"""

import io
import re
import struct
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from ufrin.core.mesh.package_3mf import MOST_TRIANGLES, read_3mf
from ufrin.core.mesh.scene_glb import check_scene
from ufrin.core.mesh.triangles import Floats, Mesh, Whole, from_triangles, merged
from ufrin.errors import Refused
from ufrin.language import Text

FORMATS: Mapping[str, str] = {"stl": "STL", "obj": "OBJ", "ply": "PLY", "3mf": "3MF", "off": "OFF", "glb": "GLB"}
UNITS_MM: Mapping[str, float] = {"mm": 1.0, "cm": 10.0, "m": 1000.0, "in": 25.4}
MOST_FACE_CORNERS = 1000
LONGEST_MM = 10_000.0
CHUNK_BYTES = 4_000_000
_STL_HEAD, _STL_ROW = 84, 50
# lines so short can't name more corners than are taken: they need not be counted
_LONG_LINE = re.compile(rb"^[^\n]{%d,}" % (2 * MOST_FACE_CORNERS), re.MULTILINE)
_PLY_COUNT = re.compile(rb"element\s+(\w+)\s+(\d+)")


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class MeshFile:
    """A mesh as a file holds it.

    Parameters
    ----------
    format : str
        A key of ``FORMATS``.
    mesh : Mesh
        Corners in the file's own unit.
    triangles : int
        As listed in the file.
    says_unit : str
        A key of ``UNITS_MM`` where the format or the file names one; else empty.
    """

    format: str
    mesh: Mesh
    triangles: int
    says_unit: str = ""


def read(data: bytes, name: str = "") -> MeshFile:
    """Read a mesh file.

    Parameters
    ----------
    data : bytes
        The file.
    name : str, optional
        Its name; only the ending counts, and only where the content does not decide.

    Returns
    -------
    MeshFile
        With corners shared.

    Raises
    ------
    Refused
        When it is no mesh, is cut short, states a wrong size or is empty.
    MemoryError
        When it takes more than there is.
    """
    kind = kind_of(data, name)
    try:
        got = _READERS[kind](data)
    except (Refused, MemoryError):
        raise
    except Exception as error:  # whatever a reader fails on, the file is at fault
        raise Refused(
            "file",
            Text(
                "The file looks like {kind} and can't be read as such: it is cut short or damaged. Export it again.",
                kind=FORMATS[kind],
            ),
        ) from error
    if got.triangles > MOST_TRIANGLES:
        raise Refused(
            "file",
            Text(
                "It holds {triangles} triangles; {most_triangles} is the most. Reduce the model and export it again.",
                triangles=got.triangles,
                most_triangles=MOST_TRIANGLES,
            ),
        )
    if not np.isfinite(got.mesh.vertices_mm).all():
        raise Refused(
            "file",
            Text("Some corners are no numbers at all (NaN or infinite). The export went wrong: save the model again."),
        )
    return got


def kind_of(data: bytes, name: str = "") -> str:
    """Return a mesh file's format.

    Parameters
    ----------
    data : bytes
        The file.
    name : str, optional
        Its name; only the ending is looked at.

    Returns
    -------
    str
        A key of ``FORMATS``.

    Raises
    ------
    Refused
        When it is empty or none of them.
    """
    if not data[:65536].strip(b"\0 \r\n\t") and not _is_sized_like_stl(data):
        raise Refused("file", Text("The file is empty. Export the model again and look at the file's size."))
    ending = name.rsplit(".", 1)[-1].lower()
    head = data[:512].lstrip()
    if data[:4] == b"glTF":
        return "glb"
    if data[:4] == b"PK\x03\x04":
        return "3mf"
    if head[:3] == b"ply":
        return "ply"
    if re.match(rb"(ST)?C?N?OFF\b", head):
        return "off"
    if _is_ascii_stl(data) or ending == "stl" or _is_sized_like_stl(data):
        return "stl"
    if ending == "obj" or re.search(rb"^v\s+-?[\d.]", data[:65536], re.MULTILINE):
        return "obj"
    raise Refused(
        "file",
        Text(
            "This is none of the mesh files Ufrin reads: STL, OBJ, PLY, 3MF, OFF or GLB. Export "
            "the model as one of them."
        ),
    )


def _stl_count(data: bytes) -> int:
    return int(struct.unpack_from("<I", data, 80)[0]) if len(data) >= _STL_HEAD else -1


def _is_sized_like_stl(data: bytes) -> bool:
    return len(data) >= _STL_HEAD and len(data) == _STL_HEAD + _STL_ROW * _stl_count(data)


def _is_ascii_stl(data: bytes) -> bool:
    return data[:512].lstrip()[:5].lower() == b"solid" and b"facet" in data[:4096]


def _stl(data: bytes) -> MeshFile:
    if _is_ascii_stl(data):
        return _ascii_stl(data)
    count, room = _stl_count(data), (len(data) - _STL_HEAD) // _STL_ROW
    if count < 0:
        raise Refused(
            "file", Text("The file ends before its first triangle: it is cut short or is no STL. Export it again.")
        )
    if count > room:
        raise Refused(
            "file",
            Text(
                "The file says it has {count} triangles and there is room for {room} in it: it is cut "
                "short. Export or copy it again.",
                count=count,
                room=room,
            ),
        )
    rows = np.frombuffer(
        data, np.dtype([("normal", "<f4", 3), ("corners", "<f4", (3, 3)), ("more", "<u2")]), count, _STL_HEAD
    )
    corners = np.ascontiguousarray(rows["corners"]).reshape(-1, 3)
    return _loose(corners, count)


def _ascii_stl(data: bytes) -> MeshFile:
    if b"endsolid" not in data[-4096:].lower():
        raise Refused("file", Text("The file stops before its end: it is cut short. Export or copy it again."))
    if b"VERTEX" in data:
        data = data.lower()
    line = re.compile(rb"vertex(.*)")
    numbers = np.concatenate([_numbers(line.findall(chunk), 3) for chunk in _chunks(data)])
    if len(numbers) % 3:
        raise Refused("file", Text("Its last triangle is not whole: the file is cut short. Export or copy it again."))
    return _loose(numbers.astype(np.float32), len(numbers) // 3)


def _chunks(data: bytes) -> Iterator[bytes]:
    # whole lines, a few megabytes at a time, so that a large file is never split all at once
    begin = 0
    while begin < len(data):
        end = data.find(b"\n", begin + CHUNK_BYTES)
        end = len(data) if end < 0 else end + 1
        yield data[begin:end]
        begin = end


def _numbers(rows: list[bytes], each: int) -> Floats:
    numbers = np.fromstring(b" ".join(rows), sep=" ")
    if len(numbers) != each * len(rows):  # more columns than wanted, such as colours: only then is it read row by row
        numbers = np.array([row.split()[:each] for row in rows], dtype=np.float64)
    return numbers.reshape(-1, each)


def _obj(data: bytes) -> MeshFile:
    # the library wants lines that begin at their letter and single spaces, and it counts relative corners from the
    # end of the file; materials, textures and other files that are named are never looked at
    plain = data.replace(b"\r\n", b"\n").replace(b"\\\n", b" ").replace(b"\t", b" ")
    plain = re.sub(rb"(?m)^ +", b"", plain)
    _check_face_corners(plain, b"f ")
    if re.search(rb"(?m)^f [^\n]*-", plain):
        plain = b"\n".join(_absolute(plain.split(b"\n")))
    return _by_library("obj", plain)


def _check_face_corners(text: bytes, begins: bytes = b"") -> None:
    # a face of very many corners is cut into triangles that take far more room than its line
    for line in _LONG_LINE.finditer(text):
        if line[0].startswith(begins) and line[0].count(b" ") > MOST_FACE_CORNERS:
            raise Refused(
                "file",
                Text(
                    "One of its faces has more than {most_face_corners} corners, which is the most. Cut "
                    "the faces into triangles and export it again.",
                    most_face_corners=MOST_FACE_CORNERS,
                ),
            )


def _ply(data: bytes) -> MeshFile:
    head = data[: data.find(b"end_header") + 1 or 4096]
    _check_counts({name.decode(): int(count) for name, count in _PLY_COUNT.findall(head)}, len(data))
    if b"format ascii" in head:
        _check_face_corners(data)
    return _by_library("ply", data)


def _off(data: bytes) -> MeshFile:
    words = re.sub(rb"#[^\n]*", b"", data[:4096]).split()
    counts = [int(word) for word in words[1:3] if word.isdigit()]
    _check_counts(dict(zip(("vertex", "face"), counts, strict=False)), len(data))
    _check_face_corners(data)
    return _by_library("off", data)


def _check_counts(counts: Mapping[str, int], length: int) -> None:
    if any(count > length for count in counts.values()):  # each takes a byte at least
        raise Refused(
            "file",
            Text(
                "The file says that it has more corners or faces than there is room for in it: it is "
                "cut short or damaged. Export or copy it again."
            ),
        )
    if counts.get("face", 0) > MOST_TRIANGLES or counts.get("vertex", 0) > 3 * MOST_TRIANGLES:
        raise Refused(
            "file",
            Text(
                "It holds more than {most_triangles} triangles, which is the most. Reduce the model.",
                most_triangles=MOST_TRIANGLES,
            ),
        )


def _absolute(lines: Iterable[bytes]) -> Iterator[bytes]:
    # corners that count back from the newest one above their face, as numbers from the first
    above = 0
    for line in lines:
        if line[:2] == b"v ":
            above += 1
            yield line
        elif line[:2] == b"f ":
            corners = (int(word.split(b"/")[0]) for word in line[2:].split())
            yield b"f " + b" ".join(b"%d" % (above + 1 + corner if corner < 0 else corner) for corner in corners)
        else:
            yield line


def _loose(corners: np.ndarray, count: int) -> MeshFile:
    if not np.isfinite(corners).all():
        raise Refused(
            "file",
            Text("Some corners are no numbers at all (NaN or infinite). The export went wrong: save the model again."),
        )
    if count == 0:
        raise Refused(
            "file",
            Text("There are no triangles in it. Export the model as a mesh, not as a drawing or an empty scene."),
        )
    return MeshFile(format="stl", mesh=from_triangles(corners), triangles=count)


def _by_library(kind: str, data: bytes, says_unit: str = "") -> MeshFile:
    import trimesh  # noqa: PLC0415 - slow to load, and needed by the process that reads files alone

    loaded: Any = trimesh.load(
        io.BytesIO(data), file_type=kind, process=False, resolver=None, force="mesh", skip_materials=True
    )
    faces = np.asarray(getattr(loaded, "faces", np.zeros((0, 3)))).reshape(-1, 3)
    if len(faces) == 0:
        raise Refused(
            "file",
            Text("There are no triangles in it. Export the model as a mesh, not as points, lines or an empty scene."),
        )
    return _indexed(kind, np.asarray(loaded.vertices, dtype=np.float64), faces, len(faces), says_unit)


def _indexed(kind: str, vertices: Floats, faces: Whole, listed: int, says_unit: str = "") -> MeshFile:
    if faces.min() < 0 or faces.max() >= len(vertices):
        raise Refused(
            "file",
            Text("Some triangles name corners that are not in the file: it is cut short or damaged. Export it again."),
        )
    return MeshFile(
        format=kind,
        mesh=merged(Mesh(vertices_mm=vertices, faces=faces.astype(np.int32))),
        triangles=listed,
        says_unit=says_unit,
    )


def _glb(data: bytes) -> MeshFile:
    check_scene(data)
    return _by_library("glb", data, "m")


def _3mf(data: bytes) -> MeshFile:
    vertices, faces, unit = read_3mf(data)
    if len(faces) == 0:
        raise Refused(
            "file",
            Text("There are no triangles in it. Export the model as a mesh, not as points, lines or an empty scene."),
        )
    return _indexed("3mf", vertices, faces, len(faces), unit)


_READERS: Mapping[str, Callable[[bytes], MeshFile]] = {
    "stl": _stl,
    "3mf": _3mf,
    "glb": _glb,
    "obj": _obj,
    "ply": _ply,
    "off": _off,
}


def in_mm(mesh: Mesh, unit: str) -> Mesh:
    """Return a mesh in mm.

    Parameters
    ----------
    mesh : Mesh
        Corners in a file's own unit.
    unit : str
        A key of ``UNITS_MM``.

    Returns
    -------
    Mesh
        In mm.

    Raises
    ------
    Refused
        For an unknown unit, or one in which it would be larger than 10 m or smaller than a grain of dust.
    """
    if unit not in UNITS_MM:
        raise Refused("units", Text("The unit of a mesh is mm, cm, m or in."))
    longest = float(mesh.extents_mm.max()) * UNITS_MM[unit]
    if not 0.01 <= longest <= LONGEST_MM:
        size = Text("over 10 m") if longest > 1 else Text("a hundredth of a millimetre")
        raise Refused(
            "units", Text("In {unit} it would be {size} long. Choose the unit it was drawn in.", unit=unit, size=size)
        )
    return mesh if unit == "mm" else Mesh(vertices_mm=mesh.vertices_mm * UNITS_MM[unit], faces=mesh.faces)
