"""Moulds as they are kept: their cards, what their cavities have made, the signs of their wear, and their care."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass, fields
from datetime import date, datetime
from typing import Any

from ufrin.core.moulds.mould_life import UsedMould
from ufrin.core.moulds.retirement import NOT_WORN, Care
from ufrin.errors import Missing, Stale
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("moulds")
Made = Mapping[int, tuple[int, int]]


@dataclass(frozen=True, slots=True, kw_only=True)
class MouldDetails:
    """What is filled in on a mould's card; None where it does not apply.

    ``shots_before`` are the casts that each cavity made before the log began; ``only_family``, ``parts`` and
    ``half_amounts`` are of a rigid mould that rubber moulds are poured in; ``parent_id`` is the mould whose cast was
    the master of this one.
    """

    made_on: date
    detail: str = "usual"
    is_released: bool = False
    shots_before: int = 0
    release_every: int | None = None
    clean_every: int | None = None
    rest_every: int | None = None
    place: str = ""
    only_family: str = ""
    parts: int | None = None
    half_amounts: str = ""
    parent_id: int | None = None
    finish: str = ""
    master_cost: float = 0.0
    mould_cost: float | None = None
    work_cost: float = 0.0
    buy_price: float | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredMould:
    """A mould with its name, its card, and the shots and good pieces of each cavity."""

    id: int
    job_id: int
    name: str
    is_mould_only: bool
    details: MouldDetails
    expected_casts: float
    retired_at: datetime | None
    cause: str
    why: str
    version: int
    made: Made
    parent_name: str | None

    @property
    def label(self) -> str:
        """How it is called on its label."""
        return f"M{self.id}"


@dataclass(frozen=True, slots=True, kw_only=True)
class MouldRow:
    """A mould in a list: with its retired cavities and their causes, signs, its last shot, and a picture of it.

    ``made`` has the cavities that were cast in; ``cavities`` is how many the mould has by its job.
    """

    id: int
    job_id: int
    name: str
    made_on: date
    retired_at: datetime | None
    cause: str
    expected_casts: float
    shots_before: int
    made: Made
    gone: Mapping[int, str]
    signs: int
    cavities: int
    is_mould_only: bool
    last_at: datetime | None
    photo: int | None
    due: tuple[Care, ...]

    @property
    def label(self) -> str:
        """How it is called on its label."""
        return f"M{self.id}"


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredSign:
    """A sign of wear: when it was seen, on which cavity, a note, and whether there is a picture of it."""

    id: int
    at: datetime
    cavity: int | None
    sign: str
    note: str
    has_photo: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class UsualAmount:
    """What a shot of a kind of cast takes on average, or a part of it, and how it was cast last."""

    kind: str
    part: str
    resin: str
    shots: int
    mixed_g: float
    left_g: float
    last_at: datetime
    release: str
    air: str
    attitude: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Ancestor:
    """A mould in the line that another comes from, with the newest picture of a piece of it."""

    id: int
    job_id: int
    name: str
    finish: str
    photo: int | None


@dataclass(frozen=True, slots=True, kw_only=True)
class Descendant:
    """A mould whose master was cast in another; ``further`` is how many moulds come from it in turn."""

    id: int
    name: str
    is_retired: bool
    further: int


def _made(counted: Sequence[Sequence[int]]) -> Made:
    return {cavity: (shots, good) for cavity, shots, good in counted}


def born(connection: Connection, job_id: int, *, at_s: float) -> None:
    """Keep that a job's mould is there; kept once."""
    connection.execute(_SQL["born"], {"job_id": job_id, "at_s": at_s})


def unborn(connection: Connection, job_id: int) -> None:
    """Keep that a job's mould is not there after all; one that was used or changed stays."""
    connection.execute(_SQL["unborn"], {"job_id": job_id})


def look(connection: Connection, number: int) -> StoredMould:
    """Read a mould.

    Raises Missing when there is none.
    """
    row = connection.execute(_SQL["look"], {"id": number}).fetchone()
    if row is None:
        raise Missing(Text("this mould"))
    same = ("id", "job_id", "name", "is_mould_only", "expected_casts", "retired_at", "cause", "why", "version")
    details = {one.name: row[one.name] for one in fields(MouldDetails)}
    for money in ("master_cost", "mould_cost", "work_cost", "buy_price"):
        details[money] = None if details[money] is None else float(details[money])
    return StoredMould(
        **{name: row[name] for name in same},
        details=MouldDetails(**details),
        made=_made(row["made"]),
        parent_name=row["parent_name"],
    )


def of_job(connection: Connection, job_id: int) -> int | None:
    """Read the number of a job's mould; None before it is there."""
    row = connection.execute(_SQL["of_job"], {"job_id": job_id}).fetchone()
    return int(row["id"]) if row else None


def retired(connection: Connection, job_id: int, *, by_s: float | None = None) -> str:
    """Read why the whole mould of a job is no longer cast in; with a time, where it was retired by then."""
    row = connection.execute(_SQL["retired"], {"job_id": job_id, "by_s": by_s}).fetchone()
    return str(row["cause"]) if row else ""


def only_family(connection: Connection, job_id: int) -> str:
    """Read the rubber family that a job's rigid mould keeps to; empty for any other mould."""
    row = connection.execute(_SQL["of_job"], {"job_id": job_id}).fetchone()
    return str(row["only_family"]) if row else ""


