"""The steps as variables: units, how far ahead is looked, who is alike, and what a soft model may bend."""

import pytest
from ortools.sat.python import cp_model

from ufrin.core.schedule.first_plan import first_plan
from ufrin.core.schedule.step_model import ROOM_BEYOND_S, StepModel
from ufrin.core.schedule.steps import After, Step, Thing, Work, Worker

HOUR = 3600
DAY = tuple((day * 24 * HOUR, day * 24 * HOUR + 9 * HOUR) for day in range(5))
WREN, TERN = Worker(key="wren", windows=DAY), Worker(key="tern", windows=DAY)
NIGHT = Worker(key="night", windows=((12 * HOUR, 20 * HOUR),))
POUR = Step(key="pour", job="1", attended_s=HOUR, alone_s=4 * HOUR)
OPEN = Step(key="open", job="1", attended_s=1800, after=(After(key="pour", at_least_s=600, at_most_s=2 * HOUR),))


def work(*steps: Step, people: tuple[Worker, ...] = (WREN,), things: tuple[Thing, ...] = ()) -> Work:
    return Work(steps=steps, people=people, things=things)


def least(model: StepModel, aim: cp_model.LinearExprT) -> tuple[float, dict[str, int]]:
    """Return the least value of an aim, and when each step begins then."""
    model.model.minimize(aim)
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    assert solver.solve(model.model) == cp_model.OPTIMAL
    begins = {key: at if isinstance(at, int) else solver.value(at) for key, at in model.begins.items()}
    return solver.objective_value * model.unit_s, {key: at * model.unit_s for key, at in begins.items()}


def test_the_unit_is_the_largest_that_divides_every_time() -> None:
    assert StepModel(work(POUR, OPEN), None).unit_s == 600
    assert StepModel(work(POUR, Step(key="wipe", job="1", attended_s=90)), None).unit_s == 90
    assert StepModel(work(POUR, things=(Thing(key="oven", away=((50, 100),)),)), None).unit_s == 50
    model = StepModel(work(POUR, OPEN), None)
    assert (model.units(HOUR), model.takes(POUR), model.takes(OPEN)) == (6, 30, 3)


def test_nothing_is_placed_beyond_what_any_plan_would_need() -> None:
    # without a plan: the last hour anybody works, and all steps with their waits on top
    assert StepModel(work(POUR, OPEN), None).horizon * 600 == DAY[-1][1] + POUR.takes_s + OPEN.takes_s + 600
    known = first_plan(work(POUR, OPEN))
    assert StepModel(work(POUR, OPEN), known).horizon * 600 == 2 * known.makespan_s + ROOM_BEYOND_S


def test_the_least_end_keeps_waits_hours_and_hands() -> None:
    model = StepModel(work(POUR, OPEN), None)
    end_s, begins = least(model, model.makespan)
    assert begins == {"pour": 0, "open": 5 * HOUR + 600}
    assert end_s == 5 * HOUR + 600 + 1800
    # two pours by one pair of hands follow each other; by two they begin together
    other = Step(key="other", job="2", attended_s=HOUR, alone_s=4 * HOUR)
    for people, wanted in (((WREN,), 6 * HOUR), ((WREN, TERN), 5 * HOUR)):
        model = StepModel(work(POUR, other, people=people), None)
        assert least(model, model.makespan)[0] == wanted


def test_people_whom_nothing_tells_apart_are_one_crew_and_named_ones_are_not() -> None:
    assert [len(crew.people) for crew in StepModel(work(POUR, people=(WREN, TERN, NIGHT)), None).crews] == [2, 1]
    named = Step(key="paint", job="1", attended_s=HOUR, person="tern")
    crews = StepModel(work(POUR, named, people=(WREN, TERN)), None).crews
    assert sorted(one.key for crew in crews for one in crew.people) == ["tern", "wren"]
    assert len(crews) == 2
    # only at night can it be done by whoever it was given to
    late = Step(key="late", job="1", attended_s=HOUR, person="night")
    model = StepModel(work(late, people=(WREN, NIGHT)), None)
    assert least(model, model.makespan)[1] == {"late": 12 * HOUR}


