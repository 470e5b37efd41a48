"""Shots as they are kept: the log of a job's mould, its cavities, and trials of two ways."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from itertools import groupby
from typing import Any, Literal

from ufrin.core.casting.next_amount import LEARNT_FROM, PastShot
from ufrin.core.casting.shot_log import Shot, ShotPart, ShotPiece
from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("shots")
MOST_LISTED = 20


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredShot:
    """A shot with its number, when it was logged, the trial it belongs to, and how many pictures it has."""

    id: int
    at: datetime
    shot: Shot
    trial_id: int | None
    photos: int
    pour_id: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredTrial:
    """A trial of two ways: what differs, how each is called, and how they are laid out and judged.

    ``about`` is the part of a shot that the two ways stand for, "other" for anything else; ``by_shot`` is whether a
    whole shot is made one way.
    """

    id: int
    about: Literal["release", "air", "attitude", "other"]
    by_shot: bool
    is_graded: bool
    what: str
    first: str
    second: str
    seed: int
    is_blind: bool
    started_at: datetime
    ended_at: datetime | None


def _piece(row: Mapping[str, Any]) -> ShotPiece:
    return ShotPiece(
        cavity=row["cavity"],
        is_good=row["is_good"],
        flaws=tuple(row["flaws"]),
        final_g=row["final_g"],
        way=row["way"] or None,
        grade=row["grade"],
    )


def _part(row: Mapping[str, Any]) -> ShotPart:
    same = {name: row[name] for name in ("part", "resin", "mixed_g", "was_short", "missing_g")}
    return ShotPart(left_g=row["left_over_g"], **same)


def of_job(connection: Connection, job_id: int, *, before: int | None = None) -> list[StoredShot]:
    """Read the newest shots of a mould, or those before a given one, the newest first."""
    rows = connection.execute(_SQL["of_job"], {"job_id": job_id, "before": before, "limit": MOST_LISTED}).fetchall()
    same = (
        *(
            "kind",
            "resin",
            "mixed_g",
            "was_short",
            "was_partly_filled",
            "missing_g",
            "release",
            "air",
            "attitude",
            "note",
            "who",
        ),
        *("mould_c", "room_c", "reason"),
    )
    return [
        StoredShot(
            id=row["id"],
            at=row["at"],
            trial_id=row["trial_id"],
            photos=row["photos"],
            pour_id=row["pour_id"],
            shot=Shot(
                pieces=tuple(map(_piece, row["pieces"])),
                parts=tuple(map(_part, row["parts"])),
                left_g=row["left_over_g"],
                **{name: row[name] for name in same},
            ),
        )
        for row in rows
    ]


def past(connection: Connection, job_id: int, kind: str, part: str = "") -> list[PastShot]:
    """Read what the shots of one kind tell of the amount, or of a part of it, the oldest first."""
    values = {"job_id": job_id, "kind": kind, "part": part, "limit": LEARNT_FROM}
    rows = connection.execute(_SQL["past"], values).fetchall()
    return [PastShot(**row) for row in reversed(rows)]


def newest_s(connection: Connection, job_id: int) -> float:
    """Read when the newest shot of a mould was logged, in seconds since 1970; 0 before the first one."""
    row = connection.execute(_SQL["newest"], {"job_id": job_id}).fetchone()
    return float(row["at_s"]) if row else 0.0


def counts(connection: Connection, job_id: int) -> dict[int, tuple[int, int]]:
    """Read the shots and the good pieces of each cavity."""
    rows = connection.execute(_SQL["counts"], {"job_id": job_id}).fetchall()
    return {row["cavity"]: (row["shots"], row["good"]) for row in rows}


def add(
    connection: Connection,
    job_id: int,
    shot: Shot,
    *,
    at_s: float,
    token: str,
    trial_id: int | None,
    pour_id: int | None = None,
) -> int | None:
    """Keep a shot with its pieces; returns None where the same one is kept already."""
    plain = {key: value for key, value in asdict(shot).items() if key not in {"pieces", "parts"}}
    of = {"job_id": job_id, "trial_id": trial_id, "pour_id": pour_id}
    values = {**plain, **of, "at_s": at_s, "token": token}
    row = connection.execute(_SQL["add"], values).fetchone()
    if row is None:
        return None
    for piece in shot.pieces:
        values = {**asdict(piece), "flaws": list(piece.flaws), "way": piece.way or "", "shot_id": row["id"]}
        connection.execute(_SQL["add_piece"], values)
    for place, part in enumerate(shot.parts, 1):
        connection.execute(_SQL["add_part"], {**asdict(part), "shot_id": row["id"], "number": place})
    return int(row["id"])


def take_back(connection: Connection, job_id: int, number: int) -> None:
    """Let a shot count no more.

    Raises Missing when there is none, or it was taken back already.
    """
    if connection.execute(_SQL["take_back"], {"id": number, "job_id": job_id}).fetchone() is None:
        raise Missing(Text("this shot"))


def moved_by(connection: Connection, number: int) -> list[tuple[int, float]]:
    """Read what a shot took out of which tin."""
    return [(row["lot_id"], row["grams"]) for row in connection.execute(_SQL["moved_by"], {"shot_id": number})]


def retired(connection: Connection, job_id: int, *, by_s: float | None = None) -> dict[int, str]:
    """Read the cavities that are no longer filled, and why; with a time, those that were retired by then."""
    rows = connection.execute(_SQL["retired"], {"job_id": job_id, "by_s": by_s}).fetchall()
    return {row["cavity"]: row["why"] for row in rows}


def retire(connection: Connection, job_id: int, cavity: int, why: str, *, cause: str = "other") -> None:
    """Keep that a cavity is no longer filled."""
    connection.execute(_SQL["retire"], {"job_id": job_id, "cavity": cavity, "why": why, "cause": cause})


def use_again(connection: Connection, job_id: int, cavity: int) -> None:
    """Keep that a cavity is filled again."""
    connection.execute(_SQL["use_again"], {"job_id": job_id, "cavity": cavity})


def trial(connection: Connection, job_id: int) -> StoredTrial | None:
    """Read the trial that runs, or else the newest one."""
    row = connection.execute(_SQL["trial"], {"job_id": job_id}).fetchone()
    if row is None:
        return None
    return StoredTrial(**{key: value for key, value in row.items() if key != "job_id"})


def of_trial(connection: Connection, trial_id: int) -> list[tuple[ShotPiece, ...]]:
    """Read the pieces of each shot of a trial, in the order in which they were cast."""
    rows = connection.execute(_SQL["of_trial"], {"trial_id": trial_id}).fetchall()
    return [tuple(map(_piece, alike)) for _, alike in groupby(rows, key=lambda row: row["shot_id"])]


def begin_trial(connection: Connection, job_id: int, values: Mapping[str, object]) -> None:
    """Keep that two ways are tried from now on; refused while another trial runs."""
    connection.execute(_SQL["begin_trial"], {**values, "job_id": job_id})


def end_trial(connection: Connection, job_id: int) -> None:
    """Keep that a trial has ended."""
    connection.execute(_SQL["end_trial"], {"job_id": job_id})


def keep_photo(connection: Connection, job_id: int, number: int, data: bytes, size_px: tuple[int, int]) -> None:
    """Keep a picture of a shot.

    Raises Missing when there is no such shot.
    """
    values = {"shot_id": number, "job_id": job_id, "data": data, "width_px": size_px[0], "height_px": size_px[1]}
    if connection.execute(_SQL["keep_photo"], values).fetchone() is None:
        raise Missing(Text("this shot"))


def photos(connection: Connection, numbers: Sequence[int]) -> dict[int, list[int]]:
    """Read the numbers of the pictures of some shots."""
    found: dict[int, list[int]] = {}
    for row in connection.execute(_SQL["photos"], {"ids": list(numbers)}).fetchall():
        found.setdefault(row["shot_id"], []).append(row["id"])
    return found


def photo(connection: Connection, job_id: int, number: int) -> bytes:
    """Read a picture.

    Raises Missing when there is none.
    """
    row = connection.execute(_SQL["photo"], {"id": number, "job_id": job_id}).fetchone()
    if row is None:
        raise Missing(Text("this picture"))
    return bytes(row["data"])
