"""Devices that have joined as they are kept, and the codes that work once."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from psycopg.rows import class_row

from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("devices")
DeviceKind = Literal["bench", "script"]
CodeKind = Literal["owner", "password", "device"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Device:
    """A tablet at the bench, or a script that reads the interface; ``who`` stands at it just now."""

    id: int
    name: str
    kind: DeviceKind
    joined_at: datetime
    joined_by: str
    seen_at: datetime
    who: str
    is_seen_anew: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class Code:
    """A code that works once: for which account, who made it, and for how long it still works."""

    kind: CodeKind
    account_id: int | None
    made_by: str
    left_s: float


def every(connection: Connection) -> list[Device]:
    """Read all devices."""
    with connection.cursor(row_factory=class_row(Device)) as cursor:
        return cursor.execute(_SQL["all"]).fetchall()


def of_token(connection: Connection, token_hash: bytes) -> Device | None:
    """Read the device that has a token."""
    with connection.cursor(row_factory=class_row(Device)) as cursor:
        return cursor.execute(_SQL["of_token"], {"token_hash": token_hash}).fetchone()


def seen(connection: Connection, device_id: int) -> None:
    """Keep that a device was used."""
    connection.execute(_SQL["seen"], {"id": device_id})


def join(connection: Connection, *, name: str, kind: DeviceKind, token_hash: bytes, joined_by: str) -> int:
    """Keep a device that joins."""
    values = {"name": name, "kind": kind, "token_hash": token_hash, "joined_by": joined_by}
    row = connection.execute(_SQL["join"], values).fetchone()
    return int(row["id"]) if row else 0


def stands(connection: Connection, device_id: int, who: str) -> None:
    """Keep who stands at a device."""
    if connection.execute(_SQL["stands"], {"id": device_id, "who": who}).fetchone() is None:
        raise Missing(Text("this device"))


def throw_out(connection: Connection, device_id: int) -> None:
    """Take a device out."""
    if connection.execute(_SQL["throw_out"], {"id": device_id}).fetchone() is None:
        raise Missing(Text("this device"))


def add_code(
    connection: Connection,
    code_hash: bytes,
    kind: CodeKind,
    *,
    lasts_s: float,
    made_by: str = "",
    account_id: int | None = None,
) -> None:
    """Keep a code that works once."""
    values = {"code_hash": code_hash, "kind": kind, "account_id": account_id, "made_by": made_by, "lasts_s": lasts_s}
    connection.execute(_SQL["add_code"], values)


def forget_codes(connection: Connection, kind: CodeKind, *, account_id: int | None = None) -> None:
    """Forget the codes of a kind that nobody used."""
    connection.execute(_SQL["forget_codes"], {"kind": kind, "account_id": account_id})


def code(connection: Connection, code_hash: bytes, kind: CodeKind) -> Code | None:
    """Read a code that may still be used."""
    with connection.cursor(row_factory=class_row(Code)) as cursor:
        return cursor.execute(_SQL["code"], {"code_hash": code_hash, "kind": kind}).fetchone()


def use_code(connection: Connection, code_hash: bytes, kind: CodeKind) -> Code | None:
    """Use a code, once."""
    with connection.cursor(row_factory=class_row(Code)) as cursor:
        return cursor.execute(_SQL["use_code"], {"code_hash": code_hash, "kind": kind}).fetchone()


def was_used(connection: Connection, code_hash: bytes) -> bool:
    """Return whether a code was used."""
    row = connection.execute(_SQL["was_used"], {"code_hash": code_hash}).fetchone()
    return bool(row and row["was_used"])
