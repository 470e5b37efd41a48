"""Faults: what may be behind a symptom of a job, by its record.

And what it turned out to be, noted for the next time.
"""

from dataclasses import dataclass
from datetime import date

from ufrin.actions.job.open_job import OpenJob, opened_at, pairings
from ufrin.core.faults.causes import Suspect, check_outcome, suspects
from ufrin.core.faults.evidence import JobEvidence, evidence, last_poured
from ufrin.core.weighing.bench_state import BenchState, bench_state
from ufrin.core.wording.one_line import one_line
from ufrin.store import faults, lots, pours
from ufrin.store.connection import Connection, Database
from ufrin.store.faults import StoredFault


@dataclass(frozen=True, slots=True, kw_only=True)
class FaultSearch:
    """A job with what may be behind a symptom; ``before`` is what the same pairings came to in any job."""

    opened: OpenJob
    pour: BenchState | None
    suspects: tuple[Suspect, ...]
    noted: tuple[StoredFault, ...]
    before: tuple[StoredFault, ...]


def find(
    database: Database, job_id: int, symptom: str, *, demoulded_min: float | None = None, shots: float | None = None
) -> FaultSearch:
    """Rank what may be behind a symptom."""
    with database.reading() as connection:
        opened = opened_at(connection, job_id, "checks")
        kept_pours = [(kept, bench_state(kept.plan, kept.entries)) for kept in pours.of_job(connection, job_id)]
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
        suspects=suspects(symptom, evidence(looked), same) if symptom else (),
        noted=noted,
        before=before,
    )


def _lots(connection: Connection, pour: BenchState | None, on: date | None) -> tuple[tuple[str, ...], bool]:
    # as old as they were when they were poured, whatever the day is now
    used = {entry.lot_id for entry in pour.entries if entry.lot_id} if pour else set()
    kept = lots.some(connection, used).values()
    return tuple(sorted({one.lot.code for one in kept if one.use_by and on and one.use_by < on})), bool(kept)


def note(database: Database, job_id: int, *, symptom: str, cause: str, text: str) -> None:
    """Note what it turned out to be."""
    text = one_line(text)
    check_outcome(symptom, cause, text)
    with database.transaction() as connection:
        pairs = pairings(opened_at(connection, job_id, "checks").plan)
        faults.add(connection, job_id, symptom=symptom, cause=cause, note=text, pairs=pairs)


def forget(database: Database, job_id: int, number: int) -> None:
    """Take away what was noted by mistake."""
    with database.transaction() as connection:
        faults.delete(connection, job_id, number)
