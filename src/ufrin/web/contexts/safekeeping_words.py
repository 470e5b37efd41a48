"""Backups and room on the disk, in words, and what the Board warns of."""

from datetime import timedelta
from pathlib import Path

from ufrin.actions import Database
from ufrin.actions.safekeeping import backups
from ufrin.actions.safekeeping.disk_room import disk_room

A_WEEK = 7


def size(number: float) -> str:
    """Return a number of bytes in words.

    Parameters
    ----------
    number : float
        Of bytes.

    Returns
    -------
    str
        With a decimal unit, as disks are sold.
    """
    for unit in ("bytes", "kB", "MB", "GB"):
        if number < 1000:
            return f"{number:.0f} {unit}" if unit == "bytes" or number >= 100 else f"{number:.1f} {unit}"
        number /= 1000
    return f"{number:.1f} TB"


def ago(passed: timedelta) -> str:
    """Return how long something is ago.

    Parameters
    ----------
    passed : timedelta
        What has passed since.

    Returns
    -------
    str
        In the unit that fits.
    """
    minutes = max(0, int(passed.total_seconds() // 60))
    days, hours = minutes // 1440, minutes // 60 % 24
    if days >= A_WEEK:
        return f"{days} days ago"
    if days:
        return f"{_days(days, 'a day')}{f' and {hours} h' if hours else ''} ago"
    if hours:
        return f"{hours} hour{'s' if hours > 1 else ''} ago"
    return f"{minutes} minutes ago" if minutes > 1 else "just now"


def backup_age(database: Database) -> str:
    """Return how old the newest backup is, in words.

    Parameters
    ----------
    database : Database
        With the list of backups.

    Returns
    -------
    str
        Empty where there is none.
    """
    kept = backups.standing(database)
    return ago(kept.now - kept.made_at) if kept.made_at else ""


def warnings(database: Database, folder: Path) -> list[str]:
    """Return what the Board warns of: a backup that is too old, and a disk that is nearly full.

    Parameters
    ----------
    database : Database
        With the list of backups.
    folder : Path
        Where they are kept.

    Returns
    -------
    list of str
        Sentences; none where all is well.
    """
    kept, found = backups.standing(database), []
    if kept.is_too_old:
        found.append(
            f"The newest backup was made {ago(kept.now - kept.made_at)}; you asked for one every "
            f"{_days(kept.backup_wish_days)}."
            if kept.made_at
            else "There is no backup of this record book yet."
        )
        if kept.refused:
            found[-1] += f" The last try failed: {kept.refused}"
    room = disk_room(folder, backup_bytes=kept.newest_bytes)
    if room and room.is_nearly_full:
        found.append(
            f"The disk is nearly full: {size(room.free_bytes)} of {size(room.whole_bytes)} are free. Make room before "
            "nothing can be saved any more."
        )
    return found


def _days(number: int, one: str = "day") -> str:
    return one if number == 1 else f"{number} days"
