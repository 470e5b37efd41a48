"""The pages of the plan: what they show, what they refuse with what was typed kept, and the calendar."""

import re
from datetime import UTC, datetime, timedelta

import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient
from icalendar import Calendar

from ufrin.actions.job import stations
from ufrin.actions.schedule import shop_people, what_if
from ufrin.core.schedule import promise
from ufrin.core.schedule.effort import Effort
from ufrin.store.connection import Database

CORMORANT = 5


def ahead(days: float) -> str:
    return f"{datetime.now(UTC) + timedelta(days=days):%Y-%m-%dT%H:%M}"


def page(client: TestClient, path: str = "/plan", status: int = 200) -> BeautifulSoup:
    answer = client.get(path)
    assert answer.status_code == status, answer.text
    return BeautifulSoup(answer.text, "lxml")


def test_nothing_at_work_says_what_to_do(client: TestClient) -> None:
    found = page(client)
    assert "Nothing is at work." in found.text
    assert found.find("a", string="Board")


def test_it_answers_first_and_draws_every_lane(client: TestClient, filled: Database) -> None:
    found = page(client, "/plan?days=7")
    plan = client.get("/plan?days=7").context["shown"]
    assert found.find(class_="answer").find(class_="what").text.startswith("Next: ")
    assert {one["data-drag"] for one in found.select("svg [data-drag]")} <= {one.key for one in plan.steps}
    lanes = [one.find(string=True, recursive=False) for one in found.select("svg .sch-name")]
    assert {"Wren", "Tamsin", "Drying oven", "Perched cormorant"} <= set(lanes)
    assert found.find(id="plan-search") is not None
    assert [one.text for one in found.select(".bar a[aria-current]")] == ["A week"]
    fragment = client.get("/plan", headers={"HX-Request": "true"})
    assert fragment.text.lstrip().startswith('<div id="plan"')
    assert "No worker is running" in client.get("/plan/search").text  # the tests run none


def test_a_step_is_put_freed_and_ticked(client: TestClient, filled: Database) -> None:
    key = f"job:{CORMORANT}:pour-all"
    plan = client.get("/plan").context["shown"]
    first = plan.step(key)
    form = page(client, f"/plan?step={key}").find(id="step")
    assert (
        form.find("input", {"name": "begins"})["value"][:16]
        == f"{datetime.fromtimestamp(first.begins_s, UTC):%Y-%m-%dT%H:%M}"
    )
    # a day of work later, at the same time
    later = first.begins_s + 7 * 86_400
    assert (
        client.post("/plan/put", data={"step": key, "begins": f"@{later:.0f}"}, follow_redirects=False).status_code
        == 303
    )
    assert client.get("/plan").context["shown"].step(key).begins_s == later
    assert "Move it where it fits" in page(client, f"/plan?step={key}").text
    client.post("/plan/free", data={"step": key})
    assert client.get("/plan").context["shown"].step(key).begins_s < later
    shop_people.add_other_work(filled, name="Sweep", attended_min=10, person_id=None, equipment_id=None, by="")
    (sweep,) = (one for one in client.get("/plan").context["shown"].steps if one.label == "Sweep")
    client.post("/plan/tick", data={"step": sweep.key})
    assert not any(one.label == "Sweep" for one in client.get("/plan").context["shown"].steps)


def test_a_tick_is_taken_back(client: TestClient, filled: Database) -> None:
    shop_people.add_other_work(filled, name="Sweep", attended_min=10, person_id=None, equipment_id=None, by="")
    plan = client.get("/plan").context["shown"]
    sweep = next(one.key for one in plan.steps if one.label == "Sweep")
    cast = next(one.key for one in plan.steps if one.tick == "first-cast")
    for key in (sweep, cast):
        client.post("/plan/tick", data={"step": key})
        found = page(client)
        assert f'value="{key}"' in str(found.find_all("details", class_="plan-later"))
        assert client.get("/plan").context["shown"].step(key) is None
        assert client.post("/plan/untick", data={"step": key}, follow_redirects=False).status_code == 303
        assert client.get("/plan").context["shown"].step(key) is not None
    again = client.post("/plan/untick", data={"step": sweep})
    assert again.status_code == 422
    assert "was not ticked off today" in again.text


