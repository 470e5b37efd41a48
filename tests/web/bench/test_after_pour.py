"""After the pour, through the pages: clocks, the witness cup, a shortfall, mishaps, the demoulding, pictures, steps."""

import io
from datetime import UTC, datetime, timedelta

import icalendar
import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient
from PIL import Image
from prepared import do_steps, weigh_through

from ufrin.actions import RUBBERS, THERMOMETERS
from ufrin.actions.bench import cure_evidence, pours
from ufrin.actions.bench.running import what_runs
from ufrin.actions.job import stations
from ufrin.actions.shelf import lots, things
from ufrin.actions.shop import room
from ufrin.core.shelf.thermometers import Thermometer
from ufrin.devices import clock
from ufrin.store.connection import Database

HTMX = {"HX-Request": "true"}
AMMONITE, PULLEY, TOKENS, BADGE = 9, 6, 12, 11


def send(client: TestClient, number: int, kind: str, *, status: int = 200, **form: str) -> BeautifulSoup:
    state = pours.look(client.app.state.database, number).state  # type: ignore[attr-defined]
    told = {"kind": kind, "number": str(state.next_number), "token": f"{kind}-{state.next_number}", "units": "metric"}
    answer = client.post(f"/pours/{number}/enter", data=told | form, headers=HTMX)
    assert answer.status_code == status, answer.text[:2000]
    return BeautifulSoup(answer.text, "lxml")


def text_of(page: BeautifulSoup) -> str:
    return " ".join(page.get_text(" ").split())


@pytest.fixture
def cured(filled: Database) -> int:
    """A pour of the ammonite that was begun nine hours ago and waits to be taken out."""
    return weigh_through(filled, AMMONITE, ago_h=9)


def test_the_clocks_of_a_pour_are_on_its_page_its_job_and_the_board(
    client: TestClient, filled: Database, cured: int
) -> None:
    page = BeautifulSoup(client.get(f"/pours/{cured}").text, "lxml")
    left_s = float(str(page.select_one("[data-alarm='Take it out']")["data-counts"]))
    state = pours.look(filled, cured).state
    assert left_s == pytest.approx(state.clocks.end_s("demould") - clock.now().wall_s, abs=5)
    for place in ("/", f"/jobs/{AMMONITE}/pour", "/clocks"):
        shown = BeautifulSoup(client.get(place).text, "lxml").select_one("[data-alarm='Take it out']")
        assert float(str(shown["data-counts"])) == pytest.approx(left_s, abs=60), place
    told = client.get(f"/api/v1/jobs/{AMMONITE}").json()
    assert told["state"] == "curing"
    at = datetime.fromisoformat(told["pours"][0]["demould_at"])
    assert at.timestamp() == pytest.approx(state.clocks.end_s("demould"), abs=0.01)


def test_a_witness_cup_that_set_early_ends_the_clock_and_teaches_the_rubber(
    client: TestClient, filled: Database, cured: int
) -> None:
    rubber = pours.look(filled, cured).pour.rubber_id
    before = cure_evidence.of_rubber(filled, rubber).factor.pours
    assert "Press the left-over" in text_of(BeautifulSoup(client.get(f"/pours/{cured}").text, "lxml"))
    assert [one.kind for one in what_runs(filled, clock.now()).next if one.pour.id == cured] == ["press the cup"]
    page = send(client, cured, "witness", what="set")
    assert "Take it out" in page.find("h1").text
    assert [one.kind for one in what_runs(filled, clock.now()).next if one.pour.id == cured] == ["take out"]
    assert cure_evidence.of_rubber(filled, rubber).factor.pours == before + 1
    tin = text_of(BeautifulSoup(client.get(f"/shelf/rubbers/{rubber}").text, "lxml"))
    factor = cure_evidence.of_rubber(filled, rubber).factor
    assert f"It sets in {factor.factor:.2f} of the tin's time here" in tin
    assert client.get(f"/api/v1/jobs/{AMMONITE}").json()["state"] == "demould due"


