"""The log of a mould: shots and what they teach, cavities, tins, trials, pictures, and what is refused."""

from io import BytesIO
from typing import Any

import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient
from PIL import Image
from pypdf import PdfReader

from ufrin.actions import RESINS
from ufrin.actions.casts import shots as shot_actions
from ufrin.actions.job import stations
from ufrin.actions.moulds import cards
from ufrin.actions.shelf import things
from ufrin.actions.shop import workshop_settings
from ufrin.core.measures.parsing import parse
from ufrin.devices import clock
from ufrin.store import jobs
from ufrin.store.connection import Database

PULLEY, PULLEY_AT = 6, "/jobs/6/casts/log"
ORIGIN = {"Origin": "http://127.0.0.1"}


@pytest.fixture(autouse=True)
def _no_shots_yet(filled: Database) -> None:
    with filled.transaction() as connection:
        connection.execute("delete from lot_moves where shot_id is not null")
        connection.execute("delete from shots")
        connection.execute("delete from cavity_counts")
        # of so little that 10 g fill it
        connection.execute(
            "update stations set inputs = inputs || '{\"cavity_ml\": 8}' where job_id = %s and station = 'casts'",
            (PULLEY,),
        )


def log(database: Database, job: int = PULLEY) -> shot_actions.ShotLog:
    return shot_actions.of_job(database, job, clock.now())


def shoot(client: TestClient, token: str, mixed: str = "40 g", status: int = 303, **typed: str) -> str:
    pieces = {f"piece-{number}": "good" for number in range(1, 5)}
    answer = client.post(PULLEY_AT, data={"token": token, "mixed_g": mixed, **pieces, **typed}, follow_redirects=False)
    assert answer.status_code == status, answer.text
    return answer.text


def left_g(database: Database, part: str) -> float:
    board = things.shelf(database, RESINS)
    tins = next(board.lots[kept.id] for kept in board.things if kept.thing.name == "Quayside 70")
    return sum(one.lot.left_g for one in tins if one.lot.part == part)


def test_what_was_only_partly_filled_on_purpose_teaches_nothing(client: TestClient, filled: Database) -> None:
    shoot(client, "a", "60 g", left_g="10 g")
    learnt = log(filled).learnt
    shoot(client, "b", "20 g", was_partly_filled="yes")
    assert log(filled).learnt == learnt
    assert [one.shot.was_partly_filled for one in log(filled).shots] == [True, False]
    assert "only partly filled" in client.get(PULLEY_AT).text
    client.post(f"{PULLEY_AT}/repeat", data={"token": "same"})
    assert [one.shot.was_partly_filled for one in log(filled).shots] == [True, True, False]
    assert log(filled).learnt == learnt
    told = shoot(client, "c", "20 g", status=422, was_partly_filled="yes", was_short="yes")
    assert "Tick one of the two" in told


@pytest.fixture
def foam_backed(filled: Database) -> None:
    """The pulley's mould makes shells with foam behind them: 20 ml cavities of 40 cm2, 2 mm of shell."""
    names = {kept.thing.name: kept.id for kept in things.shelf(filled, RESINS).things}
    said = {"cast_kind": "foam-back", "foam_id": names["Pontoon foam"], "cavity_ml": 20.0, "area_cm2": 40.0}
    said |= {"thickness_mm": 2.0, "coat_mm": 1.0, "spare_pct": 0.0}
    with filled.reading() as connection:
        version = jobs.load(connection, PULLEY, "casts").versions["casts"]
    stations.change_station(filled, PULLEY, "casts", version=version, changes=said)