def page(
    connection: Connection, *, search: str = "", among: Sequence[int] | None = None, limit: int, offset: int = 0
) -> tuple[list[MouldRow], int]:
    """Read a page of moulds, or of some of them, and how many there are in all."""
    pattern = "%" + search.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_") + "%" if search else "%"
    values = {"pattern": pattern, "ids": None if among is None else list(among), "limit": limit, "offset": offset}
    rows = connection.execute(_SQL["page"], values).fetchall()
    same = (
        *("id", "job_id", "name", "made_on", "retired_at", "cause", "expected_casts", "shots_before", "signs"),
        *("last_at", "photo", "is_mould_only", "cavities"),
    )
    found = [
        MouldRow(
            **{name: row[name] for name in same},
            due=tuple(row["due"]),
            made=_made(row["made"]),
            gone={int(cavity): cause for cavity, cause in (row["gone"] or {}).items()},
        )
        for row in rows
    ]
    return found, rows[0]["total"] if rows else 0


def most_worn(connection: Connection, *, limit: int) -> list[int]:
    """Read which moulds in use are the most worn."""
    return [row["id"] for row in connection.execute(_SQL["most_worn"], {"limit": limit}).fetchall()]


def lives(connection: Connection) -> list[UsedMould]:
    """Read what the shop's cavities have made, as shares of the life to expect of each."""
    return [
        UsedMould(casts=row["casts"] / row["expected_casts"], failed=row["failed"])
        for row in connection.execute(_SQL["lives"], {"not_worn": list(NOT_WORN)}).fetchall()
    ]


def save(connection: Connection, number: int, details: MouldDetails, *, version: int) -> None:
    """Keep what was filled in on a card.

    Raises Stale when somebody saved it meanwhile.
    """
    values = {**asdict(details), "id": number, "version": version}
    if connection.execute(_SQL["save"], values).fetchone() is None:
        raise Stale({}, {}, version)


def expect(connection: Connection, number: int, casts: float) -> None:
    """Keep the life to expect of a mould's cavities."""
    connection.execute(_SQL["expect"], {"id": number, "casts": casts})


def retire(connection: Connection, number: int, *, cause: str, why: str, at_s: float | None) -> None:
    """Keep that a mould is no longer cast in, or with no cause that it is again."""
    connection.execute(_SQL["retire"], {"id": number, "cause": cause, "why": why, "at_s": at_s})


def signs(connection: Connection, number: int) -> list[StoredSign]:
    """Read the signs of a mould's wear, the newest first."""
    same = ("id", "at", "cavity", "sign", "note", "has_photo")
    rows = connection.execute(_SQL["signs"], {"id": number}).fetchall()
    return [StoredSign(**{name: row[name] for name in same}) for row in rows]


def add_sign(
    connection: Connection, number: int, *, cavity: int | None, sign: str, note: str, photo: bytes | None
) -> None:
    """Keep a sign of wear, with a picture of it."""
    values = {"id": number, "cavity": cavity, "sign": sign, "note": note, "photo": photo}
    connection.execute(_SQL["add_sign"], values)


def sign_photo(connection: Connection, number: int, sign_id: int) -> bytes:
    """Read the picture of a sign.

    Raises Missing when there is none.
    """
    row = connection.execute(_SQL["sign_photo"], {"id": number, "sign_id": sign_id}).fetchone()
    if row is None:
        raise Missing(Text("this picture"))
    return bytes(row["photo"])


def forget_sign(connection: Connection, number: int, sign_id: int) -> None:
    """Forget a sign that was noted by mistake."""
    connection.execute(_SQL["forget_sign"], {"id": number, "sign_id": sign_id})


def care(connection: Connection, number: int, what: Care) -> None:
    """Keep that a mould was cared for now."""
    connection.execute(_SQL["care"], {"id": number, "care": what})


def since(connection: Connection, number: int) -> dict[Care, int]:
    """Read the shots since each care."""
    return {row["care"]: row["shots"] for row in connection.execute(_SQL["since"], {"id": number}).fetchall()}


def gone(connection: Connection, job_id: int) -> dict[int, tuple[str, str]]:
    """Read the causes of a mould's retired cavities, and why in words."""
    rows = connection.execute(_SQL["gone"], {"job_id": job_id}).fetchall()
    return {row["cavity"]: (row["cause"], row["why"]) for row in rows}


def usual_amounts(connection: Connection, job_id: int) -> list[UsualAmount]:
    """Read what shots took, by kind of cast, the newest kind first."""
    return [UsualAmount(**row) for row in connection.execute(_SQL["usual_amounts"], {"job_id": job_id}).fetchall()]


def names(connection: Connection, *, besides: int) -> list[tuple[int, str]]:
    """Name the moulds that a cast could have come from."""
    rows: Sequence[Mapping[str, Any]] = connection.execute(_SQL["names"], {"besides": besides}).fetchall()
    return [(row["id"], row["name"]) for row in rows]


def descends(connection: Connection, number: int, from_id: int) -> bool:
    """Read whether a mould comes from another, in any generation."""
    row = connection.execute(_SQL["descends"], {"id": number, "from_id": from_id}).fetchone()
    return bool(row and row["found"])


def ancestors(connection: Connection, number: int) -> list[Ancestor]:
    """Read the line of moulds that a mould comes from, the first one first and itself last."""
    rows = connection.execute(_SQL["ancestors"], {"id": number}).fetchall()
    same = ("id", "job_id", "name", "finish", "photo")
    return [Ancestor(**{name: row[name] for name in same}) for row in rows]


def children(connection: Connection, number: int) -> list[Descendant]:
    """Read the moulds whose master was cast in a mould."""
    return [Descendant(**row) for row in connection.execute(_SQL["children"], {"id": number}).fetchall()]


def lots_of(connection: Connection, job_id: int) -> list[str]:
    """Read the codes of the lots that went into a job's mould."""
    return [row["code"] for row in connection.execute(_SQL["lots"], {"job_id": job_id}).fetchall()]
