"""Sign-offs as they are kept: stops of jobs that somebody took upon themselves."""

from ufrin.core.job.sign_off import Stop
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("sign_offs")


def sign(connection: Connection, job_id: int, stop: Stop, *, reason: str, who: str) -> None:
    """Keep a sign-off.

    Parameters
    ----------
    connection : Connection
        In a transaction.
    job_id : int
        The job's number.
    stop : Stop
        What is taken upon oneself.
    reason, who : str
        Why, and by whom.
    """
    connection.execute(
        _SQL["sign"], {"job_id": job_id, "about": stop.key, "says": stop.says, "reason": reason, "who": who}
    )


def withdraw(connection: Connection, job_id: int, about: str) -> None:
    """Take a sign-off back.

    Parameters
    ----------
    connection : Connection
        In a transaction.
    job_id : int
        The job's number.
    about : str
        Key of the stop.
    """
    connection.execute(_SQL["withdraw"], {"job_id": job_id, "about": about})