def test_the_same_answer_from_two_devices_is_taken_once(client: TestClient, filled: Database, cured: int) -> None:
    number = pours.look(filled, cured).state.next_number
    form = {"kind": "witness", "number": str(number), "token": "one", "units": "metric", "what": "sticky"}
    assert client.post(f"/pours/{cured}/enter", data=form, headers=HTMX).status_code == 200
    late = client.post(f"/pours/{cured}/enter", data=form | {"token": "two", "what": "set"}, headers=HTMX)
    assert late.status_code == 409
    assert "done meanwhile at another bench" in late.text
    assert pours.look(filled, cured).state.valid[-1].what == "sticky"


def test_a_pour_that_ran_short_is_topped_up_at_the_bench(client: TestClient, filled: Database) -> None:
    number = weigh_through(filled, AMMONITE, until="finish")
    page = BeautifulSoup(client.get(f"/pours/{number}/short?missing=40").text, "lxml")
    amounts = [float(one.text.split()[0]) for one in page.select(".amounts .figure")]
    plan = pours.look(filled, number).state.plan
    mixed_ml = sum(amounts) / plan.sg
    assert 40 * 1.02 < mixed_ml < 40 * 1.26
    assert amounts[1] / amounts[0] == pytest.approx(plan.b_per_a, rel=0.02)
    assert "stays tacky for" in text_of(page)
    form = page.select_one("form[action$='/enter']")
    told = {one["name"]: one.get("value", "") for one in form.select("input")}
    assert client.post(str(form["action"]), data=told, follow_redirects=False).status_code == 303
    state = pours.look(filled, number).state
    assert (state.step.kind, state.short_ml) == ("cup", pytest.approx(40))
    b = next(one for one in lots.of_thing(filled, RUBBERS, 1)[0] if one.lot.part == "B").lot.left_g
    weigh_through(filled, AMMONITE, number=number)
    after = pours.look(filled, number).state
    assert after.is_finished
    assert after.needed_g == pytest.approx(state.plan.need_g + 40 * plan.sg)
    left = next(one for one in lots.of_thing(filled, RUBBERS, 1)[0] if one.lot.part == "B").lot.left_g
    assert b - left == pytest.approx(after.attempt.poured_g["B"], abs=0.001)
    assert "ran short" in client.get(f"/pours/{number}/record").text.lower()


def test_a_level_below_the_fill_line_is_turned_into_rubber(client: TestClient, filled: Database) -> None:
    number = weigh_through(filled, AMMONITE, until="finish")
    box = stations.open_job(filled, AMMONITE, "rubber").plan.box
    length, width = box.inside_mm
    page = BeautifulSoup(client.get(f"/pours/{number}/short?below=5").text, "lxml")
    # over the master it is the box's own section
    wanted_ml = length * width * 5 / 1000 if box.diameter_mm is None and box.outline is None else None
    assert wanted_ml is not None
    assert f"{wanted_ml:.0f}" in page.select_one(".answer .what").text.replace(" ", "")
    for query, says in (
        ("below=900", "below the fill line"),
        ("missing=-3", "less than nothing"),
        ("missing=x", "read"),
    ):
        refused = client.get(f"/pours/{number}/short?{query}")
        assert refused.status_code == 422
        assert says in refused.text


def test_mishaps_say_what_to_do_and_stay_in_the_record(client: TestClient, cured: int) -> None:
    page = send(client, cured, "mishap", what="leak")
    assert "Press clay or putty on it" in text_of(page)
    send(client, cured, "mishap", what="float")
    record = client.get(f"/pours/{cured}/record.csv").text
    assert "mishap: it leaks" in record
    assert "mishap: the master floats" in record
    send(client, cured, "mishap", status=422, what="explosion")


