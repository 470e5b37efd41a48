"""A job as the schedule sees it: hands and time alone, what runs, what is done, and what each step uses."""

import pytest

from ufrin.core.clocks.sequence import SequenceStep
from ufrin.core.job.job_schedule import ScheduledJob, ThingKind, job_steps, thing_kind
from ufrin.core.schedule.steps import After

START_S = 1_790_000_040
THINGS: dict[ThingKind, str] = {"oven": "equipment:1", "pot": "equipment:2", "chamber": "equipment:3"}
STEPS = (
    SequenceStep(key="prepare-first", label="Prepare", takes_s=3600.0, hands_s=1200.0),
    SequenceStep(key="pour-all", label="Pour", takes_s=1500.0),
    SequenceStep(key="cure-all", label="It cures", takes_s=57_600.0, is_wait=True),
    SequenceStep(key="take-out", label="Take it out", takes_s=900.0),
    SequenceStep(key="post-cure", label="Post-cure", takes_s=10_800.0, is_wait=True, hands_s=300.0, can_tick=True),
)


def test_hands_come_first_and_the_rest_goes_on_alone() -> None:
    found = job_steps(ScheduledJob(key="job:4", name="Cleat", steps=STEPS), THINGS, START_S)
    assert [(one.attended_s // 60, one.alone_s // 60) for one in found] == [
        (20, 40),
        (25, 0),
        (0, 960),
        (15, 0),
        (5, 175),
    ]
    assert [one.after for one in found] == [
        (),
        (After(key="job:4:prepare-first"),),
        (After(key="job:4:pour-all", at_most_s=0),),  # nobody can put a cure off
        (After(key="job:4:cure-all"),),
        (After(key="job:4:take-out"),),
    ]


@pytest.mark.parametrize(
    ("key", "air", "kind"),
    [
        ("post-cure", "clear", "oven"),
        ("pour-first", "vacuum", "chamber"),
        ("cure-first", "vacuum", None),
        ("pour-all", "pressure", None),
        ("cure-all", "pressure", "pot"),
        ("pour-all", "vibrate", "table"),
        ("pour-all", "stream", None),
        ("take-out", "pressure", None),
    ],
)
def test_each_way_to_get_the_air_out_holds_its_own_thing(key: str, air: str, kind: str | None) -> None:
    assert thing_kind(key, air) == kind


def test_a_thing_that_nobody_entered_is_not_used() -> None:
    job = ScheduledJob(key="job:4", name="Cleat", steps=STEPS, air="vibrate")
    assert [one.uses for one in job_steps(job, THINGS, START_S)] == [(), (), (), (), ("equipment:1",)]


def test_what_is_done_is_gone_and_what_runs_is_under_way() -> None:
    done = SequenceStep(key="pour-all", label="Pour", takes_s=1500.0, done_at_s=START_S - 900.0)
    runs = SequenceStep(
        key="cure-all", label="It cures", takes_s=9e9, is_wait=True, began_s=START_S - 930.0, ends_s=START_S + 3601.0
    )
    found = job_steps(
        ScheduledJob(key="job:4", name="Cleat", steps=(done, runs, *STEPS[3:]), wish_s=START_S + 7230.0),
        THINGS,
        START_S,
    )
    cure = found[0]
    assert (cure.key, cure.is_under_way, cure.begins_s, cure.takes_s) == ("job:4:cure-all", True, -960, 960 + 3660)
    assert cure.attended_s == 0
    assert [one.finish_by_s for one in found] == [None, None, 7200]


def test_a_pour_at_the_bench_holds_hands_until_it_is_done() -> None:
    at_bench = SequenceStep(
        key="pour-all", label="Pour", takes_s=1500.0, began_s=START_S - 600.0, ends_s=START_S + 900.0
    )
    found = job_steps(ScheduledJob(key="job:4", name="Cleat", steps=(at_bench, *STEPS[2:])), THINGS, START_S)
    assert (found[0].begins_s, found[0].attended_s, found[0].alone_s) == (-600, 1500, 0)
    assert found[1].after == (After(key="job:4:pour-all", at_most_s=0),)
