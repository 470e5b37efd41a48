"""The wording of coats at the bench: which one is next, when it goes on, and what the weight of a mould tells."""

from dataclasses import dataclass

from ufrin.core.clocks.cure_clocks import CureClock
from ufrin.core.clocks.moment import Moment
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.coats import recoat_window
from ufrin.core.weighing.top_up import bonding
from ufrin.language import Text
from ufrin.web.frame.wording_in_units import UnitFormatter


def batch_name(state: BenchState, batch: int) -> str:
    """Return what a batch is called: "layer 2", "coat 2 of 3", "batch 2 of 3"."""
    names = state.plan.cup_names
    if batch < len(names):
        same = [number for number, name in enumerate(names) if name == names[batch]]
        again = Text(", mix {batch} of {same}", batch=same.index(batch) + 1, same=len(same)) if len(same) > 1 else ""
        return f"{names[batch]}{again}"
    noun = "coat" if state.plan.how == "brushed" or state.plan.in_coats else "batch"
    return f"{noun} {batch + 1} of {len(state.batches)}"


@dataclass(frozen=True, slots=True, kw_only=True)
class CoatClock:
    """The clock of the next coat: in how many seconds it may go on, or how many are left for it, and what to say."""

    left_s: float
    label: str
    sentence: str


def coat_clock(state: BenchState, now: Moment) -> CoatClock | None:
    """Return the clock of the next coat: not before the last one holds, and while it is tacky; None without one."""
    ends = _ends(state, now)
    if ends is None:
        return None
    runs, tacky_s = ends
    name = _next_name(state)
    if runs is not None and not runs.is_over:
        return CoatClock(
            left_s=runs.left_s,
            label=Text("until {name} goes on", name=name),
            sentence=Text("Wait until the one before no longer runs. "),
        )
    if tacky_s is not None and tacky_s > 0:
        return CoatClock(
            left_s=tacky_s,
            label=Text("left for {name}", name=name),
            sentence=Text("{name} goes on now, while the one before is still tacky. ", name=name.capitalize()),
        )
    return None


def coat_words(state: BenchState, now: Moment) -> str:
    """Return when the next coat goes on, in a sentence; empty without coats."""
    ends = _ends(state, now)
    if ends is None:
        return ""
    clock = coat_clock(state, now)
    set_in = ""
    if state.plan.set_in_before == state.attempt.batch + 1:
        set_in = Text("Lay in what is set into the cast before this layer covers it. ")
    if clock is not None:
        return clock.sentence + set_in
    if ends[1] is None:
        return Text(
            "{state} goes on while the one before is still tacky: touch it. {set_in}",
            state=_next_name(state).capitalize(),
            set_in=set_in,
        )
    return Text("The one before is no longer tacky: {do} {set_in}", do=bonding(state.plan.family).do, set_in=set_in)


def _next_name(state: BenchState) -> str:
    return batch_name(state, state.attempt.batch + 1).partition(" of ")[0]


def _ends(state: BenchState, now: Moment) -> tuple[CureClock | None, float | None] | None:
    # the pot life of the last coat, and for how many seconds it stays tacky, where its tin tells; None without coats
    in_coats = state.plan.how == "brushed" or state.plan.in_coats
    if not in_coats or state.attempt.outcome != "poured":
        return None
    ends = {clock.kind: clock for clock in state.clocks.of(state.attempt, now)}
    runs, cures = ends.get("pot-life"), ends.get("handling") or ends.get("demould")
    window = recoat_window(runs.end_s / 60 if runs else 0.0, cures.end_s / 60 if cures else None)
    if cures is None or window is None or window.until_min is None:
        return runs, None
    return runs, window.until_min * 60 - cures.elapsed_s


def mould_words(state: BenchState, say: UnitFormatter) -> tuple[str, str, str]:
    """Return the heading, the sentence and the button of the step at which a mould is weighed."""
    if not state.attempt.tared:
        return (
            Text("Weigh the empty mould"),
            Text(
                "Closed and banded, with all that stays on it while it is turned: what it gains tells how much went in."
            ),
            Text("Take the empty mould's weight"),
        )
    sentence: str = Text("With all that was on it before.")
    rotated = state.rotation
    if rotated and state.mould_empty_g is not None:
        sentence = Text(
            "{before} It was {mould_empty_g} empty.",
            before=sentence,
            mould_empty_g=say.plain(state.mould_empty_g, "mass"),
        )
    return Text("Weigh the mould"), sentence, Text("Take this weight")


def rotation_words(state: BenchState, say: UnitFormatter) -> str:
    """Return what is in a mould that is rotated, and what is to go; empty where it was not weighed with a cup in it."""
    rotated = state.rotation
    if rotated is None or state.mould_now_g is None:
        return ""
    so_far = Text(
        "{in_mould_g} are in, so the shell is {thickness_mm}",
        in_mould_g=say.plain(rotated.in_mould_g, "mass"),
        thickness_mm=say.plain(rotated.thickness_mm, "length"),
    )
    if not rotated.coats_to_go:
        return Text(
            "{so_far}: thick enough. Turn it until it gels, and leave the cast in it until it is cool. ", so_far=so_far
        )
    coats = Text("1 coat") if rotated.coats_to_go == 1 else Text("{coats_to_go} coats", coats_to_go=rotated.coats_to_go)
    return Text(
        "{so_far} by now; {to_go_g} to go in {coats}. ",
        so_far=so_far,
        to_go_g=say.plain(rotated.to_go_g, "mass"),
        coats=coats,
    )
