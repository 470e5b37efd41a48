"""Findings of a plan, by hand: which job is late, by how much and what for, and what could not be planned as meant."""

from dataclasses import replace

from ufrin.core.schedule.plan_findings import (
    LONG_ALONE_S,
    MOST_TOLD,
    gathering_findings,
    plan_findings,
    unattended_findings,
    what_is_short,
)
from ufrin.core.schedule.steps import After, Step, Thing, Window, Work, Worker, plan_of
from ufrin.core.wording.findings import Amount, Finding

H = 3600
DAY: tuple[Window, ...] = ((0, 9 * H),)
OVEN = Thing(key="oven", label="Drying oven")
FIRST = Step(key="a", job="Ammonite", label="Bake", alone_s=2 * H, uses=("oven",))
SECOND = Step(key="b", job="Lamp finial", label="Dry", alone_s=3 * H, uses=("oven",), finish_by_s=4 * H)


def work(*steps: Step, things: tuple[Thing, ...] = (), windows: tuple[Window, ...] = DAY, people: int = 1) -> Work:
    workers = tuple(Worker(key=str(number), windows=windows) for number in range(1, people + 1))
    return Work(steps=steps, people=workers, things=things)


def told(found: tuple[Finding, ...], code: str) -> list[dict[str, object]]:
    return [dict(one.facts) for one in found if one.code == code]


def test_lateness_names_the_job_by_how_much_and_what_it_waits_for() -> None:
    both = work(FIRST, SECOND, things=(OVEN,))
    found = plan_findings(both, plan_of(both, {"a": 0, "b": 2 * H}, {}))
    # in the oven from 2 h to 5 h, wished by 4 h: 60 min late, for two hours the oven held the other one
    assert told(found, "schedule-late") == [
        {"step": "“Dry” of Lamp finial", "late": Amount(60.0, "time"), "why": "“Dry” waits for the Drying oven"}
    ]
    assert "“Dry” of Lamp finial ends 60 min later than wished: “Dry” waits for the Drying oven." in found[0].text()
    # in time to the second is no lateness, and one second over is
    assert not told(plan_findings(both, plan_of(both, {"a": 1 * H, "b": 1 * H}, {})), "schedule-late")
    assert told(plan_findings(both, plan_of(both, {"a": 0, "b": H + 1}, {})), "schedule-late")


def test_no_more_than_twenty_are_told_and_a_plan_that_was_searched_for_says_how_good_it_is() -> None:
    many = work(*(replace(SECOND, key=str(number), uses=()) for number in range(MOST_TOLD + 5)))
    plan = plan_of(many, {one.key: 2 * H for one in many.steps}, {})
    found = plan_findings(many, plan)
    assert len(told(found, "schedule-late")) == MOST_TOLD
    assert not told(found, "schedule-not-proven")  # made at once: nothing is known of it
    # it ends at 5 h, and none ends before 4 h: at most a fifth is to be gained
    assert told(plan_findings(many, replace(plan, bound_s=4 * H)), "schedule-not-proven") == [{"gap": "20"}]
    assert not told(plan_findings(many, replace(plan, bound_s=4 * H, is_proven=True)), "schedule-not-proven")


