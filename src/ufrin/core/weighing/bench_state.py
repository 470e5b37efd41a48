"""The state of the bench: where a pour is, worked out from the entries of its record alone, and what to weigh next."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ufrin.core.rubber.cure_times import TIN_TEMP_C, time_at
from ufrin.core.weighing.allowance import PastPour
from ufrin.core.weighing.pot_life_clock import Moment, PotLife, pot_life
from ufrin.core.weighing.ratio_mend import check
from ufrin.core.weighing.record_entries import RecordEntry, Step, StepAttempt, StepKind
from ufrin.core.weighing.weigh_plan import BAND_PCT, Ingredient, Role, WeighPlan


@dataclass(frozen=True, slots=True, kw_only=True)
class BenchState:
    """A pour as its record has it."""

    plan: WeighPlan
    entries: tuple[RecordEntry, ...]
    attempts: tuple[StepAttempt, ...]
    step: Step
    targets_g: Mapping[int, float]

    @property
    def attempt(self) -> StepAttempt:
        """The cup at work, or the last one."""
        return self.attempts[-1]

    @property
    def batch(self) -> tuple[Ingredient, ...]:
        """What the cup at work is to hold."""
        return self.plan.batches[min(self.attempt.batch, len(self.plan.batches) - 1)]

    @property
    def next_number(self) -> int:
        """The number that the next entry will have."""
        return len(self.entries) + 1

    @property
    def room_temp_c(self) -> float:
        """As it was last noted."""
        return next((entry.temp_c for entry in reversed(self.entries) if entry.temp_c is not None), TIN_TEMP_C)

    @property
    def is_finished(self) -> bool:
        """Whether nothing is left to do."""
        return self.step.kind == "done"

    @property
    def used_g(self) -> float:
        """What went into moulds: the poured cups without what was left in them."""
        return sum(one.total_g - (one.leftover_g or 0.0) for one in self.attempts if one.outcome == "poured")

    @property
    def needed_g(self) -> float:
        """What the batches really poured were needed for; one that was left out needs nothing."""
        whole_g = self.plan.total_g
        poured_g = sum(
            one.g for cup in self.attempts if cup.outcome == "poured" for one in self.plan.batches[cup.batch]
        )
        return self.plan.need_g * poured_g / whole_g if whole_g else 0.0

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
        a, b = (_sum_of(self.plan.batches[attempt.batch], attempt.poured_g, role) for role in ("A", "B"))
        return 100 * (b / a / self.plan.b_per_a - 1) if a and b else None

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
        attempt = attempt or self.attempt
        if attempt.contact is None or not self.plan.pot_life_min:
            return None
        start = attempt.contact
        temps = [
            (entry.at.since_s(start) if entry.number > _number_of(self.entries, start) else 0.0, entry.temp_c)
            for entry in self.entries
            if entry.temp_c is not None
        ]
        before = [temp for at, temp in temps if at == 0.0]
        later = [(at, temp) for at, temp in temps if at > 0.0]
        return pot_life(
            self.plan.pot_life_min, now.since_s(start), [(0.0, before[-1] if before else TIN_TEMP_C), *later]
        )

    def demould_min(self, attempt: StepAttempt) -> float | None:
        """Return the time from first contact until a cup's rubber may be demoulded, at the room's temperature.

        Parameters
        ----------
        attempt : StepAttempt
            One of the cups.

        Returns
        -------
        float or None
            In min; None before A met B, or for a rubber without a demould time.
        """
        if attempt.contact is None or not self.plan.demould_min:
            return None
        return time_at(self.plan.demould_min, self.room_temp_c)

    @property
    def demould_from_s(self) -> float | None:
        """When all that was poured may be demoulded, in seconds since 1970; None where that is not known."""
        return self._last_end_s(self.plan.demould_min)

    @property
    def full_cure_from_s(self) -> float | None:
        """When all that was poured is fully cured, in seconds since 1970; None where that is not known."""
        return self._last_end_s(self.plan.full_cure_min)

    @property
    def contact_s(self) -> float | None:
        """When A first met B in what was poured, in seconds since 1970."""
        return min((one.contact.wall_s for one in self._poured() if one.contact), default=None)

    @property
    def poured_s(self) -> float | None:
        """When the last cup was poured, in seconds since 1970."""
        return max((entry.at.wall_s for entry in self.entries if entry.kind == "poured"), default=None)

    @property
    def pot_life_ends_s(self) -> float | None:
        """When the pot life of the last cup ends, in seconds since 1970, at the room's temperature as last noted."""
        return self._last_end_s(self.plan.pot_life_min)

    @property
    def has_poured(self) -> bool:
        """Whether anything went into a mould."""
        return bool(self._poured())

    def _poured(self) -> list[StepAttempt]:
        return [one for one in self.attempts if one.outcome == "poured"]

    def _last_end_s(self, tin_min: float | None) -> float | None:
        begins = [one.contact.wall_s for one in self._poured() if one.contact]
        return max(begins) + 60 * time_at(tin_min, self.room_temp_c) if begins and tin_min else None

    def demould_at_s(self, attempt: StepAttempt) -> float | None:
        """Return when the rubber of a poured cup may be demoulded.

        Parameters
        ----------
        attempt : StepAttempt
            One of the cups.

        Returns
        -------
        float or None
            In seconds since 1970; None for a cup that was not poured, or a rubber without a demould time.
        """
        wait_min = self.demould_min(attempt)
        if attempt.outcome != "poured" or attempt.contact is None or wait_min is None:
            return None
        return attempt.contact.wall_s + 60 * wait_min

    def after_ml(self) -> float:
        """Return the volume that the cup at work will hold after this step.

        Returns
        -------
        float
            In ml, by the SG of the mix.
        """
        return (self.attempt.total_g + self.step.target_g) / self.plan.sg


