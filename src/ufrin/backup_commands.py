"""The commands that back up and restore, and what is done before a record book of an earlier version is changed."""

from datetime import datetime
from pathlib import Path

from ufrin.store import backup_file, schema
from ufrin.store.backup_file import Manifest, NoBackup


def check_named(file: Path | None) -> None:
    """Check that a backup was named, and is there.

    Parameters
    ----------
    file : Path or None
        As it was named.

    Raises
    ------
    NoBackup
        When it was not, or is not.
    """
    if file is None:
        raise NoBackup("Name a backup:  ./run restore FILE")
    if not file.is_file():
        raise NoBackup(f"There is no file {file}. Name a backup:  ./run restore FILE")


def back_up(conninfo: str, file: Path | None, folder: Path, now: datetime) -> str:
    """Back a record book up.

    Parameters
    ----------
    conninfo : str
        Of its database.
    file : Path or None
        Where; None for a name by the time, in the folder.
    folder : Path
        Where backups are kept.
    now : datetime
        In UTC.

    Returns
    -------
    str
        What was done, as a sentence.

    Raises
    ------
    NoBackup
        When the file is there already, or none can be made.
    """
    file = file or folder / backup_file.name_at(now)
    if file.exists():
        raise NoBackup(f"{file} is there already. Name another file, so that no backup is overwritten.")
    manifest = backup_file.write(conninfo, file, now)
    return f"Backed up {_told(manifest, file)}: {file}"


def restore(conninfo: str, file: Path) -> str:
    """Restore a backup into an empty record book.

    Parameters
    ----------
    conninfo : str
        Of its database.
    file : Path
        The backup.

    Returns
    -------
    str
        What was done, as a sentence.

    Raises
    ------
    NoBackup
        When it can't be used.
    """
    manifest = backup_file.restore(conninfo, file)
    return f"Restored {_told(manifest, file)}, made {manifest.made_at:%Y-%m-%d %H:%M} UTC. Every table matches it."


def _told(manifest: Manifest, file: Path) -> str:
    tables = sum(one.rows > 0 for one in manifest.tables.values())
    return f"{manifest.rows} rows of {tables} tables ({file.stat().st_size} bytes)"


def back_up_before_steps(conninfo: str, folder: Path, now: datetime) -> str:
    """Back a record book of an earlier version up before it is changed.

    Parameters
    ----------
    conninfo : str
        Of its database.
    folder : Path
        Where backups are kept.
    now : datetime
        In UTC.

    Returns
    -------
    str
        What was done, as a sentence; empty where nothing was to be done.

    Raises
    ------
    NoBackup
        When none can be made; the record book is left as it is then.
    """
    before, newest = schema.step_of(conninfo), schema.steps()[-1]
    if not before or before == newest:
        return ""
    file = folder / backup_file.name_at(now, f"-before-{newest[:4]}")
    manifest = backup_file.write(conninfo, file, now)
    return f"This record book is of an earlier version, so it was backed up first ({manifest.rows} rows): {file}"
