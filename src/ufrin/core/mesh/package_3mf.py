"""3MF packages, read as a stream: what they unpack to, place and multiply is counted before memory is taken for it.

Only vertices, triangles, objects, components and build items are looked at (3MF Consortium, Core Specification 1.3,
chapters 3 to 5, and the path of the Production Extension); materials and other extensions are passed over.
"""

import io
import posixpath
import zipfile
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field
from typing import NoReturn, TypeVar
from xml.parsers import expat

import numpy as np
from numpy.typing import NDArray

from ufrin.core.mesh.triangles import Floats, Whole
from ufrin.errors import Refused
from ufrin.language import Text

MOST_UNPACKED_BYTES = 400 * 1024 * 1024
# models unpack to some ten times their size; what unpacks to far more was made to burst whoever unpacks it
MOST_TIMES, ALWAYS_UNPACKED_BYTES = 100, 32 * 1024 * 1024
LONGEST_WORD_BYTES = 4 * 1024 * 1024  # an element or attribute that is longer is no part of a model
MOST_TRIANGLES = 6_000_000
MOST_ENTRIES, MOST_OBJECTS, MOST_PLACED, MOST_DEPTH = 10_000, 10_000, 100_000, 32
CHUNK_BYTES = 1 << 20
UNITS = {"millimeter": "mm", "centimeter": "cm", "meter": "m", "inch": "in"}
_AS_IT_IS = np.vstack([np.eye(3), np.zeros(3)])
Number = TypeVar("Number", np.float64, np.int32)
Name = tuple[str, str]  # the part of the package and the object's number in it


@dataclass(frozen=True, slots=True, kw_only=True)
class Placed:
    """An object that is placed somewhere: (4, 3) float64, rows for x, y, z and the shift."""

    name: Name
    matrix: Floats


@dataclass(slots=True, kw_only=True)
class Object3mf:
    """An object of the package: triangles of its own, as they come in pieces, or other objects placed."""

    vertices: list[Floats] = field(default_factory=list)
    faces: list[Whole] = field(default_factory=list)
    corner_count: int = 0
    face_count: int = 0
    components: list[Placed] = field(default_factory=list)

    def add_corners(self, numbers: Floats) -> None:
        """Add corners, three numbers each."""
        self.vertices.append(numbers.reshape(-1, 3))
        self.corner_count += len(numbers) // 3

    def add_faces(self, numbers: Whole) -> None:
        """Add triangles, three corners each."""
        self.faces.append(numbers.reshape(-1, 3))
        self.face_count += len(numbers) // 3


@dataclass(slots=True, kw_only=True)
class Model3mf:
    """What the parts of a package hold together; ``unit`` is "" where it is none that Ufrin knows."""

    unit: str = "mm"
    objects: dict[Name, Object3mf] = field(default_factory=dict)
    items: list[Placed] = field(default_factory=list)
    placed: int = 0
    triangles: int = 0


def read_3mf(data: bytes) -> tuple[Floats, Whole, str]:
    """Read the corners and triangles of everything that is to be built.

    Parameters
    ----------
    data : bytes
        The file.

    Returns
    -------
    (n, 3) float64, (m, 3) int32, str
        Corners in the file's own unit, triangles, and that unit.

    Raises
    ------
    Refused
        When it unpacks to, holds, places or nests more than is taken, is no package, or is damaged.
    """
    with zipfile.ZipFile(io.BytesIO(data)) as packed:
        entries = packed.infolist()
        unpacked = sum(entry.file_size for entry in entries)
        if unpacked > MOST_UNPACKED_BYTES or len(entries) > MOST_ENTRIES:
            refuse_too_much(
                Text(
                    "It would unpack to {unpacked} MB in {entries} parts; {most_unpacked_bytes} MB in "
                    "{most_entries} parts is the most",
                    unpacked=unpacked // 1_000_000,
                    entries=len(entries),
                    most_unpacked_bytes=MOST_UNPACKED_BYTES // 1_000_000,
                    most_entries=MOST_ENTRIES,
                )
            )
        if unpacked > max(ALWAYS_UNPACKED_BYTES, MOST_TIMES * len(data)):
            refuse_too_much(
                Text(
                    "It would unpack to {unpacked} times its size; {most_times} is the most",
                    unpacked=unpacked // max(1, len(data)),
                    most_times=MOST_TIMES,
                )
            )
        models = [entry for entry in entries if entry.filename.lower().endswith(".model")]
        if not models:
            raise Refused(
                "file", Text("It is a packed file without a model in it. Export the model as 3MF, STL or OBJ.")
            )
        model = Model3mf()
        # the part that the package begins with names the unit; by custom it is this one
        models.sort(key=lambda entry: posixpath.basename(entry.filename).lower() != "3dmodel.model")
        for number, entry in enumerate(models):
            _PartReader(model, _part(entry.filename), is_root=number == 0).read(packed, entry)
    return _built(model)


