"""Pages in another language: which one is chosen, that every text of them is translated, and that nothing else is."""

import re

import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient
from starlette.datastructures import Headers
from test_language import MARKED

from ufrin.actions.job import stations
from ufrin.core.job.sheet_figures import sheet_key
from ufrin.language import NAMES, language, texts, using
from ufrin.store.connection import Database
from ufrin.web.frame import reading_language
from ufrin.web.frame.reading_language import COOKIE, language_of

PAGES = (
    *(
        "/",
        "/plan",
        "/plan/shop",
        "/moulds",
        "/orders",
        "/clocks?all=1",
        "/shelf/rubbers",
        "/shelf/resins",
        "/shelf/lots",
    ),
    *(
        "/shelf/rubbers/1",
        "/shelf/rubbers/1/coupons",
        "/shelf/scales/new",
        "/sums",
        "/sums/grams",
        "/sums/cost",
        "/words",
    ),
    *("/pairings", "/settings", "/search?text=a", "/allowance", "/safekeeping", "/people", "/devices", "/bench", "/me"),
    "/practice",
    *(f"/jobs/4/{station}" for station in ("master", "opening", "box", "rubber", "checks", "pour", "sheet", "casts")),
    *("/jobs/2/opening", "/jobs/2/box", "/jobs/4/hardness", "/jobs/4/ways", "/jobs/4/sequence", "/jobs/9/faults"),
    *("/jobs/9/casts", "/jobs/9/casts/log", "/pours/1/record", "/moulds/1", "/moulds/1/run", "/changes"),
)
LABELS = "label, legend, button, summary, h2, option, dt, .help, .sentence, .what, .state"


@pytest.mark.parametrize(
    ("headers", "code"),
    [
        ({}, "en-GB"),
        ({"accept-language": "de-AT,de;q=0.9,en;q=0.5"}, "de"),
        ({"accept-language": "en-US,en;q=0.9"}, "en-US"),
        ({"accept-language": "fr;q=0.9, de;q=0.4, en-GB;q=0.8"}, "en-GB"),
        ({"accept-language": "fr"}, "en-GB"),
        ({"accept-language": ";;q=x,,*;q=2," * 50}, "en-GB"),
        ({"accept-language": "de", "cookie": f"{COOKIE}=en-GB"}, "en-GB"),
        ({"accept-language": "de", "cookie": f"{COOKIE}=../../etc"}, "de"),
    ],
)
def test_the_language_is_the_chosen_one_or_the_one_that_the_browser_wants(headers: dict[str, str], code: str) -> None:
    assert language_of(Headers(headers)).code == code


def test_a_choice_is_kept_in_the_browser_and_the_page_is_shown_again(client: TestClient) -> None:
    answer = client.post(
        "/language",
        data={"language": "de"},
        headers={"referer": "http://127.0.0.1/sums/mix?need=3"},
        follow_redirects=False,
    )
    assert (answer.status_code, answer.headers["location"]) == (303, "/sums/mix?need=3")
    page = BeautifulSoup(client.get("/").text, "lxml")
    assert page.html["lang"] == "de"
    assert page.select_one("nav a[href='/moulds']").text == "Formen"
    assert page.select_one(".languages [aria-current]").text == "Deutsch"
    for sent in ("xx", ""):
        client.post("/language", data={"language": sent})
        assert BeautifulSoup(client.get("/").text, "lxml").html["lang"] == "de"


# the last is the address of a form that was refused: it can be sent, not shown
@pytest.mark.parametrize(
    "referer", ["", "nonsense:", "http://127.0.0.1//elsewhere.example/page", "http://127.0.0.1/jobs"]
)
def test_after_a_choice_only_a_page_of_ours_is_shown(client: TestClient, referer: str) -> None:
    answer = client.post("/language", data={"language": "de"}, headers={"referer": referer}, follow_redirects=False)
    assert (answer.status_code, answer.headers["location"]) == (303, "/")


def test_the_open_interface_speaks_english_to_everybody(client: TestClient) -> None:
    answer = client.post("/api/v1/mix", json={}, headers={"accept-language": "de"})
    assert answer.status_code == 422
    assert "must" in answer.text or "missing" in answer.text


def test_what_is_ticked_off_signed_or_printed_is_found_again_in_any_language(filled: Database) -> None:
    found: dict[str, list[object]] = {}
    for code in NAMES:
        with using(language(code)):
            plans = [stations.open_job(filled, number, "checks").plan for number in range(3, 10)]
            found[code] = [
                (sheet_key(plan), [step.key for step in plan.checks.steps] if plan.checks else []) for plan in plans
            ]
    assert sum(len(steps) for _, steps in found["de"]) > 20
    assert found["de"] == found["en-US"] == found["en-GB"]


def test_a_page_is_laid_out_the_same_in_every_language(client: TestClient, filled: Database) -> None:
    for address in PAGES:
        pages = [
            BeautifulSoup(client.get(address, headers={"accept-language": code}).text, "lxml")
            for code in ("en-GB", "de")
        ]
        english, german = ({name for one in page.select("[class]") for name in one["class"]} for page in pages)
        assert english == german, address


def _without(text: str) -> str:
    while (less := re.sub(r"⟦[^⟦⟧]*⟧", "", text)) != text:
        text = less
    return text


def test_every_label_of_every_page_is_in_the_catalogue(
    client: TestClient, filled: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(reading_language, "language_of", lambda headers: MARKED)
    bare: dict[str, str] = {}
    german = language("de").messages
    untranslated: set[tuple[str, str]] = set()
    fill = texts._InLanguage.format_field  # noqa: SLF001 - every gap of every text goes through it

    def seen(self: texts._InLanguage, value: object, spec: str) -> str:
        if value and type(value) is str and german.gettext(value) != value:
            untranslated.add((address, value))
        return fill(self, value, spec)

    monkeypatch.setattr(texts._InLanguage, "format_field", seen)  # noqa: SLF001
    for address in PAGES:
        answer = client.get(address)
        assert answer.status_code in {200, 404}, address
        assert not re.search(r"&amp;(#\d+|amp|lt|gt);", answer.text), f"{address} escapes something twice"
        assert not re.search(r"\[-?[\d.,]+ [a-z]+( ~\d?)?\]", answer.text), (
            f"{address} has an amount that was not written out"
        )
        page = BeautifulSoup(answer.text, "lxml")
        for shown in page.select(LABELS):
            text = " ".join(shown.stripped_strings)
            # names that people gave stand beside the words of the page, never instead of all of them
            if "⟦" not in text and re.search(r"[a-z]{4}", text) and not re.search(r"[A-Z]", text):
                bare.setdefault(text, f"{address} {shown.name} {shown.get('name')} {shown.parent.get('id')}")
        told = " ".join(
            _without(" ".join(shown.stripped_strings))
            for shown in page.select(".help, label, legend, .finding, .found")
        )
        assert not re.search(r"\b(the|and|with|from|every)\b", told), (address, told)
    assert untranslated == set()
    # the names of the time zones are those of their database
    assert not {(text, address) for text, address in bare.items() if not address.startswith("/settings")}
