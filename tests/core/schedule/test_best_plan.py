"""Plans: against published best ones, against exhaustive search, and against the rules that every plan keeps."""

from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st
from plan_rules import broken_rules
from thoroughness import examples

from ufrin.core.schedule.best_plan import best_plan
from ufrin.core.schedule.cp_sat import solve
from ufrin.core.schedule.effort import Effort, Progress
from ufrin.core.schedule.first_plan import certain_plan, first_plan, longest_tail_first
from ufrin.core.schedule.plan_findings import unattended_findings
from ufrin.core.schedule.steps import After, SchedulePlan, Step, Thing, Window, Work, Worker, plan_of
from ufrin.core.wording.findings import Amount
from ufrin.errors import Refused

MIN, HOUR, DAY = 60, 3600, 86_400
SHORT = Effort(most_s=5.0)
# the six jobs on six machines of H. Fisher and G. L. Thompson, "Probabilistic learning combinations of local job-shop
# scheduling rules", in J. F. Muth and G. L. Thompson, Industrial Scheduling, 1963: machine and time of each step. The
# best plan is known to end at 55 (the table and the figure are from memory)
SIX_JOBS = (
    ((2, 1), (0, 3), (1, 6), (3, 7), (5, 3), (4, 6)),
    ((1, 8), (2, 5), (4, 10), (5, 10), (0, 10), (3, 4)),
    ((2, 5), (3, 4), (5, 8), (0, 9), (1, 1), (4, 7)),
    ((1, 5), (0, 5), (2, 5), (3, 3), (4, 8), (5, 9)),
    ((2, 9), (1, 3), (4, 5), (5, 4), (0, 3), (3, 1)),
    ((1, 3), (3, 3), (5, 9), (0, 10), (4, 4), (2, 1)),
)
BEST_END_MIN = 55


def best(work: Work, effort: Effort = SHORT) -> SchedulePlan:
    plan = best_plan(lambda _: None, work, effort)
    assert broken_rules(work, plan) == []
    return plan


def days(number: int, *stretches: tuple[int, int]) -> tuple[Window, ...]:
    """Return working time that begins at 8 o'clock, where a plan does; stretches are hours after that."""
    return tuple(
        (day * DAY + begin * HOUR, day * DAY + end * HOUR) for day in range(number) for begin, end in stretches
    )


def person(key: str = "1", *, number_of_days: int = 9, windows: tuple[Window, ...] | None = None) -> Worker:
    return Worker(key=key, windows=windows if windows is not None else days(number_of_days, (0, 9)))


def six_jobs(*, by_people: bool) -> Work:
    steps = [
        Step(
            key=f"{job}.{number}",
            job=str(job),
            attended_s=takes * MIN if by_people else 0,
            alone_s=0 if by_people else takes * MIN,
            person=str(machine) if by_people else None,
            uses=() if by_people else (str(machine),),
            after=(After(key=f"{job}.{number - 1}"),) if number else (),
        )
        for job, row in enumerate(SIX_JOBS)
        for number, (machine, takes) in enumerate(row)
    ]
    return Work(
        steps=tuple(steps),
        people=tuple(person(str(number)) for number in range(6)) if by_people else (),
        things=() if by_people else tuple(Thing(key=str(number)) for number in range(6)),
    )


@pytest.mark.parametrize("by_people", [True, False], ids=["machines as people", "machines as things"])
def test_six_jobs_on_six_machines_end_when_they_are_known_to(by_people: bool) -> None:
    plan = best(six_jobs(by_people=by_people), Effort(most_s=60.0))
    assert plan.is_proven
    assert (plan.makespan_s, plan.bound_s, plan.gap) == (BEST_END_MIN * MIN, BEST_END_MIN * MIN, 0.0)


def exhaustive(work: Work, last_s: int, unit_s: int) -> tuple[int, int] | None:
    """Try every begin of every step by every person, and return the least lateness with the earliest end."""
    found: list[tuple[int, int]] = []

    def go_on(number: int, begins: dict[str, int], who: dict[str, str | None]) -> None:
        if number == len(work.steps):
            plan = plan_of(work, begins, who)
            if not broken_rules(work, plan):
                found.append((plan.late_s, plan.makespan_s))
            return
        step = work.steps[number]
        ended = [begins[wait.key] + work.by_key()[wait.key].takes_s + wait.at_least_s for wait in step.after]
        for begin in range(max((step.earliest_s, *ended)), last_s + 1, unit_s):
            for one in [worker.key for worker in work.people] if step.attended_s else [None]:
                go_on(number + 1, begins | {step.key: begin}, who | {step.key: one})

    go_on(0, {}, {})
    return min(found, default=None)