def test_what_a_wait_is_for() -> None:
    late = Step(key="b", job="Cleat", label="Pour", attended_s=H, finish_by_s=H)
    busy = Step(key="a", job="Ring", label="Turn", attended_s=2 * H)

    def why(all_work: Work, begins_s: dict[str, int], people: dict[str, str], of: Step = late) -> str:
        return what_is_short(all_work, plan_of(all_work, begins_s, people), of)

    # somebody else's step has the hands for all of the wait
    hands = "“Pour” waits for a pair of hands"
    assert why(work(busy, late), {"a": 0, "b": 2 * H}, {"a": "1", "b": "1"}) == hands
    # nobody is there before 8 h, and nobody is busy
    early = work(late, windows=((8 * H, 17 * H),))
    assert why(early, {"b": 8 * H}, {"b": "1"}) == "“Pour” waits for working hours"
    # of two people one is busy for all of the wait: that is half of the hands
    assert why(work(busy, late, people=2), {"a": 0, "b": 2 * H}, {"a": "1", "b": "2"}) == hands
    assert why(work(busy, late, people=3), {"a": 0, "b": 2 * H}, {"a": "1", "b": "2"}) != hands
    # it begins at once, and takes too long by itself
    assert why(work(late), {"b": 0}, {"b": "1"}) == "its steps take that long by themselves"
    # the wait is on the way there, not at the end
    before = replace(FIRST, key="c", label="Clean", job="Cleat", uses=(), alone_s=0, attended_s=H)
    chained = replace(late, after=(After(key="c", at_least_s=1800),))
    chain = work(busy, before, chained)
    assert why(chain, {"a": 0, "c": 2 * H, "b": 3 * H + 1800}, {"a": "1", "c": "1", "b": "1"}, chained) == (
        "“Clean” waits for a pair of hands"
    )
    # a step that is not to begin before a time waits for nothing until then, and what runs already waited for nothing
    later = replace(late, earliest_s=2 * H)
    assert why(work(busy, later), {"a": 0, "b": 2 * H}, {"a": "1", "b": "1"}, later).startswith("its steps")
    running = replace(late, is_under_way=True, begins_s=2 * H)
    assert why(work(busy, running), {"a": 0, "b": 2 * H}, {"a": "1", "b": "1"}, running).startswith("its steps")


def test_a_thing_is_short_while_all_of_it_is_taken_or_lent_out() -> None:
    def waits_for_oven(oven: Thing, begins_s: int, first_s: int = 0) -> bool:
        both = work(FIRST, SECOND, things=(oven,))
        return "oven" in what_is_short(both, plan_of(both, {"a": first_s, "b": begins_s}, {}), SECOND)

    assert waits_for_oven(OVEN, 2 * H)
    assert not waits_for_oven(replace(OVEN, count=2), 2 * H)
    # taken for two of four hours is half of the wait, and for two of five less
    assert waits_for_oven(OVEN, 4 * H)
    assert not waits_for_oven(OVEN, 5 * H)
    # lent out for the rest of it
    assert waits_for_oven(replace(OVEN, away=((2 * H, 3 * H),)), 5 * H)
    assert waits_for_oven(replace(OVEN, count=2, away=((0, 2 * H),)), 2 * H)
    # what is taken after it has begun does not count
    assert not waits_for_oven(OVEN, 2 * H, first_s=2 * H)


def test_heat_without_anybody_for_long_is_a_caution() -> None:
    bake = Step(key="a", job="Ammonite", label="Post-cure", alone_s=6 * H, uses=("oven",))

    def alone(begins_s: int, windows: tuple[Window, ...] = DAY, step: Step = bake) -> list[dict[str, object]]:
        of = work(step, things=(OVEN,), windows=windows)
        return told(
            unattended_findings(of, plan_of(of, {"a": begins_s}, {}), {"oven": "the oven"}), "schedule-unattended"
        )

    assert alone(0) == []  # somebody works from 0 to 9 h
    # from 5 to 11 h: two hours of it after work, which is not long yet; from 6 to 12 h three
    assert LONG_ALONE_S == 2 * H
    assert alone(5 * H) == []
    assert alone(6 * H) == [
        {"step": "“Post-cure”", "job": "Ammonite", "thing": "the oven", "alone": Amount(180.0, "time")}
    ]
    # a break of an hour within the day and one of two more after it
    assert alone(0, ((0, 2 * H), (3 * H, 4 * H)))[0]["alone"] == Amount(180.0, "time")
    assert alone(6 * H, step=replace(bake, uses=())) == []


def test_what_could_not_be_planned_as_it_was_meant() -> None:
    past = Step(key="a", job="Cleat", label="Pour", attended_s=H)
    found = gathering_findings(["an oven"], {"Badges": 12}, [past], [("Ring", "It gels before it is poured.")])
    facts = {one.code: dict(one.facts) for one in found}
    assert facts["schedule-stopped"] == {"job": "Ring", "stop": "It gels before it is poured."}
    assert facts["schedule-time-past"] == {"step": "“Pour”", "job": "Cleat"}
    assert facts["schedule-shots-later"] == {"order": "Badges", "shots": "12"}
    assert "an oven" in str(facts["schedule-no-equipment"])
    assert gathering_findings([], {}, []) == ()
