"""Practice through its pages: with and without scripts, for whom it is, and what is typed or sent wrongly."""

import re
from typing import Any

import pytest
from bs4 import BeautifulSoup, Tag
from fastapi.testclient import TestClient
from test_language import MARKED

from ufrin.actions.bench import practice
from ufrin.devices import clock
from ufrin.store.connection import Database
from ufrin.web.frame import reading_language

HTMX = {"HX-Request": "true"}


class Practice:
    """A practice in a browser, which sends the forms that it was shown."""

    def __init__(self, client: TestClient, *, level: str = "first", who: str = "Wren") -> None:
        self.client = client
        begun = client.post("/practice", data={"who": who, "level": level, "rubber": ""}, follow_redirects=False)
        assert begun.status_code == 303, begun.text
        self.address = begun.headers["location"]
        self.look()

    def look(self) -> "Practice":
        return self._shown(self.client.get(self.address))

    def _shown(self, answer: Any) -> "Practice":
        self.answer, self.page = answer, BeautifulSoup(answer.text, "lxml")
        return self

    @property
    def bench(self) -> Tag:
        found = self.page.find(id="weigh")
        assert isinstance(found, Tag)
        return found

    @property
    def step(self) -> str:
        return str(self.bench["class"][0]).removeprefix("step-")

    def send(self, kind: str, **typed: str) -> "Practice":
        form = next(
            form
            for form in self.bench.find_all("form")
            if (field := form.find("input", {"name": "kind"})) and field["value"] == kind
        )
        told = {
            str(field["name"]): str(field.get("value", "")) for field in form.find_all("input") if field.get("name")
        }
        told.pop("sure", None)
        return self._shown(self.client.post(f"{self.address}/enter", data={"by": "typed"} | told | typed))

    def act(self, act: str, what: str = "") -> "Practice":
        return self._shown(self.client.post(f"{self.address}/act", data={"act": act, "what": what}))

    def until_weighing(self) -> "Practice":
        while self.step == "do":
            self.send("step", sure="yes")
        self.act("cup").send("tare", by="typed")
        if "wrong" in str(self.page.find(id="table")):
            self.act("flag", "wrong-part")
        return self.send("hold")


def test_it_works_by_typing_and_without_scripts(client: TestClient) -> None:
    page = Practice(client).until_weighing()
    assert page.step == "weigh"
    assert page.act("tip", "far").page.find("button", {"data-space": True})
    assert "Put the tin upright" in page.page.text
    page.act("stop").send("weigh", net_g="181.8 g")
    assert page.step == "hold"
    page.send("hold").send("weigh", net_g="18.2")
    assert page.step == "mix"
    while page.page.find(id="weigh"):
        kind = {"do": "step", "mix": "mixed", "pour": "poured", "hold": "hold", "weigh": "weigh"}[page.step]
        target = str(page.bench.get("data-target", ""))
        page.send(kind, sure="yes", **({"net_g": target} if kind == "weigh" else {}))
    assert "Review of the practice" in page.page.text
    # almost nothing was tipped: the record says one thing, and the cup another
    assert "would not set" in page.page.text
    # its stream says so, and ends
    assert client.get(f"{page.address}/stream").text.strip() == "event: changed\ndata: 1"
    listed = BeautifulSoup(client.get("/practice").text, "lxml")
    assert page.address in {link["href"] for link in listed.find_all("a", href=True)}
    assert "Practised once" in listed.text
    assert listed.find(id="f-who")["value"] == "Wren"


def test_nobody_reads_the_practice_of_somebody_with_an_account(client: TestClient, database: Database) -> None:
    with database.transaction() as connection:
        row = connection.execute("insert into accounts (name, role) values ('Finch', 'maker') returning id").fetchone()
    number = practice.begin(
        database, who="Finch", account_id=row["id"] if row else 0, level="first", rubber_id=None, now=clock.now()
    )
    for what in ("", "/now", "/stream"):
        assert client.get(f"/practice/{number}{what}").status_code == 404
    assert client.post(f"/practice/{number}/act", data={"act": "cup"}).status_code == 404
    assert client.post(f"/practice/{number}/enter", data={"kind": "tare"}).status_code == 404


