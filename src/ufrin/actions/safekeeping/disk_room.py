"""Room on the disk: told before it bites."""

import shutil
from dataclasses import dataclass
from pathlib import Path

LEAST_FREE_BYTES = 2_000_000_000
# a few backups and what is written meanwhile must fit
BACKUPS_THAT_FIT = 4


@dataclass(frozen=True, slots=True, kw_only=True)
class DiskRoom:
    """What is free on a disk, of how much, and how much ought to be."""

    free_bytes: int
    whole_bytes: int
    wanted_bytes: int

    @property
    def is_nearly_full(self) -> bool:
        """Whether less is free than ought to be."""
        return self.free_bytes < self.wanted_bytes


def disk_room(folder: Path, *, backup_bytes: int) -> DiskRoom | None:
    """Return how much room there is on the disk of a folder; None where that can't be told.

    Parameters
    ----------
    folder : Path
        Or, where it is missing, the nearest one above it.
    backup_bytes : int
        Size of the newest backup.
    """
    there = next((one for one in (folder, *folder.resolve().parents) if one.exists()), None)
    if there is None:
        return None
    try:
        found = shutil.disk_usage(there)
    except OSError:
        return None
    return DiskRoom(
        free_bytes=found.free,
        whole_bytes=found.total,
        wanted_bytes=max(LEAST_FREE_BYTES, BACKUPS_THAT_FIT * backup_bytes),
    )
