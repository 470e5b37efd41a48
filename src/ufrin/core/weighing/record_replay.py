"""The replay of a record: its lines one after another, as cups, the batches they are to hold, and what is prepared."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from ufrin.core.clocks.moment import Moment
from ufrin.core.weighing.mould_weight import Rotation, coats_left, rotation
from ufrin.core.weighing.next_step import target_g
from ufrin.core.weighing.record_entries import EntryKind, Outcome, RecordEntry, StepAttempt
from ufrin.core.weighing.top_up import top_up_batch
from ufrin.core.weighing.weigh_plan import Ingredient, RotationAim, WeighPlan, following_role

# what is noted beside the work, and begins no new step
BESIDE_THE_WORK = frozenset({"temperature", "note", "correction", "witness", "mishap", "found", "photo", "retract"})
_OUTCOMES: Mapping[EntryKind, Outcome] = {"wrong": "wrong", "discard": "discarded", "poured": "poured"}


@dataclass(slots=True, kw_only=True)
class Replay:
    """A record as far as it was replayed.

    Parameters
    ----------
    plan : WeighPlan
        As it was when the weighing began.
    entries : sequence of RecordEntry
        All of the record.
    attempts : list of StepAttempt
        The cups.
    batches : list of batches
        Of the plan, and those that were added or changed since.
    prepared : list of str
        What was done before the first cup.
    targets_g : dict of entry number to g
        What was asked for when a part was weighed.
    is_finished : bool
        Whether the pour was closed.
    step_began : Moment or None
        When the step at work began.
    mould_empty_g, mould_now_g : float or None
        What the mould weighed before the first cup, and when it was weighed last.
    """

    plan: WeighPlan
    entries: Sequence[RecordEntry]
    attempts: list[StepAttempt] = field(default_factory=lambda: [StepAttempt(batch=0)])
    batches: list[tuple[Ingredient, ...]] = field(default_factory=list)
    prepared: list[str] = field(default_factory=list)
    targets_g: dict[int, float] = field(default_factory=dict)
    is_finished: bool = False
    step_began: Moment | None = None
    mould_empty_g: float | None = None
    mould_now_g: float | None = None
    _cups: dict[int, StepAttempt] = field(default_factory=dict)
    _weighed_until: int = 0

    @property
    def cup(self) -> StepAttempt:
        """The cup at work, or the last one."""
        return self.attempts[-1]

    def take(self, entry: RecordEntry) -> None:
        """Take the next line.

        Parameters
        ----------
        entry : RecordEntry
            One that was not taken back.
        """
        if entry.kind == "correction":
            # what was asked for meanwhile was asked for by what was known then, and stays as it was
            _correct(self._cups, self.entries, entry)
            return
        if entry.kind == "tare" and self.cup.outcome != "open":
            again = self.cup.outcome != "poured"
            self.attempts.append(StepAttempt(batch=self.cup.batch + (0 if again else 1)))
        self._before(entry)
        in_cup = not (self.plan.method and self.plan.method.meets_at)
        _enter(self.batches[min(self.cup.batch, len(self.batches) - 1)], self.cup, entry, in_cup=in_cup)
        self._cups[entry.number] = self.cup
        self.is_finished = self.is_finished or entry.kind == "finish"
        if entry.kind not in BESIDE_THE_WORK:
            self.step_began = entry.at

    def _before(self, entry: RecordEntry) -> None:
        match entry.kind:
            case "weigh":
                self.targets_g[entry.number] = target_g(self.batches[self.cup.batch], self.cup, entry.ingredient)
            case "short":
                if self.is_finished:  # batches that were left out stay out
                    del self.batches[self.cup.batch + (1 if self.cup.outcome == "poured" else 0) :]
                self.batches.append(top_up_batch(self.plan, entry.volume_ml or 0.0))
                self.is_finished = False
            case "mould":
                self._weigh_mould(_right_g(self.entries, entry))
            case "step":
                (self.cup.steps_done if self.cup.tared else self.prepared).append(entry.what)
                if self.plan.method and entry.what == self.plan.method.meets_at:
                    self.cup.contact = entry.at
            case _:
                pass

    def _weigh_mould(self, now_g: float | None) -> None:
        # what the mould gained was in the cup, and what it still lacks is in the batches to come
        cup = self.cup
        if not cup.tared:
            self.prepared.append("mould")
            self.mould_empty_g = now_g
            return
        cup.is_mould_weighed = True
        if now_g is None or self.mould_empty_g is None or self.plan.rotation is None:
            return
        before_g = self.mould_empty_g if self.mould_now_g is None else self.mould_now_g
        unweighed = [one for one in self.attempts[self._weighed_until : -1] if one.outcome == "poured"]
        before_g += sum(one.total_g - (one.leftover_g or 0.0) for one in unweighed)
        cup.leftover_g = max(0.0, cup.total_g - max(0.0, now_g - before_g))
        self.mould_now_g, self._weighed_until = now_g, len(self.attempts)
        del self.batches[cup.batch + 1 :]
        self.batches += coats_left(self.plan, rotated(self.plan.rotation, self.mould_empty_g, now_g))


def replayed(plan: WeighPlan, entries: Sequence[RecordEntry], taken_back: frozenset[int]) -> Replay:
    """Replay a record.

    Parameters
    ----------
    plan : WeighPlan
        As it was when the weighing began.
    entries : sequence of RecordEntry
        In the order of their numbers.
    taken_back : frozenset of int
        Numbers of the lines that count no more.

    Returns
    -------
    Replay
        To its last line.
    """
    replay = Replay(plan=plan, entries=entries, batches=list(plan.batches))
    for entry in entries:
        if entry.number not in taken_back:
            replay.take(entry)
    return replay


def rotated(aim: RotationAim, empty_g: float, now_g: float | None) -> Rotation:
    """Return where a cast that is rotated by hand stands.

    Parameters
    ----------
    aim : RotationAim
        What it is to become.
    empty_g : float
        The mould before the first cup.
    now_g : float or None
        When it was weighed last; None before that.

    Returns
    -------
    Rotation
        Weights that were corrected may not fit each other: a mould is never lighter than when it was empty.
    """
    return rotation(
        mould_g=empty_g,
        now_g=empty_g if now_g is None else max(empty_g, now_g),
        target_g=aim.target_g,
        area_cm2=aim.area_cm2,
        sg=aim.sg,
        coat_mm=aim.coat_mm,
    )


def _right_g(entries: Sequence[RecordEntry], entry: RecordEntry) -> float | None:
    # as it was weighed, or as it was corrected last
    corrected = [one.net_g for one in entries if one.kind == "correction" and one.of_number == entry.number]
    return corrected[-1] if corrected else entry.net_g


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


def _enter(batch: Sequence[Ingredient], cup: StepAttempt, entry: RecordEntry, *, in_cup: bool) -> None:
    cup.outcome = _OUTCOMES.get(entry.kind, cup.outcome)
    match entry.kind:
        case "tare":
            cup.tared, cup.zero_g, cup.scale = True, entry.gross_g, entry.scale
        case "hold":
            cup.in_hand = entry.ingredient
            if in_cup and cup.contact is None and _role(batch, entry.ingredient) == following_role(batch):
                cup.contact = entry.at
        case "down":
            cup.in_hand = ""
            follows = following_role(batch)
            if not any(_role(batch, key) == follows for key in cup.poured_g):  # nothing has met in the cup
                cup.contact = None
        case "weigh":
            cup.poured_g[entry.ingredient] = cup.poured_g.get(entry.ingredient, 0.0) + (entry.net_g or 0.0)
            cup.in_hand = ""
            # the typed weight may be on the scale too: it must be tared before it counts again
            cup.zero_g, cup.scale = entry.gross_g, entry.scale
        case "mixed":
            cup.mixed = True
        case "wrong":
            cup.wrong_g[entry.ingredient] = entry.net_g or 0.0
        case "poured":
            if cup.contact is None and not any(one.role == "B" for one in batch):
                cup.contact = entry.at  # what has one part sets from when it is poured
        case "leftover":
            cup.leftover_g = entry.net_g
        case _:
            pass


def _role(batch: Sequence[Ingredient], key: str) -> str:
    return next((one.role for one in batch if one.key == key), "")