def _number_of(entries: Sequence[RecordEntry], moment: Moment) -> int:
    return next((entry.number for entry in entries if entry.at == moment), 0)


def _sum_of(batch: Sequence[Ingredient], grams: Mapping[str, float], role: str) -> float:
    return sum(grams.get(one.key, 0.0) for one in batch if one.role == role)


def _planned(batch: Sequence[Ingredient], role: str) -> float:
    return sum(one.g for one in batch if one.role == role)


def bench_state(plan: WeighPlan, entries: Sequence[RecordEntry]) -> BenchState:
    """Work out the state of a pour from its record.

    Parameters
    ----------
    plan : WeighPlan
        As it was when the weighing began.
    entries : sequence of RecordEntry
        Its record, in the order of their numbers.

    Returns
    -------
    BenchState
        With the next step.
    """
    attempts = [StepAttempt(batch=0)]
    targets: dict[int, float] = {}
    cups: dict[int, StepAttempt] = {}
    finished = False
    for entry in entries:
        if entry.kind == "correction":
            # what was asked for meanwhile was asked for by what was known then, and stays as it was
            _correct(cups, entries, entry)
            continue
        if attempts[-1].outcome in {"wrong", "discarded"} and entry.kind == "tare":
            attempts.append(StepAttempt(batch=attempts[-1].batch))
        elif attempts[-1].outcome == "poured" and entry.kind == "tare":
            attempts.append(StepAttempt(batch=attempts[-1].batch + 1))
        if entry.kind == "weigh":
            targets[entry.number] = _target_g(plan, attempts[-1], entry.ingredient)
        _enter(plan, attempts[-1], entry)
        cups[entry.number] = attempts[-1]
        finished = finished or entry.kind == "finish"
    step = Step(kind="done") if finished else _next(plan, attempts[-1])
    return BenchState(plan=plan, entries=tuple(entries), attempts=tuple(attempts), step=step, targets_g=targets)


def _correct(cups: Mapping[int, StepAttempt], entries: Sequence[RecordEntry], correction: RecordEntry) -> None:
    about = next((entry for entry in entries if entry.number == correction.of_number), None)
    cup = cups.get(correction.of_number or 0)
    if about is None or cup is None:
        return
    earlier = [
        entry.net_g
        for entry in entries
        if entry.kind == "correction" and entry.of_number == about.number and entry.number < correction.number
    ]
    was_g, is_g = (earlier[-1] if earlier else about.net_g) or 0.0, correction.net_g or 0.0
    if about.kind == "weigh":
        cup.poured_g[about.ingredient] = cup.poured_g.get(about.ingredient, 0.0) + is_g - was_g
    elif about.kind == "wrong":
        cup.wrong_g[about.ingredient] = is_g
    elif about.kind == "leftover":
        cup.leftover_g = is_g


