"""Signing in: the first owner, wrong passwords, sessions and their ends, and codes that work once."""

import time

import pytest
from fastapi.testclient import TestClient
from signing import NAMES, PASSWORD, Shop, enter, session_of

from ufrin.actions.people import accounts, passwords, signing_in, tokens
from ufrin.actions.people.party import Party
from ufrin.errors import Refused
from ufrin.settings import Settings
from ufrin.store.connection import Database
from ufrin.web.app import create_app

NEW = "copper kettle by the rain"


def sign_in(client: TestClient, name: str, password: str, then: str = "/") -> "object":
    return client.post("/sign-in", data={"name": name, "password": password, "then": then})


def run(database: Database, statement: str) -> None:
    with database.transaction() as connection:
        connection.execute(statement)


def test_the_first_owner_is_made_with_the_code_of_the_terminal_once(visitor: TestClient, database: Database) -> None:
    assert visitor.get("/").headers["location"] == "/sign-in"
    assert visitor.get("/sign-in").headers["location"] == "/first-owner"
    stale, code = accounts.owner_code(database), accounts.owner_code(database)
    assert code
    assert stale
    form = {"code": stale, "name": " Wren  Calder ", "password": PASSWORD, "again": PASSWORD}
    refused = visitor.post("/first-owner", data=form)
    assert refused.status_code == 422
    assert "not the code that the terminal shows" in refused.text
    assert 'value=" Wren  Calder "' in refused.text  # nothing typed is lost, but the passwords
    assert PASSWORD not in refused.text
    made = visitor.post("/first-owner", data=form | {"code": code.lower().replace("-", " ")})
    assert (made.status_code, made.headers["location"]) == (303, "/")
    assert [one.name for one in accounts.every(database)] == ["Wren Calder"]
    assert visitor.get("/").status_code == 200
    assert accounts.owner_code(database) is None
    visitor.cookies.clear()
    again = visitor.post("/first-owner", data=form | {"code": code, "name": "Thief"})
    assert again.status_code == 422
    assert len(accounts.every(database)) == 1


def test_two_who_use_the_owners_code_at_once_make_one_owner(visitor: TestClient, database: Database) -> None:
    from concurrent.futures import ThreadPoolExecutor

    code = accounts.owner_code(database)
    form = {"code": code, "password": PASSWORD, "again": PASSWORD}
    with ThreadPoolExecutor(2) as both:
        answers = list(
            both.map(lambda name: visitor.post("/first-owner", data=form | {"name": name}), ("One", "Other"))
        )
    assert sorted(one.status_code for one in answers) == [303, 422]
    assert len(accounts.every(database)) == 1


def test_a_wrong_name_and_a_wrong_password_are_told_alike_and_take_as_long(shop: Shop) -> None:
    client = shop.be("nobody")
    answers, took_s = {}, {}
    for name in (NAMES["maker"], "Nobody of this name"):
        tries_s = []
        for _ in range(3):  # the quickest of them: a machine that is busy elsewhere makes single ones longer
            began = time.perf_counter()
            answers[name] = sign_in(client, name, "wrong", "/jobs/1/box")
            tries_s.append(time.perf_counter() - began)
        took_s[name] = min(tries_s)
    known, unknown = answers.values()
    assert (known.status_code, unknown.status_code) == (401, 401)  # type: ignore[attr-defined]
    assert known.text.replace(NAMES["maker"], "X") == unknown.text.replace("Nobody of this name", "X")  # type: ignore[attr-defined]
    # a hash takes tens of milliseconds, a look-up less than one: without the second hash they would differ tenfold
    assert 0.2 < took_s[NAMES["maker"]] / took_s["Nobody of this name"] < 5


