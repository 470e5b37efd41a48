"""Accounts as they are kept: who may sign in, and what each may do."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal, get_args

from psycopg.rows import class_row

from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("accounts")
Role = Literal["owner", "maker", "reader"]
ROLES: tuple[Role, ...] = get_args(Role)


@dataclass(frozen=True, slots=True, kw_only=True)
class Account:
    """Somebody who may sign in, or who might until ``ended_at``; ``seen_at`` is when they were last here."""

    id: int
    name: str
    role: Role
    has_password: bool
    made_at: datetime
    ended_at: datetime | None
    seen_at: datetime | None


def every(connection: Connection) -> list[Account]:
    """Read all accounts."""
    with connection.cursor(row_factory=class_row(Account)) as cursor:
        return cursor.execute(_SQL["all"]).fetchall()


def one(connection: Connection, account_id: int) -> Account:
    """Read an account.

    Raises Missing when there is none.
    """
    with connection.cursor(row_factory=class_row(Account)) as cursor:
        account = cursor.execute(_SQL["one"], {"id": account_id}).fetchone()
    if account is None:
        raise Missing(Text("this person"))
    return account


def to_sign_in(connection: Connection, name: str) -> tuple[int, str] | None:
    """Read the number and the password's hash of somebody who may sign in."""
    row = connection.execute(_SQL["sign_in"], {"name": name}).fetchone()
    return (row["id"], row["password_hash"]) if row else None


def called(connection: Connection, name: str) -> int | None:
    """Return the number of somebody who may sign in, by the name; None where there is nobody of it."""
    row = connection.execute(_SQL["called"], {"name": name}).fetchone()
    return int(row["id"]) if row else None


def password_hash(connection: Connection, account_id: int) -> str:
    """Read the hash of a password; empty where there is none."""
    row = connection.execute(_SQL["password_hash"], {"id": account_id}).fetchone()
    return str(row["password_hash"]) if row else ""


def has_owner(connection: Connection) -> bool:
    """Return whether there is an owner who can sign in."""
    row = connection.execute(_SQL["has_owner"]).fetchone()
    return bool(row and row["has_owner"])


def has_another_owner(connection: Connection, account_id: int) -> bool:
    """Return whether another owner can sign in, and keep it so until the transaction ends."""
    return bool(connection.execute(_SQL["owners"], {"besides": account_id}).fetchall())


def add(connection: Connection, *, name: str, role: Role, hashed: str) -> int:
    """Keep a new account; without a password's hash its owner has yet to choose one."""
    row = connection.execute(_SQL["add"], {"name": name, "role": role, "password_hash": hashed}).fetchone()
    return int(row["id"]) if row else 0


def change_role(connection: Connection, account_id: int, role: Role) -> None:
    """Keep what somebody may do from now on."""
    _must(connection, "change_role", id=account_id, role=role)


def set_password(connection: Connection, account_id: int, hashed: str) -> None:
    """Keep a new password's hash."""
    _must(connection, "set_password", id=account_id, password_hash=hashed)


def end(connection: Connection, account_id: int) -> None:
    """Keep that somebody may not sign in any more."""
    _must(connection, "end", id=account_id)


def take_back(connection: Connection, account_id: int) -> None:
    """Keep that somebody may sign in again, once they have chosen a new password."""
    _must(connection, "take_back", id=account_id)


def names_at_bench(connection: Connection) -> list[str]:
    """Read the names of those who may weigh."""
    return [row["name"] for row in connection.execute(_SQL["names_at_bench"]).fetchall()]


def _must(connection: Connection, name: str, **values: object) -> None:
    if connection.execute(_SQL[name], values).fetchone() is None:
        raise Missing(Text("this person"))
