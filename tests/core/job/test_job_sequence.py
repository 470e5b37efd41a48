"""The sequence of a job: which steps, in which order, dated forward from now and back from a wish."""

from dataclasses import replace

import pytest
from records import ADDITION, CHECKS, PARTED, POURED, Hand, at, worked_out

from ufrin.core.clocks.sequence import SequenceStep, forward
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.bench_plan import method_of, weigh_plan
from ufrin.core.job.job_plan import Plan
from ufrin.core.job.job_sequence import WorkSoFar, job_sequence
from ufrin.core.job.job_state import pour_states, stage_of
from ufrin.core.job.preparation import step_states
from ufrin.core.weighing.bench_state import BenchState

BAKED = replace(ADDITION, post_cure_c=93.0, post_cure_min=180.0)
HALVES = ("first", "second")


def sequence(plan: Plan, records: list[tuple[int, BenchState]], now_s: float, **ticked: float) -> list[SequenceStep]:
    now = at(now_s)
    states = pour_states([pour.half for pour in plan.pours], records, now)
    preparation = step_states(plan.checks.steps, {}, since_s=0, now_s=now.wall_s)
    work = WorkSoFar(pours=plan.pours, states=states, preparation=preparation, ticked_s=ticked)
    return list(job_sequence(work, now))


def poured(plan: Plan, index: int, begun_s: float, *, is_out: bool = False) -> BenchState:
    pour = plan.pours[index]
    method = method_of(pour, plan.rubber_settled, CHECKS.settled(), "clear")
    hand = Hand(weigh_plan(pour, plan.rubber_settled, "the box", method=method))
    hand.seconds = begun_s
    kinds = {"cup": "tare", "mix": "mixed", "pour": "poured"}
    while (step := hand.state.step).kind not in {"done", "cure"}:
        if step.kind == "do":
            hand.write("step", what=step.key, sure=True)
        elif step.kind in {"hold", "weigh"}:
            hand.weigh()
        else:
            hand.write(kinds.get(step.kind, step.kind), 1.0 if step.kind == "leftover" else None, sure=True)
    if is_out:
        hand.seconds = begun_s + 60 * 1000
        hand.write("demould", what="well")
    return hand.state


def keys(steps: list[SequenceStep]) -> list[str]:
    return [step.key for step in steps]


def test_a_two_part_mould_is_turned_cleaned_and_poured_twice() -> None:
    plan = worked_out(opening=PARTED, rubber=BAKED)
    steps = keys(sequence(plan, [], 0))
    assert [key for key in steps if not key.startswith("prepare")] == [
        *("pour-first", "cure-first", "turn", "clean", "keys", "pour-second", "cure-second"),
        *("take-out", "post-cure", "rest", "first-cast"),
    ]
    assert steps.index("prepare-first") < steps.index("pour-first")
    # heat is what the tin asks for: any other mould rests until it is fully cured, or may be cast in
    other = worked_out(rubber=replace(ADDITION, full_cure_min=1440))
    by_key = {step.key: step for step in sequence(other, [], 0)}
    assert "post-cure" not in by_key
    assert by_key["rest"].takes_s == pytest.approx(60 * (1440 - 360))
    early = worked_out(rubber=replace(ADDITION, full_cure_min=1440, cast_in_min=600))
    assert {step.key: step for step in sequence(early, [], 0)}["rest"].takes_s == pytest.approx(60 * (600 - 360))
    hot = {step.key: step for step in sequence(plan, [], 0)}["post-cure"]
    assert (hot.takes_s, hot.is_wait) == (3 * 3600, True)
    assert "93" in hot.label
    own = worked_out(opening=PARTED, rubber=BAKED, poured=RubberInputs(post_cure_c=120.0, post_cure_min=45.0))
    assert {step.key: step for step in sequence(own, [], 0)}["post-cure"].takes_s == 45 * 60
    # what the job says of it is taken field by field: longer at the tin's heat, or not at all
    longer = worked_out(opening=PARTED, rubber=BAKED, poured=RubberInputs(post_cure_min=240.0))
    hot = {step.key: step for step in sequence(longer, [], 0)}["post-cure"]
    assert hot.takes_s == 4 * 3600
    assert "93" in hot.label
    never = worked_out(opening=PARTED, rubber=BAKED, poured=RubberInputs(post_cure_min=0.0))
    assert "post-cure" not in keys(sequence(never, [], 0))