def test_who_signs_in_goes_on_to_the_page_that_was_asked_for(shop: Shop) -> None:
    client = shop.be("nobody")
    asked = client.get("/shelf/rubbers?page=2")
    assert asked.headers["location"] == "/sign-in?then=%2Fshelf%2Frubbers%3Fpage%3D2"
    answer = sign_in(client, "  tAMSIN ", PASSWORD, "/shelf/rubbers?page=2")
    assert answer.headers["location"] == "/shelf/rubbers?page=2"  # type: ignore[attr-defined]
    cookie = answer.headers["set-cookie"]  # type: ignore[attr-defined]
    assert "HttpOnly" in cookie
    assert "SameSite=lax" in cookie
    assert "Secure" not in cookie  # it is plain HTTP on loopback; over HTTPS:
    over_https = client.post("https://127.0.0.1/sign-in", data={"name": "Tamsin", "password": PASSWORD})
    assert "Secure" in over_https.headers["set-cookie"]


@pytest.mark.parametrize(
    "then",
    [
        "//elsewhere.example",
        "https://elsewhere.example",
        "/\\elsewhere.example",
        "javascript:1",
        "",
        "/sign-in",
        "/a\nb",
    ],
)
def test_nobody_is_led_elsewhere_after_signing_in(shop: Shop, then: str) -> None:
    assert sign_in(shop.be("nobody"), "Tamsin", PASSWORD, then).headers["location"] == "/"  # type: ignore[attr-defined]


def test_too_many_tries_are_not_looked_at_even_with_the_right_password(shop: Shop, database: Database) -> None:
    client = shop.be("nobody")
    for _ in range(signing_in.MOST_HERE):
        assert sign_in(client, "Tamsin", "wrong").status_code == 401  # type: ignore[attr-defined]
    late = sign_in(client, "tamsin", PASSWORD)
    assert late.status_code == 429  # type: ignore[attr-defined]
    assert "quarter of an hour" in late.text  # type: ignore[attr-defined]
    for _ in range(5):
        sign_in(client, "tamsin", "wrong")
    with database.reading() as connection:
        kept = connection.execute("select count(*) as n from failed_tries").fetchone()
    assert kept == {"n": signing_in.MOST_HERE}  # what is not looked at fills no table
    assert sign_in(client, "Wren", PASSWORD).status_code == 303  # type: ignore[attr-defined] - another name
    # a clock that is set back forgets nothing, a quarter of an hour does
    run(database, "update failed_tries set at = at + interval '2 hours'")
    assert sign_in(client, "Tamsin", PASSWORD).status_code == 429  # type: ignore[attr-defined]
    run(database, "update failed_tries set at = now() - interval '16 minutes'")
    assert sign_in(client, "Tamsin", PASSWORD).status_code == 303  # type: ignore[attr-defined]


def test_one_address_can_not_try_one_name_after_the_other(shop: Shop) -> None:
    client = shop.be("nobody")
    answers = [
        sign_in(client, f"Guess {number}", "wrong").status_code for number in range(signing_in.MOST_OF_ADDRESS + 1)
    ]  # type: ignore[attr-defined]
    assert answers == [401] * signing_in.MOST_OF_ADDRESS + [429]


@pytest.mark.parametrize(
    "change",
    [
        "update sessions set seen_at = now() - interval '13 hours'",  # idle
        "update sessions set ends_at = now() - interval '1 second'",  # at its end
        "update sessions set began_at = now() + interval '1 day', seen_at = now() + interval '1 day'",  # set back
        "update accounts set ended_at = now()",
        "delete from sessions",
    ],
)
def test_a_session_that_has_ended_is_nobodys(shop: Shop, database: Database, change: str) -> None:
    assert shop.be("maker").get("/").status_code == 200
    run(database, change)
    assert shop.be("maker").get("/").headers["location"] == "/sign-in"
    assert shop.client.get("/api/v1/jobs").status_code == 401


def test_use_keeps_a_session_from_being_idle(shop: Shop, database: Database) -> None:
    run(database, "update sessions set seen_at = now() - interval '11 hours'")
    assert shop.be("maker").get("/").status_code == 200
    with database.reading() as connection:
        row = connection.execute("select count(*) from sessions where seen_at > now() - interval '1 minute'").fetchone()
    assert row == {"count": 1}


