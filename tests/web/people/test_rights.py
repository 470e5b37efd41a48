"""Every address against everybody: who may ask it, and who is refused."""

import re
import tomllib
from pathlib import Path

import pytest
from fastapi.routing import APIRoute
from fastapi.testclient import TestClient
from signing import Shop, session_of

from ufrin.store.connection import Database
from ufrin.web.frame.errors import _routes

RIGHTS: dict[str, list[str]] = tomllib.loads((Path(__file__).parents[2] / "data" / "rights.toml").read_text())
# who may do what, as the owner of a shop would say it
MAY = {
    "anybody": {"owner", "maker", "reader", "bench", "script", "nobody"},
    "see": {"owner", "maker", "reader", "script"},
    "see bench": {"owner", "maker", "reader", "bench"},
    "weigh": {"owner", "maker", "bench"},
    "change": {"owner", "maker"},
    "run shop": {"owner"},
}
# these end what they are asked with, ask for a code that can't be good, or lead on to where one signs in
ELSEWHERE = {
    *("POST /sign-out", "POST /sign-in", "POST /join", "GET /first-owner", "POST /first-owner"),
    "GET /metrics",
    *("GET /password/{code}", "POST /password/{code}"),
}
EVERYBODY = sorted(MAY["anybody"])


def test_every_address_is_in_the_list_once(signing: TestClient) -> None:
    served = {
        f"{method} {route.path}"
        for route in _routes(signing.app.routes)  # type: ignore[attr-defined]
        if isinstance(route, APIRoute)
        for method in route.methods - {"HEAD"}
    }
    listed = [address for addresses in RIGHTS.values() for address in addresses]
    assert sorted(listed) == sorted(served)


@pytest.mark.parametrize("who", EVERYBODY)
def test_what_each_may_ask(shop: Shop, database: Database, who: str) -> None:
    wrong = []
    for right, addresses in RIGHTS.items():
        for address in sorted(set(addresses) - ELSEWHERE):
            client = shop.be(who)  # type: ignore[arg-type]
            method, path = address.split()
            answer = client.request(method, re.sub(r"\{\w+\}", "77", path), headers={"Origin": "http://127.0.0.1"})
            sent_to = answer.headers.get("location", "")
            is_sent_away = sent_to.startswith("/sign-in") or (path == "/" and sent_to == "/bench")
            is_refused = answer.status_code in {401, 403} or is_sent_away
            is_right = (who in MAY[right]) != is_refused and answer.status_code < 500
            # whoever is known and may not is told so; whoever is not known is asked to sign in
            if is_refused and who == "nobody" and answer.status_code == 403:
                is_right = False
            if not is_right:
                wrong.append((address, answer.status_code))
    assert wrong == []


def test_a_session_counts_by_the_role_of_now(shop: Shop, database: Database) -> None:
    client = shop.be("maker")
    assert client.post("/jobs", data={"name": "Ammonite"}).status_code == 303
    shop.be("owner")
    changed = client.post(
        f"/people/{shop.accounts['maker']}/role", data={"role": "reader", "own_password": "tidal lantern seven quays"}
    )
    assert changed.status_code == 303, changed.text
    shop.be("maker")
    assert client.post("/jobs", data={"name": "Finial"}).status_code == 403
    assert client.get("/").status_code == 200
    shop.be("owner")
    assert client.post(f"/people/{shop.accounts['maker']}/end").status_code == 303
    shop.be("maker")
    assert client.get("/").headers["location"] == "/sign-in"


def test_another_origin_and_another_host_are_refused_whoever_asks(shop: Shop) -> None:
    client = shop.be("owner")
    assert client.post("/jobs", data={"name": "x"}, headers={"Origin": "http://elsewhere.example"}).status_code == 403
    assert client.post("/jobs", data={"name": "x"}, headers={"Sec-Fetch-Site": "cross-site"}).status_code == 403
    assert client.get("/", headers={"Host": "elsewhere.example"}).status_code == 400


def test_a_reader_sees_no_secret_of_others(shop: Shop) -> None:
    pages = "".join(shop.be("reader").get(path).text for path in ("/", "/settings", "/plan/shop", "/me"))
    for token in shop.tokens.values():
        assert token not in pages
    assert session_of(shop.database, shop.accounts["owner"]) not in pages