def small_works() -> st.SearchStrategy[tuple[tuple[int, int, bool, int, int | None, int | None], ...]]:
    step = st.tuples(
        st.sampled_from([0, 1, 2]),  # hours of a pair of hands
        st.sampled_from([0, 1, 3]),  # hours alone
        st.booleans(),  # in the oven
        st.sampled_from([0, 0, 1]),  # hours to wait at least for the step before it
        st.sampled_from([None, None, 1, 4]),  # and at most
        st.sampled_from([None, None, 4, 7]),  # hour by which it is wished
    )
    return st.tuples(step, step, step)


@examples(12)
@given(small_works(), st.sampled_from([1, 2]), st.booleans())
def test_nothing_better_is_found_by_trying_everything(
    rows: tuple[tuple[int, int, bool, int, int | None, int | None], ...], people: int, in_a_row: bool
) -> None:
    steps = [
        Step(
            key=str(number),
            job="a",
            attended_s=attended * HOUR,
            alone_s=alone * HOUR,
            uses=("oven",) if hot else (),
            after=(
                (After(key=str(number - 1), at_least_s=least * HOUR, at_most_s=most and max(least, most) * HOUR),)
                if number and (in_a_row or number == 1)
                else ()
            ),
            finish_by_s=wish and wish * HOUR,
        )
        for number, (attended, alone, hot, least, most, wish) in enumerate(rows)
    ]
    # two short stretches with a night of six hours between them
    windows = ((0, 2 * HOUR), (8 * HOUR, 11 * HOUR), (11 * HOUR + 12 * HOUR, 26 * HOUR))
    work = Work(
        steps=tuple(steps),
        people=tuple(person(str(number), windows=windows) for number in range(people)),
        things=(Thing(key="oven"),),
    )
    known = exhaustive(work, 26 * HOUR, HOUR)
    if known is None:
        with pytest.raises(Refused):
            best_plan(lambda _: None, work, SHORT)
        return
    plan = best(work)
    assert plan.is_proven
    assert (plan.late_s, plan.makespan_s) == known


def works(most_jobs: int = 4) -> st.SearchStrategy[Work]:
    minutes = st.sampled_from([0, 5, 15, 30, 45])
    step = st.tuples(
        minutes,
        st.sampled_from([0, 0, 20, 240, 960]),
        st.lists(st.sampled_from(["oven", "pot"]), max_size=2),
        st.sampled_from([None, None, None, 18 * 60]),
        st.sampled_from([None, None, None, 1, 2]),
    )
    jobs = st.lists(st.lists(step, min_size=1, max_size=4), min_size=1, max_size=most_jobs)

    def put_together(rows: list[list[tuple[int, int, list[str], int | None, int | None]]], people: int) -> Work:
        steps = [
            Step(
                key=f"{job}.{number}",
                job=str(job),
                attended_s=attended * MIN,
                alone_s=alone * MIN,
                uses=tuple(uses),
                after=(After(key=f"{job}.{number - 1}", at_most_s=most and most * MIN),) if number else (),
                finish_by_s=wish and wish * DAY,
            )
            for job, row in enumerate(rows)
            for number, (attended, alone, uses, most, wish) in enumerate(row)
        ]
        return Work(
            steps=tuple(steps),
            people=tuple(person(str(one), windows=days(40, (0, 4), (5, 9))) for one in range(people)),
            things=(Thing(key="oven", count=2, away=((3 * HOUR, 30 * HOUR),)), Thing(key="pot", count=2)),
        )

    return st.builds(put_together, jobs, st.integers(1, 3))


@examples(25)
@given(works())
def test_the_first_plan_keeps_every_rule(work: Work) -> None:
    for plan in (first_plan(work), longest_tail_first(work)):
        if plan is not None:
            assert broken_rules(work, plan) == []