@pytest.mark.parametrize(
    ("path", "form", "says"),
    [
        ("put", {"step": f"job:{CORMORANT}:pour-all", "begins": "some day"}, "Type a day and a time"),
        ("put", {"step": f"job:{CORMORANT}:pour-all", "begins": "2020-01-01T10:00"}, "That time is past"),
        ("put", {"step": f"job:{CORMORANT}:pour-all", "begins": ahead(1), "person": "77"}, "does not work here"),
        ("put", {"step": "job:1:gone", "begins": ahead(1)}, "not on the plan any more"),
        ("put", {}, "not on the plan any more"),
        ("tick", {"step": f"job:{CORMORANT}:first-cast", "at": ahead(1)}, "still to come"),
        ("tick", {"step": f"job:{CORMORANT}:pour-all"}, "Go on there"),
        ("what-if", {"kind": "wish", "job": "5", "by": "2020-01-01T10:00"}, "That time is past"),
        ("what-if", {"kind": "wish", "job": "5", "by": "@999999999999"}, "nobody plans for"),
        ("what-if", {"kind": "wish", "job": "5", "by": "9999-12-31T23:59"}, "nobody plans for"),
        ("what-if", {"kind": "hours", "until": "midnight"}, "“midnight” is no time of the day. Write it as 08:00"),
        ("what-if", {"kind": "<b>"}, "not one of the questions"),
        ("promise", {"of": "casts", "mould": "2", "pieces": "0"}, "How many pieces?"),
    ],
)
def test_what_is_refused_is_told_and_kept(
    client: TestClient, filled: Database, path: str, form: dict[str, str], says: str
) -> None:
    answer = client.post(f"/plan/{path}", data=form)
    assert answer.status_code == 422
    found = BeautifulSoup(answer.text, "lxml")
    assert any(says in one.text for one in found.select("[role=alert]"))
    for name in ("by", "until"):
        if name in form:
            assert form[name] in {one.get("value") for one in found.select(f"#what-if [name={name}]")}


