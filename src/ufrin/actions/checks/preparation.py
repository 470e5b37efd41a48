"""What a maker does while they prepare a pour: tick a step off, or take the tick back."""

from ufrin.actions.job.open_job import opened_at
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store import done_steps
from ufrin.store.connection import Database


def tick(database: Database, job_id: int, key: str, *, done: bool, at_s: float, of_cast: bool = False) -> None:
    """Tick a step before a pour off, or one before a cast; or take the tick back.

    Raises Refused when the job has no such step any more.
    """
    with database.transaction() as connection:
        opened = opened_at(connection, job_id, "casts" if of_cast else "checks")
        asks = opened.casts if of_cast else opened.plan.checks
        if asks is None or key not in {step.key for step in asks.steps}:
            raise Refused(
                "", Text("That step is not in the plan any more: the job has changed. Look at what it asks now.")
            )
        if done:
            done_steps.tick(connection, job_id, key, at_s=at_s)
        else:
            done_steps.untick(connection, job_id, key)
