"""What is watched from outside: whether it is well, and figures of the record book and its machine for a monitor."""

from pathlib import Path

from ufrin.actions.safekeeping.disk_room import disk_room
from ufrin.errors import DatabaseAway, DatabaseBusy
from ufrin.language import Text
from ufrin.store import backups
from ufrin.store.connection import Database


def health(database: Database, folder: Path) -> dict[str, str]:
    """Return whether the database answers, whether workers are at work, and whether the disk is nearly full.

    Raises DatabaseAway or DatabaseBusy when it does not answer.
    """
    with database.reading() as connection:
        state = backups.state(connection)
    told = {"database": "up", "workers": Text("at work") if state and state.is_worked_on else Text("none at work")}
    room = disk_room(folder, backup_bytes=state.newest_bytes if state else 0)
    return told | ({"disk": Text("nearly full")} if room and room.is_nearly_full else {})


def gauges(database: Database, folder: Path) -> dict[str, tuple[str, float]]:
    """Return figures by name, each with what it says; those of the database are missing while it is away."""
    found: dict[str, tuple[str, float]] = {}
    try:
        with database.reading() as connection:
            state = backups.state(connection)
    except (DatabaseAway, DatabaseBusy):
        state = None
    room = disk_room(folder, backup_bytes=state.newest_bytes if state else 0)
    if room:
        found["ufrin_disk_free_bytes"] = (Text("Free on the disk of the backups."), room.free_bytes)
        found["ufrin_disk_nearly_full"] = (Text("1 when less is free than ought to be."), float(room.is_nearly_full))
    found["ufrin_database_up"] = (Text("1 while the database answers."), float(state is not None))
    if state:
        found["ufrin_database_bytes"] = (Text("Size of the record book."), state.bytes)
        found["ufrin_queue_waiting"] = (Text("Work that waits for a worker."), state.waiting)
        found["ufrin_queue_failed"] = (Text("Work that a worker could not do."), state.failed)
        found["ufrin_workers_at_work"] = (Text("1 while any worker shows itself."), float(state.is_worked_on))
        found["ufrin_sessions"] = (Text("Sessions that have not ended."), state.sessions)
        found["ufrin_devices"] = (Text("Devices and scripts that have joined."), state.devices)
        if state.backup_age_s is not None:
            found["ufrin_backup_age_seconds"] = (Text("Since the newest good backup."), state.backup_age_s)
    return found
