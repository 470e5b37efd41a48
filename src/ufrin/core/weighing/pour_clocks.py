"""The clocks of a pour: those of each cup from its first contact, and what the witness cup says about them."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from typing import get_args

from ufrin.core.clocks.cure_clocks import ClockKind, CureClock, cure_clocks
from ufrin.core.clocks.cure_factor import Answer, Bracket, Reading, bracket
from ufrin.core.clocks.equivalent_age import age_min
from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.pot_life import PotLife, pot_life
from ufrin.core.clocks.room_log import RoomReading, notes_since
from ufrin.core.weighing.record_entries import RecordEntry, StepAttempt
from ufrin.core.weighing.weigh_plan import WeighPlan

ANSWERS: frozenset[str] = frozenset(get_args(Answer))
_ANSWER_OF_DEMOULD: dict[str, Answer] = {"well": "demoulded", "too-soft": "too-soft"}


@dataclass(frozen=True, kw_only=True)
class PourClocks:
    """The clocks of a pour.

    Parameters
    ----------
    plan : WeighPlan
        As it was when the weighing began.
    entries : sequence of RecordEntry
        Its record, without what was taken back.
    attempts : sequence of StepAttempt
        Its cups.
    room : sequence of RoomReading
        Of thermometers, while it was under way.
    """

    plan: WeighPlan
    entries: Sequence[RecordEntry]
    attempts: Sequence[StepAttempt]
    room: Sequence[RoomReading] = ()

    @cached_property
    def _readings(self) -> tuple[RoomReading, ...]:
        typed = (RoomReading(at=one.at, temp_c=one.temp_c) for one in self.entries if one.temp_c is not None)
        return (*typed, *self.room)

    def _notes(self, contact: Moment) -> tuple[tuple[float, float], ...]:
        return notes_since(contact, self._readings)

    @property
    def last_room(self) -> RoomReading | None:
        """The temperature of the room as it was last noted."""
        return max(self._readings, key=lambda one: one.at.wall_s, default=None)

    @property
    def poured(self) -> list[StepAttempt]:
        """The cups that went into the mould."""
        return [one for one in self.attempts if one.outcome == "poured" and one.contact is not None]

    @cached_property
    def last_witness(self) -> RecordEntry | None:
        """What the witness cup was like when it was pressed last."""
        return next((entry for entry in reversed(self.entries) if entry.kind == "witness"), None)

    @cached_property
    def found(self) -> Bracket:
        """What the witness cup of the last batch, and the demoulding, say about when it set."""
        if not self.poured:
            return Bracket()
        tin_min, contact = self.plan.clock_times_of(self.poured[-1].batch)["demould"], self.poured[-1].contact
        if not tin_min:
            return Bracket()
        assert contact is not None  # noqa: S101 - of the cups that were poured
        readings = []
        for entry in self.entries:
            answer = _ANSWER_OF_DEMOULD.get(entry.what) if entry.kind == "demould" else entry.what
            if entry.kind in {"witness", "demould"} and answer in ANSWERS:
                age = age_min(entry.at.since_s(contact) / 60, self._notes(contact))
                readings.append(Reading(answer=answer, share=age / tin_min))  # type: ignore[arg-type]
        return bracket([one for one in readings if one.share > 0])

    def of(self, attempt: StepAttempt, now: Moment) -> tuple[CureClock, ...]:
        """Return the clocks of a cup.

        Parameters
        ----------
        attempt : StepAttempt
            One of the cups.
        now : Moment
            By the server's clock.

        Returns
        -------
        tuple of CureClock
            Empty before A met B.
        """
        contact = attempt.contact
        if contact is None:
            return ()
        ends = self._ends.get(contact)
        if ends is None:
            # when a clock ends follows from the record and the room alone: worked out once, read at every look
            factor, notes = self.plan.cure_factor, self._notes(contact)
            tin_min = self.plan.clock_times_of(attempt.batch)
            ends = cure_clocks(tin_min, 0.0, notes, factor=factor, found=self.found)
            self._ends[contact] = ends
        elapsed_s = now.since_s(contact)
        return tuple(clock.after(elapsed_s) for clock in ends)

    @cached_property
    def _ends(self) -> dict[Moment, tuple[CureClock, ...]]:
        return {}

    def of_mould(self, now: Moment) -> tuple[CureClock, ...]:
        """Return the clocks of all that was poured: of each kind the one that ends last.

        Parameters
        ----------
        now : Moment
            By the server's clock.

        Returns
        -------
        tuple of CureClock
            Empty while nothing was poured.
        """
        return tuple(clock.after(now.since_s(contact)) for contact, clock in self.last_ends.values())

    def of_kind(self, kind: ClockKind, now: Moment) -> CureClock | None:
        """Return one clock of all that was poured.

        Parameters
        ----------
        kind : str
            One of ``CLOCK_KINDS``.
        now : Moment
            By the server's clock.

        Returns
        -------
        CureClock or None
            Of the batch that ends last; None where it is not known.
        """
        found = self.last_ends.get(kind)
        return found[1].after(now.since_s(found[0])) if found else None

    @cached_property
    def last_ends(self) -> dict[ClockKind, tuple[Moment, CureClock]]:
        """Of each kind the clock that ends last, with its first contact."""
        last: dict[ClockKind, tuple[Moment, CureClock]] = {}
        for cup in self.poured:
            contact = cup.contact
            for clock in self.of(cup, contact) if contact else ():
                known = last.get(clock.kind)
                if contact and (known is None or contact.wall_s + clock.end_s > known[0].wall_s + known[1].end_s):
                    last[clock.kind] = contact, clock
        return last

    def pot_life(self, now: Moment, attempt: StepAttempt) -> PotLife | None:
        """Read the pot-life clock of a cup.

        Parameters
        ----------
        now : Moment
            By the server's clock.
        attempt : StepAttempt
            One of the cups.

        Returns
        -------
        PotLife or None
            None before A met B, or for a rubber without a pot life; shorter where the shop has learnt that this
            rubber is quick.
        """
        times = self.plan.clock_times_of(attempt.batch)
        tin_min = times.get("press") or times["pot-life"]
        if attempt.contact is None or not tin_min:
            return None
        notes_s = [(60 * at, temp_c) for at, temp_c in self._notes(attempt.contact)]
        real_min = self.plan.cure_factor.real_min(tin_min, is_deadline=True)
        return pot_life(real_min, now.since_s(attempt.contact), notes_s)

    def end_s(self, kind: ClockKind) -> float | None:
        """Return when a clock of all that was poured ends.

        Parameters
        ----------
        kind : str
            One of ``CLOCK_KINDS``.

        Returns
        -------
        float or None
            In seconds since 1970, by the clock on the wall as it was at first contact; None where it is not known.
        """
        return max((self._end_s(cup, kind) for cup in self.poured if self._is_known(cup, kind)), default=None)

    def end_of_s(self, attempt: StepAttempt, kind: ClockKind) -> float | None:
        """Return when a clock of a poured cup ends.

        Parameters
        ----------
        attempt : StepAttempt
            One of the cups.
        kind : str
            One of ``CLOCK_KINDS``.

        Returns
        -------
        float or None
            In seconds since 1970; None for a cup that was not poured, or where the tin does not say.
        """
        return self._end_s(attempt, kind) if attempt in self.poured and self._is_known(attempt, kind) else None

    def _is_known(self, attempt: StepAttempt, kind: ClockKind) -> bool:
        return bool(self.plan.clock_times_of(attempt.batch).get(kind))

    def _end_s(self, attempt: StepAttempt, kind: ClockKind) -> float:
        contact = attempt.contact
        assert contact is not None  # noqa: S101 - of the cups that were poured
        return contact.wall_s + next(clock.end_s for clock in self.of(attempt, contact) if clock.kind == kind)

    @property
    def contact_s(self) -> float | None:
        """When A first met B in what was poured, in seconds since 1970."""
        return min((one.contact.wall_s for one in self.poured if one.contact), default=None)

    @property
    def poured_s(self) -> float | None:
        """When the last cup was poured, in seconds since 1970."""
        return max((entry.at.wall_s for entry in self.entries if entry.kind == "poured"), default=None)