def test_a_page_that_asks_by_itself_keeps_no_session_alive(shop: Shop, database: Database) -> None:
    run(database, "update sessions set seen_at = now() - interval '11 hours'")
    client = shop.be("maker")
    assert client.get("/clocks", headers={"HX-Request": "true"}).status_code == 200
    assert client.get("/pours/1/stream", headers={"Accept": "text/event-stream"}).status_code == 404
    with database.reading() as connection:
        row = connection.execute("select count(*) from sessions where seen_at > now() - interval '1 minute'").fetchone()
    assert row == {"count": 0}


def test_ones_own_password_can_not_be_guessed_at_a_desk_that_was_left_and_others_go_on(shop: Shop) -> None:
    form = {"old": "a guess", "new": NEW, "again": NEW}
    client = shop.be("reader")
    for _ in range(signing_in.MOST_HERE):
        assert client.post("/me/password", data=form).status_code == 422
    late = client.post("/me/password", data=form | {"old": PASSWORD})
    assert "quarter of an hour" in late.text
    assert shop.be("maker").post("/me/password", data=form | {"old": PASSWORD}).status_code == 303
    owner = shop.be("owner")
    typed = {"name": "Sorrel", "role": "reader", "own_password": "a guess"}
    for _ in range(signing_in.MOST_HERE):
        assert owner.post("/people", data=typed).status_code == 422
    late = owner.post("/people", data=typed | {"own_password": PASSWORD})
    assert "quarter of an hour" in late.text
    assert 'value="Sorrel"' in late.text  # what was typed stays


def test_signing_out_here_and_everywhere_counts_on_every_server(shop: Shop, conninfo: str, database: Database) -> None:
    other = create_app(Database(conninfo, wait_s=5.0), Settings(sign_in=True))
    here, there = shop.tokens["maker"], session_of(database, shop.accounts["maker"])
    with TestClient(other, base_url="http://127.0.0.1", follow_redirects=False) as second:
        second.cookies.set("ufrin_session", here)
        assert second.get("/").status_code == 200
        signed_out = shop.be("maker").post("/sign-out")
        assert signed_out.headers["location"] == "/sign-in"
        assert 'ufrin_session=""' in signed_out.headers["set-cookie"]
        assert second.get("/").headers["location"] == "/sign-in"
        second.cookies.set("ufrin_session", there)
        assert second.get("/").status_code == 200
        assert second.post("/sign-out", data={"where": "everywhere"}).status_code == 303
    shop.tokens["maker"] = there
    assert shop.be("maker").get("/").headers["location"] == "/sign-in"


def test_a_new_password_signs_out_everywhere_else_and_the_old_one_is_no_good(shop: Shop, database: Database) -> None:
    elsewhere = session_of(database, shop.accounts["maker"])
    client = shop.be("maker")
    wrong = client.post("/me/password", data={"old": "not mine at all", "new": NEW, "again": NEW})
    assert (wrong.status_code, "not your password" in wrong.text) == (422, True)
    assert client.post("/me/password", data={"old": PASSWORD, "new": NEW, "again": NEW}).status_code == 303
    assert client.get("/").status_code == 200
    client.cookies.set("ufrin_session", elsewhere)
    assert client.get("/").headers["location"] == "/sign-in"
    client = shop.be("nobody")
    assert sign_in(client, "Tamsin", PASSWORD).status_code == 401  # type: ignore[attr-defined]
    assert sign_in(client, "Tamsin", NEW).status_code == 303  # type: ignore[attr-defined]


@pytest.mark.parametrize(
    ("password", "says"),
    [
        ("short", "12 to 128"),
        ("x" * 129, "12 to 128"),
        ("password1234", "easy to guess"),
        ("wrenwrenwrenwren", "easy to guess"),
        ("qwertyuiop12", "easy to guess"),
        ("aaaaaaaaaaaaaaaa", "easy to guess"),
    ],
)
def test_a_password_that_is_easy_is_refused(password: str, says: str) -> None:
    with pytest.raises(Refused, match=says):
        passwords.check_new(password, name="Wren Calder")
    passwords.check_new(PASSWORD, name="Wren Calder")
    passwords.check_new((PASSWORD + NEW) * 2, name="Wren")  # long ones are let be, beyond what is scored


