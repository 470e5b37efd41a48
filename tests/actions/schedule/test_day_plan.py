"""The plan of the demo's workshop: gathered, made, moved, ticked, searched for, asked and promised."""

from dataclasses import replace
from datetime import UTC, datetime, timedelta
from itertools import pairwise
from types import SimpleNamespace

import pytest
from plan_rules import broken_rules

from ufrin.actions import RESINS
from ufrin.actions.bench import sequence
from ufrin.actions.job import stations
from ufrin.actions.job.open_job import opened_at
from ufrin.actions.moulds import cards, orders
from ufrin.actions.schedule import day_plan, job_in_plan, moving, promises, shop_people, shop_work, what_if
from ufrin.actions.schedule.shop_work import gather
from ufrin.actions.shelf import things
from ufrin.core.clocks.moment import Moment
from ufrin.core.moulds.run_plan import weekday
from ufrin.core.schedule import promise
from ufrin.core.schedule.day_plan import DayPlan, DayStep
from ufrin.core.schedule.effort import Effort
from ufrin.core.schedule.steps import PlacedStep, SchedulePlan
from ufrin.demo import pour_today
from ufrin.errors import Missing, Refused
from ufrin.store import schedule
from ufrin.store.connection import Database

# a Monday morning that is still to come, so that no day off of the tests is over
_DAYS_ON = (7 - datetime.now(UTC).weekday()) or 7
MONDAY = (datetime.now(UTC) + timedelta(days=_DAYS_ON)).replace(hour=8, minute=0, second=0, microsecond=0)
NOW = Moment(wall_s=MONDAY.timestamp(), steady_s=0.0, machine="test")
HOUR = 3600.0
CORMORANT, NET_FLOAT, PULLEY = 5, 3, 6
MOORING_RING = 6  # the number of its mould


