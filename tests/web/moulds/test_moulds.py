"""Moulds: their birth, card, cavities, signs and care; life and money on the page; orders; paper with a QR code."""

from datetime import UTC, date, datetime, timedelta
from io import BytesIO
from typing import Any

import pytest
import zxingcpp
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient
from PIL import Image, ImageDraw
from pypdf import PdfReader

from ufrin.actions import RESINS
from ufrin.actions.casts import shots
from ufrin.actions.moulds import cards, orders
from ufrin.actions.shelf import things
from ufrin.core.casting.shot_log import Shot, ShotPiece
from ufrin.devices import clock
from ufrin.errors import Refused
from ufrin.store.connection import Database

PULLEY, PULLEY_MOULD = 6, 5
RING, CLEAT, BADGE, MASTER = 6, 7, 8, 11  # of the demo's older moulds
AMMONITE_MOULD = 2


def card(database: Database, number: int) -> cards.MouldCard:
    return cards.look(database, number)


def keep(client: TestClient, number: int, **typed: str) -> Any:  # noqa: ANN401
    version = client.get(f"/moulds/{number}").context["mould"].version
    data = {"version": str(version), "units": "metric", **typed}
    return client.post(f"/moulds/{number}", data=data, follow_redirects=False)


def shoot(database: Database, job: int, token: str, cavities: tuple[int, ...] = (1,), days_ago: float = 0) -> None:
    now = clock.now()
    pieces = tuple(ShotPiece(cavity=cavity) for cavity in cavities)
    shot = Shot(kind="solid", resin="Quayside 70", mixed_g=50.0, pieces=pieces, reason="a test")
    at_s = now.wall_s - 86_400 * days_ago
    shots.add(database, job, shot, type(now)(wall_s=at_s, steady_s=now.steady_s, machine=now.machine), token=token)


def test_moulds_stand_in_a_list_with_their_state(client: TestClient, filled: Database) -> None:
    listed = {one.row.name: one for one in client.get("/moulds").context["moulds"].listed}
    assert listed["Mooring ring, three at once"].state == "near its end"
    assert (listed["Mooring ring, three at once"].in_use, listed["Mooring ring, three at once"].cavities) == (2, 3)
    assert listed["Rope cleat"].state == "retired"
    assert listed["Lamp finial"].state == "new"
    assert listed["Pulley block, four at once"].cavities == 4
    # an easy mould with a release is expected to last longer than a usual one
    assert listed["Harbour seal badge"].row.expected_casts == pytest.approx(25 * 2.4 * 1.25)
    assert listed["Mooring ring, three at once"].row.due == ("release", "clean")
    found = client.get("/moulds?search=rack 2").context["moulds"].listed
    assert [one.row.name for one in found] == ["Mooring ring, three at once"]
    assert "No mould has" in client.get("/moulds?search=%25").text


def test_a_mould_is_there_once_it_was_cast_in(client: TestClient, database: Database) -> None:
    typed = {"name": "Ring", "units": "metric", "cavity_ml": "40 ml", "mould_cavities": "2"}
    job = int(client.post("/moulds", data=typed, follow_redirects=False).headers["location"].split("/")[2])
    number = cards.number_of(database, job)
    assert number == 1
    assert client.get(f"/jobs/{job}/mould", follow_redirects=False).headers["location"] == "/moulds/1"
    shoot(database, job, "a", (1, 2))
    assert [(one.number, one.shots) for one in card(database, 1).cavities] == [(1, 1), (2, 1)]
    assert client.get("/jobs/99/mould").status_code == 404
    assert client.get("/moulds/99").status_code == 404


def test_cavities_are_added_to_a_mould_that_was_cast_in(client: TestClient, database: Database) -> None:
    typed = {"name": "Ring", "units": "metric", "cavity_ml": "40 ml", "mould_cavities": "2"}
    job = int(client.post("/moulds", data=typed, follow_redirects=False).headers["location"].split("/")[2])
    shoot(database, job, "a", (1, 2))
    before = card(database, 1).life.left.median
    version = client.get(f"/jobs/{job}/casts").context["job"].versions["casts"]
    more = {"version": str(version), "units": "metric", "mould_cavities": "4"}
    client.post(f"/jobs/{job}/casts", data=more)
    after = card(database, 1)
    assert [(one.number, one.shots) for one in after.cavities] == [(1, 1), (2, 1), (3, 0), (4, 0)]
    assert after.life.left.median > 1.5 * before
    (listed,) = cards.page(database).listed
    assert (listed.in_use, listed.cavities) == (4, 4)
    shoot(database, job, "b", (3, 4))
    assert [one.shots for one in card(database, 1).cavities] == [1, 1, 1, 1]