def test_the_owner_enters_somebody_who_chooses_a_password_once(shop: Shop, database: Database) -> None:
    owner = shop.be("owner")
    form = {"name": "Sorrel", "role": "reader", "own_password": "not mine"}
    assert "not your password" in owner.post("/people", data=form).text
    assert owner.post("/people", data=form | {"own_password": PASSWORD, "name": "TAMSIN"}).status_code == 422
    assert owner.post("/people", data=form | {"own_password": PASSWORD, "role": "king"}).status_code == 422
    page = owner.post("/people", data=form | {"own_password": PASSWORD}).text
    code = page.split("/password/")[1].split("<")[0]
    assert "/password/" not in owner.get("/people").text  # it is shown once
    client = shop.be("nobody")
    assert "Sorrel, choose a password" in client.get(f"/password/{code}").text
    assert client.post(f"/password/{code}", data={"password": NEW, "again": "other"}).status_code == 422
    chosen = client.post(f"/password/{code}", data={"password": NEW, "again": NEW})
    assert chosen.status_code == 303
    assert client.get("/").status_code == 200
    assert client.post("/jobs", data={"name": "x"}).status_code == 403  # a reader
    replayed = client.post(f"/password/{code}", data={"password": PASSWORD, "again": PASSWORD})
    assert replayed.status_code == 401
    assert client.get("/password/guessed").status_code == 401


def test_there_is_always_an_owner_who_can_sign_in(shop: Shop, database: Database) -> None:
    me = Party(who="owner", name="Wren", account_id=shop.accounts["owner"])
    owner = shop.accounts["owner"]
    with pytest.raises(Refused, match="no owner left"):
        accounts.change_role(database, me, owner, "reader", own_password=PASSWORD)
    with pytest.raises(Refused, match="no owner left"):
        accounts.end(database, owner)
    # somebody who has yet to choose a password is no such owner
    with database.transaction() as connection:
        connection.execute("insert into accounts (name, role) values ('To be', 'owner')")
    with pytest.raises(Refused, match="no owner left"):
        accounts.end(database, owner)
    enter(database, "owner", "Second")
    accounts.end(database, owner)
    assert accounts.has_owner(database)


def test_tokens_and_passwords_are_kept_as_hashes_alone(shop: Shop, database: Database) -> None:
    token = session_of(database, shop.accounts["maker"])
    code = tokens.new_code()
    with database.reading() as connection:
        kept = [
            str(row)
            for table in ("sessions", "devices", "one_time_codes", "accounts", "failed_tries", "changes")
            for row in connection.execute(f"select * from {table}").fetchall()  # noqa: S608 - our own names
        ]
        hashes = [row["password_hash"] for row in connection.execute("select password_hash from accounts").fetchall()]
    assert not [row for row in kept if token in row or PASSWORD in row or shop.tokens["bench"] in row]
    assert all(one.startswith("$argon2id$") for one in hashes)
    assert tokens.code_hash(code) == tokens.code_hash(code.lower().replace("-", "  "))
    assert len({tokens.new_code() for _ in range(500)}) == 500


def test_what_somebody_typed_is_not_lost_when_the_session_ended_meanwhile(shop: Shop, database: Database) -> None:
    run(database, "delete from sessions")
    client = shop.be("maker")
    part = client.post("/jobs", data={"name": "Ammonite"}, headers={"HX-Request": "true"})
    assert (part.status_code, part.headers["HX-Retarget"]) == (401, "#notice")  # the page stays, with what is in it
    assert "What you typed is still in this page" in part.text
    page = client.post("/jobs", data={"name": "Ammonite"})
    assert (page.status_code, "Go back: what you typed is still there" in page.text) == (401, True)