def test_too_early_is_warned_and_the_mould_is_ready_once_it_is_out_and_cured(
    client: TestClient, filled: Database, cured: int
) -> None:
    assert "Too early" in client.get(f"/pours/{cured}").text
    send(client, cured, "demould", what="too-soft", ago_min="5 min")
    page = send(client, cured, "demould", what="well")
    assert "The mould is out" in page.find("h1").text
    send(client, cured, "found", what="bubbles")
    page = send(client, cured, "found", what="torn")
    assert "Bubbles at the surface" in text_of(page)
    assert client.get(f"/api/v1/jobs/{AMMONITE}").json()["state"] == "curing"  # its full cure takes 72 h
    again = weigh_through(filled, TOKENS, ago_h=9)
    for ago, says in (("80 h", "before A met B"), ("soon", "read")):
        assert says in text_of(send(client, again, "witness", status=422, what="set", ago_min=ago))


def picture(mode: str = "RGB", size: tuple[int, int] = (2400, 1200), kind: str = "JPEG") -> bytes:
    made, exif = io.BytesIO(), Image.Exif()
    exif[0x010F] = "A maker of cameras"
    exif.get_ifd(0x8825)[1] = "N"
    exif.get_ifd(0x8825)[2] = (53.0, 12.0, 5.0)
    exif[0x0112] = 6  # held upright: turned by a quarter
    Image.new(mode, size, 90).save(made, kind, exif=exif)
    return made.getvalue()


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_a_picture_is_kept_upright_small_and_without_its_place(
    client: TestClient, filled: Database, cured: int, kind: str
) -> None:
    sent = client.post(
        f"/pours/{cured}/photos",
        files={"photo": ("IMG.jpg", picture(kind=kind), "image/jpeg")},
        data={"token": "p1"},
        follow_redirects=False,
    )
    assert sent.status_code == 303, sent.text
    entry = pours.look(filled, cured).state.valid[-1]
    answer = client.get(f"/pours/{cured}/photos/{entry.number}")
    assert answer.headers["content-type"] == "image/jpeg"
    kept = Image.open(io.BytesIO(answer.content))
    assert (kept.format, kept.size) == ("JPEG", (800, 1600))
    assert not kept.getexif()
    assert b"maker of cameras" not in answer.content
    assert f"photos/{entry.number}" in client.get(f"/pours/{cured}/record").text
    assert client.get(f"/pours/{cured}/photos/9999").status_code == 404


def bomb() -> bytes:
    made = io.BytesIO()
    Image.new("1", (10_000, 6_000)).save(made, "PNG")
    return made.getvalue()


@pytest.mark.parametrize(
    ("name", "data", "says"),
    [
        ("cat.jpg", b"<html><script>alert(1)</script></html>", "no picture"),
        ("cat.png", b"<svg xmlns='http://www.w3.org/2000/svg'/>", "no picture"),
        ("cat.jpg", picture()[:400], "no picture"),
        ("bomb.png", bomb(), "million pixels"),
        ("cat.gif", b"GIF89a" + bytes(40), "no picture"),
        ("nothing.jpg", b"", "choose a picture"),
    ],
)
def test_what_is_no_picture_is_refused(
    client: TestClient, filled: Database, cured: int, name: str, data: bytes, says: str
) -> None:
    before = pours.look(filled, cured).state.entries
    answer = client.post(f"/pours/{cured}/photos", files={"photo": (name, data, "image/jpeg")}, data={"token": "x"})
    assert answer.status_code == 422
    assert says in answer.text
    assert pours.look(filled, cured).state.entries == before


def test_a_tap_by_mistake_is_taken_back_in_the_record(client: TestClient, filled: Database, cured: int) -> None:
    send(client, cured, "witness", what="set")
    state = pours.look(filled, cured).state
    number = state.entries[-1].number
    form = {"number": str(state.next_number), "token": "b", "units": "metric", "of_number": f"back-{number}"}
    assert client.post(f"/pours/{cured}/record", data=form, follow_redirects=False).status_code == 303
    assert pours.look(filled, cured).state.clocks.end_s("demould") > clock.now().wall_s
    assert "<s>Witness cup: set" in client.get(f"/pours/{cured}/record").text