@pytest.mark.usefixtures("foam_backed")
def test_foam_that_ran_short_does_not_raise_the_shell(client: TestClient, filled: Database) -> None:
    page = BeautifulSoup(client.get(PULLEY_AT).text, "lxml")
    assert [page.find(id=f"s-{part}_mixed_g") is not None for part in ("shell", "foam")] == [True, True]
    assert page.find(id="s-mixed_g") is None
    enough = {"shell_mixed_g": "60 g", "shell_left_g": "4 g", "foam_mixed_g": "20 g"}
    before_g = {part: left_g(filled, part) for part in "AB"}
    shoot(client, "a", "", **enough, foam_was_short="yes", foam_missing_g="8 g")
    taken_g = sum(before_g[part] - left_g(filled, part) for part in "AB")
    # of the resin as much as the shell took beside 1 % of colour, whatever the foam did
    assert taken_g == pytest.approx(60 / 1.01, abs=0.01)
    (kept,) = log(filled).shots
    assert [(one.part, one.resin, one.mixed_g, one.was_short) for one in kept.shot.parts] == [
        ("shell", "Quayside 70", 60.0, False),
        ("foam", "Pontoon foam", 20.0, True),
    ]
    assert (kept.shot.mixed_g, kept.shot.left_g, kept.shot.missing_g) == (80.0, 4.0, 8.0)
    shell_g, foam_g = (log(filled).learnt[part].g for part in ("shell", "foam"))
    assert shell_g == pytest.approx((60 - 4) / 4)
    assert foam_g == pytest.approx((20 + 8) / 4)
    shown = client.get(PULLEY_AT).text
    assert "the shell 60.0 g mixed, 4.0 g left over; the foam 20.0 g mixed, not enough by 8.0 g" in " ".join(
        BeautifulSoup(shown, "lxml").get_text(" ").split()
    )
    # planned with it, each takes its own
    page = BeautifulSoup(shown, "lxml")
    planned = page.find("input", {"name": "foam_each_g"}).find_parent("form")
    data = {one["name"]: one["value"] for one in planned.find_all("input")}
    client.post(planned["action"], data=data)
    casts = log(filled).opened.casts
    assert casts is not None
    assert casts.plan is not None
    assert [one.g for one in casts.plan.parts] == [pytest.approx(4 * shell_g, abs=0.2), pytest.approx(4 * 7, abs=0.2)]
    # the same again keeps its parts; taken back, the tins have what they had
    client.post(f"{PULLEY_AT}/repeat", data={"token": "same"})
    again = log(filled).shots[0]
    assert [(one.mixed_g, one.was_short, one.missing_g) for one in again.shot.parts] == [(60, False, 0), (20, False, 0)]
    for one in log(filled).shots:
        client.post(f"{PULLEY_AT}/{one.id}/back")
    assert {part: left_g(filled, part) for part in "AB"} == pytest.approx(before_g)
    told = shoot(client, "b", "", 422, shell_mixed_g="60 g", foam_mixed_g="much")
    assert BeautifulSoup(told, "lxml").find(id="s-foam_mixed_g")["value"] == "much"


@pytest.mark.usefixtures("foam_backed")
def test_shell_and_foam_are_logged_in_ounces_and_in_german(client: TestClient, filled: Database) -> None:
    workshop = workshop_settings.settings(filled)
    workshop_settings.change_settings(filled, version=workshop.version, units="us", currency="EUR")
    shoot(client, "a", "", shell_mixed_g="2 oz", foam_mixed_g="0.5 oz", foam_was_short="yes", foam_missing_g="0.1 oz")
    shell, foam = log(filled).shots[0].shot.parts
    assert (shell.mixed_g, foam.mixed_g, foam.missing_g) == pytest.approx((56.699, 14.175, 2.835), abs=1e-3)
    page = BeautifulSoup(client.get(PULLEY_AT).text, "lxml")
    assert page.find(id="s-shell_mixed_g")["value"] == "2.000 oz"
    # what is shown, typed again, is the same to half a step of what is shown
    for part, grams in (("shell", 56.699 / 4), ("foam", (14.175 + 2.835) / 4)):
        big = page.find(attrs={"data-mark": f"learnt-{part}"}).text
        assert parse(" ".join(big.split()), "mass", "us", field="x") == pytest.approx(grams, abs=0.015)
    client.cookies.set("ufrin_language", "de")
    german = " ".join(BeautifulSoup(client.get(PULLEY_AT).text, "lxml").text.split())
    assert "Die Schale, Quayside 70" in german
    assert "Der Schaum, Pontoon foam" in german
    assert "der Schaum 0,500 oz gemischt, nicht genug (es fehlten 0,100 oz)" in german