@pytest.mark.parametrize(
    ("sent", "says"),
    [({"level": "first"}, "Type your name"), ({"who": "Wren of the loft", "level": "x"}, "not one of the levels")],
)
def test_a_practice_that_can_not_begin_says_why_and_keeps_what_was_typed(
    client: TestClient, sent: dict[str, str], says: str
) -> None:
    answer = client.post("/practice", data=sent)
    assert answer.status_code == 422
    page = BeautifulSoup(answer.text, "lxml")
    assert [one.text for one in page.find_all(role="alert") if says in one.text]
    assert page.find(id="f-who")["value"] == sent.get("who", "")
    assert page.select_one("#f-rubber option[selected]")["value"] == sent.get("rubber", "")


def test_what_can_not_be_done_is_refused_and_nothing_is_lost(client: TestClient) -> None:
    page = Practice(client)
    for sent in ({"act": "tip", "what": "far"}, {"act": ""}, {"act": "cup" * 400}, {}):
        assert client.post(f"{page.address}/act", data=sent).status_code == 422
    number = page.bench["data-step"]
    for sent in (
        {"kind": "finish", "number": number},
        {"kind": "witness", "number": number},
        {"kind": "weigh", "number": number, "net_g": "much"},
        {"kind": "step", "number": "x", "what": "stir-a"},
        {},
    ):
        assert client.post(f"{page.address}/enter", data=sent).status_code in {409, 422}, sent
    assert page.look().bench["data-step"] == number


def test_a_weight_is_what_the_scale_can_have_shown(client: TestClient) -> None:
    page = Practice(client)
    while page.step == "do":
        page.send("step", sure="yes")
    page.act("cup")
    for shows in ("2000 g", "37.9 g"):  # a page that lies counts for nothing; one that reads a step beside it does
        number = int(page.address.rsplit("/", 1)[1])
        told = {"kind": "tare", "by": "scale", "number": str(page.bench["data-step"]), "shows": shows}
        answer = client.post(f"{page.address}/enter", data=told)
        while "has not come to rest" in answer.text:
            answer = client.post(f"{page.address}/enter", data=told)
        zero_g = practice.look(page.client.app.state.database, number, clock.now()).table.bench.attempt.zero_g  # type: ignore[attr-defined]
        assert zero_g == pytest.approx(38.0 if shows == "2000 g" else 37.9)
        page.look()


def test_every_step_is_told_in_the_language_of_the_reader(client: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(reading_language, "language_of", lambda headers: MARKED)
    page, seen = Practice(client), set()
    for _ in range(40):
        if page.page.find(id="weigh") is None:
            break
        seen.add(page.step)
        for shown in page.page.select("#weigh .why, #weigh h1, #weigh .help, #table p, #table button, #weigh button"):
            text = re.sub(r"[^\w]", "", _without_marked(" ".join(shown.stripped_strings)))
            named = ("Practicesilicone", "PracticeA", "PracticeB", "white", "blue")
            assert not re.search("[a-z]{3}", re.sub("|".join(named), "", text)), (page.step, shown.text)
        if page.step == "cup":
            page.act("cup")
        kind = {"do": "step", "mix": "mixed", "pour": "poured", "cup": "tare"}.get(page.step, page.step)
        target = str(page.bench.get("data-target", ""))
        page.send(kind, sure="yes", **({"net_g": target} if kind == "weigh" else {}))
    assert {"do", "cup", "hold", "weigh", "mix", "pour"} <= seen


def _without_marked(text: str) -> str:
    while (less := re.sub(r"⟦[^⟦⟧]*⟧", "", text)) != text:
        text = less
    return text
