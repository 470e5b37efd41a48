"""Backups: made every night by a worker and whenever asked for; so many are kept, and a missing one is told."""

import time
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

import structlog

from ufrin.errors import Missing, Refused, UfrinError
from ufrin.language import Text
from ufrin.store import backup_file, backups, workshop_settings
from ufrin.store.backups import Backup, Standing
from ufrin.store.connection import Database

log = structlog.get_logger()
AT_NIGHT_H = 2  # by the workshop's clock; a machine that is off then makes it up at its next start
TRIED_AGAIN_AFTER = timedelta(hours=1)
MOST_KEPT = MOST_WISHED_DAYS = 366


@dataclass(frozen=True, slots=True, kw_only=True)
class Overview:
    """How it stands with backups, and the newest of them."""

    standing: Standing
    listed: tuple[Backup, ...]


def look(database: Database) -> Overview:
    """Show how it stands with backups."""
    with database.reading() as connection:
        return Overview(standing=backups.standing(connection), listed=tuple(backups.newest(connection)))


def standing(database: Database) -> Standing:
    """Return how it stands with backups, without the list."""
    with database.reading() as connection:
        return backups.standing(connection)


def wish(database: Database, *, kept: int | None, wish_days: int | None) -> None:
    """Change how many are kept, and how old the newest may get before the Board warns.

    Raises Refused.
    """
    if kept is None or not 1 <= kept <= MOST_KEPT:
        raise Refused("kept", Text("Keep between 1 and {most_kept} backups.", most_kept=MOST_KEPT))
    if wish_days is None or not 0 <= wish_days <= MOST_WISHED_DAYS:
        raise Refused(
            "wish_days",
            Text("Between 0 and {most_wished_days} days; 0 asks for no warning.", most_wished_days=MOST_WISHED_DAYS),
        )
    with database.transaction() as connection:
        backups.wish(connection, kept=kept, wish_days=wish_days)


def ask(database: Database) -> None:
    """Ask a worker for a backup now."""
    with database.transaction() as connection:
        backups.ask(connection)


def is_due(kept: Standing, night: datetime) -> bool:
    """Return whether tonight's backup is still to be made.

    Parameters
    ----------
    kept : Standing
        How it stands.
    night : datetime
        The newest time at which one was due.
    """
    if not kept.is_filled or kept.is_demo or (kept.made_at is not None and kept.made_at >= night):
        return False
    return kept.tried_at is None or kept.tried_at < kept.now - TRIED_AGAIN_AFTER or kept.tried_at > kept.now


def ask_when_due(database: Database) -> bool:
    """Ask a worker for tonight's backup when it is due, and return whether it was."""
    with database.transaction() as connection:
        kept, zone = backups.standing(connection), workshop_settings.load(connection).zone
        local = kept.now.astimezone(zone)
        night = local.replace(hour=AT_NIGHT_H, minute=0, second=0, microsecond=0)
        if not is_due(kept, night if night <= local else night - timedelta(days=1)):
            return False
        backups.ask(connection)
    return True


def back_up(database: Database, folder: Path, now: datetime) -> str:
    """Make a backup in a folder, delete those beyond the number that is kept, and return what came of it.

    What fails is kept as well, so that the Board can say so.
    """
    file, began = folder / backup_file.name_at(now), time.monotonic()
    try:
        manifest = backup_file.write(database.conninfo, file, now)
        size = file.stat().st_size
    except (UfrinError, OSError) as error:
        log.exception("no backup was made")
        why = str(error) if isinstance(error, UfrinError) else f"{folder}: {error.strerror or error}"
        with database.transaction() as connection:
            backups.keep(connection, refused=why)
        return "failed"
    took_s = time.monotonic() - began
    with database.transaction() as connection:
        backups.keep(connection, file=file.name, size=size, rows=manifest.rows, took_s=took_s)
        spare = backups.spare(connection, backups.standing(connection).backups_kept)
        for name in spare.values():
            (folder / Path(name).name).unlink(missing_ok=True)
        backups.forget(connection, spare.keys())
    return Text("{rows} rows, {size} bytes", rows=manifest.rows, size=size)


def file_of(database: Database, number: int, folder: Path) -> Path:
    """Return the file of a backup.

    Raises Missing when it is not there any more.
    """
    with database.reading() as connection:
        file = folder / Path(backups.one(connection, number).file).name
    if not file.is_file():
        raise Missing(Text("the file of this backup"))
    return file