def test_the_record_is_printed_as_pdf(client: TestClient, cured: int) -> None:
    answer = client.get(f"/pours/{cured}/record.pdf")
    assert answer.headers["content-type"] == "application/pdf"
    assert answer.content.startswith(b"%PDF")


def test_two_halves_go_from_the_first_to_the_mould(client: TestClient, filled: Database) -> None:
    first = weigh_through(filled, PULLEY, ago_h=20)
    shown = text_of(BeautifulSoup(client.get(f"/pours/{first}").text, "lxml"))
    assert "Turn the box over" in shown
    assert [one.kind for one in what_runs(filled, clock.now()).next if one.pour.id == first] == ["second half"]
    second = weigh_through(filled, PULLEY, ago_h=10)
    assert pours.look(filled, second).state.plan.half == "second"
    # the first half waits no longer
    assert [one.pour.id for one in what_runs(filled, clock.now()).next if one.pour.job_id == PULLEY] == [second]
    send(client, second, "demould", what="well")
    sequence = client.get(f"/jobs/{PULLEY}/sequence")
    open_steps = [one.step.key for one in sequence.context["seen"].steps if one.state != "done"]
    assert open_steps == ["post-cure", "rest", "first-cast"]
    client.post(f"/jobs/{PULLEY}/sequence/post-cure", data={"done": "yes"})
    done = {one.step.key: one.state for one in client.get(f"/jobs/{PULLEY}/sequence").context["seen"].steps}
    assert done["post-cure"] == "done"
    client.post(f"/jobs/{PULLEY}/sequence/post-cure", data={"done": "no"})
    assert client.post(f"/jobs/{PULLEY}/sequence/pour-first", data={"done": "yes"}).status_code == 422


def test_a_wish_dates_the_steps_back_and_says_when_it_cannot_be(client: TestClient, filled: Database) -> None:
    def dated(ahead: timedelta) -> list[object]:
        wanted = datetime.now(UTC) + ahead
        sent = client.post(f"/jobs/{PULLEY}/wish", data={"wanted": wanted.strftime("%Y-%m-%dT%H:%M")})
        assert sent.status_code == 200, sent.text[:500]
        return [sent.context["seen"], wanted]

    seen, wanted = dated(timedelta(days=5))
    assert seen.late_s == 0
    assert seen.steps[-1].ends_s == pytest.approx(wanted.timestamp(), abs=60)
    seen, _ = dated(timedelta(hours=1))
    assert seen.late_s > 3600
    for typed, says in (("2020-01-01T10:00", "past"), ("tomorrow", "Type a day"), ("2099-01-01T00:00", "ten years")):
        refused = client.post(f"/jobs/{PULLEY}/wish", data={"wanted": typed})
        assert refused.status_code == 422
        assert says in BeautifulSoup(refused.text, "lxml").find(id="h-wanted").text
        assert f'value="{typed}"' in refused.text
    assert client.post(f"/jobs/{PULLEY}/wish", data={"wanted": ""}).context["seen"].wish_s is None


def test_the_calendar_file_has_every_step(client: TestClient, filled: Database) -> None:
    answer = client.get(f"/jobs/{PULLEY}/sequence.ics")
    assert answer.headers["content-type"].startswith("text/calendar")
    events = icalendar.Calendar.from_ical(answer.content).walk("VEVENT")
    steps = client.get(f"/jobs/{PULLEY}/sequence").context["seen"].steps
    assert len(events) == len(steps)
    for event, one in zip(events, steps, strict=True):
        assert event["summary"].endswith(one.step.label)
        assert event.decoded("dtstart").timestamp() == pytest.approx(one.begins_s, abs=2)
    assert len({str(event["uid"]) for event in events}) == len(events)


