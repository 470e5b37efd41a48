"""Sessions as they are kept: who is signed in where, and the tries that failed."""

from dataclasses import dataclass
from datetime import datetime

from psycopg.rows import class_row

from ufrin.store.accounts import Role
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("sessions")


@dataclass(frozen=True, slots=True, kw_only=True)
class SignedIn:
    """Who a session is of; ``is_seen_anew`` asks for the session to be marked as used."""

    account_id: int
    name: str
    role: Role
    is_seen_anew: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Session:
    """Where somebody is signed in."""

    began_at: datetime
    seen_at: datetime
    ends_at: datetime
    program: str
    is_this_one: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Failures:
    """How often it failed lately: under this name from this address, from this address, and under this name."""

    here: int
    address: int
    name: int


def begin(connection: Connection, token_hash: bytes, account_id: int, *, longest_h: int, program: str) -> None:
    """Keep a new session."""
    values = {"token_hash": token_hash, "account_id": account_id, "longest_h": longest_h, "program": program[:200]}
    connection.execute(_SQL["begin"], values)


def of_token(connection: Connection, token_hash: bytes, *, idle_h: int) -> SignedIn | None:
    """Read who is signed in with a token."""
    with connection.cursor(row_factory=class_row(SignedIn)) as cursor:
        return cursor.execute(_SQL["of_token"], {"token_hash": token_hash, "idle_h": idle_h}).fetchone()


def seen(connection: Connection, token_hash: bytes) -> None:
    """Keep that a session was used."""
    connection.execute(_SQL["seen"], {"token_hash": token_hash})


def of_account(connection: Connection, account_id: int, token_hash: bytes, *, idle_h: int) -> list[Session]:
    """Read the sessions of somebody."""
    with connection.cursor(row_factory=class_row(Session)) as cursor:
        values = {"account_id": account_id, "token_hash": token_hash, "idle_h": idle_h}
        return cursor.execute(_SQL["of_account"], values).fetchall()


def end(connection: Connection, token_hash: bytes) -> None:
    """End a session."""
    connection.execute(_SQL["end"], {"token_hash": token_hash})


def end_all(connection: Connection, account_id: int, *, besides: bytes | None = None) -> None:
    """End all sessions of somebody, or all but one."""
    connection.execute(_SQL["end_all"], {"account_id": account_id, "besides": besides})


def tidy(connection: Connection, *, idle_h: int) -> None:
    """Forget what can't be used any more."""
    connection.execute(_SQL["tidy"], {"idle_h": idle_h})


def failed(connection: Connection, *, name: str, address: str) -> None:
    """Keep a try that failed."""
    connection.execute(_SQL["failed"], {"name": name, "address": address})


def failures(connection: Connection, *, name: str, address: str) -> Failures:
    """Count the tries that failed lately."""
    with connection.cursor(row_factory=class_row(Failures)) as cursor:
        found = cursor.execute(_SQL["failures"], {"name": name, "address": address}).fetchone()
    return found or Failures(here=0, address=0, name=0)


def forget_failures(connection: Connection, *, name: str, address: str) -> None:
    """Forget the failed tries of somebody who got in."""
    connection.execute(_SQL["forget_failures"], {"name": name, "address": address})
