"""Tablets at the bench and scripts: joined once, kept to their work, thrown out at a tap; and who did what."""

import re
import threading
import time

import pytest
from fastapi.testclient import TestClient
from signing import NAMES, PASSWORD, Shop
from waiting import wait_until

from ufrin.actions.bench import pours
from ufrin.actions.people import bench_devices, change_log
from ufrin.store.connection import Database
from ufrin.web.contexts.change_words import words_of
from ufrin.web.frame import sign_in as frame_sign_in


def shown_code(shop: Shop) -> str:
    return re.findall(r'code-figure">([\w-]+)<', shop.be("maker").post("/devices/code").text)[0]


def join(client: TestClient, code: str, name: str = "By the window") -> "object":
    return client.post("/join", data={"code": code, "name": name})


def run(database: Database, statement: str) -> None:
    with database.transaction() as connection:
        connection.execute(statement)


def test_a_tablet_joins_by_its_code_once_and_stays_joined(shop: Shop, database: Database) -> None:
    code = shown_code(shop)
    assert shop.client.get(f"/devices/joined/{code}").status_code == 204
    tablet = shop.be("nobody")
    for _ in range(3):  # whoever only looks at the address, such as a preview, uses nothing up
        assert code in tablet.get("/join", params={"code": code}).text
    joined = join(tablet, code.lower())
    assert (joined.status_code, joined.headers["location"]) == (303, "/bench")  # type: ignore[attr-defined]
    assert tablet.get("/bench").status_code == 200
    assert tablet.get("/").headers["location"] == "/bench"
    assert "HttpOnly" in joined.headers["set-cookie"]  # type: ignore[attr-defined]
    replayed = join(TestClient(tablet.app, base_url="http://127.0.0.1"), code, "Thief")
    assert replayed.status_code == 401  # type: ignore[attr-defined]
    assert [one.name for one in bench_devices.every(database)] == ["By the window", "Bench tablet", "A script"]
    assert shop.be("maker").get(f"/devices/joined/{code}").headers["location"] == "/devices"


@pytest.mark.parametrize(
    "change",
    [
        "update one_time_codes set ends_at = now() - interval '1 second'",
        # the clock was set back
        "update one_time_codes set made_at = now() + interval '1 hour', ends_at = now() + interval '2 hours'",
        "update accounts set ended_at = now() where role = 'maker'",  # whoever showed it was sent away
        "delete from one_time_codes",
    ],
)
def test_a_code_that_is_old_or_whose_maker_has_left_is_no_good(shop: Shop, database: Database, change: str) -> None:
    code = shown_code(shop)
    run(database, change)
    assert join(shop.be("nobody"), code).status_code == 401  # type: ignore[attr-defined]
    assert len(bench_devices.every(database)) == 2


def test_a_code_lasts_two_minutes(shop: Shop, database: Database) -> None:
    code = shown_code(shop)
    run(database, "update one_time_codes set made_at = now() - interval '119 s', ends_at = ends_at - interval '119 s'")
    assert bench_devices.is_good(database, code)
    run(database, "update one_time_codes set ends_at = ends_at - interval '1 s'")
    assert not bench_devices.is_good(database, code)


def test_codes_can_not_be_guessed_one_after_the_other(shop: Shop) -> None:
    code = shown_code(shop)
    tablet = shop.be("nobody")
    guesses = [join(tablet, f"AAAA-AA{number:02}").status_code for number in range(22, 29)]  # type: ignore[attr-defined]
    assert guesses == [401] * 5 + [429] * 2
    assert join(tablet, code).status_code == 429  # type: ignore[attr-defined]


def test_a_tablet_that_is_thrown_out_may_do_nothing_from_its_next_request_on(shop: Shop, database: Database) -> None:
    number = next(one.id for one in bench_devices.every(database) if one.kind == "bench")
    assert shop.be("bench").get("/bench").status_code == 200
    assert shop.be("maker").post(f"/devices/{number}/out").status_code == 303
    assert shop.be("bench").get("/bench").headers["location"].startswith("/sign-in")
    assert shop.client.post("/pours/1/enter", data={}).status_code == 401
    assert shop.be("maker").post(f"/devices/{number}/out").status_code == 404


