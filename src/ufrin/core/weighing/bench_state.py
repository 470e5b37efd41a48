"""The state of the bench: where a pour is, worked out from the entries of its record alone, and what to weigh next."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.pot_life import PotLife
from ufrin.core.clocks.room_log import RoomReading
from ufrin.core.rubber.cure_times import TIN_TEMP_C, time_at
from ufrin.core.weighing.allowance import PastPour
from ufrin.core.weighing.mould_weight import Rotation
from ufrin.core.weighing.next_step import b_per_a_of, next_step, sum_of
from ufrin.core.weighing.pour_clocks import PourClocks
from ufrin.core.weighing.record_entries import RecordEntry, Step, StepAttempt
from ufrin.core.weighing.record_replay import replayed, rotated
from ufrin.core.weighing.weigh_plan import Ingredient, Role, WeighPlan


@dataclass(frozen=True, slots=True, kw_only=True)
class BenchState:
    """A pour as its record has it.

    ``valid`` are its lines without those that were taken back; ``is_demoulded`` is whether the mould was taken out;
    ``mould_empty_g`` and ``mould_now_g`` are what a mould weighed before its first cup, and when it was weighed last.
    """

    plan: WeighPlan
    entries: tuple[RecordEntry, ...]
    attempts: tuple[StepAttempt, ...]
    step: Step
    targets_g: Mapping[int, float]
    batches: tuple[tuple[Ingredient, ...], ...]
    clocks: PourClocks
    is_finished: bool = False
    step_began: Moment | None = None
    taken_back: frozenset[int] = field(default_factory=frozenset)
    valid: tuple[RecordEntry, ...] = ()
    is_demoulded: bool = False
    mould_empty_g: float | None = None
    mould_now_g: float | None = None

    @property
    def attempt(self) -> StepAttempt:
        """The cup at work, or the last one."""
        return self.attempts[-1]

    @property
    def batch(self) -> tuple[Ingredient, ...]:
        """What the cup at work is to hold."""
        return self.batches[min(self.attempt.batch, len(self.batches) - 1)]

    @property
    def next_number(self) -> int:
        """The number that the next entry will have."""
        return len(self.entries) + 1

    @property
    def room_temp_c(self) -> float:
        """As it was last noted."""
        last = self.clocks.last_room
        return last.temp_c if last else TIN_TEMP_C

    @property
    def short_ml(self) -> float:
        """What was missing beyond the plan."""
        return sum(entry.volume_ml or 0.0 for entry in self.valid if entry.kind == "short")

    @property
    def used_g(self) -> float:
        """What went into moulds: the poured cups without what was left in them."""
        return sum(one.total_g - (one.leftover_g or 0.0) for one in self.attempts if one.outcome == "poured")

    @property
    def planned_batches(self) -> int:
        """How many of the batches are the plan's own; the others were added because the rubber ran short."""
        return len(self.batches) - sum(entry.kind == "short" for entry in self.valid)

    @property
    def needed_g(self) -> float:
        """What the batches really poured were needed for; one that was left out needs nothing.

        What was added because the rubber ran short was needed too.
        """
        whole_g, planned = self.plan.total_g, self.planned_batches
        poured = [cup.batch for cup in self.attempts if cup.outcome == "poured"]
        planned_g = sum(one.g for batch in poured if batch < planned for one in self.batches[batch])
        added_g = sum(one.g for batch in poured if batch >= planned for one in self.batches[batch])
        share = self.plan.need_g / whole_g if whole_g else 0.0
        return share * planned_g + added_g / self._loss

    @property
    def _loss(self) -> float:
        # what a top-up was mixed more than was missing
        missing_g = self.short_ml * self.plan.sg
        added_g = sum(one.g for batch in self.batches[self.planned_batches :] for one in batch)
        return added_g / missing_g if missing_g and added_g else 1.0

    @property
    def over_pct(self) -> float | None:
        """How much more than needed was used, in percent; None while nothing was poured."""
        if not self.needed_g > 0 or not self.used_g > 0:
            return None
        return PastPour(needed_g=self.needed_g, used_g=self.used_g).over_pct

    @property
    def a_g(self) -> float:
        """The A in the cup at work, of a blend's second rubber too."""
        return self._poured_g({"A"})

    @property
    def b_g(self) -> float:
        """The B in the cup at work."""
        return self._poured_g({"B"})

    @property
    def target_ml(self) -> float | None:
        """The volume of the next part where it is measured by the marks of a cup; None where it is weighed."""
        one, method = self.step.ingredient, self.plan.method
        if one is None or not one.sg or method is None or method.basis != "volume":
            return None
        return self.step.target_g / one.sg

    @property
    def target_drops(self) -> int | None:
        """The drops of the next part where it is a catalyst that is counted; None where it is weighed."""
        one, method = self.step.ingredient, self.plan.method
        if one is None or one.role != "B" or not one.sg or method is None or not method.drops_per_ml:
            return None
        return round(self.step.target_g / one.sg * method.drops_per_ml)

    @property
    def thinner_parts(self) -> float | None:
        """The thinner in the cup at work, in parts per 100 of the A + B in it; None where there is none."""
        both_g = self._poured_g({"A", "B"})
        return (
            100 * self.attempt.poured_g["thinner"] / both_g if both_g and "thinner" in self.attempt.poured_g else None
        )

    def _poured_g(self, roles: set[Role]) -> float:
        return sum(self.attempt.poured_g.get(one.key, 0.0) for one in self.batch if one.role in roles)

    @property
    def lost_g(self) -> float:
        """What was set aside or thrown away."""
        return sum(one.total_g for one in self.attempts if one.outcome in {"wrong", "discarded"})

    def ratio_error_pct(self, attempt: StepAttempt) -> float | None:
        """Return the error of a cup's ratio.

        Parameters
        ----------
        attempt : StepAttempt
            One of the cups.

        Returns
        -------
        float or None
            Of B/A in percent; None while one of them is missing.
        """
        a, b = (sum_of(self.batches[attempt.batch], attempt.poured_g, role) for role in ("A", "B"))
        asked = b_per_a_of(self.plan, self.batches[attempt.batch])
        return 100 * (b / a / asked - 1) if a and b else None

    def clock(self, now: Moment, attempt: StepAttempt | None = None) -> PotLife | None:
        """Read the pot-life clock of a cup.

        Parameters
        ----------
        now : Moment
            By the server's clock.
        attempt : StepAttempt, optional
            The one in use, if none is given.

        Returns
        -------
        PotLife or None
            None before A met B, or for a rubber without a pot life.
        """
        return self.clocks.pot_life(now, attempt or self.attempt)

    @property
    def has_poured(self) -> bool:
        """Whether anything went into a mould."""
        return any(one.outcome == "poured" for one in self.attempts)

    def after_ml(self) -> float:
        """Return the volume that the cup at work will hold after this step.

        Returns
        -------
        float
            In ml, by the SG of the mix.
        """
        other = self.plan.other_of(self.attempt.batch)
        return (self.attempt.total_g + self.step.target_g) / (other.sg if other else self.plan.sg)

    @property
    def rotation(self) -> Rotation | None:
        """Where a cast that is rotated by hand stands; None before its mould was weighed."""
        aim = self.plan.rotation
        if aim is None or self.mould_empty_g is None:
            return None
        return rotated(aim, self.mould_empty_g, self.mould_now_g)