@pytest.mark.parametrize(
    ("typed", "missing"), [({"post_cure_c": 80.0}, "post_cure_min"), ({"post_cure_min": 60.0}, "post_cure_c")]
)
def test_half_of_a_post_cure_is_told_and_stops_nothing(typed: dict[str, float], missing: str) -> None:
    plan = worked_out(poured=RubberInputs(**typed))  # type: ignore[arg-type]
    assert plan.pour is not None
    assert plan.pour.post_cure is None
    assert [(one.code, one.level, one.field) for one in plan.findings["rubber"] if one.code == "post-cure-half"] == [
        ("post-cure-half", "note", missing)
    ]
    both = worked_out(poured=RubberInputs(post_cure_c=80.0, post_cure_min=60.0))
    assert "post-cure-half" not in {one.code for one in both.findings["rubber"]}


def test_what_was_poured_runs_by_its_clock_and_what_was_ticked_keeps_its_time() -> None:
    plan = worked_out(opening=PARTED)
    first = poured(plan, 0, 0)
    contact = first.clocks.poured[0].contact
    steps = {step.key: step for step in sequence(plan, [(1, first)], 3600, turn=at(3500).wall_s)}
    assert steps["pour-first"].done_at_s == first.clocks.poured_s
    cure = steps["cure-first"]
    assert cure.ends_s == pytest.approx(contact.wall_s + 360 * 60)
    assert cure.began_s == contact.wall_s
    assert steps["turn"].done_at_s == at(3500).wall_s
    assert steps["pour-second"].done_at_s is None
    dated = {one.step.key: one for one in forward(list(steps.values()), at(3600).wall_s)}
    assert dated["cure-first"].state == "running"
    assert dated["clean"].begins_s == pytest.approx(cure.ends_s)
    assert dated["turn"].state == "done"


def test_both_halves_poured_and_out_leave_post_cure_rest_and_cast() -> None:
    plan = worked_out(opening=PARTED, rubber=BAKED)
    first, second = poured(plan, 0, 0), poured(plan, 1, 25_000, is_out=True)
    records = [(2, second), (1, first)]
    now = at(100_000)
    open_steps = [step for step in sequence(plan, records, 100_000) if step.done_at_s is None]
    assert keys(open_steps) == ["post-cure", "rest", "first-cast"]
    states = pour_states(HALVES, records, now)
    assert stage_of(states, is_stopped=False, is_put_away=False, now=now) == "mould ready"
    waiting = pour_states(HALVES, [(2, poured(plan, 1, 25_000)), (1, first)], now)
    assert stage_of(waiting, is_stopped=False, is_put_away=False, now=now) == "demould due"


def test_a_mould_taken_out_is_ready_once_it_may_be_cast_in() -> None:
    slow = replace(ADDITION, cast_in_min=2000)
    plan = worked_out(rubber=slow)
    out = poured(plan, 0, 0, is_out=True)
    for now_s, stage in ((70_000, "curing"), (125_000, "mould ready")):
        states = pour_states([""], [(1, out)], at(now_s))
        assert stage_of(states, is_stopped=False, is_put_away=False, now=at(now_s)) == stage
    still_in = pour_states([""], [(1, poured(plan, 0, 0))], at(3600))
    assert stage_of(still_in, is_stopped=False, is_put_away=False, now=at(3600)) == "curing"


def test_the_method_follows_from_the_stations() -> None:
    plan = worked_out(poured=replace(POURED, rubber_id=1, mix_min=5.0, rise_factor=3.0))
    pour, settled = plan.pours[0], plan.rubber_settled
    vacuum = method_of(pour, settled, CHECKS.settled(), "vacuum")
    assert vacuum.least_mix_min == 5
    assert vacuum.vessel_ml == pytest.approx(3 * pour.mix.total_g / pour.mix.sg_mixed)
    assert method_of(pour, settled, CHECKS.settled(), "clear").vessel_ml is None
    tin = replace(pour, rubber=replace(pour.rubber, mix_least_min=2.0, mix_most_min=4.0))
    by_tin = method_of(tin, settled, CHECKS.settled(), "clear")
    assert (by_tin.least_mix_min, by_tin.most_mix_min) == (2, 4)
    only_most = replace(pour, rubber=replace(pour.rubber, mix_most_min=4.0))
    assert method_of(only_most, settled, CHECKS.settled(), "clear").least_mix_min == 4
