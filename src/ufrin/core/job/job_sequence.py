"""The sequence of a job: preparation, pours and cures, turning, opening, post-cure, rest and first cast."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ufrin.core.clocks.moment import Moment
from ufrin.core.clocks.sequence import SequenceStep
from ufrin.core.inputs.usual import USUAL
from ufrin.core.job.job_state import PourState, is_out, ready_kind
from ufrin.core.job.preparation import StepState, begin_in_min
from ufrin.core.job.rubber_station import Pour
from ufrin.core.rubber.post_cure import PostCure
from ufrin.core.weighing.bench_state import BenchState
from ufrin.language import Text

_USUAL = USUAL["sequence"]
TICKED: frozenset[str] = frozenset({"turn", "clean", "keys", "post-cure", "rest", "first-cast"})


@dataclass(frozen=True, slots=True, kw_only=True)
class WorkSoFar:
    """What the sequence of a job goes by.

    Parameters
    ----------
    pours : sequence of Pour
        As planned, in the order of the work.
    states : sequence of PourState
        Where each stands, for the mould at work.
    preparation : sequence of StepState
        Of all pours.
    ticked_s : mapping of key to float
        When the steps that are ticked off were done, in seconds since 1970, for the mould at work.
    """

    pours: Sequence[Pour]
    states: Sequence[PourState]
    preparation: Sequence[StepState]
    ticked_s: Mapping[str, float]


def job_sequence(job: WorkSoFar, now: Moment) -> tuple[SequenceStep, ...]:
    """Return the steps of a job from where it stands.

    Parameters
    ----------
    job : WorkSoFar
        Its plan and what was done.
    now : Moment
        By the server's clock.

    Returns
    -------
    tuple of SequenceStep
        Empty while there is nothing to pour.
    """
    if not job.pours or len(job.states) != len(job.pours):
        return ()
    steps: list[SequenceStep] = []
    for pour, state in zip(job.pours, job.states, strict=True):
        if pour.half == "second":
            steps += _turned(job)
        phase = "second" if pour.half == "second" else "first"
        steps += _prepared(job, phase, state)
        steps += _poured(pour, state, now)
    return (*steps, *_after(job, now))


def _step(key: str, label: str, minutes: float, *, done_at_s: float | None = None) -> SequenceStep:
    return SequenceStep(key=key, label=label, takes_s=60 * minutes, done_at_s=done_at_s)


def _prepared(job: WorkSoFar, phase: str, state: PourState) -> list[SequenceStep]:
    own = [one for one in job.preparation if one.step.phase == phase]
    if not own:
        return []
    label = Text("Prepare the box and the master") if phase == "first" else Text("Release on the first half")
    begun_s = state.state.entries[0].at.wall_s if state.state else None
    whole = _step(f"prepare-{phase}", label, begin_in_min(own), done_at_s=begun_s)
    return [replace(whole, hands_s=60 * sum(one.step.work_min for one in own if one.done_at_s is None))]


_POURED = {
    "": (Text("Pour the rubber"), Text("It cures")),
    "first": (Text("Pour the first half"), Text("The first half cures")),
    "second": (Text("Pour the second half"), Text("The second half cures")),
}


def _poured(pour: Pour, state: PourState, now: Moment) -> list[SequenceStep]:
    work_min = len(pour.batches) * (pour.batch_min + _USUAL["weigh_min"])
    label, cure_label = _POURED[pour.half]
    poured = _step(f"pour-{pour.half or 'all'}", label, work_min)
    cure = replace(_step(f"cure-{pour.half or 'all'}", cure_label, pour.demould_min or 0.0), is_wait=True)
    record = state.state
    if record is None:
        return [poured, cure]
    if not state.is_poured:
        began_s = record.entries[0].at.wall_s
        ends_s = max(now.wall_s, began_s + 60 * work_min)
        return [replace(poured, began_s=began_s, ends_s=ends_s), cure]
    clock = record.clocks.of_kind("demould", now)
    done = replace(poured, done_at_s=record.clocks.poured_s)
    if clock is None:
        return [done, cure]
    ends_s = now.wall_s + clock.left_s
    if clock.is_over:
        return [done, replace(cure, done_at_s=ends_s)]
    return [done, replace(cure, began_s=record.clocks.contact_s, ends_s=ends_s)]


def _turned(job: WorkSoFar) -> list[SequenceStep]:
    second = next(state for state in job.states if state.half == "second")
    begun_s = second.state.entries[0].at.wall_s if second.state else None
    return [
        replace(_step(key, label, _USUAL[f"{key}_min"], done_at_s=job.ticked_s.get(key, begun_s)), can_tick=True)
        for key, label in (
            ("turn", Text("Turn the box over")),
            ("clean", Text("Take the clay out, and clean up")),
            ("keys", Text("Take the keys out")),
        )
    ]


def _after(job: WorkSoFar, now: Moment) -> list[SequenceStep]:
    last, pour = job.states[-1].state, job.pours[-1]
    out_s = None
    if last is not None and is_out(job.states):
        out_s = next(entry.at.wall_s for entry in last.valid if entry.kind == "demould" and entry.what == "well")
    taken_out = _step("take-out", Text("Take it out of its box"), _USUAL["take_out_min"], done_at_s=out_s)
    steps = [taken_out]
    if pour.post_cure is not None:
        steps += _post_cured(job, pour.post_cure)
    else:
        steps += _rested(pour, last, now)
    return [*steps, _ticked(job, "first-cast", Text("First cast"), _USUAL["first_cast_min"])]


def _ticked(job: WorkSoFar, key: str, label: str, minutes: float) -> SequenceStep:
    return replace(_step(key, label, minutes, done_at_s=job.ticked_s.get(key)), can_tick=True)


def _post_cured(job: WorkSoFar, hot: PostCure) -> list[SequenceStep]:
    cured = _ticked(job, "post-cure", Text("Post-cure at {temp_c:.0f} °C", temp_c=hot.temp_c), hot.hold_min)
    rest = _ticked(job, "rest", Text("Let it cool down"), _USUAL["rest_min"])
    return [replace(cured, is_wait=True, hands_s=60 * _USUAL["oven_min"]), replace(rest, is_wait=True)]


def _rested(pour: Pour, last: BenchState | None, now: Moment) -> list[SequenceStep]:
    # without heat it rests until its tin lets it be cast in, counted from first contact
    rest = replace(_step("rest", Text("Let it rest until it may be cast in"), 0.0), is_wait=True)
    if last is None or not last.clocks.poured:
        whole_min = (pour.cast_in_min or pour.full_cure_min or 0.0) - (pour.demould_min or 0.0)
        return [replace(rest, takes_s=60 * whole_min)] if whole_min > 0 else []
    clock = last.clocks.of_kind(ready_kind(last), now)
    if clock is None:
        return []
    ends_s = now.wall_s + clock.left_s
    return [replace(rest, done_at_s=ends_s) if clock.is_over else replace(rest, ends_s=ends_s)]
