"""The watch over a cure: its clocks in words, what the witness cup is asked, and how the mould is taken out."""

from collections.abc import Sequence
from dataclasses import dataclass

from ufrin.actions.bench.pours import Bench
from ufrin.core.clocks.cure_clocks import ClockKind, CureClock
from ufrin.core.clocks.moment import Moment
from ufrin.core.job.job_state import counting_kind
from ufrin.core.opening.demoulding import demould_steps
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.record_rules import DEMOULDED, FOUND, MISHAPS, WITNESS_ANSWERS
from ufrin.core.weighing.witness import asks_witness, next_look_s
from ufrin.language import Counted, Text
from ufrin.web.frame.wording_in_units import UnitFormatter

CLOCK_WORDS: dict[ClockKind, str] = {
    "pot-life": Text("Pot life"),
    "press": Text("Press window"),
    "handling": Text("Handle it"),
    "demould": Text("Take it out"),
    "cast-in": Text("First cast"),
    "full-cure": Text("Full cure"),
}
SILENT_S = 40 * 60.0  # a thermometer that is read is noted every half hour at least
MISHAP_HELP = {
    "leak": Text(
        "Press clay or putty on it from outside, tilt the box away from the leak, and top up "
        "once it holds. Keep a cup under it: what ran out may go back while it is liquid."
    ),
    "float": Text(
        "Push the master down with a stick and weight the stick; do not pull the box. If it "
        "has set crooked, stop here: the mould is cut open and poured again."
    ),
    "spill": Text("Let it set where it fell: cured rubber peels off, wet rubber spreads. Lift the box off the puddle."),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownClock:
    """A clock of a mould as a page shows it; its times are seconds from now and since 1970."""

    kind: ClockKind
    label: str
    left_s: float
    due_s: float
    early_s: float
    late_s: float
    is_over: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class CureWatch:
    """What a page shows of a cure."""

    clocks: tuple[ShownClock, ...]
    main: ShownClock | None
    asks_witness: bool
    next_look_s: float | None
    said: str
    evidence: str
    is_due: bool
    early_words: str
    steps: tuple[str, ...]
    mishaps: tuple[tuple[str, str], ...]
    found: tuple[str, ...]
    photos: tuple[int, ...]
    room_words: str
    answers: dict[str, str]
    demoulded: dict[str, str]
    findable: dict[str, str]
    mishap_words: dict[str, str]


def shown_clocks(clocks: Sequence[CureClock], now: Moment) -> tuple[ShownClock, ...]:
    """Return the clocks of a mould as a page shows them; due times follow the clock on the wall as it is now."""
    return tuple(
        ShownClock(
            kind=clock.kind,
            label=CLOCK_WORDS[clock.kind],
            left_s=clock.left_s,
            due_s=now.wall_s + clock.left_s,
            early_s=now.wall_s + clock.early_s - clock.elapsed_s,
            late_s=now.wall_s + clock.late_s - clock.elapsed_s,
            is_over=clock.is_over,
        )
        for clock in clocks
    )


def main_clock(clocks: Sequence[ShownClock], state: BenchState) -> ShownClock | None:
    """Return the clock that counts now; the full cure where the tin does not state that one."""
    wanted: tuple[ClockKind, ...] = (counting_kind(state), "full-cure")
    return next((clock for kind in wanted for clock in clocks if clock.kind == kind), None)


def watch(bench: Bench, say: UnitFormatter, now: Moment) -> CureWatch:
    """Return what a page shows of a cure."""
    state = bench.state
    clocks = shown_clocks(state.clocks.of_mould(now), now)
    demould = next((clock for clock in clocks if clock.kind == "demould"), None)
    witness = state.clocks.last_witness
    return CureWatch(
        clocks=clocks,
        main=main_clock(clocks, state),
        asks_witness=asks_witness(state, now),
        next_look_s=next_look_s(state, now),
        said=WITNESS_ANSWERS[witness.what] if witness else "",
        evidence=factor_words(state),
        is_due=demould is None or demould.is_over,
        early_words="" if demould is None or demould.is_over else _early(demould, say),
        steps=demould_sentences(state.plan.style, state.plan.half, state.plan.slit_mm, say),
        mishaps=tuple(
            (MISHAPS[what], MISHAP_HELP[what])
            for what in dict.fromkeys(entry.what for entry in state.valid if entry.kind == "mishap")
        ),
        found=tuple(FOUND[entry.what] for entry in state.valid if entry.kind == "found"),
        photos=tuple(entry.number for entry in state.valid if entry.kind == "photo"),
        room_words=_room(state, say, now),
        answers=dict(WITNESS_ANSWERS),
        demoulded=dict(DEMOULDED),
        findable=dict(FOUND),
        mishap_words=dict(MISHAPS),
    )


def demould_sentences(style: str, half: str, slit_mm: float | None, say: UnitFormatter) -> tuple[str, ...]:
    """Return how a mould is taken out of its box, with the length of its slit."""
    slit = (
        Text("for {slit_mm}", slit_mm=say.plain(slit_mm, "length"))
        if slit_mm
        else Text("for about two thirds of its height")
    )
    return tuple(Text(step, slit=slit) for step in demould_steps(style, half))


def _early(clock: ShownClock, say: UnitFormatter) -> str:
    return Text(
        "The clock gives it {left_s} more. Rubber that is taken out too early tears, keeps "
        "every finger mark, and shrinks out of shape. Press the witness cup first.",
        left_s=say.clock(clock.left_s),
    )


def factor_words(state: BenchState) -> str:
    """Return what the shop has learnt of a rubber's times, in words; empty while it is nothing."""
    factor = state.plan.cure_factor
    if not factor.pours:
        return ""
    low, high = factor.band
    return Counted(
        "{rubber} takes {factor:.2f} of its tin's time here ({low:.2f} to {high:.2f}), as {n} pour showed.",
        "{rubber} takes {factor:.2f} of its tin's time here ({low:.2f} to {high:.2f}), as {n} pours showed.",
        rubber=state.plan.rubber,
        factor=factor.factor,
        low=low,
        high=high,
        n=factor.pours,
    )


def _room(state: BenchState, say: UnitFormatter, now: Moment) -> str:
    last = state.clocks.last_room
    if last is None:
        return Text(
            "No temperature of the room is noted: {room_temp_c} is assumed.",
            room_temp_c=say.plain(state.room_temp_c, "temperature"),
        )
    shown = say.plain(last.temp_c, "temperature")
    if not last.thermometer:
        return Text("Room {shown}, as typed.", shown=shown)
    silent_s = now.since_s(last.at)
    if silent_s > SILENT_S:
        return Text(
            "{thermometer} has been silent for {silent_s}: the {shown} that it read last go on "
            "counting. Look at its plug, or type the temperature.",
            thermometer=last.thermometer,
            silent_s=say.plain(silent_s / 60, "time"),
            shown=shown,
        )
    return Text("Room {shown}, by {thermometer}.", shown=shown, thermometer=last.thermometer)
