"""Steps of the preparation that were ticked off, as they are kept."""

from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("done_steps")


def of_job(connection: Connection, job_id: int) -> dict[str, float]:
    """Read when each step of a job was done, in seconds since 1970, by its key."""
    rows = connection.execute(_SQL["of_job"], {"job_id": job_id}).fetchall()
    return {row["step"]: row["at_s"] for row in rows}


def tick(connection: Connection, job_id: int, step: str, *, at_s: float) -> None:
    """Keep that a step is done."""
    connection.execute(_SQL["tick"], {"job_id": job_id, "step": step, "at_s": at_s})


def untick(connection: Connection, job_id: int, step: str) -> None:
    """Keep that a step is not done after all."""
    connection.execute(_SQL["untick"], {"job_id": job_id, "step": step})