def test_casts_before_the_log_count_in_the_drawing_of_its_life(client: TestClient, filled: Database) -> None:
    number = PULLEY_MOULD
    logged = max(one.shots for one in card(filled, number).cavities)
    assert f"here: {logged}<" in str(client.get(f"/moulds/{number}").context["life_drawing"])
    keep(client, number, shots_before="12")
    page = client.get(f"/moulds/{number}").context
    assert page["details"].shots_before == 12
    assert f"here: {logged + 12}<" in str(page["life_drawing"])


def test_casts_before_the_log_leave_fewer_to_come_in_the_list_as_on_the_card(
    client: TestClient, filled: Database
) -> None:
    def left() -> tuple[float, float]:
        (row,) = [one for one in cards.page(filled).listed if one.row.id == PULLEY_MOULD]
        return row.left.median, card(filled, PULLEY_MOULD).life.left.median

    new_in_list, new_on_card = left()
    keep(client, PULLEY_MOULD, shots_before="12")
    used_in_list, used_on_card = left()
    assert used_in_list < new_in_list - 10
    assert used_in_list == pytest.approx(used_on_card, rel=0.1)
    assert new_in_list == pytest.approx(new_on_card, rel=0.1)


def test_what_is_left_is_told_from_the_least_to_the_most(client: TestClient, filled: Database) -> None:
    left = card(filled, PULLEY_MOULD).life.left
    assert left.low < left.median < left.high
    said = str(client.get(f"/moulds/{PULLEY_MOULD}").context["left_words"])
    assert said == f"{left.median:.0f} more ({left.low:.0f} to {left.high:.0f})"


def test_over_the_interface_a_retired_mould_has_no_cavity_left(client: TestClient, filled: Database) -> None:
    before = client.get(f"/api/v1/moulds/{PULLEY_MOULD}").json()
    assert [one["retired"] for one in before["cavities"]] == [False] * 4
    client.post(f"/moulds/{PULLEY_MOULD}/retire", data={"act": "retire", "cavity": "2", "cause": "torn"})
    one_less = client.get(f"/api/v1/moulds/{PULLEY_MOULD}").json()
    assert [one["retired"] for one in one_less["cavities"]] == [False, True, False, False]
    client.post(f"/moulds/{PULLEY_MOULD}/retire", data={"act": "retire", "cause": "swollen"})
    after = client.get(f"/api/v1/moulds/{PULLEY_MOULD}").json()
    assert after["state"] == "retired"
    assert [one["retired"] for one in after["cavities"]] == [True] * 4
    assert [one["shots"] for one in after["cavities"]] == [one["shots"] for one in before["cavities"]]


def test_retirements_teach_how_long_moulds_last(client: TestClient, filled: Database) -> None:
    before = card(filled, PULLEY_MOULD).life
    # three cavities worn out at 31, 24 and 19; the mould that was lost tells nothing of its end
    assert before.worn_out == 3
    own = sorted(one.casts * 1.0 for one in before.own if one.failed)
    assert own == [pytest.approx(19 * before.prior.median_casts / (25 * 0.8)), pytest.approx(24), pytest.approx(31)]
    for cavity, cause in ((1, "torn"), (2, "lost")):
        client.post(f"/moulds/{PULLEY_MOULD}/retire", data={"act": "retire", "cavity": str(cavity), "cause": cause})
    after = card(filled, PULLEY_MOULD)
    assert after.life.worn_out == 4
    assert [one.retired for one in after.cavities] == ["torn", "lost, lent or given away", "", ""]
    assert after.life.left.median < before.left.median
    client.post(f"/moulds/{PULLEY_MOULD}/retire", data={"act": "back", "cavity": "1"})
    assert card(filled, PULLEY_MOULD).life.worn_out == 3
    # the whole of it, and back
    refused = client.post(f"/moulds/{PULLEY_MOULD}/retire", data={"act": "retire", "cause": ""})
    assert refused.status_code == 422
    assert "Choose a cause" in refused.text
    client.post(f"/moulds/{PULLEY_MOULD}/retire", data={"act": "retire", "cause": "swollen", "why": "left in resin"})
    page = client.get(f"/moulds/{PULLEY_MOULD}")
    assert "Swollen: left in resin" in page.text
    assert client.post(f"/jobs/{PULLEY}/casts/bench").status_code == 422  # it is cast in no more
    with pytest.raises(Refused, match="This mould is retired"):
        shoot(filled, PULLEY, "too late", (3,))
    shoot(filled, PULLEY, "before", (3,), days_ago=2)
    assert "the mould is retired" in client.get(f"/jobs/{PULLEY}/casts/log").text
    assert page.context["card"].life.left.median == 0
    client.post(f"/moulds/{PULLEY_MOULD}/retire", data={"act": "back"})
    assert card(filled, PULLEY_MOULD).is_usable