@examples(15)
@given(works(3))
def test_the_best_plan_keeps_every_rule_and_is_never_worse_than_the_first(work: Work) -> None:
    plan, first = best(work, Effort(most_s=2.0)), first_plan(work)
    assert plan.bound_s <= plan.makespan_s
    assert plan.late_bound_s <= plan.late_s
    if first is not None:
        assert (plan.late_s, plan.makespan_s) <= (first.late_s, first.makespan_s)


@examples(25)
@given(works(2))
def test_where_a_plan_is_certain_the_search_finds_none_better(work: Work) -> None:
    certain = certain_plan(work, first_plan(work))
    if certain is not None:
        searched = solve(work, None, Effort(most_s=2.0), lambda _: None)
        assert searched.is_proven
        assert (certain.late_s, certain.makespan_s) == (searched.late_s, searched.makespan_s)
        assert broken_rules(work, certain) == []


def test_two_steps_that_share_a_person_are_certain_only_where_neither_waits() -> None:
    alone = Work(steps=(Step(key="a", job="x", attended_s=HOUR),), people=(person(),))
    shared = Work(steps=(*alone.steps, Step(key="b", job="y", attended_s=HOUR)), people=(person(),))
    assert certain_plan(alone, first_plan(alone)) is not None
    assert certain_plan(shared, first_plan(shared)) is None
    assert certain_plan(shared, None) is None
    # the first need not begin so early that the second waits within its window
    early = Step(key="release", job="a", attended_s=HOUR)
    cure = Step(key="cure", job="b", alone_s=5 * HOUR)
    pour = Step(
        key="pour", job="a", attended_s=HOUR, after=(After(key="release", at_most_s=8 * HOUR), After(key="cure"))
    )
    waits = Work(steps=(early, cure, pour), people=(person(),))
    assert certain_plan(waits, first_plan(waits)) is None


@examples(8)
@given(works(3), st.integers(0, 40), st.data())
def test_a_plan_made_again_keeps_what_is_done_and_what_was_put_at_a_time(
    work: Work, now_hours: int, data: st.DataObject
) -> None:
    before, now_s = best(work, Effort(most_s=1.0)).by_key(), now_hours * HOUR
    again = []
    movable = [one.key for one in work.steps if before[one.key].begins_s >= now_s]
    put = data.draw(st.sampled_from(movable)) if movable else None
    for step in work.steps:
        one = before[step.key]
        began = one.begins_s < now_s
        again.append(
            Step(
                **{name: getattr(step, name) for name in ("key", "job", "attended_s", "alone_s", "uses", "after")},
                earliest_s=now_s,
                finish_by_s=step.finish_by_s,
                begins_s=one.begins_s if began or step.key == put else None,
                person=one.person if began or step.key == put else None,
                is_under_way=began,
            )
        )
    plan = best(Work(steps=tuple(again), people=work.people, things=work.things), Effort(most_s=1.0)).by_key()
    for step in again:
        if step.begins_s is not None:
            assert (plan[step.key].begins_s, plan[step.key].person) == (step.begins_s, step.person)


def test_a_cure_goes_on_over_night_and_a_pair_of_hands_does_not() -> None:
    work = Work(
        steps=(
            Step(key="pour", job="a", attended_s=2 * HOUR, alone_s=16 * HOUR),
            Step(key="open", job="a", attended_s=HOUR, after=(After(key="pour"),)),
            Step(key="clean", job="a", attended_s=8 * HOUR, after=(After(key="open"),)),
        ),
        people=(person(),),
    )
    plan = best(work).by_key()
    assert plan["open"].begins_s == DAY  # the cure ends at two in the night
    assert plan["clean"].begins_s == DAY + HOUR


def test_a_mix_that_must_be_poured_before_closing_time_waits_for_the_morning() -> None:
    steps = (
        Step(key="lay out", job="a", attended_s=8 * HOUR + 55 * MIN),
        Step(key="mix", job="a", attended_s=5 * MIN, after=(After(key="lay out"),)),
        Step(key="pour", job="a", attended_s=10 * MIN, after=(After(key="mix", at_most_s=20 * MIN),)),
    )
    plan = best(Work(steps=steps, people=(person(),))).by_key()
    assert plan["mix"].begins_s == DAY
    assert first_plan(Work(steps=steps, people=(person(),))) is not None


