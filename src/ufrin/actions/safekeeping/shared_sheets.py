"""Sharing a job's sheet: an address that shows it to somebody without an account, until its last day."""

from ufrin.actions.people import tokens
from ufrin.actions.people.signing_in import checked_name
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store import shared_sheets
from ufrin.store.connection import Database
from ufrin.store.shared_sheets import SharedSheet

MOST_DAYS = 366


def share(database: Database, job_id: int, *, for_whom: str, days: int | None, by: str) -> str:
    """Share a job's sheet, and return the secret of its address, which is shown once.

    Raises Refused when nobody is named, or the time can't be.
    """
    name = checked_name(for_whom, field="for_whom")
    if days is None or not 1 <= days <= MOST_DAYS:
        raise Refused("days", Text("A sheet is shared for 1 to {most_days} days.", most_days=MOST_DAYS))
    secret = tokens.new_token()
    with database.transaction() as connection:
        shared_sheets.share(connection, tokens.hash_of(secret), job_id, for_whom=name, made_by=by, days=days)
    return secret


def of_job(database: Database, job_id: int) -> list[SharedSheet]:
    """List who may read a job's sheet without an account."""
    with database.reading() as connection:
        return shared_sheets.of_job(connection, job_id)


def job_of(database: Database, secret: str) -> int:
    """Return the job whose sheet an address shows."""
    with database.reading() as connection:
        return shared_sheets.job_of(connection, tokens.hash_of(secret))


def end(database: Database, number: int, job_id: int) -> None:
    """End a share before its time."""
    with database.transaction() as connection:
        shared_sheets.end(connection, number, job_id)
