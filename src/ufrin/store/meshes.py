"""Meshes as they are kept: once, by the hash of the file's content, with the results and progress of work on them."""

import hashlib
import io
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Literal

import numpy as np
from psycopg.types.json import Jsonb

from ufrin.core.mesh.triangles import Mesh
from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("meshes")
What = Literal["measure", "attitudes", "directions"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Work:
    """The progress of some work on a mesh: "waiting", "done", "refused" or "stopped"."""

    state: str
    progress: float = 0.0
    refused: str | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredMesh:
    """What is known of a mesh, in the file's own unit taken as mm.

    ``figures`` is None until it is measured; ``is_worked_on`` tells whether any worker is there to do what waits.
    """

    hash: str
    name: str
    figures: dict[str, Any] | None
    bytes: int
    work: Mapping[str, Work]
    is_worked_on: bool = True


def hash_of(data: bytes) -> str:
    """Return the name that a file's content goes by."""
    return hashlib.sha256(data).hexdigest()


def keep(connection: Connection, name: str, data: bytes) -> str:
    """Keep a file once."""
    mesh = hash_of(data)
    connection.execute(_SQL["keep"], {"hash": mesh, "name": name, "data": data})
    return mesh


def ask(connection: Connection, mesh: str, what: What) -> bool:
    """Ask for work on a mesh."""
    return connection.execute(_SQL["ask"], {"mesh": mesh, "what": what}).fetchone() is not None


def defer(connection: Connection, mesh: str, what: What) -> None:
    """Put work on a mesh onto the queue of long work."""
    connection.execute(_SQL["defer"], {"mesh": mesh, "what": what})


def facts(connection: Connection, mesh: str) -> StoredMesh | None:
    """Read what is known of a mesh.

    Returns None when there is none.
    """
    row = connection.execute(_SQL["facts"], {"mesh": mesh}).fetchone()
    if row is None:
        return None
    return StoredMesh(**{**row, "work": {what: Work(**values) for what, values in (row["work"] or {}).items()}})


def data(connection: Connection, mesh: str) -> tuple[str, bytes]:
    """Read the file itself.

    Raises Missing when there is none.
    """
    row = connection.execute(_SQL["data"], {"mesh": mesh}, binary=True).fetchone()
    if row is None:
        raise Missing(Text("this mesh"))
    return row["name"], row["data"]


def solid(connection: Connection, mesh: str, *, drawn: bool = False) -> Mesh:
    """Read the closed solid.

    Raises Missing when it is not measured.
    """
    row = connection.execute(_SQL["drawn" if drawn else "solid"], {"mesh": mesh}, binary=True).fetchone()
    if row is None:
        raise Missing(Text("this mesh"))
    with np.load(io.BytesIO(row["held"]), allow_pickle=False) as held:
        return Mesh(vertices_mm=held["vertices"].astype(np.float64), faces=held["faces"].astype(np.int32))


def attitudes(connection: Connection, mesh: str) -> list[dict[str, Any]] | None:
    """Read the attitudes in which it could stand.

    Returns None before they were compared.
    """
    row = connection.execute(_SQL["attitudes"], {"mesh": mesh}).fetchone()
    return row["attitudes"] if row else None


def directions(connection: Connection, mesh: str) -> dict[str, Any] | None:
    """Read the ranking of its pull directions.

    Returns the ranking as it was kept, whole or not yet; None before anything is known.
    """
    row = connection.execute(_SQL["directions"], {"mesh": mesh}).fetchone()
    return row["directions"] if row else None


def begin(connection: Connection, mesh: str, what: What) -> int | None:
    """Take up work on a mesh.

    Returns the number of this try; None when nobody waits for it any more.
    """
    row = connection.execute(_SQL["begin"], {"mesh": mesh, "what": what}).fetchone()
    return int(row["tries"]) if row else None


def progress(connection: Connection, mesh: str, what: What, share: float | None) -> bool:
    """Keep the progress of the work, where it is given; return whether somebody still waits for it."""
    return connection.execute(_SQL["progress"], {"mesh": mesh, "what": what, "progress": share}).fetchone() is not None


def keep_measured(connection: Connection, mesh: str, figures: dict[str, Any], whole: Mesh, drawn: Mesh) -> None:
    """Keep the result of measuring."""
    values = {"mesh": mesh, "figures": Jsonb(figures), "solid": packed(whole), "drawn": packed(drawn)}
    connection.execute(_SQL["keep_measured"], values)
    finish(connection, mesh, "measure")


def keep_attitudes(connection: Connection, mesh: str, found: list[dict[str, Any]]) -> None:
    """Keep the attitudes in which it could stand."""
    connection.execute(_SQL["keep_attitudes"], {"mesh": mesh, "attitudes": Jsonb(found)})
    finish(connection, mesh, "attitudes")


def keep_directions(connection: Connection, mesh: str, found: dict[str, Any], *, is_whole: bool) -> None:
    """Keep a ranking of pull directions; a first one is kept too, so that it can be shown."""
    connection.execute(_SQL["keep_directions"], {"mesh": mesh, "directions": Jsonb(found)})
    if is_whole:
        finish(connection, mesh, "directions")


def packed(mesh: Mesh) -> bytes:
    """Return a solid as it is kept."""
    file = io.BytesIO()
    np.savez(file, vertices=mesh.vertices_mm, faces=mesh.faces)
    return file.getvalue()


def put_back(connection: Connection, mesh: str, what: What) -> None:
    """Put work back whose worker is being stopped: that was no try."""
    if connection.execute(_SQL["put_back"], {"mesh": mesh, "what": what}).fetchone() is not None:
        defer(connection, mesh, what)


def take_back_try(connection: Connection, mesh: str, what: What) -> None:
    """Count the try of a worker that leaves in the middle of it as none; the queue knows the work already."""
    connection.execute(_SQL["put_back"], {"mesh": mesh, "what": what})


def bring_together(connection: Connection) -> int:
    """Put work that is waited for and that the queue does not know onto the queue again."""
    return len(connection.execute(_SQL["bring_together"]).fetchall())


def are_workers_at_work(connection: Connection) -> bool:
    """Return whether any worker has shown itself lately."""
    row = connection.execute(_SQL["are_workers_at_work"]).fetchone()
    return bool(row and row["are_at_work"])


def finish(connection: Connection, mesh: str, what: What, refused: str | None = None) -> None:
    """Keep that the work is done, or why it has no result."""
    connection.execute(_SQL["finish"], {"mesh": mesh, "what": what, "refused": refused})


def stop(connection: Connection, mesh: str, what: What) -> None:
    """Keep that somebody no longer wants the work."""
    connection.execute(_SQL["stop"], {"mesh": mesh, "what": what})