def _part(path: str) -> str:
    return "/" + path.lstrip("/").lower()


class _PartReader:
    # one part of a package, as the parser comes by its elements; the attributes of corners and triangles are only
    # collected there and turned into numbers a chunk at a time, which is much quicker

    def __init__(self, model: Model3mf, part: str, *, is_root: bool) -> None:
        self._model, self._part, self._is_root = model, part, is_root
        self._object = Object3mf()
        # attributes by the name of their element with its namespace, as the parser gives it
        self._corner_words: dict[str, list[str]] = {}
        self._triangle_words: dict[str, list[str]] = {}
        self._words: dict[str, list[str]] = {}
        self._on: dict[str, Callable[[list[str]], None]] = {
            "model": self._model_begins,
            "object": self._object_begins,
            "component": self._component,
            "item": self._item,
        }

    def read(self, packed: zipfile.ZipFile, entry: zipfile.ZipInfo) -> None:
        parser = expat.ParserCreate(namespace_separator=" ")
        parser.ordered_attributes = True
        parser.StartElementHandler = self._start
        parser.StartDoctypeDeclHandler = self._refuse_definitions
        with packed.open(entry) as stream:
            fed = 0
            while chunk := stream.read(CHUNK_BYTES):
                parser.Parse(chunk, False)
                fed += len(chunk)
                if fed - parser.CurrentByteIndex > LONGEST_WORD_BYTES:
                    raise Refused("file", Text("One of its parts has no end: it is damaged. Export it again."))
                self._take_words()
            parser.Parse(b"", True)
        self._end_object()

    def _start(self, name: str, attributes: list[str]) -> None:
        if name in self._words:
            self._words[name] += attributes
            return
        kind = name.rpartition(" ")[2]
        if kind in {"vertex", "triangle"}:
            mine = self._corner_words if kind == "vertex" else self._triangle_words
            mine[name] = self._words[name] = list(attributes)
        elif kind in self._on:
            self._on[kind](attributes)

    @staticmethod
    def _refuse_definitions(*_: object) -> None:
        raise Refused(
            "file",
            Text("Its model carries definitions that no 3MF needs and that Ufrin does not unfold. Export it again."),
        )

    def _take_words(self) -> None:
        one = self._object
        for words in self._corner_words.values():
            one.add_corners(_numbers(words, ("x", "y", "z"), np.float64))
            words.clear()
        for words in self._triangle_words.values():
            one.add_faces(_numbers(words, ("v1", "v2", "v3"), np.int32))
            words.clear()
        if self._model.triangles + one.face_count > MOST_TRIANGLES:
            refuse_too_much(
                Text("It holds more than {most_triangles} triangles, which is the most", most_triangles=MOST_TRIANGLES)
            )
        if one.corner_count > 3 * MOST_TRIANGLES:
            refuse_too_much(
                Text(
                    "It holds more than {most_triangles} corners, which is the most", most_triangles=3 * MOST_TRIANGLES
                )
            )

    def _end_object(self) -> None:
        self._take_words()
        self._model.triangles += self._object.face_count

    def _model_begins(self, attributes: list[str]) -> None:
        if self._is_root:
            self._model.unit = UNITS.get(_named(attributes).get("unit", "millimeter"), "")

    def _object_begins(self, attributes: list[str]) -> None:
        if len(self._model.objects) >= MOST_OBJECTS:
            refuse_too_much(
                Text("It holds more than {most_objects} objects, which is the most", most_objects=MOST_OBJECTS)
            )
        self._end_object()
        self._object = Object3mf()
        self._model.objects[self._part, _named(attributes)["id"]] = self._object

    def _component(self, attributes: list[str]) -> None:
        self._object.components.append(self._placed(_named(attributes)))

    def _item(self, attributes: list[str]) -> None:
        self._model.items.append(self._placed(_named(attributes)))

    def _placed(self, attributes: Mapping[str, str]) -> Placed:
        self._model.placed += 1
        if self._model.placed > MOST_PLACED:
            refuse_too_much(
                Text("It places objects more than {most_placed} times, which is the most", most_placed=MOST_PLACED)
            )
        path = next((value for key, value in attributes.items() if key.rpartition(" ")[2] == "path"), "")
        text = attributes.get("transform")
        return Placed(
            name=(_part(path) if path else self._part, attributes["objectid"]),
            matrix=np.array([float(word) for word in text.split()]).reshape(4, 3) if text else _AS_IT_IS,
        )


def _named(attributes: list[str]) -> dict[str, str]:
    return dict(zip(attributes[::2], attributes[1::2], strict=True))