def test_the_board_lists_the_moulds_near_their_end(client: TestClient, filled: Database) -> None:
    assert "near-end" in client.get("/").text
    assert client.get("/moulds/near-end", follow_redirects=False).headers["location"] == "/moulds"
    asked = {"HX-Request": "true"}

    def listed() -> list[int]:
        found = client.get("/moulds/near-end", headers=asked).context["moulds"]
        assert [one.row.id for one in found] == [
            one.row.id for one in cards.page(filled).listed if one.state == "near its end"
        ]
        return [one.row.id for one in found]

    before = listed()
    assert before
    assert AMMONITE_MOULD not in before
    client.post(f"/moulds/{AMMONITE_MOULD}/signs", data={"sign": "colour"})
    assert set(listed()) == {*before, AMMONITE_MOULD}
    client.post(f"/moulds/{before[0]}/retire", data={"act": "retire", "cause": "torn"})
    assert set(listed()) == {*before[1:], AMMONITE_MOULD}


def test_shots_before_the_log_and_backdated_ones_count(client: TestClient, filled: Database) -> None:
    fresh = card(filled, AMMONITE_MOULD)
    assert keep(client, AMMONITE_MOULD, shots_before="20").status_code == 303
    used = card(filled, AMMONITE_MOULD)
    assert used.shots == 20
    assert used.life.left.median < fresh.life.left.median
    shoot(filled, used.mould.job_id, "old", days_ago=30)
    assert card(filled, AMMONITE_MOULD).shots == 21
    # into a cavity that is retired by now a shot is logged only as of before
    job = card(filled, RING).mould.job_id
    with pytest.raises(Refused, match="is retired"):
        shoot(filled, job, "after", (2,))
    shoot(filled, job, "before", (2,), days_ago=30)
    assert [one.shots for one in card(filled, RING).cavities] == [22, 20, 22]


def test_a_shot_is_logged_as_of_when_it_was_cast(client: TestClient, filled: Database) -> None:
    job = card(filled, BADGE).mould.job_id
    shot = {"token": "t", "units": "metric", "mixed_g": "84 g", "piece-1": "good", "ago_min": "2 h"}
    assert client.post(f"/jobs/{job}/casts/log", data=shot, follow_redirects=False).status_code == 303
    newest = shots.of_job(filled, job, clock.now()).shots[0]
    assert clock.now().wall_s - newest.at.timestamp() == pytest.approx(7200, abs=120)
    assert client.post(f"/jobs/{job}/casts/log", data=shot | {"token": "u", "ago_min": "-1 h"}).status_code == 422


def test_what_is_due_is_counted_from_the_last_time(client: TestClient, filled: Database) -> None:
    # the ring is released every 6 shots and cleaned every 15; it made 22
    assert [(one.care, one.to_go) for one in card(filled, RING).dues] == [("release", -16), ("clean", -7)]
    client.post(f"/moulds/{RING}/care", data={"care": "release"})
    assert [(one.care, one.to_go) for one in card(filled, RING).dues] == [("clean", -7), ("release", 6)]
    assert client.post(f"/moulds/{RING}/care", data={"care": "paint"}).status_code == 422
    assert "due now" in client.get(f"/moulds/{RING}").text


