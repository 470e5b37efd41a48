"""Backups as they are kept track of: what was made when, and what is wished."""

from collections.abc import Collection
from dataclasses import dataclass
from datetime import datetime, timedelta

from psycopg.rows import class_row

from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("backups")
MOST_LISTED = 40


@dataclass(frozen=True, slots=True, kw_only=True)
class Backup:
    """A backup that was made, or one that failed, with why."""

    id: int
    tried_at: datetime
    file: str
    bytes: int
    row_count: int
    took_s: float
    refused: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Standing:
    """How it stands with backups.

    When the newest good one was made and the newest was tried, why that failed, how large the good one is, how many are
    kept, how old the newest may get in days (0: however old), whether the record book holds the demo or anything at
    all, and the time now.
    """

    made_at: datetime | None
    tried_at: datetime | None
    refused: str | None
    newest_bytes: int
    backups_kept: int
    backup_wish_days: int
    is_demo: bool
    is_filled: bool
    now: datetime

    @property
    def is_too_old(self) -> bool:
        """Whether the newest is older than wished, or there is none, where there is something to lose."""
        if not self.is_filled or self.is_demo or not self.backup_wish_days:
            return False
        return self.made_at is None or self.now - self.made_at > timedelta(days=self.backup_wish_days)


@dataclass(frozen=True, slots=True, kw_only=True)
class WatchedState:
    """What is watched from outside."""

    backup_age_s: float | None
    newest_bytes: int
    waiting: int
    failed: int
    sessions: int
    devices: int
    is_worked_on: bool
    bytes: int


def state(connection: Connection) -> WatchedState | None:
    """Read what is watched from outside."""
    with connection.cursor(row_factory=class_row(WatchedState)) as cursor:
        return cursor.execute(_SQL["state"]).fetchone()


def newest(connection: Connection) -> list[Backup]:
    """Read the newest backups."""
    with connection.cursor(row_factory=class_row(Backup)) as cursor:
        return cursor.execute(_SQL["newest"], {"limit": MOST_LISTED}).fetchall()


def one(connection: Connection, number: int) -> Backup:
    """Read a backup.

    Raises Missing when there is none, or it failed.
    """
    with connection.cursor(row_factory=class_row(Backup)) as cursor:
        found = cursor.execute(_SQL["one"], {"id": number}).fetchone()
    if found is None or found.refused:
        raise Missing(Text("this backup"))
    return found


def standing(connection: Connection) -> Standing:
    """Read how it stands with backups.

    Raises Missing when somebody emptied the database.
    """
    with connection.cursor(row_factory=class_row(Standing)) as cursor:
        found = cursor.execute(_SQL["standing"]).fetchone()
    if found is None:
        raise Missing(Text("the workshop's settings"))
    return found


def keep(
    connection: Connection, *, file: str = "", size: int = 0, rows: int = 0, took_s: float = 0.0, refused: str = ""
) -> None:
    """Keep that a backup was made, or why it failed."""
    values = {"file": file, "bytes": size, "row_count": rows, "took_s": took_s, "refused": refused[:400]}
    connection.execute(_SQL["keep"], values)


def spare(connection: Connection, kept: int) -> dict[int, str]:
    """Read the files of the backups beyond those that are kept, by number."""
    return {row["id"]: row["file"] for row in connection.execute(_SQL["spare"], {"kept": kept}).fetchall()}


def forget(connection: Connection, numbers: Collection[int]) -> None:
    """Forget backups whose files are gone."""
    connection.execute(_SQL["forget"], {"ids": list(numbers)})


def wish(connection: Connection, *, kept: int, wish_days: int) -> None:
    """Keep how many are kept, and how old the newest may get."""
    connection.execute(_SQL["wish"], {"kept": kept, "wish_days": wish_days})


def ask(connection: Connection) -> None:
    """Ask a worker for a backup."""
    connection.execute(_SQL["ask"])