@pytest.mark.usefixtures("foam_backed")
def test_a_card_names_shell_and_foam_each_by_itself(client: TestClient, filled: Database) -> None:
    shoot(client, "a", "", shell_mixed_g="220 g", foam_mixed_g="73 g")
    number = log(filled).opened.mould_id
    amounts = client.get(f"/api/v1/moulds/{number}").json()["amounts"]
    assert [(one["part"], one["resin"], one["mixed_g"]) for one in amounts] == [
        ("shell", "Quayside 70", 220.0),
        ("foam", "Pontoon foam", 73.0),
    ]
    words = " ".join(BeautifulSoup(client.get(f"/moulds/{number}").text, "lxml").get_text(" ").split())
    assert "the shell, Quayside 70 220.0 g" in words
    assert "the foam, Pontoon foam 73.0 g" in words
    # on its label what it takes now: not what a solid cast took once, nor the same part of another resin
    with filled.transaction() as connection:
        connection.execute("update shot_parts set resin = 'Another resin' where part = 'shell'")
    shoot(client, "b", "", shell_mixed_g="200 g", foam_mixed_g="71 g")
    with filled.reading() as connection:
        newest = cards.card_of(connection, number or 0).newest_amounts
    assert [(one.part, one.resin, one.mixed_g) for one in newest] == [
        ("shell", "Quayside 70", 200.0),
        ("foam", "Pontoon foam", 72.0),
    ]
    label = PdfReader(BytesIO(client.get(f"/moulds/{number}/label.pdf").content)).pages[0].extract_text()
    assert "200 g + 72 g a shot" in " ".join(label.split())


def test_fifteen_then_ten_and_the_next_amount(client: TestClient, filled: Database) -> None:
    shoot(client, "a", "60 g", left_g="22 g")
    for token, left in zip("bcde", ("3.6", "2.8", "3.2", "2.4"), strict=True):
        shoot(client, token, "40 g", left_g=left)
    page = BeautifulSoup(client.get(PULLEY_AT).text, "lxml")
    # needs of a cavity 9.1 9.2 9.3 9.4 9.5: 9.42 is enough in 80 of 100
    assert page.find(attrs={"data-mark": "learnt"}).text.split()[0] == "9.4"
    assert "15.0 g once, enough; then 10.0 g: enough 4 times of 4" in " ".join(page.find(class_="answer").text.split())
    found = log(filled)
    assert [(one.number, one.shots, one.good) for one in found.cavities] == [(n, 5, 5) for n in range(1, 5)]
    # planned with it, every cup keeps its share
    version = found.opened.job.versions["casts"]
    client.post(f"/jobs/{PULLEY}/casts", data={"version": str(version), "units": "metric", "each_g": "9.4 g"})
    made = log(filled).opened.casts.plan  # type: ignore[union-attr]
    assert made is not None
    assert made.shot_g == pytest.approx(4 * 9.4)
    assert made.totals["B"].g / made.totals["A"].g == pytest.approx(0.9)


def test_a_shot_takes_from_the_tins_and_gives_back(client: TestClient, filled: Database) -> None:
    made = log(filled).opened.casts.plan  # type: ignore[union-attr]
    assert made is not None
    before = left_g(filled, "A"), left_g(filled, "B")
    shoot(client, "a", f"{made.shot_g / 2:.4f} g")
    assert before[0] - left_g(filled, "A") == pytest.approx(made.totals["A"].g / 2, abs=0.01)
    assert before[1] - left_g(filled, "B") == pytest.approx(made.totals["B"].g / 2, abs=0.01)
    shoot(client, "a", f"{made.shot_g / 2:.4f} g")  # sent twice
    assert len(log(filled).shots) == 1
    client.post(f"{PULLEY_AT}/{log(filled).shots[0].id}/back")
    assert (left_g(filled, "A"), left_g(filled, "B")) == before
    assert log(filled).shots == ()
    assert client.post(f"{PULLEY_AT}/1/back").status_code == 404