def test_signs_are_noted_and_forgotten(client: TestClient, filled: Database) -> None:
    at = f"/moulds/{BADGE}/signs"
    client.post(at, data={"sign": "colour", "cavity": "3", "note": "pink at the rim"})
    found = card(filled, BADGE)
    assert [(one.sign, one.cavity, one.note) for one in found.signs] == [("colour", 3, "pink at the rim")]
    assert found.state == "near its end"
    client.post(at, data={"forget": str(found.signs[0].id)})
    assert card(filled, BADGE).signs == ()
    assert client.post(at, data={"sign": "colour", "cavity": "9"}).status_code == 422
    assert client.post(at, data={"sign": "none"}).status_code == 422
    # what was typed stays with what is wrong
    refused = client.post(at, data={"sign": "edge", "cavity": "9", "note": "by the gate"})
    assert refused.status_code == 422
    assert 'value="by the gate"' in refused.text
    assert '<option value="edge" selected>' in refused.text
    refused = client.post(f"/moulds/{BADGE}/retire", data={"act": "retire", "why": "left in the rain"})
    assert refused.status_code == 422
    assert 'value="left in the rain"' in refused.text


def test_a_sign_is_kept_with_its_picture(client: TestClient, filled: Database) -> None:
    photo = BytesIO()
    Image.new("RGB", (60, 40), "brown").save(photo, "PNG")
    files: Any = {"photo": ("p.png", photo.getvalue())}
    origin = {"Origin": "http://127.0.0.1"}
    client.post(f"/moulds/{BADGE}/signs", data={"sign": "matt"}, files=files, headers=origin)
    number = card(filled, BADGE).signs[0].id
    shown = client.get(f"/moulds/{BADGE}/signs/{number}")
    assert Image.open(BytesIO(shown.content)).size == (60, 40)
    assert f"/moulds/{BADGE}/signs/{number}" in client.get(f"/moulds/{BADGE}").text
    assert client.get(f"/moulds/{CLEAT}/signs/{number}").status_code == 404


def test_generations_add_up_and_no_mould_comes_from_itself(client: TestClient, filled: Database) -> None:
    found = card(filled, MASTER)
    names = [(one.link.kind, one.generation) for one in found.chain]
    assert names == [("master", 0), ("mould", 1), ("cast", 1), ("mould", 2), ("cast", 2)]
    assert found.chain[3].finish == "satin"
    # the ammonite's longest side shrinks with the resin that its first mould is cast in
    assert found.chain[0].size_mm == pytest.approx(92, abs=0.5)
    assert [(one.id, one.is_retired) for one in card(filled, AMMONITE_MOULD).children] == [(MASTER, False)]
    tree = BeautifulSoup(client.get(f"/moulds/{MASTER}").text, "lxml").find(class_="chain")
    here = " ".join(tree.find(class_="is-here").text.split())
    assert here.startswith("Mould, generation 2: this one, longest side")
    assert tree.find("a")["href"] == f"/moulds/{AMMONITE_MOULD}"
    circle = keep(client, AMMONITE_MOULD, parent_id=str(MASTER))
    assert circle.status_code == 422
    assert "comes from this one itself" in circle.text


def test_a_rigid_mould_keeps_to_one_rubber_family(client: TestClient, filled: Database) -> None:
    job = card(filled, MASTER).mould.job_id
    resin = next(kept.id for kept in things.shelf(filled, RESINS).things if kept.thing.name == "Quayside 70")
    version = client.get(f"/jobs/{job}/casts").context["job"].versions["casts"]
    data = {"version": str(version), "units": "metric", "resin_id": str(resin)}
    client.post(f"/jobs/{job}/casts", data=data)
    answer = client.get(f"/jobs/{job}/casts")
    assert "mould-of-one-family" in {finding.code for finding in answer.context["casts"].findings}
    assert "may never set in it again" in answer.text
    assert client.post(f"/jobs/{job}/casts/bench").status_code == 422
    assert "Addition-cure silicone alone".lower() in client.get(f"/moulds/{MASTER}").text.lower()


def test_money_on_the_card(client: TestClient, filled: Database) -> None:
    material = client.get(f"/moulds/{BADGE}").context["costs"].unit_cost
    keep(client, BADGE, master_cost="60", buy_price="6.50", work_cost="1.25")
    page = client.get(f"/moulds/{BADGE}")
    costs, pays = page.context["costs"], page.context["pays"]
    assert (costs.master_cost, costs.mould_cost) == (60, 26)
    assert costs.unit_cost == pytest.approx(material + 1.25)
    assert costs.of(pays.first_count).total_cost <= 6.5 * pays.first_count
    assert f"Making pays from {pays.stays_from_count} pieces on" in page.text
    wrong = keep(client, BADGE, mould_cost="-3")
    assert wrong.status_code == 422
    assert "-3" in wrong.text


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ({"made_on": "last May"}, "Type a date such as"),
        ({"made_on": ""}, "When was it made?"),
        ({"shots_before": "2.5"}, "whole number"),
        ({"release_every": "0"}, "Release is due every"),
        ({"parts": "x"}, "x"),
        ({"parent_id": "abc"}, "not one of the choices"),
    ],
)
def test_what_cannot_be_on_a_card_is_told_beside_its_field(
    client: TestClient, filled: Database, typed: dict[str, str], says: str
) -> None:
    answer = keep(client, BADGE, **typed)
    assert answer.status_code == 422
    assert says in answer.text


