"""Plans as they are kept: what one promises, and which promises another one would break."""

from dataclasses import replace

from ufrin.core.schedule.day_plan import LATE_S, DayPlan, DayStep, touched

STEP = DayStep(
    key="a", job="Cleat", label="Pour", begins_s=0, hands_off_s=60, ends_s=3600, person="", uses=(), wish_s=3600
)
PLAN = DayPlan(steps=(STEP,), start_s=0, late_s=0, gap=0, is_proven=True)


def with_step(**changes: object) -> DayPlan:
    return replace(PLAN, steps=(replace(STEP, **changes),))  # type: ignore[arg-type]


def test_a_promise_that_is_broken_is_told_with_when_it_was_kept() -> None:
    later = with_step(ends_s=3600 + LATE_S + 1)
    (found,) = touched(PLAN, later)
    assert (found.step, found.before_s) == (later.steps[0], 3600)


def test_what_breaks_no_promise() -> None:
    assert touched(PLAN, PLAN) == ()
    assert touched(PLAN, with_step(ends_s=3600 + LATE_S)) == ()  # so little is on time
    assert touched(PLAN, with_step(ends_s=9000, wish_s=None)) == ()
    assert touched(PLAN, with_step(ends_s=9000, wish_s=9000)) == ()
    assert touched(PLAN, with_step(ends_s=9000, wish_s=7200)) == ()  # the wish itself was changed
    assert touched(PLAN, with_step(key="b", ends_s=9000)) == ()
    late = with_step(ends_s=9000)
    assert touched(late, late) == ()  # late as before
    assert len(touched(late, with_step(ends_s=9000 + LATE_S + 1))) == 1


def test_when_a_plan_ends_and_by_how_much_a_step_is_late() -> None:
    assert replace(STEP, ends_s=3700).late_s == 100
    assert replace(STEP, ends_s=3500).late_s == 0
    assert replace(STEP, ends_s=9000, wish_s=None).late_s == 0
    assert STEP.is_attended
    assert not replace(STEP, hands_off_s=0).is_attended
    assert PLAN.step("a") is STEP
    assert PLAN.step("b") is None