def test_questions_are_answered_where_they_are_asked(
    client: TestClient, filled: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(what_if, "EACH", Effort(most_s=0.4))
    monkeypatch.setattr(promise, "DRAWS", 20)
    asked = client.post("/plan/what-if", data={"kind": "hands"})
    assert asked.status_code == 200
    answer = BeautifulSoup(asked.text, "lxml").select_one("#what-if .told-answer")
    assert answer is not None
    assert "One more pair of hands" in answer.text
    assert "EUR" in answer.text
    promised = client.post("/plan/promise", data={"of": "casts", "mould": "2", "pieces": "4"})
    answer = BeautifulSoup(promised.text, "lxml").select_one("#promise .told-answer")
    assert answer is not None
    assert "is safe to promise" in answer.text


def test_people_equipment_days_off_and_other_work_are_entered_and_taken_back(
    client: TestClient, filled: Database
) -> None:
    for what, form in (
        ("hours", {"hours": "7-12, 12:30-16", "hour_cost": "21.5", "day-1": "yes", "day-6": "yes"}),
        ("person", {"name": "Alder", "hours": "10-14", "day-2": "yes"}),
        ("off", {"first_day": ahead(3)[:10], "person_id": "1"}),
        ("equipment", {"equipment_name": "Second pot", "kind": "pot", "number": "2", "price": "99"}),
        ("lent", {"equipment_id": "1", "from_at": ahead(1), "until_at": ahead(2)}),
        ("other", {"work_name": "Meet the <curator>", "attended_min": "1 h", "finish_by": ahead(4), "person_id": "2"}),
        ("secrets", {}),
    ):
        answer = client.post(f"/plan/shop/{what}", data=form, follow_redirects=False)
        assert answer.status_code == 303, answer.text
    found = shop_people.look(filled)
    assert (found.hours.hours, found.hours.days, found.hours.hour_cost) == ("07:00-12:00, 12:30-16:00", [1, 6], 21.5)
    assert [(one.name, one.hours, one.days) for one in found.people][-1] == ("Alder", "10:00-14:00", [2])
    assert "Meet the &lt;curator&gt;" in client.get("/plan/shop").text
    pot = next(one for one in found.equipment if one.name == "Second pot")
    oven = next(one for one in found.equipment if one.away)
    assert (pot.number, pot.price, found.other_work[-1].attended_min) == (2, 99.0, 60.0)
    assert client.get("/plan").status_code == 200
    for path in (
        f"equipment/{pot.id}",
        f"lent/{oven.away[0][0]}",
        f"days_off/{found.days_off[0].id}",
        f"person/{found.people[-1].id}",
    ):
        assert client.post(f"/plan/shop/{path}/forget", follow_redirects=False).status_code == 303
        assert client.post(f"/plan/shop/{path}/forget").status_code == 404
    left = shop_people.look(filled)
    assert (len(left.people), left.days_off, any(one.away for one in left.equipment)) == (2, (), False)


@pytest.mark.parametrize(
    ("what", "form", "says"),
    [
        ("hours", {"hours": "17-8", "day-1": "yes"}, "ends before it begins"),
        ("hours", {"hours": "8-17"}, "Choose at least one"),
        ("hours", {"hours": "8-17", "day-1": "yes", "hour_cost": "much"}, "must be a number"),
        ("hours", {"hours": "8-17", "day-1": "yes", "hour_cost": "nan"}, "0 or more"),
        ("person", {"name": "Wren"}, "works here already"),
        ("person", {"name": "  "}, "What is this person called?"),
        ("person", {"name": "Rook", "hours": "all day"}, "such as 8:00-12:00"),
        ("off", {"first_day": "tomorrow"}, "such as 2026-12-24"),
        ("off", {"first_day": "2020-01-01"}, "are over"),
        ("off", {"first_day": "2031-01-02", "last_day": "2031-01-01"}, "before the first"),
        ("off", {"first_day": ahead(1)[:10], "person_id": "99"}, "does not work here any more"),
        ("equipment", {"equipment_name": "", "kind": "oven"}, "What is it called?"),
        ("equipment", {"equipment_name": "X", "kind": "lathe"}, "not one of the kinds"),
        ("equipment", {"equipment_name": "X", "kind": "oven", "number": "0"}, "Between 1 and 100"),
        ("equipment", {"equipment_name": "Drying oven", "kind": "oven"}, "of this name already"),
        ("lent", {"equipment_id": "1", "from_at": ahead(2), "until_at": ahead(1)}, "before it is lent out"),
        ("lent", {"equipment_id": "99", "from_at": ahead(1), "until_at": ahead(2)}, "not here any more"),
        ("other", {"work_name": "Sweep", "attended_min": "soon"}, "attended_min|time"),
        ("other", {"work_name": "Sweep", "attended_min": "30 h"}, "at most 24 h"),
        (
            "other",
            {"work_name": "Sweep", "attended_min": "5 min", "finish_by": "2020-01-01T10:00"},
            "That time is past",
        ),
        ("nonsense", {}, "not one of the choices"),
    ],
)
def test_what_cannot_be_entered_is_told(
    client: TestClient, filled: Database, what: str, form: dict[str, str], says: str
) -> None:
    answer = client.post(f"/plan/shop/{what}", data=form)
    assert answer.status_code == 422
    assert any(re.search(says, one.text) for one in BeautifulSoup(answer.text, "lxml").select("[role=alert]")), (
        answer.text
    )


def test_somebody_must_stay(client: TestClient, filled: Database) -> None:
    first, second = shop_people.look(filled).people
    assert client.post(f"/plan/shop/person/{first.id}/forget", follow_redirects=False).status_code == 303
    answer = client.post(f"/plan/shop/person/{second.id}/forget")
    assert answer.status_code == 422
    assert "Somebody must do the work" in answer.text


def test_the_calendar_is_read_by_whoever_has_its_address(client: TestClient, filled: Database) -> None:
    plan = client.get("/plan").context["shown"]
    found = shop_people.look(filled)
    answer = client.get(f"/calendar/{found.hours.secret}.ics")
    assert answer.headers["content-type"].startswith("text/calendar")
    events = list(Calendar.from_ical(answer.content).walk("VEVENT"))
    assert sorted(str(one["uid"]) for one in events) == sorted(f"{one.key}@ufrin" for one in plan.steps)
    by_uid = {str(one["uid"]): one for one in events}
    for one in plan.steps:
        event = by_uid[f"{one.key}@ufrin"]
        assert event.decoded("dtstart").timestamp() == one.begins_s
        assert event.decoded("dtend").timestamp() == max(one.ends_s, one.begins_s + 60)
    wren = found.people[0]
    own = Calendar.from_ical(client.get(f"/calendar/{wren.secret}.ics").content).walk("VEVENT")
    assert len(own) == sum(one.person == "Wren" for one in plan.steps)
    assert client.get("/calendar/guess.ics").status_code == 404


def test_a_job_is_left_off_from_the_page(client: TestClient, filled: Database) -> None:
    client.post(f"/plan/jobs/{CORMORANT}", data={"off": "yes"})
    assert "Plan it again" in page(client).text
    client.post(f"/plan/jobs/{CORMORANT}", data={"off": "no"})
    assert "Plan it again" not in page(client).text


def test_names_with_marks_in_them_stay_text(client: TestClient, database: Database) -> None:
    shop_people.add_other_work(
        database, name='<script>"x"</script>', attended_min=5, person_id=None, equipment_id=None, by=""
    )
    stations.start_job(database, "Quiet")
    text = client.get("/plan?days=7").text
    assert '<script>"x"' not in text
    assert "&lt;script&gt;" in text