def test_two_people_at_one_card(client: TestClient, filled: Database) -> None:
    version = card(filled, BADGE).mould.version
    assert keep(client, BADGE, place="Rack 9").status_code == 303
    late = client.post(f"/moulds/{BADGE}", data={"version": str(version), "units": "metric", "place": "Rack 4"})
    assert late.status_code == 409
    assert card(filled, BADGE).mould.details.place == "Rack 9"


def plan(client: TestClient, number: int, **typed: str) -> Any:  # noqa: ANN401
    return client.post(
        f"/moulds/{number}/run", data={"units": "metric", "act": "plan", **typed}, follow_redirects=False
    )


def test_a_run_is_planned_kept_and_followed(client: TestClient, filled: Database) -> None:
    today = datetime.now(UTC).date()
    start = today + timedelta(days=(7 - today.weekday()) % 7)  # a Monday
    common = {"pieces": "80", "start_on": start.isoformat(), "cycle_min": "1 h", "hours_a_day": "5", "flawed_pct": "0"}
    run = plan(client, PULLEY_MOULD, **common).context["run"]
    assert (run.rounds, run.casting_days, run.wish.shots_a_day) == (20, 4, 5)
    assert date.fromordinal(run.ends_day) == start + timedelta(days=3)
    late = plan(client, PULLEY_MOULD, **common, due_on=(start + timedelta(days=1)).isoformat())
    assert late.context["run"].late_days == 2
    assert "2 moulds side by side would do" in late.text
    # what it takes: 20 shots of four, and the rubber of the moulds that are to be poured
    needs = {one.name: one for one in late.context["plan"].needs}
    made = card(filled, PULLEY_MOULD).opened.casts.plan  # type: ignore[union-attr]
    assert made is not None
    by_cavities = [(one.wish.cavities, one.rounds) for one in late.context["plan"].by_cavities]
    assert by_cavities == [(1, 80), (2, 40), (4, 20), (6, 14), (8, 10)]
    assert needs["Quayside A, amber"].needed_g == pytest.approx(20 * made.totals["A"].g)
    assert any("for new moulds" in name for name in needs)
    unnamed = plan(client, PULLEY_MOULD, **common, act="keep", name=" ")
    assert unnamed.status_code == 422
    assert "What is the order called?" in unnamed.text
    kept = plan(client, PULLEY_MOULD, **common, act="keep", name="Harbour office")
    assert kept.headers["location"] == "/orders"
    order = next(one.order for one in orders.at_work(filled) if one.order.name == "Harbour office")
    assert (order.good, order.to_go) == (0, 80)
    page = client.get("/orders")
    assert "Harbour office" in page.text
    assert client.get(f"/moulds/{PULLEY_MOULD}").text.count("Harbour office") == 1
    client.post(f"/orders/{order.id}/close")
    assert client.post(f"/orders/{order.id}/close").status_code == 404
    assert "Harbour office" not in client.get("/orders").text
    assert "Harbour office" in client.get("/orders?all=1").text


def test_progress_follows_from_the_log(client: TestClient, filled: Database) -> None:
    before = next(one.order for one in orders.at_work(filled) if one.order.mould_id == BADGE)
    shoot(filled, before.job_id, "more", (1, 2, 3, 4))
    after = next(one.order for one in orders.at_work(filled) if one.order.mould_id == BADGE)
    assert after.good == before.good + 4
    assert BeautifulSoup(client.get("/orders").text, "lxml").find("progress")["value"] == str(after.good)


