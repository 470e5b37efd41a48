"""Preparation as it goes on: ticked off, drying, and done when it is dry."""

from dataclasses import replace

import pytest
from hypothesis import given
from hypothesis import strategies as st
from records import ADDITION, MASTER, OPEN, PARTED, worked_out

from ufrin.core.job.preparation import TINS, begin_in_min, step_states

SEALED = replace(MASTER, material="plaster", sealer="shellac")


def test_the_tins_are_looked_at_first_and_stirred_last_before_every_pour() -> None:
    for opening, phases in ((OPEN, ["first"]), (PARTED, ["first", "second"])):
        checks = worked_out(SEALED, opening=opening).checks
        assert checks is not None
        for phase in phases:
            own = [step for step in checks.steps if step.phase == phase]
            look, *others = own
            assert "use-by" in look.do
            assert others
            assert max(step.before_min for step in others) == look.before_min - look.work_min
            (stir,) = (step for step in others if "Stir" in step.do)
            assert (stir.before_min, stir.pairs) == (stir.work_min, TINS)
            assert [step.before_min for step in own] == sorted((step.before_min for step in own), reverse=True)
        assert {step.phase for step in checks.steps if step.pairs == TINS} == set(phases)
    putty = worked_out(rubber=replace(ADDITION, form="putty"), opening=replace(OPEN, style="press")).checks
    assert putty is not None
    assert not any("Stir" in step.do for step in putty.steps)  # it is kneaded


@given(st.floats(0, 2000), st.floats(0, 2000))
def test_a_coat_that_was_ticked_off_dries_and_is_done(after_min: float, more_min: float) -> None:
    checks = worked_out(SEALED).checks
    assert checks is not None
    steps = checks.steps
    coat = next(step for step in steps if step.dry_min > 0)
    (state,) = (
        one
        for one in step_states(steps, {coat.key: 1000.0}, since_s=0.0, now_s=1000.0 + 60 * after_min)
        if one.step == coat
    )
    assert state.ready_at_s == pytest.approx(1000 + 60 * coat.dry_min)
    assert state.left_min == pytest.approx(max(0.0, coat.dry_min - after_min))
    assert state.is_done == (after_min >= coat.dry_min)
    # a tick of an earlier mould does not count for this one
    earlier = step_states(steps, {coat.key: 1000.0}, since_s=1000.0 + more_min, now_s=2000.0)
    assert all(one.done_at_s is None for one in earlier)


def test_what_is_left_decides_when_to_begin() -> None:
    checks = worked_out(SEALED).checks
    assert checks is not None
    first = [step for step in checks.steps if step.phase == "first"]
    whole = max(step.before_min for step in first)
    assert begin_in_min(step_states(first, {}, since_s=0, now_s=0)) == whole
    done = {step.key: 10.0 for step in first}
    assert begin_in_min(step_states(first, done, since_s=0, now_s=10.0)) == max(step.dry_min for step in first)
    assert begin_in_min(step_states(first, done, since_s=0, now_s=1e9)) == 0
    assert len(done) == len(first)  # every step has a key of its own