def test_a_putty_is_kneaded_and_pressed(client: TestClient, filled: Database) -> None:
    number = pours.start(filled, BADGE, who="Wren", temp_c=36.0, what="the pad", now=clock.now())
    page = BeautifulSoup(client.get(f"/pours/{number}").text, "lxml")
    assert "Keep the two parts apart" in page.find("h1").text
    assert "only" not in text_of(page)  # at 36 degC a minute and a quarter are left
    send(client, number, "temperature", temp_c="42")
    assert "min are left to press" in text_of(BeautifulSoup(client.get(f"/pours/{number}").text, "lxml"))
    weigh_through(filled, BADGE, number=number, until="mix")
    page = BeautifulSoup(client.get(f"/pours/{number}").text, "lxml")
    assert "Knead" in page.find("h1").text
    window_s = float(str(page.select_one(".clock")["data-left"]))
    assert window_s == pytest.approx(300 * 2 ** (-(42 - 23) / 10), abs=5)


def test_parts_measured_by_marks_are_typed_in_millilitres(client: TestClient, filled: Database) -> None:
    version = stations.open_job(filled, AMMONITE).job.versions["rubber"]
    stations.change_station(
        filled, AMMONITE, "rubber", version=version, changes={"basis": "volume", "cup_mark_ml": 2.0}
    )
    number = pours.start(filled, AMMONITE, who="Wren", temp_c=21.0, what="the box", now=clock.now())
    do_steps(filled, number)
    send(client, number, "tare", by="typed")
    page = send(client, number, "hold", ingredient="A")
    one = pours.look(filled, number).state.step.ingredient
    target_ml = pours.look(filled, number).state.step.target_g / one.sg
    assert f"{target_ml:.0f}" in page.select_one(".target").text.replace(" ", "")
    assert "meniscus" in text_of(page)
    send(client, number, "weigh", ingredient="A", by="typed", measured="ml", net_g=f"{target_ml:.1f} ml")
    assert pours.look(filled, number).state.attempt.poured_g["A"] == pytest.approx(target_ml * one.sg, rel=0.01)


def test_a_thermometer_that_went_silent_is_told(client: TestClient, filled: Database) -> None:
    number = weigh_through(filled, AMMONITE, ago_h=3)
    wall = things.add(filled, THERMOMETERS, Thermometer(name="Wall", address="COM9"))
    now = clock.now()
    earlier = type(now)(wall_s=now.wall_s - 7200, steady_s=now.steady_s - 7200, machine=now.machine)
    room.note(filled, wall, 26.0, earlier)
    shown = text_of(BeautifulSoup(client.get(f"/pours/{number}").text, "lxml"))
    assert "Wall has been silent for" in shown
    assert "26 °C that it read last go on counting" in shown
    room.note(filled, wall, 24.0, now)
    assert "by Wall" in text_of(BeautifulSoup(client.get(f"/pours/{number}").text, "lxml"))
    assert 'value="24 °C"' in client.get(f"/jobs/{TOKENS}/pour").text
    assert "24" in client.get(f"/shelf/thermometers/{wall}").text


def test_the_typed_weight_of_the_whole_cup_is_offered_as_the_part(client: TestClient, filled: Database) -> None:
    number = weigh_through(filled, AMMONITE, until="weigh", part="B")
    state = pours.look(filled, number).state
    whole = state.attempt.total_g + state.step.target_g
    page = send(client, number, "weigh", status=422, ingredient="B", by="typed", net_g=f"{whole:.1f}")
    form = page.select_one("form.untared")
    told = {one["name"]: one.get("value", "") for one in form.select("input")}
    assert client.post(f"/pours/{number}/enter", data=told, headers=HTMX).status_code == 200
    assert pours.look(filled, number).state.attempt.poured_g["B"] == pytest.approx(state.step.target_g, abs=0.06)


def test_each_coat_has_its_window(client: TestClient, filled: Database) -> None:
    cormorant = 5
    for ago_h, says in (
        (0.0, "until the one before no longer runs"),
        (1.5, "while the one before is still tacky"),
        (30.0, "no longer tacky"),
    ):
        number = weigh_through(filled, cormorant, ago_h=ago_h, until="leftover")
        send(client, number, "leftover", net_g="3")
        shown = text_of(BeautifulSoup(client.get(f"/pours/{number}").text, "lxml"))
        assert "coat 2" in shown.lower()
        assert says in shown
        send(client, number, "finish")