def _enter(plan: WeighPlan, cup: StepAttempt, entry: RecordEntry) -> None:
    match entry.kind:
        case "tare":
            cup.tared, cup.zero_g, cup.scale = True, entry.gross_g, entry.scale
        case "hold":
            cup.in_hand = entry.ingredient
            if cup.contact is None and _role(plan, cup, entry.ingredient) == "B":
                cup.contact = entry.at
        case "down":
            cup.in_hand = ""
            if not any(
                _role(plan, cup, key) == "B" for key in cup.poured_g
            ):  # there is no B in the cup, so nothing has met
                cup.contact = None
        case "weigh":
            cup.poured_g[entry.ingredient] = cup.poured_g.get(entry.ingredient, 0.0) + (entry.net_g or 0.0)
            cup.in_hand = ""
            # the typed weight may be on the scale too: it must be tared before it counts again
            cup.zero_g, cup.scale = entry.gross_g, entry.scale
        case "wrong":
            cup.wrong_g[entry.ingredient] = entry.net_g or 0.0
            cup.outcome = "wrong"
        case "discard":
            cup.outcome = "discarded"
        case "mixed":
            cup.mixed = True
        case "poured":
            cup.outcome = "poured"
        case "leftover":
            cup.leftover_g = entry.net_g
        case _:
            pass


def _role(plan: WeighPlan, cup: StepAttempt, key: str) -> str:
    return next((one.role for one in plan.batches[cup.batch] if one.key == key), "")


def _target_g(plan: WeighPlan, cup: StepAttempt, key: str) -> float:
    # what is still missing of an ingredient, by what is really in the cup
    batch = plan.batches[cup.batch]
    one = next(ingredient for ingredient in batch if ingredient.key == key)
    b_in = _sum_of(batch, cup.poured_g, "B")
    if one.role == "A" and b_in:
        scaled = b_in / _planned(batch, "B")
    else:
        # the first A determines all that follows it
        led = [other for other in batch if other.role == "A" and other.key in cup.poured_g]
        scaled = sum(cup.poured_g[other.key] for other in led) / sum(other.g for other in led) if led else 1.0
        if one.role == "A" and one in led:
            scaled = max(cup.poured_g[other.key] / other.g for other in led)
    return max(0.0, one.g * scaled - cup.poured_g.get(key, 0.0))


def _next(plan: WeighPlan, cup: StepAttempt) -> Step:
    if cup.outcome in {"wrong", "discarded"}:
        return Step(kind="cup")
    if cup.outcome == "poured":
        if cup.leftover_g is None:
            return Step(kind="leftover")
        return Step(kind="cup") if cup.batch + 1 < len(plan.batches) else Step(kind="finish")
    if not cup.tared:
        return Step(kind="cup")
    batch = plan.batches[cup.batch]
    for one in batch:
        if one.role == "pigment" and (mend := _mend(plan, cup)):
            return mend
        if one.key not in cup.poured_g:
            return _weigh(plan, cup, one)
    if mend := _mend(plan, cup):
        return mend
    return Step(kind="pour") if cup.mixed else Step(kind="mix")


def _weigh(plan: WeighPlan, cup: StepAttempt, one: Ingredient, *, is_mend: bool = False) -> Step:
    target = _target_g(plan, cup, one.key)
    whole = target + cup.poured_g.get(one.key, 0.0)
    # at least half a step each way: no scale is more exact
    band = max(whole * BAND_PCT.get(one.role, plan.tolerance_pct) / 100, plan.step_g / 2)
    if is_mend:  # a missing remainder has the tolerance of the whole part
        band = max(whole * plan.tolerance_pct / 100, plan.step_g / 2)
    kind: StepKind = "weigh" if cup.in_hand == one.key else "hold"
    return Step(
        kind=kind, ingredient=one, target_g=target, low_g=max(0.0, target - band), high_g=target + band, is_mend=is_mend
    )


def _mend(plan: WeighPlan, cup: StepAttempt) -> Step | None:
    batch = plan.batches[cup.batch]
    a, b = (_sum_of(batch, cup.poured_g, role) for role in ("A", "B"))
    if not a or not b or any(one.role == "B" and one.key not in cup.poured_g for one in batch):
        return None
    checked = check(ratio={"A": 1.0, "B": plan.b_per_a}, poured_g={"A": a, "B": b}, tolerance_pct=plan.tolerance_pct)
    if checked.verdict == "within":
        return None
    short = [one for one in batch if one.role == checked.add_part and _target_g(plan, cup, one.key) > 0]
    return _weigh(plan, cup, short[0], is_mend=True) if short else None
