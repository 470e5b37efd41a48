"""The interface call on the schedule: a worked example, nights on which the clock is set, and what it refuses."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

WEEK: dict[str, Any] = {
    "start": "2026-03-02T08:00",
    "hours": [["08:00", "12:00"], ["13:00", "17:00"]],
    "days": [1, 2, 3, 4, 5],
    "people": 1,
    "equipment": {"oven": 1},
}
TWO_JOBS = [
    {"id": "a1", "job": "a", "attended_min": 30, "alone_min": 240},
    {"id": "a2", "job": "a", "attended_min": 15, "alone_min": 180, "after": [{"id": "a1"}], "uses": ["oven"]},
    {"id": "b1", "job": "b", "attended_min": 45, "alone_min": 60},
    {"id": "b2", "job": "b", "attended_min": 15, "alone_min": 180, "after": [{"id": "b1"}], "uses": ["oven"]},
]


def ask(client: TestClient, steps: list[dict[str, Any]], **change: object) -> Any:  # noqa: ANN401
    return client.post("/api/v1/schedule", json=WEEK | {"steps": steps} | change)


def test_two_jobs_and_one_oven(client: TestClient) -> None:
    answer = ask(client, TWO_JOBS)
    assert answer.status_code == 200, answer.text
    found = answer.json()
    by_id = {one["id"]: one for one in found["steps"]}
    # by hand: b1 from 8:00, alone until 9:45, in the oven until 13:00; a1 from 8:45 until 13:15, a2 until 16:30. The
    # other way round, a1 from 8:00, b1 from 8:30, b2 from 10:15 and a2 from 13:30, it is 16:45
    assert by_id["a1"] == {
        "id": "a1",
        "begins": "2026-03-02T08:45",
        "hands_off": "2026-03-02T09:15",
        "ends": "2026-03-02T13:15",
        "person": 1,
    }
    assert by_id["b2"]["begins"] == "2026-03-02T09:45"
    assert by_id["a2"]["begins"] == "2026-03-02T13:15"
    assert (found["makespan_min"], found["late_min"], found["proven"], found["gap"]) == (510, 0, True, 0)
    assert found["findings"] == []


def test_a_wish_that_cannot_be_met_is_told_with_what_is_short(client: TestClient) -> None:
    steps = [*TWO_JOBS[:3], TWO_JOBS[3] | {"finish_by": "2026-03-02T12:00"}]
    found = ask(client, steps).json()
    assert found["late_min"] == 60  # 45 + 60 + 15 + 180 min from 8:00, if it goes first
    (late,) = found["findings"]
    assert (late["level"], late["code"]) == ("warn", "schedule-late")
    assert "“b2” of b ends 60 min later than wished: its steps take that long by themselves" in late["text"]
    wished_a = [TWO_JOBS[0], TWO_JOBS[1] | {"finish_by": "2026-03-02T16:00"}, *TWO_JOBS[2:]]
    found = ask(client, wished_a, equipment={"oven": 2}).json()
    assert found["late_min"] == 15  # 30 + 240 + 15 + 180 min from 8:00, and nobody puts it into the oven before 13:00
    assert "“a2” waits for working hours" in found["findings"][0]["text"]


def test_times_alone_may_be_any_part_of_a_minute_and_hands_stay_within_hours(client: TestClient) -> None:
    steps = [
        {"id": "a", "attended_min": 239.5, "alone_min": 0.25},
        {"id": "b", "attended_min": 10, "after": [{"id": "a", "at_least_min": 0.25}]},
        {"id": "c", "after": [{"id": "b", "at_least_min": 60 * 24 * 3}]},
    ]
    found = ask(client, steps).json()
    assert [(one["id"], one["begins"], one["person"]) for one in found["steps"]] == [
        ("a", "2026-03-02T08:00", 1),
        ("b", "2026-03-02T13:00", 1),
        ("c", "2026-03-05T13:10", None),
    ]
    assert found["steps"][0]["ends"] == "2026-03-02T11:59:45"


@pytest.mark.parametrize(
    ("start", "night", "ends"),
    [
        # clocks go forward on the last Sunday of March and back on that of October (Directive 2000/84/EC)
        ("2026-03-28T16:00", "forward", "2026-03-29T17:00+02:00"),
        ("2026-10-24T16:00", "back", "2026-10-25T15:00+01:00"),
        ("2026-11-07T16:00", "none", "2026-11-08T16:00+01:00"),
    ],
)
def test_a_cure_of_24_h_over_the_night_that_the_clock_is_set(
    client: TestClient, start: str, night: str, ends: str
) -> None:
    steps = [{"id": "pour", "alone_min": 24 * 60}, {"id": "open", "attended_min": 60, "after": [{"id": "pour"}]}]
    zoned = {"start": start, "days": [6, 7], "hours": [["08:00", "18:00"]], "time_zone": "Europe/Berlin"}
    found = {one["id"]: one for one in ask(client, steps, **zoned).json()["steps"]}
    assert found["pour"]["ends"] == ends
    assert found["open"]["begins"] == ends
    # hours go by the clock on the wall on either side of it
    late = [{"id": "a", "attended_min": 121}]
    found = ask(client, late, **zoned).json()["steps"][0]
    assert found["begins"][10:16] == "T08:00"
    assert found["begins"][:10] == ends[:10]
    assert night == {"+02:00": "forward", "+01:00": "none" if "11-0" in ends else "back"}[ends[-6:]]


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"steps": [{"id": "a", "after": [{"id": "b"}]}, {"id": "b", "after": [{"id": "a"}]}]}, "in a circle"),
        ({"steps": [{"id": "a"}, {"id": "a"}]}, "Two steps have the name"),
        ({"steps": [{"id": "a", "after": [{"id": "z"}]}]}, "no such step"),
        ({"steps": [{"id": "a", "uses": ["kiln"]}]}, "needs “kiln”"),
        ({"steps": [{"id": "a", "uses": ["oven"], "alone_min": 5}], "equipment": {"oven": 0}}, "there are 0"),
        ({"steps": [{"id": "a", "attended_min": 241}]}, "longest stretch of working time is 240 min"),
        ({"steps": [{"id": "a", "attended_min": 5}], "people": 0}, "nobody can do it"),
        ({"steps": [{"id": "a", "finish_by": "2026-03-01T08:00"}]}, "lies before the start"),
        ({"steps": [{"id": "a", "finish_by": "Friday at three"}]}, "is no time"),
        ({"steps": [{"id": "a", "finish_by": "2026-03-06T08:00+01:00"}]}, "without an offset"),
        ({"steps": [{"id": "a", "finish_by": "0001-01-01T00:00+14:00"}], "time_zone": "UTC"}, "nobody plans for"),
        ({"steps": [{"id": "a", "attended_min": -1}]}, "attended_min"),
        ({"steps": [{"id": "a", "attended_min": 1e300}]}, "attended_min"),
        ({"steps": [{"id": "a", "colour": "red"}]}, "colour"),
        ({"steps": [], "hours": [["17:00", "08:00"]]}, "ends before it begins"),
        ({"steps": [], "hours": [["08:00", "12:00"], ["11:00", "15:00"]]}, "overlap at 11:00"),
        ({"steps": [], "hours": [["8 o'clock", "12:00"]]}, "no time of the day"),
        ({"steps": [], "hours": [["08:00"]]}, "hours"),
        ({"steps": [], "days": [0]}, "days"),
        ({"steps": [], "days": []}, "days"),
        ({"steps": [], "start": "tomorrow at eight"}, "is no time"),
        ({"steps": [], "start": "0001-01-01T08:00"}, "between the years"),
        ({"steps": [], "time_zone": "Nowhere/Else"}, "no time zone"),
        (
            # mixed at 16:55 at the latest, and poured within ten minutes, which takes longer than there is until five
            {
                "steps": [
                    {"id": "mix", "attended_min": 5, "after": [{"id": "day"}]},
                    {"id": "day", "attended_min": 235},
                    {"id": "pour", "attended_min": 238, "after": [{"id": "mix", "at_most_min": 10}]},
                ]
            },
            "“pour” must begin at most 10 min after “mix”, and no working hours allow that: 60 min is the shortest",
        ),
    ],
)
def test_what_cannot_be_done_is_refused_with_its_name(client: TestClient, change: dict[str, Any], says: str) -> None:
    answer = client.post("/api/v1/schedule", json=WEEK | change)
    assert answer.status_code == 422
    assert says in answer.json()["detail"]


def test_no_steps_are_a_plan(client: TestClient) -> None:
    assert ask(client, []).json() == {
        "steps": [],
        "makespan_min": 0,
        "late_min": 0,
        "proven": True,
        "gap": 0,
        "findings": [],
    }