@pytest.fixture(autouse=True)
def quickly(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(day_plan, "AT_LENGTH", Effort(most_s=2.0))
    monkeypatch.setattr(what_if, "EACH", Effort(most_s=0.5))
    monkeypatch.setattr(promise, "DRAWS", 25)


class _Curing:
    """A cast that cures, of which only what the plan looks at is there."""

    def __init__(self, job_id: int, name: str, left_s: float) -> None:
        self.left_s = left_s
        self.pour = SimpleNamespace(id=77, job_id=job_id, job_name=name, plan=SimpleNamespace(cast_kind="solid"))

    def runs(self) -> SimpleNamespace:
        return SimpleNamespace(running=(SimpleNamespace(pour=self.pour, clock=SimpleNamespace(left_s=self.left_s)),))


def later(hours: float) -> Moment:
    return replace(NOW, wall_s=NOW.wall_s + hours * HOUR, steady_s=NOW.steady_s + hours * HOUR)


def plan_of(database: Database, now: Moment = NOW) -> DayPlan:
    page = day_plan.look(database, now)
    assert page.refused == ""
    shown = page.proposed or page.plan
    assert shown is not None
    return shown


def step(plan: DayPlan, key: str) -> DayStep:
    found = plan.step(key)
    assert found is not None, [one.key for one in plan.steps]
    return found


def typed(at_s: float) -> str:
    return f"{datetime.fromtimestamp(at_s, UTC):%Y-%m-%dT%H:%M}"


def check(database: Database, plan: DayPlan, now: Moment = NOW) -> None:
    shop = gather(database, now)
    ids = {one.name: str(one.id) for one in shop.people}
    placed = tuple(
        PlacedStep(
            key=one.key,
            begins_s=round(one.begins_s - shop.start_s),
            hands_off_s=round(one.hands_off_s - shop.start_s),
            ends_s=round(one.ends_s - shop.start_s),
            person=ids.get(one.person),
        )
        for one in plan.steps
    )
    assert broken_rules(shop.work, SchedulePlan(placed=placed, makespan_s=0, late_s=0)) == []


def test_a_job_with_a_stop_is_not_planned_but_told(filled: Database) -> None:
    assert any(one.job == "Net float" for one in gather(filled, NOW).work.steps)
    version = stations.station_form(filled, NET_FLOAT, "rubber").job.versions["rubber"]
    # a batch that outlives its pot life
    stations.change_station(filled, NET_FLOAT, "rubber", version=version, changes={"mix_min": 600.0})
    shop = gather(filled, NOW)
    assert not any(one.job == "Net float" for one in shop.work.steps)
    assert [one.facts["job"] for one in shop.findings if one.code == "schedule-stopped"] == ["Net float"]


def test_it_gathers_jobs_casts_orders_and_other_work_with_people_and_things(filled: Database) -> None:
    shop_people.add_other_work(
        filled,
        name="Pack the crate",
        attended_min=45,
        person_id=None,
        equipment_id=None,
        by=typed(NOW.wall_s + 9 * HOUR),
    )
    shop = gather(filled, NOW)
    steps = shop.work.by_key()
    oven = next(f"equipment:{one.id}" for one in shop.equipment if one.kind == "oven")
    assert steps[f"job:{NET_FLOAT}:post-cure"].uses == (oven,)
    assert steps[f"job:{NET_FLOAT}:post-cure"].attended_s == 5 * 60
    cure = steps[f"job:{NET_FLOAT}:cure-all"]
    assert (cure.after[0].key, cure.after[0].at_most_s, cure.attended_s) == (f"job:{NET_FLOAT}:pour-all", 0, 0)
    shots = [one for one in steps.values() if ":shot-" in one.key]
    assert shots
    assert all(one.uses[0].startswith("mould:") for one in shots)
    assert steps["other:1:do"].finish_by_s == 9 * 3600
    assert [one.name for one in shop.people] == ["Wren", "Tamsin"]
    plan = plan_of(filled)
    check(filled, plan)
    assert {one.person for one in plan.steps if one.is_attended and not one.is_under_way} <= {"Wren", "Tamsin"}
    # Tamsin works from nine to three
    hers = [one for one in plan.steps if one.person == "Tamsin"]
    assert all(9 <= datetime.fromtimestamp(one.begins_s, UTC).hour < 15 for one in hers)


def test_a_plan_stays_while_only_the_time_goes_on_and_is_made_again_when_a_step_is_overdue(filled: Database) -> None:
    first = plan_of(filled)
    assert plan_of(filled, later(4 / 60)) == first
    again = plan_of(filled, later(1))
    assert again != first
    assert all(one.begins_s >= later(1).wall_s or one.is_under_way for one in again.steps)
    check(filled, again, later(1))


def test_what_is_put_at_a_time_stays_there_and_the_rest_gives_way(filled: Database) -> None:
    key = f"job:{CORMORANT}:pour-all"
    before = step(plan_of(filled), key)
    at_s = NOW.wall_s + 25 * HOUR
    tamsin = next(str(one.id) for one in shop_people.look(filled).people if one.name == "Tamsin")
    moving.put(filled, key, typed=typed(at_s), person=tamsin, now=NOW)
    plan = plan_of(filled)
    moved = step(plan, key)
    assert (moved.begins_s, moved.person, moved.is_placed) == (at_s, "Tamsin", True)
    assert step(plan, f"job:{CORMORANT}:cure-all").begins_s == moved.hands_off_s
    check(filled, plan)
    assert plan_of(filled, later(0.05)) == plan
    moving.free(filled, key)
    freed = step(plan_of(filled), key)
    assert (freed.begins_s, freed.is_placed) == (before.begins_s, False)


@pytest.mark.parametrize(
    ("key", "hours", "says"),
    [
        (f"job:{CORMORANT}:take-out", 1.0, "“It cures” comes before it"),
        (f"job:{CORMORANT}:pour-all", -1.0, "That time is past"),
        (f"job:{CORMORANT}:pour-all", 24.0 * 200, "more than 80 days ahead"),
        (f"job:{CORMORANT}:pour-all", 17.0, "Nobody works then"),  # at one in the night
        ("job:99:pour-all", 3.0, "not on the plan any more"),
    ],
)
def test_what_cannot_be_put_at_a_time_is_told_at_once(filled: Database, key: str, hours: float, says: str) -> None:
    before = plan_of(filled)
    with pytest.raises(Refused, match=says):
        moving.put(filled, key, typed=typed(NOW.wall_s + hours * HOUR), person="", now=NOW)
    assert plan_of(filled) == before


def test_two_steps_of_one_person_cannot_be_put_at_one_time(filled: Database) -> None:
    wren = next(str(one.id) for one in shop_people.look(filled).people if one.name == "Wren")
    at = typed(NOW.wall_s + 50 * HOUR)
    moving.put(filled, f"job:{CORMORANT}:pour-all", typed=at, person=wren, now=NOW)
    with pytest.raises(Refused, match="can't begin at the time that was set"):
        moving.put(filled, f"job:{NET_FLOAT}:pour-all", typed=at, person=wren, now=NOW)


@pytest.mark.parametrize("text", ["", "Friday", "2026-13-01T10:00", "@", "@9e99", "0001-01-01T00:00"])
def test_what_is_no_time_is_refused(filled: Database, text: str) -> None:
    with pytest.raises(Refused):
        moving.put(filled, f"job:{CORMORANT}:pour-all", typed=text, person="", now=NOW)


def test_a_step_ticked_late_moves_the_rest(filled: Database) -> None:
    plan = plan_of(filled)
    first = next(one for one in plan.steps if one.tick == "first-cast")
    moving.tick(filled, first.key, typed=typed(NOW.wall_s - HOUR), now=NOW)
    again = plan_of(filled)
    assert again.step(first.key) is None
    assert first.job_id is not None
    kept = job_in_plan.of_job(filled, first.job_id, NOW)
    assert next(one.step.done_at_s for one in kept.steps if one.step.key == first.tick) == NOW.wall_s - HOUR
    check(filled, again)
    for key, text, says in (
        (first.key, "", "not on the plan any more"),
        (f"job:{CORMORANT}:pour-all", "", "follows from what is done at the bench"),
        (f"job:{NET_FLOAT}:first-cast", typed(NOW.wall_s + HOUR), "still to come"),
    ):
        with pytest.raises(Refused, match=says):
            moving.tick(filled, key, typed=text, now=NOW)


def test_a_plan_that_breaks_a_promise_is_looked_at_before_it_counts(filled: Database) -> None:
    ends_s = step(plan_of(filled), f"job:{NET_FLOAT}:first-cast").ends_s
    sequence.wish(filled, NET_FLOAT, typed(ends_s + HOUR), NOW)
    before = day_plan.look(filled, NOW)
    assert before.proposed is None
    assert before.plan is not None
    oven = next(one.id for one in shop_people.look(filled).equipment if one.kind == "oven")
    shop_people.lend(filled, oven, from_at=typed(NOW.wall_s), until_at=typed(NOW.wall_s + 100 * HOUR))
    page = day_plan.look(filled, NOW)
    assert page.plan == before.plan
    assert page.proposed is not None
    (touched,) = page.touched
    assert (touched.step.key, touched.step.late_s > 0) == (f"job:{NET_FLOAT}:first-cast", True)
    assert any("waits for the Drying oven" in one.text() for one in page.findings)
    assert day_plan.look(filled, NOW).proposed == page.proposed
    moving.take_proposed(filled)
    taken = day_plan.look(filled, NOW)
    assert (taken.plan, taken.proposed) == (page.proposed, None)
    lent = next(away[0] for one in shop_people.look(filled).equipment for away in one.away)
    shop_people.forget(filled, "lent", lent)
    assert step(plan_of(filled), f"job:{NET_FLOAT}:first-cast").late_s == 0


def test_a_worker_finds_the_best_plan_and_leaves_one_that_nobody_wants_any_more(filled: Database) -> None:
    first = day_plan.look(filled, NOW)
    assert first.is_searching
    assert first.shop is not None
    assert day_plan.search(filled, "something else", NOW) == "changed"
    assert day_plan.search(filled, first.shop.fingerprint, NOW) == "done"
    found = day_plan.look(filled, NOW)
    assert not found.is_searching
    assert found.plan is not None
    assert first.plan is not None
    assert (found.plan.late_s, found.plan.ends_s) <= (first.plan.late_s, first.plan.ends_s)
    check(filled, found.plan)
    progress = found.search.progress
    assert progress is None or progress["share"] <= 1


def test_a_search_without_a_way_is_refused_with_its_reason(filled: Database) -> None:
    shop_people.change_hours(filled, hours="8:00-8:10", days=[1], hour_cost=0)
    for one in shop_people.look(filled).people:
        shop_people.save_person(filled, one.id, name=one.name, hours="", days=())
    page = day_plan.look(filled, NOW)
    assert "longest stretch of working time is 10 min" in page.refused
    assert page.shop is None


def test_what_no_equipment_was_entered_for_is_planned_without_and_told(filled: Database) -> None:
    for one in shop_people.look(filled).equipment:
        shop_people.forget(filled, "equipment", one.id)
    page = day_plan.look(filled, NOW)
    assert page.plan is not None
    assert step(page.plan, f"job:{NET_FLOAT}:post-cure").uses == ()
    assert any(one.text().startswith("A step needs an oven, and none is entered") for one in page.findings)


def test_a_mould_that_was_cast_in_is_made_until_the_next_one_is_begun(filled: Database) -> None:
    assert not any(one.job_id == PULLEY and not one.order_id for one in plan_of(filled).steps)
    pour_today(filled, NOW)  # among them the first half of a second mould
    keys = {one.key for one in plan_of(filled).steps}
    assert f"job:{PULLEY}:turn" in keys
    assert f"job:{PULLEY}:pour-second" in keys


def test_a_time_that_is_past_lets_its_step_go_where_it_fits(filled: Database) -> None:
    key = f"job:{CORMORANT}:pour-all"
    plan_of(filled)
    moving.put(filled, key, typed=typed(NOW.wall_s + 26 * HOUR), person="", now=NOW)
    assert step(plan_of(filled), key).is_placed
    # a minute more is another time, and is planned again
    moving.put(filled, key, typed=typed(NOW.wall_s + 26 * HOUR + 60), person="", now=NOW)
    assert step(plan_of(filled), key).begins_s == NOW.wall_s + 26 * HOUR + 60
    page = day_plan.look(filled, later(28))
    assert page.plan is not None
    assert any("placed at a time that is past" in one.text() for one in page.findings)
    late = step(page.proposed or page.plan, key)
    assert not late.is_placed
    assert late.begins_s >= later(28).wall_s


def test_a_search_goes_on_by_its_time_and_is_asked_for_again_when_it_was_lost(filled: Database) -> None:
    asked = day_plan.look(filled, NOW)
    assert not asked.has_worker  # the tests run none
    real = Moment(wall_s=asked.search.asked_s, steady_s=0.0, machine="test")
    shares = [day_plan.share_done(asked.search, replace(real, wall_s=real.wall_s + one)) for one in (0, 2, 4, 400)]
    assert shares == sorted(shares)
    assert (shares[0], shares[-1]) == (0.02, 0.98)
    with filled.transaction() as connection:
        connection.execute("update schedule_search set asked_at = now() - interval '1 hour'")
        connection.execute("delete from procrastinate_jobs")
    lost = replace(NOW, wall_s=max(NOW.wall_s, real.wall_s))
    day_plan.look(filled, lost)
    with filled.reading() as connection:
        row = connection.execute(
            "select count(*) as n from procrastinate_jobs where task_name = 'search_plan'"
        ).fetchone()
    assert row is not None
    assert row["n"] == 1


def test_a_job_that_is_left_off_is_not_planned(filled: Database) -> None:
    moving.leave_off(filled, NET_FLOAT, off=True)
    page = day_plan.look(filled, NOW)
    assert page.plan is not None
    assert not any(one.job_id == NET_FLOAT for one in page.plan.steps)
    assert page.left_off == ((NET_FLOAT, "Net float"),)
    moving.leave_off(filled, NET_FLOAT, off=False)
    assert any(one.job_id == NET_FLOAT for one in plan_of(filled).steps)
    with pytest.raises(Missing):
        moving.leave_off(filled, 999, off=True)


def test_what_ifs_tell_time_and_money(filled: Database) -> None:
    shop_people.change_hours(filled, hours="08:00-12:00, 12:30-17:00", days=range(1, 6), hour_cost=20.0)
    hands = what_if.ask(filled, "hands", {}, NOW)
    assert hands.ends_s <= hands.before_s
    assert hands.cost is not None
    oven = next(one for one in shop_people.look(filled).equipment if one.kind == "oven")
    another = what_if.ask(filled, "thing", {"equipment_id": str(oven.id)}, NOW)
    assert (another.cost, another.ends_s <= another.before_s) == (oven.price, True)
    longer = what_if.ask(filled, "hours", {"until": "20:00"}, NOW)
    assert longer.ends_s <= longer.before_s
    assert longer.cost is not None
    assert longer.cost_of.endswith("after closing time")
    met = what_if.ask(filled, "wish", {"job": str(CORMORANT), "by": typed(NOW.wall_s + 24 * 60 * HOUR)}, NOW)
    assert "It can be met" in met.told[0]
    missed = what_if.ask(filled, "wish", {"job": str(CORMORANT), "by": typed(NOW.wall_s + HOUR)}, NOW)
    assert "It can't be met: the wish is missed by" in missed.told[0]
    # nothing of it is kept
    assert job_in_plan.of_job(filled, CORMORANT, NOW).wish_s is None


def test_a_faster_rubber_is_earlier_and_tells_its_price_and_pot_life(filled: Database) -> None:
    quick = 3  # Quay Quick 20
    answer = what_if.ask(filled, "rubber", {"job": str(CORMORANT), "rubber_id": str(quick)}, NOW)
    assert answer.asked == "Perched cormorant in Quay Quick 20"
    assert any("pot life" in one for one in answer.told)
    assert answer.cost_of == "the rubber against the one that is planned"
    with filled.reading() as connection:
        assert sequence.opened_at(connection, CORMORANT, "rubber").job.rubber.rubber_id != quick


@pytest.mark.parametrize(
    ("kind", "asked", "field"),
    [
        ("nothing", {}, ""),
        ("wish", {"job": "99", "by": "2030-01-01T10:00"}, "job"),
        ("wish", {"job": "5", "by": "soon"}, "by"),
        ("wish", {"job": "5", "by": "2020-01-01T10:00"}, "by"),
        ("thing", {"equipment_id": "77"}, "equipment_id"),
        ("hours", {"until": "late"}, "until"),
        ("hours", {"until": "19:00+01:00"}, "until"),
        ("wish", {"job": "²", "by": "2030-01-01T10:00"}, "job"),
        ("rubber", {"job": "5", "rubber_id": "9" * 60}, "rubber_id"),
        ("hours", {"until": "16:00"}, "until"),
        ("rubber", {"job": "5", "rubber_id": "77"}, "rubber_id"),
        ("rubber", {"job": "x", "rubber_id": "1"}, "job"),
    ],
)
def test_what_cannot_be_asked_is_refused(filled: Database, kind: str, asked: dict[str, str], field: str) -> None:
    with pytest.raises(Refused) as refused:
        what_if.ask(filled, kind, asked, NOW)
    assert refused.value.field == field


def test_a_step_has_one_date_on_its_sequence_its_calendar_and_the_plan(filled: Database) -> None:
    plan = {one.key: one for one in plan_of(filled).steps}
    jobs_in_plan = {one.job_id for one in plan.values() if one.key.startswith("job:")}
    assert len(jobs_in_plan) > 2
    for number in jobs_in_plan:
        seen = job_in_plan.of_job(filled, number, NOW)
        to_come = [one for one in seen.steps if one.state == "to come"]
        assert seen.is_planned is bool(to_come)
        for one in to_come:
            planned = plan[f"job:{number}:{one.step.key}"]
            assert (one.begins_s, one.ends_s) == (planned.begins_s, planned.ends_s)
        # and Casts gets ready by the same date of the first cast
        with filled.reading() as connection:
            opened = opened_at(connection, number, "casts")
        first_cast = next((one for one in to_come if one.step.key == "first-cast"), None)
        if first_cast and not opened.last_shot_s:
            assert sequence.cast_from_s(opened, NOW) == first_cast.begins_s
    # what the plan leaves out is dated by itself
    number = next(iter(sorted(jobs_in_plan)))
    moving.leave_off(filled, number, off=True)
    assert not job_in_plan.of_job(filled, number, NOW).is_planned
    # and a plan that was made long before no longer counts
    with filled.reading() as connection:
        other = opened_at(connection, max(jobs_in_plan), "casts")
    assert other.planned_s
    assert not sequence.planned(other, other.planned_s, later(24 * 60)).is_planned
    # but one that is missed by a minute is the plan still, as it is on its own page
    first_s = min(begins for begins, _ in other.planned_s.values())
    just_after = replace(NOW, wall_s=first_s + 60)
    assert sequence.planned(other, other.planned_s, just_after).is_planned
    assert not sequence.planned(other, other.planned_s, replace(NOW, wall_s=first_s + 400)).is_planned


def test_a_promise_moves_nothing_and_has_a_band(filled: Database) -> None:
    before = plan_of(filled)
    answer = promises.ask(filled, {"of": "casts", "mould": "2", "pieces": "3"}, NOW)
    assert NOW.wall_s < answer.early_s <= answer.late_s
    assert answer.late_s >= answer.ends_s - HOUR
    assert plan_of(filled) == before
    more = promises.ask(filled, {"of": "casts", "mould": "2", "pieces": "12"}, NOW)
    assert more.ends_s > answer.ends_s
    mould = promises.ask(filled, {"of": "mould", "job": str(CORMORANT)}, NOW)
    assert mould.asked == "Another mould like Perched cormorant"
    assert mould.ends_s > NOW.wall_s + 3 * HOUR


def test_a_promise_pours_new_moulds_once_the_one_that_is_there_is_worn(filled: Database) -> None:
    card = cards.look(filled, MOORING_RING)
    in_use = [one.number for one in card.cavities if not one.retired]
    assert 1 < len(in_use) < len(card.cavities) == orders.usual_wish(card).cavities
    lasts = len(in_use) * int(card.life.left.at_least(card.workshop.confidence_pct / 100) // len(in_use))

    def asked(pieces: int) -> promises.PromiseAnswer:
        return promises.ask(filled, {"of": "casts", "mould": str(MOORING_RING), "pieces": str(pieces)}, NOW)

    assert asked(1).asked == "1 of Mooring ring, three at once"
    beyond = asked(lasts + 12)
    assert beyond.asked.startswith(f"{lasts + 12} of Mooring ring, three at once. The mould that is there will not")
    # a mould that is poured now can't be cast in for two days
    assert beyond.ends_s > NOW.wall_s + 48 * HOUR
    cards.retire(filled, MOORING_RING, cavities=in_use[1:], cause="torn", why="", at_s=NOW.wall_s)
    # what one cavity makes, as sure as before, is less
    assert "new ones to pour" in asked(lasts).asked
    # a resin that stays in the mould for a day is promised as well
    for kept in things.shelf(filled, RESINS).things:
        if kept.thing.demould_min:
            things.change(filled, RESINS, kept.id, version=kept.version, changes={"demould_min": 1440.0})
    assert asked(2).ends_s > NOW.wall_s + 24 * HOUR


@pytest.mark.parametrize(
    ("asked", "field"),
    [
        ({"of": "casts", "mould": "", "pieces": "3"}, "mould"),
        ({"of": "casts", "mould": "2", "pieces": "none"}, "pieces"),
        ({"of": "casts", "mould": "2", "pieces": "²"}, "pieces"),
        ({"of": "casts", "mould": "2", "pieces": "0" * 9 + "5" * 400}, "pieces"),
        ({"of": "casts", "mould": "9" * 60, "pieces": "3"}, "mould"),
        ({"of": "casts", "mould": "2", "pieces": "5000"}, "pieces"),
        ({"of": "mould", "job": "x"}, "job"),
        ({"of": "mould", "job": "13"}, "job"),
    ],
)
def test_what_cannot_be_promised_is_refused(filled: Database, asked: dict[str, str], field: str) -> None:
    stations.start_job(filled, "Nothing known yet")
    with pytest.raises(Refused) as refused:
        promises.ask(filled, asked, NOW)
    assert refused.value.field == field


def test_the_shots_of_an_order_follow_each_other_and_what_its_mould_is_due_for(filled: Database) -> None:
    (at_work,) = orders.at_work(filled)
    number, order = at_work.order.mould_id, f"order:{at_work.order.id}"
    card = cards.look(filled, number)
    details = replace(card.mould.details, release_every=3, clean_every=1)
    cards.save(filled, number, details, version=card.mould.version)
    due = {one.care: one.to_go for one in cards.look(filled, number).dues}
    assert due["clean"] <= 0
    steps = {one.key: one for one in plan_of(filled).steps}
    assert steps[f"{order}:care-clean"].ends_s <= steps[f"{order}:shot-1"].begins_s
    next_release = max(1, due["release"] + 1)
    assert steps[f"{order}:care-release"].ends_s <= steps[f"{order}:shot-{next_release}"].begins_s
    shots = sorted((int(key.rpartition("-")[2]), one) for key, one in steps.items() if ":shot-" in key)
    for (_, earlier), (_, one) in pairwise(shots):
        assert one.begins_s >= earlier.ends_s
    moving.tick(filled, f"{order}:care-clean", typed="", now=NOW)
    assert {one.care: one.to_go for one in cards.look(filled, number).dues}["clean"] == 1
    # after the next shot it is due again
    again = {one.key: one for one in plan_of(filled).steps}
    assert again[f"{order}:care-clean"].begins_s >= again[f"{order}:shot-1"].ends_s


def test_a_cast_that_cures_holds_its_mould_until_somebody_takes_it_out(
    filled: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    (order,) = (one.order for one in orders.at_work(filled))
    curing = _Curing(order.job_id, order.job_name, 3 * HOUR)
    monkeypatch.setattr(shop_work, "what_runs", lambda *_: curing.runs())
    plan = plan_of(filled)
    cure, out = step(plan, "cast:77:cure"), step(plan, "cast:77:out")
    assert (cure.is_under_way, cure.ends_s) == (True, NOW.wall_s + 3 * HOUR)
    assert out.begins_s >= cure.ends_s
    first = step(plan, f"order:{order.id}:shot-1")
    assert first.begins_s >= out.ends_s  # a mould is free once its cast is out
    check(filled, plan)
    # a witness cup that set early moves what follows
    curing.left_s = HOUR
    sooner = plan_of(filled)
    assert step(sooner, "cast:77:cure").ends_s == NOW.wall_s + HOUR
    assert step(sooner, "cast:77:out").begins_s < out.begins_s


@pytest.mark.parametrize("day", ["9999-12-31", "2190-06-01"])
def test_an_order_for_a_day_that_never_comes_is_planned(filled: Database, day: str) -> None:
    with filled.transaction() as connection:
        connection.execute("update orders set due_on = %s, pieces = 3", [day])
    assert all(one.late_s == 0 for one in plan_of(filled).steps if one.order_id)


def test_an_order_is_cast_on_the_working_days_of_the_shop(filled: Database) -> None:
    (before,) = orders.at_work(filled)
    assert before.run is not None
    assert weekday(before.run.ends_day) <= 5
    shop_people.change_hours(filled, hours="8-17", days=[6], hour_cost=0)
    (after,) = orders.at_work(filled)
    assert after.run is not None
    assert (weekday(after.run.ends_day), after.run.casting_days) == (6, before.run.casting_days)


def test_only_a_secret_opens_a_calendar(filled: Database) -> None:
    plan_of(filled)
    found = shop_people.look(filled)
    name, steps = day_plan.calendar(filled, found.hours.secret, NOW)
    assert (name, len(steps)) == ("", len(plan_of(filled).steps))
    wren = found.people[0]
    name, own = day_plan.calendar(filled, wren.secret, NOW)
    assert name == wren.name
    assert {one.person for one in own} == {wren.name}
    for secret in ("", "0" * 64, wren.secret[:-1]):
        with pytest.raises(Missing):
            day_plan.calendar(filled, secret, NOW)
    shop_people.new_addresses(filled)
    with pytest.raises(Missing):
        day_plan.calendar(filled, wren.secret, NOW)


def test_what_the_shop_took_longer_for_is_learnt(filled: Database) -> None:
    with filled.reading() as connection:
        times = schedule.pour_times(connection)
    assert times
    assert all(one > 0 for one in times)