def bench_state(plan: WeighPlan, entries: Sequence[RecordEntry], room: Sequence[RoomReading] = ()) -> BenchState:
    """Work out the state of a pour from its record.

    Parameters
    ----------
    plan : WeighPlan
        As it was when the weighing began.
    entries : sequence of RecordEntry
        Its record, in the order of their numbers.
    room : sequence of RoomReading, optional
        Of thermometers, since the weighing began.

    Returns
    -------
    BenchState
        With the next step.
    """
    taken_back = frozenset(entry.of_number or 0 for entry in entries if entry.kind == "retract")
    valid = tuple(entry for entry in entries if entry.number not in taken_back)
    replay = replayed(plan, entries, taken_back)
    state = BenchState(
        plan=plan,
        entries=tuple(entries),
        attempts=tuple(replay.attempts),
        step=Step(kind="done"),
        targets_g=replay.targets_g,
        batches=tuple(replay.batches),
        clocks=PourClocks(plan=plan, entries=valid, attempts=replay.attempts, room=room),
        is_finished=replay.is_finished,
        step_began=replay.step_began,
        taken_back=taken_back,
        valid=valid,
        is_demoulded=any(entry.kind == "demould" and entry.what == "well" for entry in valid),
        mould_empty_g=replay.mould_empty_g,
        mould_now_g=replay.mould_now_g,
    )
    return replace(state, step=_step(state, replay.prepared))


def _step(state: BenchState, prepared: Sequence[str]) -> Step:
    if state.is_finished:
        waits = state.plan.method is not None and state.has_poured and not state.is_demoulded
        return Step(kind="cure" if waits else "done")
    tin_min = state.plan.clock_times_of(state.attempt.batch)["pot-life"]
    return next_step(
        state.plan,
        state.batches,
        state.attempt,
        pot_life_min=time_at(tin_min, state.room_temp_c) if tin_min else None,
        prepared=prepared,
    )