def test_its_open_stream_ends_soon(shop: Shop, filled: Database, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(frame_sign_in, "LOOK_AGAIN_S", 0.05)
    again = Shop(shop.client, filled)
    tablet = again.be("bench")
    events, ended = [], threading.Event()

    def read() -> None:
        with tablet.stream("GET", "/pours/1/stream") as answer:
            events.extend(line for line in answer.iter_lines() if line)
        ended.set()

    thread = threading.Thread(target=read, daemon=True)
    thread.start()
    publish = tablet.app.state.events.publish  # type: ignore[attr-defined]
    wait_until(lambda: publish(1) or bool(tablet.app.state.events._subscribers), "nobody listens")  # type: ignore[attr-defined]
    bench_devices.throw_out(filled, next(one.id for one in bench_devices.every(filled) if one.kind == "bench"))
    wait_until(lambda: publish(1) or ended.wait(0.05), "the stream goes on")
    thread.join(10)


def test_who_stands_at_the_bench_is_one_tap_and_is_kept_with_each_reading(shop: Shop, filled: Database) -> None:
    again = Shop(shop.client, filled)
    tablet = again.be("bench")
    page = tablet.get("/bench").text
    assert 'value="Tamsin"' in page
    assert 'value="Odo"' not in page  # a reader does not weigh
    assert tablet.post("/bench/who", data={"who": "Odo"}).status_code == 422
    assert tablet.post("/bench/who", data={"who": "Tamsin"}).status_code == 303
    assert 'value="Tamsin" maxlength' in tablet.get("/jobs/8/pour").text  # who weighs is filled in
    started = tablet.post("/jobs/8/pour", data={"who": "Tamsin", "temp_c": "23", "units": "metric"})
    number = int(started.headers["location"].rsplit("/", 1)[1])
    state = pours.look(filled, number).state
    entered = tablet.post(
        f"/pours/{number}/enter",
        data={
            "kind": {"cup": "tare", "do": "step"}[state.step.kind],
            "what": state.step.key,
            "number": str(state.next_number),
            "token": "once",
            "units": "metric",
            "by": "typed",
            "sure": "yes",
        },
        headers={"HX-Request": "true"},
    )
    assert entered.status_code == 200
    by = change_log.doers_of_pour(filled, number)
    assert by == {1: "Tamsin at Bench tablet", 2: "Tamsin at Bench tablet"}
    assert "Tamsin at Bench tablet" in tablet.get(f"/pours/{number}/record").text
    assert pours.look(filled, number).pour.who == "Tamsin"


def test_a_script_reads_and_computes_and_changes_nothing(shop: Shop) -> None:
    shop.be("owner")
    page = shop.client.post("/devices/scripts", data={"name": "Price list"}).text
    key = re.findall(r'<code class="address">([\w-]{40,})</code>', page)[0]
    client = shop.be("nobody")
    client.headers["Authorization"] = f"Bearer {key}"
    assert client.get("/api/v1/jobs").status_code == 200
    mix = {"need_g": 100, "ratio": {"A": 1, "B": 1}}
    assert client.post("/api/v1/mix", json=mix).status_code == 200
    assert client.post("/jobs", data={"name": "x"}).status_code == 403
    client.headers["Authorization"] = f"Bearer {key}x"
    refused = client.post("/api/v1/mix", json=mix)
    assert (refused.status_code, refused.headers["www-authenticate"]) == (401, "Bearer")
    # the token of a tablet is no key, and a key no tablet
    client.headers["Authorization"] = f"Bearer {shop.tokens['bench']}"
    assert client.get("/api/v1/jobs").status_code == 401
    del client.headers["Authorization"]
    client.cookies.set("ufrin_device", key)
    assert client.get("/bench").status_code == 303


def test_every_change_is_kept_with_whoever_made_it(shop: Shop, database: Database) -> None:
    maker = shop.be("maker")
    assert maker.post("/jobs", data={"name": "Ammonite"}).status_code == 303
    assert maker.post("/jobs/1/box", data={"version": "1", "units": "metric", "side_mm": "14"}).status_code == 303
    shop.be("owner").post("/people", data={"name": "Sorrel", "role": "maker", "own_password": PASSWORD})
    found = [(one.doer, one.how, one.thing, one.number) for one in change_log.look(database).listed]
    assert found[0] == ("Wren", "entered", "accounts", "Sorrel")
    assert ("Tamsin", "entered", "jobs", "1") in found
    assert ("Tamsin", "changed", "stations", "1 box") in found
    assert {one.doer for one in change_log.look(database, doer="Tamsin").listed} == {"Tamsin"}
    page = shop.client.get("/changes").text
    assert re.search(r'Tamsin</td><td>changed <a href="/jobs/1/box">Box of Ammonite</a>', page)


def test_everything_that_is_kept_so_has_its_words(database: Database) -> None:
    with database.reading() as connection:
        rows = connection.execute(
            "select distinct tgrelid::regclass::text as name from pg_trigger where tgname ~ 'changes_are_kept'"
        ).fetchall()
    assert len(rows) > 30
    unnamed = [row["name"] for row in rows if row["name"] in words_of(row["name"], "7", {7: "Ammonite"})[0].split()]
    assert set(unnamed) <= {"orders", "equipment"}  # whose name is a word


def test_what_is_refused_or_undone_by_an_error_leaves_no_trace(shop: Shop, database: Database) -> None:
    before = change_log.look(database).listed
    assert shop.be("maker").post("/jobs", data={"name": ""}).status_code == 422
    assert change_log.look(database).listed == before


def test_a_name_stays_with_one_request_whichever_connection_it_takes(shop: Shop, database: Database) -> None:
    from concurrent.futures import ThreadPoolExecutor

    second = TestClient(shop.client.app, base_url="http://127.0.0.1", follow_redirects=False)
    second.cookies.set("ufrin_session", shop.tokens["owner"])
    first = shop.be("maker")

    def starts(client: TestClient, name: str) -> None:
        for number in range(12):
            assert client.post("/jobs", data={"name": f"{name} {number}"}).status_code == 303

    with ThreadPoolExecutor(2) as both:
        for done in [both.submit(starts, first, "Tamsin"), both.submit(starts, second, "Wren")]:
            done.result()
    with database.reading() as connection:
        rows = connection.execute(
            "select c.doer, j.name from changes c join jobs j on j.id::text = c.number where c.thing = 'jobs'"
        ).fetchall()
    assert len(rows) == 24
    assert all(row["name"].startswith(row["doer"]) for row in rows)


def test_looking_who_asks_costs_less_than_a_millisecond(shop: Shop, conninfo: str) -> None:
    """As a ratio in one run, for a busy machine: no more than a few of the plainest statements, each of 0.1 ms."""
    from ufrin.actions.people.signing_in import SessionLimits, party_of

    limits = SessionLimits(idle_h=12, longest_h=24)

    def took_s(do: "object") -> float:
        best = 1e9
        for _ in range(60):
            began = time.perf_counter()
            do()  # type: ignore[operator]
            best = min(best, time.perf_counter() - began)
        return best

    def plain() -> None:
        with shop.database.reading() as connection:
            connection.execute("select 1")

    asked = took_s(lambda: party_of(shop.database, session=shop.tokens["maker"], device="", key="", limits=limits))
    assert asked < 4 * took_s(plain)


def test_a_practice_at_a_tablet_counts_for_whoever_stands_there(shop: Shop) -> None:
    bench = shop.be("bench")
    assert bench.post("/bench/who", data={"who": NAMES["maker"]}, follow_redirects=False).status_code == 303
    begun = bench.post("/practice", data={"level": "first", "rubber": ""}, follow_redirects=False)
    address = begun.headers["location"]
    # at a desk it is the same person's, and nobody else's
    assert shop.be("maker").get(address).status_code == 200
    assert shop.be("owner").get(address).status_code == 404
    bench = shop.be("bench")
    bench.post("/bench/who", data={"who": NAMES["owner"]}, follow_redirects=False)
    assert bench.get(address).status_code == 404
