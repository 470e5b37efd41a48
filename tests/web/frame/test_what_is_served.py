"""What is served and how: heads alone, shipped files only, attachments by what they are, jobs with little in them."""

import threading
from collections.abc import Iterator

import pytest
from fastapi.testclient import TestClient
from waiting import wait_until

from ufrin.actions import SCALES
from ufrin.actions.bench import pours
from ufrin.actions.job import stations
from ufrin.actions.shelf import things
from ufrin.actions.shop import safety_sheets
from ufrin.core.shelf.scales import Scale
from ufrin.errors import Refused
from ufrin.settings import Settings
from ufrin.store.connection import Database
from ufrin.web.app import create_app

OWN = {"Origin": "http://127.0.0.1"}
PDF = b"%PDF-1.4 a sheet"


@pytest.fixture
def other(conninfo: str) -> Iterator[TestClient]:
    """A second server on the same database."""
    app = create_app(Database(conninfo, wait_s=5.0), Settings(sign_in=False))
    with TestClient(app, base_url="http://127.0.0.1") as ready:
        yield ready


@pytest.mark.parametrize("place", ["/", "/jobs/1/master", "/shelf", "/healthz", "/static/app.css", "/api/v1/jobs"])
def test_head_answers_what_get_would_without_its_body(client: TestClient, filled: Database, place: str) -> None:
    got, head = client.get(place), client.head(place)
    assert (head.status_code, head.content) == (got.status_code, b"")
    assert head.headers["content-type"] == got.headers["content-type"]


def test_head_of_a_stream_ends(client: TestClient, filled: Database) -> None:
    assert client.head("/pours/1/stream").status_code == 200  # it comes back, where a stream would go on


@pytest.mark.parametrize("place", ["vendor/refresh", "vendor/versions.toml", "../pages.py", "vendor"])
def test_what_no_page_needs_is_not_served(client: TestClient, place: str) -> None:
    assert client.get(f"/static/{place}").status_code == 404


def test_licences_and_fonts_are_served(client: TestClient) -> None:
    assert client.get("/static/vendor/bulma/LICENSE").status_code == 200
    assert client.get("/static/vendor/bulma/bulma-no-helpers.min.css").status_code == 200


@pytest.mark.parametrize(
    ("sent", "given"),
    [
        ("sheet.pdf", "sheet.pdf"),
        ("../../etc/passwd", "passwd.pdf"),
        ("sheet.html", "sheet.pdf"),
        ('x"; filename="evil.exe', "x filename evil.pdf"),
        ("", "sheet.pdf"),
        ("Übersicht\r\nX-Evil: 1.pdf", "Übersicht X-Evil 1.pdf"),
        ("a" * 300 + ".pdf", "a" * 80 + ".pdf"),
    ],
)
def test_an_attachment_has_a_safe_name_and_the_ending_of_what_it_is(
    client: TestClient, filled: Database, sent: str, given: str
) -> None:
    safety_sheets.attach(filled, "rubbers", 1, sent, PDF)
    answer = client.get("/shelf/rubbers/1/sheet")
    assert safety_sheets.open_sheet(filled, "rubbers", 1).name == given
    assert answer.headers["content-type"] == "application/pdf"
    assert "evil.exe" not in answer.headers["content-disposition"]
    assert "x-evil" not in answer.headers


def test_a_scale_is_read_only_at_listed_hosts(client: TestClient, filled: Database) -> None:
    with pytest.raises(Refused, match="not among the hosts"):
        things.add(filled, SCALES, Scale(name="Far", address="socket://192.0.2.7:80"))
    page = client.get("/settings")
    form = {"version": str(page.context["kept"].version), "units": "metric", "currency": "EUR"}
    saved = client.post("/settings", data={**form, "scale_hosts": "127.0.0.1 192.0.2.7"}, headers=OWN)
    assert saved.context["kept"].scale_hosts == "127.0.0.1, 192.0.2.7"
    far = things.add(filled, SCALES, Scale(name="Far", address="socket://192.0.2.7:80"))
    things.add(filled, SCALES, Scale(name="Port", address="/dev/ttyUSB0"))
    form["version"] = str(saved.context["kept"].version)
    client.post("/settings", data={**form, "scale_hosts": "127.0.0.1"}, headers=OWN)
    refused = client.post(f"/scales/{far}/tare", headers=OWN)  # taken off the list again, it is read no more
    assert refused.status_code == 422
    assert "not among the hosts" in refused.text
    wrong = client.post("/settings", data={**form, "scale_hosts": "a/b"}, headers=OWN)
    assert wrong.status_code == 422


@pytest.mark.parametrize("place", ["ways", "box", "opening", "rubber", "checks", "cut", "sheet", "hardness", "pour"])
def test_pages_of_a_job_with_little_are_answered(client: TestClient, database: Database, place: str) -> None:
    stations.start_job(database, "Nothing measured")
    stations.start_job(database, "Too large")
    stations.change_station(
        database, 2, "master", version=1, changes={"length_mm": 9000.0, "width_mm": 9000.0, "height_mm": 9000.0}
    )
    stations.start_job(database, "Only weighed")
    stations.change_station(database, 3, "master", version=1, changes={"mass_g": 20.0, "material": "clay"})
    for job in (1, 2, 3):
        assert client.get(f"/jobs/{job}/{place}").status_code == 200
        for order in ("rubber", "height", "cost", "nonsense"):
            assert client.get(f"/jobs/{job}/ways?order={order}").status_code == 200


def test_a_line_written_at_one_server_reaches_the_pages_of_another(
    client: TestClient, other: TestClient, filled: Database
) -> None:
    number = int(client.post("/jobs/8/pour", data={"who": "Wren"}, headers=OWN).url.path.rsplit("/", 1)[1])
    heard: list[int] = []
    events = other.app.state.events  # type: ignore[attr-defined]

    def written() -> None:
        state = pours.look(filled, number).state
        form = {"kind": "step", "what": state.step.key, "number": str(state.next_number), "token": "t", "by": "typed"}
        client.post(f"/pours/{number}/enter", data=form, headers=OWN)

    events.publish = heard.append
    thread = threading.Thread(target=written)
    thread.start()
    thread.join(10)
    wait_until(lambda: number in heard, "the other server does not hear of it")
