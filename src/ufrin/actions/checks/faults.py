"""Faults: the possible causes of a symptom of a job, by its record.

A symptom and its outcome are noted for the next time.
"""

from dataclasses import dataclass
from datetime import date

from ufrin.actions.job.open_job import OpenJob, opened_at, pairings
from ufrin.core.faults.causes import RankedCause, check_outcome, ranked_causes
from ufrin.core.faults.evidence import JobEvidence, evidence, last_poured
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.wording.one_line import one_line
from ufrin.store import faults, lots, pours
from ufrin.store.connection import Connection, Database
from ufrin.store.faults import StoredFault


@dataclass(frozen=True, slots=True, kw_only=True)
class FaultSearch:
    """A job with the possible causes of a symptom; ``before`` is the outcome of the same pairings in any job."""

    opened: OpenJob
    pour: BenchState | None
    ranked_causes: tuple[RankedCause, ...]
    noted: tuple[StoredFault, ...]
    before: tuple[StoredFault, ...]


def find(
    database: Database, job_id: int, symptom: str, *, demoulded_min: float | None = None, shots: float | None = None
) -> FaultSearch:
    """Rank the possible causes of a symptom."""
    with database.reading() as connection:
        opened = opened_at(connection, job_id, "checks")
        kept_pours = [(kept, kept.state) for kept in pours.of_job(connection, job_id)]
        pour = last_poured([state for _, state in kept_pours])
        expired, known = _lots(
            connection, pour, next((kept.started_at.date() for kept, state in kept_pours if state is pour), None)
        )
        noted = tuple(faults.of_job(connection, job_id))
    before = tuple(one for one in opened.happened if one.job_id != job_id)
    job = opened.job
    looked = JobEvidence(
        plan=opened.plan,
        master=job.master,
        box=job.box,
        rubber=job.rubber,
        pour=pour,
        lots_expired=expired,
        lots_known=known,
        demoulded_min=demoulded_min,
        shots=shots,
    )
    same = [one.cause for one in (*noted, *before) if one.symptom == symptom]
    return FaultSearch(
        opened=opened,
        pour=pour,
        ranked_causes=ranked_causes(symptom, evidence(looked), same) if symptom else (),
        noted=noted,
        before=before,
    )


def _lots(connection: Connection, pour: BenchState | None, on: date | None) -> tuple[tuple[str, ...], bool]:
    # lots are as old as they were at the pour, whatever the day is now
    used = {entry.lot_id for entry in pour.entries if entry.lot_id} if pour else set()
    kept = lots.some(connection, used).values()
    return tuple(sorted({one.lot.code for one in kept if one.use_by and on and one.use_by < on})), bool(kept)


def note(database: Database, job_id: int, *, symptom: str, cause: str, text: str) -> None:
    """Note the outcome of a fault."""
    text = one_line(text)
    check_outcome(symptom, cause, text)
    with database.transaction() as connection:
        pairs = pairings(opened_at(connection, job_id, "checks").plan)
        faults.add(connection, job_id, symptom=symptom, cause=cause, note=text, pairs=pairs)


def forget(database: Database, job_id: int, number: int) -> None:
    """Remove a note that was made by mistake."""
    with database.transaction() as connection:
        faults.delete(connection, job_id, number)
