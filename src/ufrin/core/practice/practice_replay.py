"""The replay of a practice: its lines one after another, and what its mishaps make of them."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace

from ufrin.core.practice.levels import SPEED, SPILT_SHARE, STEP_G, MishapKind
from ufrin.core.practice.practice_lines import (
    SLIDES_S,
    TIPPED,
    Act,
    PracticeLine,
    PracticeSetup,
    Stream,
    moment,
    poured_by,
    seconds_of,
)
from ufrin.core.practice.practice_plan import ROOM_C, left_after_call_min
from ufrin.core.practice.practice_table import CUP_G, Course, Cup, PracticeTable
from ufrin.core.weighing.bench_state import bench_state
from ufrin.core.weighing.record_entries import RecordEntry

OTHER_SCALE = "other scale"


@dataclass(slots=True, kw_only=True)
class _Replay:
    """The table while its lines are taken one after another."""

    table: PracticeTable
    entries: list[RecordEntry] = field(default_factory=list)

    def take(self, line: PracticeLine) -> None:
        at_s = seconds_of(line)
        self._set(last_s=at_s)
        if isinstance(line, Act) or line.kind not in {"correction", "tare"}:
            self._set(answer="")  # what a call brought is shown until something else is done
        if isinstance(line, Act):
            self._act(line, at_s)
        else:
            self._enter(line, at_s)
        if self.table.hands_wrong_tin and self.table.step.kind == "hold":
            self._begin("wrong-part", at_s)

    def _set(self, **changed: object) -> None:
        self.table = replace(self.table, **changed)  # type: ignore[arg-type]

    def _course(self, kind: MishapKind, **changed: object) -> None:
        courses = dict(self.table.courses)
        courses[kind] = replace(courses[kind], **changed)  # type: ignore[arg-type]
        self._set(courses=courses)

    def _begin(self, kind: MishapKind, at_s: float) -> None:
        if self.table.courses[kind].began_s is None:
            self._course(kind, began_s=at_s)

    def _notice(self, kind: MishapKind, at_s: float) -> None:
        if self.table.courses[kind].noticed_s is None:
            self._course(kind, noticed_s=at_s)

    def _is_on(self, kind: MishapKind) -> bool:
        course = self.table.courses.get(kind)
        return course is not None and course.began_s is not None and not course.is_over

    def _may_begin(self, kind: MishapKind) -> bool:
        course, table = self.table.courses.get(kind), self.table
        return course is not None and course.began_s is None and table.part_of(kind) == table.asked

    # at the table

    def _act(self, act: Act, at_s: float) -> None:
        match act.kind:
            case "cup":
                if self.table.cup is None:
                    self._set(cup=Cup(), touched_s=at_s)
            case "tip":
                self._tip(act.what, at_s)
            case "stop":
                self._stop(at_s, slides=True)
            case "flag":
                self._flag(act.what, at_s)

    def _tip(self, how: str, at_s: float) -> None:
        table = self.table
        self._stop(at_s, slides=False)
        one = table.step.ingredient
        if table.cup is None or table.step.kind != "weigh" or one is None or how not in TIPPED:
            return
        if self._may_begin("drift"):
            self._begin("drift", at_s)
            self._set(drift_from_s=at_s)
        level, tin = table.setup.level, table.tin
        whole_g = next(other.g for other in table.bench.batch if other.key == tin)
        whole_s = level.far_s if how == "far" else level.little_s
        self._run(
            Stream(tin=tin, from_s=at_s, to_s=None, g_per_s=whole_g / whole_s / SPEED, is_wrong=table.hands_wrong_tin)
        )

    def _run(self, stream: Stream) -> None:
        cup = self.table.cup or Cup()
        self._set(cup=replace(cup, streams=(*cup.streams, stream)))

    def _stop(self, at_s: float, *, slides: bool) -> None:
        cup = self.table.cup
        if cup is None or not self.table.is_tipped:
            return
        self._set(cup=replace(cup, streams=tuple(replace(one, to_s=one.to_s or at_s) for one in cup.streams)))
        if slides:
            self._slide(at_s)

    def _slide(self, at_s: float) -> None:
        # a lump lets go of the tin after it was put upright: never less than takes the part over what was asked for
        table, one = self.table, self.table.step.ingredient
        if one is None or table.step.is_mend or table.hands_wrong_tin or not self._may_begin("too-much"):
            return
        asked_g = table.step.target_g + table.bench.attempt.poured_g.get(one.key, 0.0)
        now_g = table.truly_g(at_s).get(one.key, 0.0)
        if now_g < asked_g / 2:
            return
        share = max(SPILT_SHARE, 2 * table.setup.plan.tolerance_pct / 100)
        slid_g = max(share * asked_g, (1 + share) * asked_g - now_g)
        takes_s = SLIDES_S * SPEED
        self._run(Stream(tin=one.key, from_s=at_s, to_s=at_s + takes_s, g_per_s=slid_g / takes_s))
        self._begin("too-much", at_s)

    def _flag(self, what: str, at_s: float) -> None:
        kind = next((one for one in self.table.courses if one == what), None)
        if kind is not None and self._is_on(kind):
            self._notice(kind, at_s)
            self._set(answer=kind)
            if kind == "wrong-part":
                self._course(kind, is_over=True, is_mastered=True)
            elif kind == "drift":
                self._course(kind, is_over=True, is_mastered=True)
                self._set(steady_from_s=at_s)
        elif self._is_true(what, at_s):
            self._set(answer=what)
        else:
            self._set(answer="none", false_alarms=self.table.false_alarms + 1)

    def _is_true(self, what: str, at_s: float) -> bool:
        # not planted, and true all the same
        table = self.table
        if what == "too-much" and table.step.kind == "weigh" and table.bench.attempt.zero_g is not None:
            return table.step.verdict(table.shown_g(at_s) - table.bench.attempt.zero_g) == "over"
        clock = table.bench.clock(moment(at_s, self._began_s)) if what == "pot-life" else None
        return clock is not None and clock.phase != "calm"

    @property
    def _began_s(self) -> float:
        return self.entries[0].at.wall_s - self.entries[0].at.steady_s if self.entries else 0.0

    # at the bench

    def _enter(self, entry: RecordEntry, at_s: float) -> None:
        self._stop(at_s, slides=False)
        self._before(entry, at_s)
        self.entries.append(entry)
        self._set(bench=bench_state(self.table.setup.plan, self.entries))
        if entry.kind == "weigh" and self.table.step.kind in {"mix", "do", "pour"}:
            self._call_away(at_s)

    def _before(self, entry: RecordEntry, at_s: float) -> None:
        table = self.table
        if entry.kind == "weigh":
            if self._is_on("too-much"):
                as_read = bool(entry.scale) or self._is_as_shown(entry, at_s)
                self._course("too-much", is_over=True, is_mastered=as_read)
                if as_read:
                    self._notice("too-much", at_s)
            if self._is_on("wrong-part") and table.hands_wrong_tin:
                self._course("wrong-part", is_over=True)
        if entry.kind in {"wrong", "discard"}:
            self._set_aside(at_s)
        if entry.kind == "poured":
            self._pour(entry, at_s)

    def _is_as_shown(self, entry: RecordEntry, at_s: float) -> bool:
        zero_g = self.table.bench.attempt.zero_g
        return self.table.can_show((entry.net_g or 0.0) + (CUP_G if zero_g is None else zero_g), at_s)

    def _set_aside(self, at_s: float) -> None:
        # right for a spoilt cup, and for one that can't be mixed in time any more: everything else can be mended
        cup = self.table.cup
        is_right: Mapping[MishapKind, bool] = {
            "too-much": False,
            "wrong-part": True,
            "pot-life": (cup is not None and cup.is_spoilt) or not self._can_be_poured_in_time(at_s),
        }
        for kind, right in is_right.items():
            spoilt = kind == "wrong-part" and cup is not None and cup.is_spoilt and kind in self.table.courses
            if self._is_on(kind) or spoilt:
                self._notice(kind, at_s)
                self._course(kind, is_over=True, is_mastered=right)
        if cup is not None:
            self._set(cups=(*self.table.cups, cup), cup=None, touched_s=at_s)

    def _can_be_poured_in_time(self, at_s: float) -> bool:
        attempt, method = self.table.bench.attempt, self.table.setup.plan.method
        clock = self.table.bench.clock(moment(at_s, self._began_s))
        to_mix_min = method.least_mix_min if method and not attempt.mixed else 0.0
        return clock is None or clock.left_s >= 60 * to_mix_min

    def _pour(self, entry: RecordEntry, at_s: float) -> None:
        cup = self.table.cup or Cup()
        clock = self.table.bench.clock(entry.at)
        if self._is_on("pot-life"):
            in_time = clock is None or clock.left_s >= 0
            if in_time:
                self._notice("pot-life", at_s)
            self._course("pot-life", is_over=True, is_mastered=in_time)
        if cup.is_spoilt and "wrong-part" in self.table.courses:
            self._course("wrong-part", is_over=True, is_mastered=False)
        for kind in ("too-much", "drift"):
            if self._is_on(kind):
                self._course(kind, is_over=True)
        self._set(cups=(*self.table.cups, replace(cup, is_poured=True)), cup=None)

    def _call_away(self, at_s: float) -> None:
        course = self.table.courses.get("pot-life")
        clock = self.table.bench.clock(moment(at_s, self._began_s))
        if course is None or course.began_s is not None or clock is None:
            return
        self._begin("pot-life", at_s)
        wanted_s = 60 * left_after_call_min(self.table.setup.level, self.table.setup.plan)
        self._set(skipped_s=max(0.0, clock.left_s - wanted_s), skipped_at_s=at_s)


def practice_table(setup: PracticeSetup, lines: Sequence[PracticeLine]) -> PracticeTable:
    """Work out where a practice is from its lines.

    Parameters
    ----------
    setup : PracticeSetup
        As it began.
    lines : sequence of PracticeLine
        In their order.

    Returns
    -------
    PracticeTable
        After the last of them.
    """
    courses = {mishap.kind: Course() for mishap in setup.mishaps}
    replay = _Replay(table=PracticeTable(setup=setup, bench=bench_state(setup.plan, ()), courses=courses))
    for line in lines:
        replay.take(line)
    return replay.table


def first_entry(began_wall_s: float) -> RecordEntry:
    """Return the line with which a practice begins."""
    return RecordEntry(number=1, at=moment(0.0, began_wall_s), kind="start", temp_c=ROOM_C)


def weighed_again(table: PracticeTable, at_s: float, began_wall_s: float) -> tuple[RecordEntry, ...]:
    """Return what the record needs once another scale took the place of one that drifts.

    Parameters
    ----------
    table : PracticeTable
        After the scale was changed.
    at_s : float
        When, by the clock of the practice.
    began_wall_s : float
        When the practice began.

    Returns
    -------
    tuple of RecordEntry
        A correction of each part that was weighed wrongly into the cup at work, and the tare of the other scale, so
        that what was poured of the part at hand goes on counting.
    """
    cup, attempt, at = table.cup, table.bench.attempt, moment(at_s, began_wall_s)
    if cup is None or attempt.outcome != "open" or not attempt.tared:
        return ()
    made: list[RecordEntry] = []
    counted_g = 0.0
    for entry in table.bench.valid:
        if entry.kind != "weigh" or entry.at.steady_s < table.touched_s:
            continue
        was_g, counted_g = counted_g, sum(poured_by(cup.streams, entry.at.steady_s).values())
        true_g = counted_g - was_g
        if abs(true_g - (entry.net_g or 0.0)) > STEP_G:
            made.append(
                RecordEntry(
                    number=table.bench.next_number + len(made),
                    at=at,
                    kind="correction",
                    net_g=true_g,
                    of_number=entry.number,
                    text=OTHER_SCALE,
                )
            )
    number = table.bench.next_number + len(made)
    tare = RecordEntry(number=number, at=at, kind="tare", gross_g=CUP_G + counted_g, scale=attempt.scale)
    return (*made, tare)
