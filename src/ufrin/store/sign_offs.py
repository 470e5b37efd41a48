"""Sign-offs as they are kept: stops of jobs that somebody signed off."""

from ufrin.core.job.sign_off import Stop
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("sign_offs")


def sign(connection: Connection, job_id: int, stop: Stop, *, reason: str, who: str) -> None:
    """Keep a sign-off."""
    connection.execute(
        _SQL["sign"], {"job_id": job_id, "about": stop.key, "says": stop.text, "reason": reason, "who": who}
    )


def withdraw(connection: Connection, job_id: int, about: str) -> None:
    """Take a sign-off back."""
    connection.execute(_SQL["withdraw"], {"job_id": job_id, "about": about})