def test_what_waits_in_a_window_waits_no_longer_than_it_must() -> None:
    steps = (
        Step(key="release", job="a", attended_s=15 * MIN),
        Step(key="cure", job="b", attended_s=5 * MIN, alone_s=5 * HOUR),
        Step(
            key="pour",
            job="a",
            attended_s=15 * MIN,
            after=(After(key="release", at_most_s=8 * HOUR), After(key="cure")),
        ),
    )
    plan = best(Work(steps=steps, people=(person(),))).by_key()
    assert plan["pour"].begins_s - plan["release"].ends_s == 0


def test_a_wish_comes_before_an_early_end_of_all() -> None:
    # alone, the long one goes first and all ends after 4 h; the wish for the short one comes before that
    steps = (
        Step(key="long", job="a", attended_s=HOUR, alone_s=3 * HOUR),
        Step(key="short", job="b", attended_s=HOUR, finish_by_s=HOUR),
    )
    plan = best(Work(steps=steps, people=(person(),)))
    assert (plan.late_s, plan.makespan_s) == (0, 5 * HOUR)
    without = best(Work(steps=(steps[0], Step(key="short", job="b", attended_s=HOUR)), people=(person(),)))
    assert without.makespan_s == 4 * HOUR


def test_people_keep_to_their_own_hours_and_one_goes_on_with_a_job() -> None:
    early, late = days(3, (0, 4)), days(3, (4, 9))
    steps = [Step(key=f"{job}.{number}", job=job, attended_s=HOUR) for job in "ab" for number in range(2)]
    people = (person("Wren", windows=early), person("Alder", windows=late))
    plan = best(Work(steps=(*steps, Step(key="own", job="c", attended_s=HOUR, person="Alder")), people=people)).by_key()
    assert plan["own"].person == "Alder"
    assert plan["own"].begins_s >= 4 * HOUR
    together = (person("Wren"), person("Alder"))
    chain = [
        Step(key=f"{job}.{number}", job=job, attended_s=HOUR, after=(After(key=f"{job}.0"),) if number else ())
        for job in "ab"
        for number in range(2)
    ]
    plan = best(Work(steps=tuple(chain), people=together)).by_key()
    assert all(plan[f"{job}.0"].person == plan[f"{job}.1"].person for job in "ab")


