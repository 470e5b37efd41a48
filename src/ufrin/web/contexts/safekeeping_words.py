"""Backups and room on the disk, in words, and what the Board warns of."""

from datetime import timedelta
from pathlib import Path

from ufrin.actions import Database
from ufrin.actions.safekeeping import backups
from ufrin.actions.safekeeping.disk_room import disk_room


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
    for length, name in ((60 * 24, "day"), (60, "hour"), (1, "minute")):
        if minutes >= 2 * length or (minutes >= length > 1):
            number = minutes // length
            return f"{number} {name}{'s' if number > 1 else ''} ago"
    return "just now"


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
            f"The newest backup was made {ago(kept.now - kept.made_at)}; you wish for one every "
            f"{_days(kept.backup_wish_days)}."
            if kept.made_at
            else "There is no backup of this record book yet."
        )
        if kept.refused:
            found[-1] += f" The last try failed: {kept.refused}"
    room = disk_room(folder)
    if room and room.is_nearly_full:
        found.append(
            f"The disk is nearly full: {size(room.free_bytes)} of {size(room.whole_bytes)} are free. Make room before "
            "nothing can be saved any more."
        )
    return found


def _days(number: int) -> str:
    return "day" if number == 1 else f"{number} days"