def test_the_successor_is_told_of_before_the_order_stops(client: TestClient, filled: Database) -> None:
    kept = plan(client, RING, pieces="120", flawed_pct="0", act="keep", name="Rings")
    assert kept.status_code == 303
    at_work = next(one for one in orders.at_work(filled) if one.order.name == "Rings")
    assert at_work.run is not None
    assert at_work.run.moulds >= 1
    assert at_work.successor_day is not None
    assert "Pour the next mould by" in client.get(f"/moulds/{RING}").text


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ({"pieces": "0"}, "Good pieces wanted"),
        ({"pieces": "2.5"}, "whole number"),
        ({"due_on": "soon"}, "Type a date such as"),
        ({"due_on": "2020-01-01"}, "before the first day"),
        ({"flawed_pct": "95"}, "less than 90"),
        ({"cycle_min": "12 h", "hours_a_day": "6"}, "longer than a day"),
        ({"hours_a_day": "30"}, "at most 24"),
    ],
)
def test_a_run_that_cannot_be_says_why(client: TestClient, filled: Database, typed: dict[str, str], says: str) -> None:
    answer = plan(client, BADGE, **typed)
    assert answer.status_code == 422
    assert says in answer.text
    assert next(iter(typed.values())) in answer.text


def qr_of(svg_page: str) -> str:
    """Read the QR code of an inline SVG whose path is runs of modules, drawn here for the reader."""
    svg = BeautifulSoup(svg_page, "lxml").find("svg", class_="qr")
    size = int(float(svg["viewbox" if svg.has_attr("viewbox") else "viewBox"].split()[2]))
    image = Image.new("L", (size * 8, size * 8), 255)
    pen, x, y = ImageDraw.Draw(image), 0.0, 0.0
    tokens = svg.find("path")["d"].replace("M", " M ").replace("m", " m ").replace("h", " h ").split()
    place = 0
    while place < len(tokens):
        match tokens[place]:
            case "M":
                x, y = float(tokens[place + 1]), float(tokens[place + 2])
                place += 3
            case "m":
                x, y = x + float(tokens[place + 1]), y + float(tokens[place + 2])
                place += 3
            case "h":
                wide = float(tokens[place + 1])
                pen.rectangle((x * 8, (y - 0.5) * 8, (x + wide) * 8 - 1, (y + 0.5) * 8 - 1), fill=0)
                x, place = x + wide, place + 2
            case other:
                raise AssertionError(other)
    return zxingcpp.read_barcodes(image)[0].text


@pytest.mark.parametrize(("paper", "width_mm"), [("card", 105), ("label", 62)])
def test_card_and_label_fit_on_their_paper(client: TestClient, filled: Database, paper: str, width_mm: float) -> None:
    answer = client.get(f"/moulds/{MASTER}/{paper}.pdf")
    assert answer.headers["content-type"] == "application/pdf"
    read = PdfReader(BytesIO(answer.content))
    assert len(read.pages) == 1
    assert float(read.pages[0].mediabox.width) * 25.4 / 72 == pytest.approx(width_mm, abs=0.5)
    text = read.pages[0].extract_text()
    assert "M11" in text
    assert "Addition-cure silicone" in text  # never another family


def test_the_qr_code_leads_to_the_page_of_the_mould(client: TestClient, filled: Database) -> None:
    from ufrin.web.frame.links import Links  # noqa: PLC0415
    from ufrin.web.frame.qr_code import qr_code  # noqa: PLC0415

    assert qr_of(qr_code(f"http://workshop.local:8000{Links.mould(11)}")) == "http://workshop.local:8000/moulds/11"


def test_the_interface_reads_moulds(client: TestClient, filled: Database) -> None:
    listed = client.get("/api/v1/moulds").json()["moulds"]
    ring = next(one for one in listed if one["name"].startswith("Mooring ring"))
    assert (ring["label"], ring["job_id"], ring["shots"], ring["state"]) == ("M6", None, 22, "near its end")
    assert [one["retired"] for one in ring["cavities"]] == [False, True, False]
    # each in the list as it is alone, a mould that was never cast in too
    assert listed == [client.get(f"/api/v1/moulds/{one['id']}").json() for one in listed]
    fresh = next(one for one in listed if one["state"] == "new")
    assert [cavity["shots"] for cavity in fresh["cavities"]] == [0]
    one = client.get(f"/api/v1/moulds/{PULLEY_MOULD}").json()
    assert one["job_id"] == PULLEY
    assert one["life"]["weibull"]["shape"] > 1
    assert one["amounts"][0]["shots"] == 4  # the one that ran short is left out
    assert client.get("/api/v1/moulds/99").status_code == 404