def test_one_tap_repeats_the_last_shot(client: TestClient, filled: Database) -> None:
    assert client.post(f"{PULLEY_AT}/repeat", data={"token": "r0"}).status_code == 422
    shoot(client, "a", left_g="2", release="soap", **{"piece-2": "lines", "piece-3": "none"})
    client.post(f"{PULLEY_AT}/repeat", data={"token": "r1"})
    again, first = log(filled).shots
    assert again.shot.release == "soap"
    assert again.shot.left_g == 2
    assert [(piece.cavity, piece.is_good) for piece in again.shot.pieces] == [(1, True), (2, True), (4, True)]
    assert [piece.flaws for piece in first.shot.pieces] == [(), ("lines",), ()]
    assert "faults?symptom=lines" in client.get(PULLEY_AT).text


def test_a_retired_cavity_is_not_filled(client: TestClient, filled: Database) -> None:
    cavity = f"/jobs/{PULLEY}/casts/cavities/2"
    assert client.post(cavity, data={"act": "retire", "cause": ""}).status_code == 422
    client.post(cavity, data={"act": "retire", "cause": "torn"})
    shoot(client, "a")  # its field is not read any more
    assert [piece.cavity for piece in log(filled).shots[0].shot.pieces] == [1, 3, 4]
    assert log(filled).cavities[1].retired == "torn"
    client.post(cavity, data={"act": "use"})
    shoot(client, "b")
    assert len(log(filled).shots[0].shot.pieces) == 4
    assert client.post(f"/jobs/{PULLEY}/casts/cavities/9", data={"act": "retire", "cause": "torn"}).status_code == 422


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ({"mixed": ""}, "How much was mixed"),
        ({"mixed": "12 ml"}, "measures a volume"),
        ({"mixed": "0"}, "more than nothing"),
        ({"left_g": "50"}, "less than what was mixed"),
        ({"missing_g": "5"}, "only be missing where it was short"),
        ({"mould_c": "900"}, "more than"),
        ({f"piece-{number}": "none" for number in range(1, 5)}, "Tick at least one"),
        ({"piece-1": "melted"}, "one of the flaws"),
        ({"final-1": "heavy"}, "be read"),
    ],
)
def test_what_cannot_be_is_told_and_what_was_typed_stays(
    client: TestClient, filled: Database, typed: dict[str, str], says: str
) -> None:
    text = shoot(client, "a", **{"note": "kept on the page", "status": 422, **typed})  # type: ignore[arg-type]
    assert says in text.replace("&#39;", "'")
    assert "kept on the page" in text
    assert log(filled).shots == ()