def _numbers(words: list[str], names: tuple[str, str, str], kind: type[Number]) -> NDArray[Number]:
    # the values of elements' attributes by their names; most often each has these three in this order and no more
    if all(set(words[2 * place :: 6]) <= {name} for place, name in enumerate(names)):
        values = words[1::2]
    else:
        columns = [[words[place + 1] for place in range(0, len(words), 2) if words[place] == name] for name in names]
        values = [value for row in zip(*columns, strict=True) for value in row]
    numbers = np.fromstring(" ".join(values), dtype=kind, sep=" ")
    if len(numbers) != len(values) or len(numbers) % 3:
        raise Refused("file", Text("Some of its corners are no numbers: it is damaged. Export it again."))
    return numbers


def _built(model: Model3mf) -> tuple[Floats, Whole, str]:
    items = model.items or [Placed(name=name, matrix=_AS_IT_IS) for name in _roots(model)]
    counts: dict[Name, tuple[int, int]] = {}
    instances = triangles = 0
    for item in items:
        more_triangles, more_instances = _count(model, item.name, counts, 0)
        instances, triangles = instances + more_instances, triangles + more_triangles
        if triangles > MOST_TRIANGLES:
            refuse_too_much(
                Text("It holds more than {most_triangles} triangles, which is the most", most_triangles=MOST_TRIANGLES)
            )
        if instances > MOST_PLACED:
            refuse_too_much(
                Text(
                    "Its objects are placed in each other more than {most_placed} times, which is the most",
                    most_placed=MOST_PLACED,
                )
            )
    vertices: list[Floats] = []
    faces: list[Whole] = []
    corners = 0
    for item in items:
        for one, matrix in _instances(model, item):
            own, own_faces = np.concatenate(one.vertices), np.concatenate(one.faces)
            if own_faces.min() < 0 or own_faces.max() >= len(own):
                raise Refused(
                    "file",
                    Text(
                        "Some triangles name corners that are not in the file: it is cut short or damaged. "
                        "Export it again."
                    ),
                )
            used = own if len(own) <= 3 * len(own_faces) else own[: int(own_faces.max()) + 1]
            vertices.append(used @ matrix[:3] + matrix[3])
            # a placement that mirrors turns the triangles inside out; they are wound back
            wound = own_faces if np.linalg.det(matrix[:3]) > 0 else own_faces[:, ::-1]
            faces.append(wound + np.int32(corners))
            corners += len(used)
            if corners > 3 * MOST_TRIANGLES:
                refuse_too_much(
                    Text(
                        "It holds more than {most_triangles} triangles, which is the most",
                        most_triangles=MOST_TRIANGLES,
                    )
                )
    if not faces:
        return np.zeros((0, 3)), np.zeros((0, 3), dtype=np.int32), model.unit
    return np.concatenate(vertices), np.concatenate(faces), model.unit


def _roots(model: Model3mf) -> list[Name]:
    # without build items, everything that nothing else is made of
    parts = {placed.name for one in model.objects.values() for placed in one.components}
    return [name for name in model.objects if name not in parts]


def _count(model: Model3mf, name: Name, counts: dict[Name, tuple[int, int]], depth: int) -> tuple[int, int]:
    # the triangles and the instances of an object with all that it is made of; each object is counted once
    if name in counts:
        return counts[name]
    if depth > MOST_DEPTH:
        refuse_too_much(
            Text("Its objects are nested more than {most_depth} deep, or in a circle", most_depth=MOST_DEPTH)
        )
    one = model.objects.get(name)
    if one is None:
        raise Refused(
            "file", Text("It places an object that is not in the file: it is cut short or damaged. Export it again.")
        )
    triangles, instances = one.face_count, 1
    for placed in one.components:
        more_triangles, more_instances = _count(model, placed.name, counts, depth + 1)
        triangles, instances = triangles + more_triangles, instances + more_instances
    counts[name] = triangles, instances
    return counts[name]


def _instances(model: Model3mf, placed: Placed) -> Iterator[tuple[Object3mf, Floats]]:
    one = model.objects[placed.name]
    if one.face_count:
        yield one, placed.matrix
    for component in one.components:
        linear = component.matrix[:3] @ placed.matrix[:3]
        shift = component.matrix[3] @ placed.matrix[:3] + placed.matrix[3]
        yield from _instances(model, Placed(name=component.name, matrix=np.vstack([linear, shift])))


def refuse_too_much(what: Text) -> NoReturn:
    """Refuse a file that holds more than is taken.

    Parameters
    ----------
    what : Text
        Which limit it breaks, as a sentence without its full stop.

    Raises
    ------
    Refused
        With what to do.
    """
    raise Refused("file", Text("{what}. Reduce the model and export it again.", what=what))