def test_a_thing_is_held_from_begin_to_end_and_is_away_when_it_is() -> None:
    bake = [Step(key=f"bake {number}", job=str(number), alone_s=2 * HOUR, uses=("oven",)) for number in range(3)]
    for oven, wanted in (
        (Thing(key="oven"), 6),
        (Thing(key="oven", count=2), 4),
        (Thing(key="oven", away=((0, HOUR),)), 7),
    ):
        model = StepModel(work(*bake, things=(oven,)), None)
        assert least(model, model.makespan)[0] == wanted * HOUR
    both = Step(key="both", job="9", alone_s=2 * HOUR, uses=("oven", "oven"))
    model = StepModel(work(*bake[:1], both, things=(Thing(key="oven", count=2),)), None)
    assert least(model, model.makespan)[0] == 4 * HOUR


def test_what_is_late_is_counted_from_its_wish() -> None:
    wished = Step(key="pour", job="1", attended_s=HOUR, alone_s=4 * HOUR, finish_by_s=3 * HOUR)
    model = StepModel(work(wished), None)
    assert least(model, model.late)[0] == 2 * HOUR
    model = StepModel(work(Step(key="pour", job="1", attended_s=HOUR, finish_by_s=3 * HOUR)), None)
    assert least(model, model.late)[0] == 0


def test_a_soft_model_may_exceed_a_longest_wait_and_move_what_was_put_somewhere() -> None:
    # open it within the hour, but nobody works between the ninth hour and one hour of the next day
    wren = Worker(key="wren", windows=((0, 9 * HOUR), (24 * HOUR, 25 * HOUR)))
    late = Step(key="pour", job="1", attended_s=HOUR, alone_s=4 * HOUR, earliest_s=7 * HOUR)
    then = Step(key="open", job="1", attended_s=HOUR, after=(After(key="pour", at_most_s=HOUR),))
    hard = StepModel(work(late, then, people=(wren,)), None)
    assert cp_model.CpSolver().solve(hard.model) == cp_model.INFEASIBLE
    soft = StepModel(work(late, then, people=(wren,)), None, is_soft=True)
    over_s, begins = least(soft, sum(soft.excess.values()))
    assert begins["open"] == 24 * HOUR
    assert over_s == 24 * HOUR - 14 * HOUR  # poured as late as the first day lets it, it should be opened by 14
    put = Step(key="pour", job="1", attended_s=HOUR, begins_s=2 * HOUR)
    assert least(StepModel(work(put), None), 0)[1] == {"pour": 2 * HOUR}
    outside = Step(key="pour", job="1", attended_s=HOUR, begins_s=10 * HOUR)
    moved = StepModel(work(outside), None, is_soft=True)
    moved.model.minimize(sum(moved.moved.values()))
    solver = cp_model.CpSolver()
    assert solver.solve(moved.model) == cp_model.OPTIMAL
    assert solver.objective_value == 1


def test_what_is_under_way_stays_where_it_began_and_takes_its_persons_time() -> None:
    begun = Step(key="pour", job="1", attended_s=2 * HOUR, begins_s=-HOUR, is_under_way=True, person="wren")
    model = StepModel(work(begun, Step(key="next", job="2", attended_s=HOUR)), None)
    assert least(model, model.makespan)[1] == {"pour": -HOUR, "next": HOUR}


def test_waiting_is_what_lies_between_steps_that_must_not_lie_far_apart() -> None:
    model = StepModel(work(POUR, OPEN), None)
    value, begins = least(model, model.waiting())
    # 2 steps x 600 s of wait, and the begins of both
    assert begins == {"pour": 0, "open": 18_600}
    assert value == pytest.approx(2 * 600 + 18_600)


def test_a_hint_is_given_for_every_step_that_is_free() -> None:
    begun = Step(key="begun", job="1", attended_s=HOUR, begins_s=0, is_under_way=True)
    model = StepModel(work(begun, OPEN, POUR), None)
    model.hint({"begun": 0, "pour": HOUR, "open": 7 * HOUR})
    hinted = dict(zip(model.model.proto.solution_hint.vars, model.model.proto.solution_hint.values, strict=True))
    named = {key: at.index for key, at in model.begins.items() if not isinstance(at, int)}
    assert {key: hinted[index] for key, index in named.items()} == {"pour": 6, "open": 42}