def test_things_are_shared_out_by_their_number_and_not_while_one_is_away() -> None:
    steps = tuple(Step(key=str(number), job="a", alone_s=HOUR, uses=("pot",)) for number in range(4))
    two = best(Work(steps=steps, people=(), things=(Thing(key="pot", count=2),)))
    assert two.makespan_s == 2 * HOUR
    lent = best(Work(steps=steps, people=(), things=(Thing(key="pot", count=2, away=((0, 3 * HOUR),)),)))
    assert [one.begins_s // HOUR for one in lent.placed] == [0, 1, 2, 3]


def test_progress_is_reported_and_gets_better() -> None:
    told: list[Progress] = []
    plan = best_plan(told.append, six_jobs(by_people=False), Effort(most_s=60.0))
    ends = [one.makespan_s for one in told]
    assert ends[-1] == plan.makespan_s
    assert all(later <= earlier for earlier, later in pairwise(ends))
    assert all(0 <= one.share <= 1 for one in told)


AT_CLOSING_S = 17 * HOUR // 2
A = Step(key="a", job="x", label="Mix", attended_s=HOUR)
LONG_POUR = Step(key="b", job="x", label="Pour", attended_s=AT_CLOSING_S, after=(After(key="a", at_most_s=600),))


@pytest.mark.parametrize(
    ("steps", "says"),
    [
        ((A, A), "Two steps have the name “a”"),
        ((Step(key="b", job="x", after=(After(key="gone"),)),), "no such step"),
        ((Step(key="b", job="x", after=(After(key="b"),)),), "in a circle: “b”"),
        (
            (
                Step(key="b", job="x", label="Pour", after=(After(key="c"),)),
                Step(key="c", job="x", label="Turn", after=(After(key="b"),)),
            ),
            "in a circle: “(Pour”, “Turn|Turn”, “Pour)”",
        ),
        ((A, Step(key="b", job="x", after=(After(key="a", at_least_s=60, at_most_s=30),))), "longer than it may"),
        ((Step(key="b", job="x", label="Bake", alone_s=60, uses=("kiln",)),), "“Bake” needs “kiln”, and there is none"),
        ((Step(key="b", job="x", alone_s=60, uses=("pot", "pot")),), "2 of “pot” at once, and there is 1"),
        ((Step(key="b", job="x", attended_s=10 * HOUR),), "600 min .* longest stretch of working time is 540 min"),
        ((Step(key="b", job="x", attended_s=60, person="Rook"),), "nobody can do it"),
        ((Step(key="b", job="x", attended_s=-5),), "can't be planned"),
        ((A, LONG_POUR), "at most 10 min after “Mix”.* 900 min is the shortest"),
        ((Step(key="b", job="x", label="Pour", attended_s=HOUR, begins_s=AT_CLOSING_S),), "“Pour” can't begin"),
        (
            (
                Step(key="b", job="x", alone_s=20 * HOUR),
                Step(key="c", job="x", label="Open", attended_s=HOUR, begins_s=HOUR, after=(After(key="b"),)),
            ),
            "“Open” can't begin at the time",
        ),
    ],
)
def test_what_cannot_be_planned_is_refused_by_name(steps: tuple[Step, ...], says: str) -> None:
    with pytest.raises(Refused, match=says):
        best_plan(lambda _: None, Work(steps=steps, people=(person(),), things=(Thing(key="pot"),)), SHORT)


@pytest.mark.parametrize(
    ("begins_h", "alone_h", "left_alone_min"),
    [
        (0, 5, None),  # over the break of an hour
        (5, 6, None),  # two hours after closing time are no long time
        (5, 7, 180),
        (8, 16, 900),  # from closing time until the next morning
        (8, 25, 960),  # and over the break of the next day
    ],
)
def test_heat_that_goes_on_while_nobody_works_is_told(begins_h: int, alone_h: int, left_alone_min: int | None) -> None:
    hot = Step(key="a", job="x", label="Post-cure", alone_s=alone_h * HOUR, uses=("oven",))
    cold = Step(key="b", job="x", alone_s=99 * HOUR, uses=("table",))
    people = (person("1", windows=days(3, (0, 4), (5, 9))), person("2", windows=days(3, (0, 4))))
    work = Work(steps=(hot, cold), people=people, things=(Thing(key="oven"), Thing(key="table")))
    plan = plan_of(work, {"a": begins_h * HOUR, "b": 0}, {})
    found = unattended_findings(work, plan, {"oven": "the oven"})
    assert [one.facts["alone"] for one in found] == ([Amount(left_alone_min, "time")] if left_alone_min else [])


def test_a_wish_is_met_though_all_the_rest_ends_much_later_for_it() -> None:
    # whatever has the longest tail goes first: 40 days in the oven, and 40 more after that. The wish needs the oven on
    # day 30, so the 40 days can only begin on day 31
    wished = (
        Step(key="cure", job="a", alone_s=30 * DAY),
        Step(key="wish", job="a", alone_s=DAY, uses=("oven",), after=(After(key="cure"),), finish_by_s=31 * DAY),
    )
    rest = tuple(
        Step(
            key=f"{number}",
            job="b",
            alone_s=(10 if number else 40) * DAY,
            uses=() if number else ("oven",),
            after=(After(key=f"{number - 1}"),) if number else (),
        )
        for number in range(5)
    )
    work = Work(steps=(*wished, *rest), people=(), things=(Thing(key="oven"),))
    known = longest_tail_first(work)
    assert known is not None
    assert (known.late_s, known.makespan_s) == (10 * DAY, 80 * DAY)
    plan = solve(work, known, SHORT, lambda _: None)
    assert (plan.late_s, plan.makespan_s, plan.is_proven) == (0, 111 * DAY, True)


def test_nothing_to_plan_is_a_plan() -> None:
    plan = best(Work(steps=(), people=()))
    assert (plan.placed, plan.makespan_s, plan.is_proven) == ((), 0, True)