def test_a_mould_that_still_cures_is_cast_in_only_with_a_reason(
    client: TestClient, filled: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    from ufrin.actions.job.open_job import OpenJob  # noqa: PLC0415

    monkeypatch.setattr(OpenJob, "stage", lambda *_: "curing")
    assert "not ready to be cast in" in client.get(PULLEY_AT).text
    assert "Wait, or say why" in shoot(client, "a", status=422)
    shoot(client, "b", reason="only to see the detail")
    assert log(filled).shots[0].shot.reason == "only to see the detail"
    assert "Cast in early: only to see the detail" in client.get(PULLEY_AT).text


def test_a_trial_is_laid_out_fairly_and_told_by_an_exact_test(client: TestClient, filled: Database) -> None:
    form = {"about": "release", "first": "soap", "second": "none", "is_blind": "yes"}
    at = f"/jobs/{PULLEY}/casts/trial"
    client.post(at, data=form)
    assert client.post(at, data=form).status_code == 422  # another one runs
    for token in "abcd":
        trial = log(filled).trial
        assert trial is not None
        assert sorted(trial.next_ways.values()) == ["first", "first", "second", "second"]
        flawed = {f"piece-{cavity}": "torn" for cavity, way in trial.next_ways.items() if way == "second"}
        shoot(client, token, **flawed)
    page = client.get(PULLEY_AT).text
    assert "way 1" in page  # blind
    client.post(at, data={"act": "end"})
    trial = log(filled).trial
    assert trial is not None
    assert trial.result is not None
    assert trial.result.verdict == "first"
    # 8 of 8 against 0 of 8: 2 of the 12870 ways to divide them
    assert trial.result.chance == pytest.approx(2 / 12870)
    assert "“soap” came out better" in client.get(PULLEY_AT).text
    assert client.post(at, data=form | {"second": "Soap"}).status_code == 422


def test_what_a_whole_shot_is_made_by_is_tried_shot_by_shot(client: TestClient, filled: Database) -> None:
    at = f"/jobs/{PULLEY}/casts/trial"
    client.post(at, data={"about": "air", "first": "Pressure pot", "second": "nothing"})
    for token in "abcdefgh":
        trial = log(filled).trial
        assert trial is not None
        way = trial.next_ways[1]
        assert set(trial.next_ways.values()) == {way}  # all cavities alike
        # one piece of each shot without pressure has bubbles
        shoot(client, token, **({} if way == "first" else {"piece-3": "bubbles-all"}))
    found = log(filled)
    trial = found.trial
    assert trial is not None
    assert trial.shots_of("first") == trial.shots_of("second") == 4
    assert {kept.shot.air for kept in found.shots} == {"pressure", "nothing"}  # written down as the trial has it
    # 4 shots of 4 against 0 of 4: 2 of 70 ways; its 32 pieces alone would tell 16 of 16 against 12 of 16
    assert trial.result is not None
    assert trial.result.chance == pytest.approx(2 / 70)
    assert "Pressure pot until set” came out better" in client.get(PULLEY_AT).text


def test_grades_are_compared_and_asked_of_every_piece(client: TestClient, filled: Database) -> None:
    from scipy.stats import mannwhitneyu

    at = f"/jobs/{PULLEY}/casts/trial"
    client.post(at, data={"about": "other", "what": "Mould", "first": "warm", "second": "cold", "is_graded": "yes"})
    assert "give every piece a grade" in shoot(client, "x", status=422)
    graded = {"first": iter("5455"), "second": iter("2131")}
    for token in "ab":
        trial = log(filled).trial
        assert trial is not None
        shoot(client, token, **{f"grade-{cavity}": next(graded[way]) for cavity, way in trial.next_ways.items()})
    trial = log(filled).trial
    assert trial is not None
    assert trial.result is not None
    assert trial.result.verdict == "first"
    assert trial.result.chance == pytest.approx(mannwhitneyu([5, 4, 5, 5], [2, 1, 3, 1], method="asymptotic").pvalue)
    page = client.get(PULLEY_AT).text
    assert "grade 5" in page
    assert "4.8" in page  # mean of 5, 4, 5 and 5
    assert "A grade goes from 1" in shoot(client, "y", status=422, **{f"grade-{n}": "9" for n in range(1, 5)})


def test_pictures_are_kept_without_what_the_camera_noted(client: TestClient, filled: Database) -> None:
    shoot(client, "a")
    number = log(filled).shots[0].id
    photo = BytesIO()
    Image.new("RGB", (60, 40), "grey").save(photo, "PNG")
    files: Any = {"photo": ("p.png", photo.getvalue())}
    client.post(f"{PULLEY_AT}/{number}/photos", files=files, headers=ORIGIN)
    kept = log(filled).photos[number]
    answer = client.get(f"/jobs/{PULLEY}/casts/photos/{kept[0]}")
    assert answer.headers["content-type"] == "image/jpeg"
    assert Image.open(BytesIO(answer.content)).size == (60, 40)
    assert client.get(f"/jobs/9/casts/photos/{kept[0]}").status_code == 404
    wrong = client.post(f"{PULLEY_AT}/{number}/photos", files={"photo": ("p.jpg", b"<html>")}, headers=ORIGIN)
    assert wrong.status_code == 422
