"""Casts at the bench: a shot is weighed like a pour, and logged with what the bench knows."""

from dataclasses import dataclass

from ufrin.actions.bench.pours import LONGEST_WHO, signed_text
from ufrin.actions.casts.places import cast_places
from ufrin.actions.casts.shots import MOULD_RETIRED, NOT_READY
from ufrin.actions.job.open_job import OpenJob, opened_at
from ufrin.core.casting.cast_bench import cast_weigh_plan
from ufrin.core.clocks.moment import Moment
from ufrin.core.job.sign_off import refuse_open_stops
from ufrin.core.rubber.cure_times import check_room
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.record_entries import RecordEntry, StepAttempt
from ufrin.core.weighing.record_rules import LONGEST_TEXT
from ufrin.core.weighing.weigh_plan import WeighPlan
from ufrin.core.wording.one_line import one_line
from ufrin.errors import Missing, Refused
from ufrin.language import Text
from ufrin.store import moulds, pours
from ufrin.store.connection import Database
from ufrin.store.pours import StoredPour


@dataclass(frozen=True, slots=True, kw_only=True)
class CastPour:
    """A shot at the bench, and where it stands."""

    pour: StoredPour
    state: BenchState

    @property
    def mixed_g(self) -> float:
        """All that went into its cups, without those that were thrown away."""
        return sum(self.mixed_of(part) for part in {"", *self.pour.plan.cup_parts})

    @property
    def left_g(self) -> float:
        """What stayed in them."""
        return sum(self.left_of(part) for part in {"", *self.pour.plan.cup_parts})

    def mixed_of(self, part: str) -> float:
        """Return all that went into the cups of one part of the shot."""
        return sum(cup.total_g for cup in self._poured(part))

    def left_of(self, part: str) -> float:
        """Return what stayed in the cups of one part of the shot."""
        return sum(cup.leftover_g or 0.0 for cup in self._poured(part))

    def _poured(self, part: str) -> list[StepAttempt]:
        parts = self.pour.plan.cup_parts
        return [
            cup
            for cup in self.state.attempts
            if cup.outcome == "poured" and (parts[cup.batch] if cup.batch < len(parts) else "") == part
        ]


def look(database: Database, job_id: int, number: int) -> CastPour:
    """Read a shot that was weighed at the bench.

    Raises Missing when it is none of this job.
    """
    with database.reading() as connection:
        kept = pours.look(connection, number)
    if kept.job_id != job_id or kept.plan.how != "cast":
        raise Missing(Text("this cast"))
    return CastPour(pour=kept, state=kept.state)


def start(database: Database, job_id: int, *, who: str, temp_c: float | None, reason: str, now: Moment) -> int:
    """Begin to weigh a shot.

    Raises Refused when there is nothing to weigh, a stop is not settled, another shot is being weighed, or the mould
    is not ready and nobody says why it is cast in all the same.
    """
    who, reason = one_line(who)[:LONGEST_WHO], one_line(reason)
    with database.transaction() as connection:
        opened = opened_at(connection, job_id, "casts")
        plan = _plan(opened)
        refuse_open_stops(opened.cast_stops)
        if moulds.retired(connection, job_id):
            raise Refused("", MOULD_RETIRED)
        if opened.open_cast is not None:
            raise Refused("", Text("A shot of this mould is being weighed already. Go on with it, or finish it first."))
        if opened.stage(now) in NOT_READY and not reason:
            raise Refused(
                "reason",
                Text(
                    "This mould is not ready to be cast in: it still cures, or is still in its box. Wait, "
                    "or say why it is cast in all the same."
                ),
            )
        room_c = opened.plan.rubber_settled.room_temp_c if temp_c is None else temp_c
        check_room(room_c)
        number = pours.start(connection, job_id=job_id, rubber_id=None, who=who, plan=plan, wall_s=now.wall_s)
        pours.enter(connection, number, RecordEntry(number=1, at=now, kind="start", temp_c=room_c), "start")
        notes = [signed_text(stop) for stop in opened.cast_stops if stop.signed]
        if reason:
            notes.append(Text("Cast in before the mould was ready: {reason}", reason=reason)[:LONGEST_TEXT])
        for line, text in enumerate(notes, 2):
            pours.enter(connection, number, RecordEntry(number=line, at=now, kind="note", text=text), f"note-{line}")
    return number


def _plan(opened: OpenJob) -> WeighPlan:
    answer, inputs, checks = opened.casts, opened.job.casts, opened.job.checks.settled()
    if answer is None or answer.plan is None or answer.picks.resin is None:
        raise Refused("", Text("There is nothing to weigh yet: the Casts station says what is missing."))
    return cast_weigh_plan(
        answer.plan,
        answer.settled,
        answer.picks,
        shelf=cast_places(inputs),
        step_g=opened.workshop.scale_step_g or opened.plan.rubber_settled.scale_step_g,
        air=checks.cast_air or "",
        vibrate_min=checks.vibrate_min,
        pot_kpa=checks.cast_kpa,
    )
