"""What is watched from outside: figures of the record book and its machine, for a monitor."""

from pathlib import Path

from ufrin.actions.safekeeping.disk_room import disk_room
from ufrin.errors import DatabaseAway, DatabaseBusy
from ufrin.store import backups
from ufrin.store.connection import Database


def gauges(database: Database, folder: Path) -> dict[str, tuple[str, float]]:
    """Return figures by name, each with what it says; those of the database are missing while it is away."""
    found: dict[str, tuple[str, float]] = {}
    room = disk_room(folder)
    if room:
        found["ufrin_disk_free_bytes"] = ("Free on the disk of the backups.", room.free_bytes)
        found["ufrin_disk_nearly_full"] = ("1 when less is free than ought to be.", float(room.is_nearly_full))
    try:
        with database.reading() as connection:
            state = backups.state(connection)
    except (DatabaseAway, DatabaseBusy):
        state = None
    found["ufrin_database_up"] = ("1 while the database answers.", float(state is not None))
    if state:
        found["ufrin_database_bytes"] = ("Size of the record book.", state.bytes)
        found["ufrin_queue_waiting"] = ("Work that waits for a worker.", state.waiting)
        found["ufrin_queue_failed"] = ("Work that a worker could not do.", state.failed)
        found["ufrin_workers_at_work"] = ("1 while any worker shows itself.", float(state.is_worked_on))
        found["ufrin_sessions"] = ("Sessions that have not ended.", state.sessions)
        found["ufrin_devices"] = ("Devices and scripts that have joined.", state.devices)
        if state.backup_age_s is not None:
            found["ufrin_backup_age_seconds"] = ("Since the newest good backup.", state.backup_age_s)
    return found
