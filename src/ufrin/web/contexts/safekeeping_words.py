"""Backups and room on the disk, in words, and what the Board warns of."""

from datetime import timedelta
from pathlib import Path

from ufrin.actions import Database
from ufrin.actions.safekeeping import backups
from ufrin.actions.safekeeping.disk_room import disk_room
from ufrin.language import Counted, Text

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
        return Text("{days} days ago", days=days)
    if days:
        if hours:
            return Text("{days} and {hours} h ago", days=_days(days, Text("a day")), hours=hours)
        return Text("{days} ago", days=_days(days, Text("a day")))
    if hours:
        return Counted("{n} hour ago", "{n} hours ago", n=hours)
    return Text("{minutes} minutes ago", minutes=minutes) if minutes > 1 else Text("just now")


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
    kept = backups.standing(database)
    found: list[str] = []
    if kept.is_too_old:
        found.append(
            Text(
                "The newest backup was made {now}; you asked for one every {backup_wish_days}.",
                now=ago(kept.now - kept.made_at),
                backup_wish_days=_days(kept.backup_wish_days),
            )
            if kept.made_at
            else Text("There is no backup of this record book yet.")
        )
        if kept.refused:
            found.append(Text("The last try failed: {refused}", refused=kept.refused))
    room = disk_room(folder, backup_bytes=kept.newest_bytes)
    if room and room.is_nearly_full:
        found.append(
            Text(
                "The disk is nearly full: {free_bytes} of {whole_bytes} are free. Make room before "
                "nothing can be saved any more.",
                free_bytes=size(room.free_bytes),
                whole_bytes=size(room.whole_bytes),
            )
        )
    return found


def _days(number: int, one: str = "day") -> str:
    return one if number == 1 else Text("{number} days", number=number)
