"""Parcels: what comes in plans, weighs and shows the same; what collides is shown; what is hostile is refused."""

import io
import json
import re
import zipfile
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from typing import Any

import jsonschema_rs
import pytest
from export_schema import FILE, schema_of
from fastapi.testclient import TestClient
from snapshot import Snapshot, put_back

from ufrin.actions.bench import pours
from ufrin.actions.job import stations
from ufrin.actions.job.open_job import OpenJob
from ufrin.actions.moulds import cards
from ufrin.actions.safekeeping import bringing_in, taking_out
from ufrin.core.inputs import stations as input_stations
from ufrin.errors import Refused
from ufrin.store import jobs, parcel_file
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Database
from ufrin.store.parcel_tables import INPUTS, TABLES
from ufrin.trial import trial_database

NOW = datetime(2026, 3, 1, tzinfo=UTC)
SHEET = b"%PDF-1.7 a sheet"
AMMONITE = 8  # number of the demo's job with a pour, coupons and a thinner


@pytest.fixture(scope="module")
def _elsewhere(cluster: Cluster) -> Iterator[Database]:
    database = Database(trial_database(cluster, "elsewhere"))
    database.open()
    yield database
    database.close()


@pytest.fixture
def elsewhere(_elsewhere: Database, nothing_kept: Snapshot) -> Database:
    """The record book of another workshop, with nothing in it."""
    with _elsewhere.transaction() as connection:
        put_back(connection, nothing_kept)
    return _elsewhere


def brought(elsewhere: Database, data: bytes, **choices: Any) -> dict[int, str]:
    number = bringing_in.send(elsewhere, "parcel.zip", data)
    return bringing_in.bring_in(
        elsewhere, number, both=choices.get("both", frozenset()), again=choices.get("again", frozenset()), by="Sorrel"
    )


def rows(database: Database, statement: str) -> list[dict[str, Any]]:
    with database.reading() as connection:
        return connection.execute(statement).fetchall()  # type: ignore[call-overload, no-any-return]


def test_everything_that_comes_in_is_planned_and_shown_the_same(filled: Database, elsewhere: Database) -> None:
    stations.start_job(elsewhere, "Already there")  # so that no number is the same
    made = brought(elsewhere, taking_out.everything(filled, NOW)[1])
    names = {row["id"]: row["name"] for row in rows(filled, "select id, name from jobs where not is_mould_only")}
    assert len(made) == len(rows(filled, "select id from jobs"))
    for number, name in made.items():
        before = next((one for one, called in names.items() if called == name), None)
        if before is None:
            continue
        ours, theirs = stations.open_job(filled, before), stations.open_job(elsewhere, number)
        assert [pour.mix.total_g for pour in theirs.plan.pours] == [pour.mix.total_g for pour in ours.plan.pours], name
        assert _rubber(theirs) == _rubber(ours)
        # the Rubber station warns of stock and of the scale, which stay where they are
        assert {**theirs.plan.states, "rubber": ""} == {**ours.plan.states, "rubber": ""}, name
        poured, same = pours.of_job(filled, before).pours, pours.of_job(elsewhere, number).pours
        assert [state.used_g for _, state in same] == [state.used_g for _, state in poured]
        assert [len(state.entries) for _, state in same] == [len(state.entries) for _, state in poured]
    for table in TABLES:
        if table not in {"meshes", "jobs"}:
            here = rows(elsewhere, f"select count(*) as n from {table}")[0]["n"]  # noqa: S608 - our own names
            more = 5 if table == "stations" else 0  # of the job that was there already
            assert here >= rows(filled, f"select count(*) as n from {table}")[0]["n"], table  # noqa: S608
            assert here <= rows(filled, f"select count(*) as n from {table}")[0]["n"] + more + 1, table  # noqa: S608
    counts = "select sum(shots) as shots, sum(good) as good from cavity_counts"
    assert rows(elsewhere, counts) == rows(filled, counts)
    moulds = "select m.id, j.name, m.detail from moulds m join jobs j on j.id = m.job_id order by j.name, m.detail"
    for ours, theirs in zip(rows(filled, moulds), rows(elsewhere, moulds), strict=True):
        assert cards.look(elsewhere, theirs["id"]).mould.name == cards.look(filled, ours["id"]).mould.name
    doers = {row["doer"] for row in rows(elsewhere, "select distinct doer from pour_entries")}
    assert doers == {"somebody, imported by Sorrel"}


def _rubber(opened: OpenJob) -> str:
    return opened.plan.pour.rubber.name if opened.plan.pour else ""


def test_an_export_is_as_its_published_schema_says(filled: Database, conninfo: str) -> None:
    from ufrin.actions.shop import safety_sheets

    published = json.loads(FILE.read_text())
    assert published == schema_of(conninfo)  # made anew where a table has changed: see tools/export_schema.py
    safety_sheets.attach(filled, "rubbers", 1, "sheet.pdf", b"%PDF-1.4 a sheet")
    for data in (taking_out.everything(filled, NOW)[1], taking_out.job(filled, AMMONITE, NOW, sheet=SHEET)[1]):
        parcel = parcel_file.read(data)
        whole = {"manifest": json.loads(parcel.manifest.model_dump_json()), "tables": dict(parcel.tables)}
        assert list(jsonschema_rs.Draft202012Validator(published).iter_errors(whole)) == []
        assert sum(map(len, parcel.tables.values())) > 20
        named = {row["data"] for row in parcel.rows("meshes")} | {
            value
            for rows in parcel.tables.values()
            for row in rows
            for value in row.values()
            if str(value)[:6] == "files/"
        }
        papers = {name for name in parcel.files if name.startswith("files/papers/")}
        assert named == set(parcel.files) - papers  # each file is named by a row, but for what is made for people


def test_one_job_brings_what_it_needs_and_no_more(filled: Database, elsewhere: Database) -> None:
    name, data = taking_out.job(filled, AMMONITE, NOW, sheet=SHEET)
    made = brought(elsewhere, data)
    assert list(made.values()) == [name]
    (number,) = made
    ours, theirs = stations.open_job(filled, AMMONITE), stations.open_job(elsewhere, number)
    assert [pour.mix.total_g for pour in theirs.plan.pours] == [pour.mix.total_g for pour in ours.plan.pours]
    assert (
        rows(elsewhere, "select count(*) as n from rubbers")[0]["n"]
        < rows(filled, "select count(*) as n from rubbers")[0]["n"]
    )
    # no stock comes along, and nobody's account
    assert rows(elsewhere, "select count(*) as n from lots")[0]["n"] == 0
    assert b"password" not in data


def test_what_is_here_already_is_not_brought_in_twice_unless_asked(filled: Database, elsewhere: Database) -> None:
    data = taking_out.job(filled, AMMONITE, NOW, sheet=SHEET)[1]
    first = brought(elsewhere, data)
    looked = bringing_in.look(elsewhere, bringing_in.send(elsewhere, "x.zip", data))
    assert [one.here for one in looked.jobs] == list(first)
    assert looked.collisions == ()
    assert looked.new_things == ()
    assert brought(elsewhere, data) == {}
    assert len(rows(elsewhere, "select id from jobs")) == 1
    again = brought(elsewhere, data, again=frozenset({AMMONITE}))
    assert list(again.values()) == list(first.values())
    assert again.keys() != first.keys()


@pytest.mark.parametrize(("typed_c", "room_c"), [(None, 17.5), (24.0, 24.0)])
def test_the_room_of_the_casts_from_before_becomes_that_of_the_job(
    filled: Database, elsewhere: Database, typed_c: float | None, room_c: float
) -> None:
    def as_before(found: list[dict[str, Any]]) -> None:
        own = {row["station"]: row["inputs"] for row in found}
        own["casts"]["room_c"] = 17.5
        own["rubber"].pop("room_temp_c", None)
        own["rubber"] |= {} if typed_c is None else {"room_temp_c": typed_c}

    _, data = taking_out.job(filled, AMMONITE, NOW, sheet=SHEET)
    made = brought(elsewhere, changed(data, in_table("stations", as_before)))
    assert stations.open_job(elsewhere, min(made)).plan.rubber_settled.room_temp_c == room_c


@pytest.mark.parametrize(
    ("kind", "is_from_before", "each_g"),
    [("foam-back", True, None), ("foam-back", False, 30.0), ("cold-cast", True, None), ("shell", True, 30.0)],
)
def test_an_amount_of_both_parts_together_from_before_is_neither_ones(
    filled: Database, elsewhere: Database, kind: str, is_from_before: bool, each_g: float | None
) -> None:
    with filled.reading() as connection:
        version = jobs.load(connection, AMMONITE, "casts").versions["casts"]
    said = {"cast_kind": kind, "each_g": 30.0, "face_mm": 0.5}
    stations.change_station(filled, AMMONITE, "casts", version=version, changes=said)
    _, data = taking_out.job(filled, AMMONITE, NOW, sheet=SHEET)

    def as_before(members: dict[str, bytes]) -> None:
        assert json.loads(members.pop("tables/shot_parts.json")) == []
        manifest = json.loads(members["manifest.json"])
        del manifest["tables"]["shot_parts"]
        members["manifest.json"] = json.dumps(manifest).encode()

    made = brought(elsewhere, changed(data, as_before) if is_from_before else data)
    assert stations.open_job(elsewhere, min(made), "casts").job.casts.each_g == each_g


def test_only_the_room_that_casts_have_now_becomes_that_of_the_job(filled: Database, elsewhere: Database) -> None:
    def as_before(found: list[dict[str, Any]]) -> None:
        for row in found:
            row["inputs"].pop("room_temp_c", None)

    def earlier(found: list[dict[str, Any]]) -> None:
        before = max((row["version"] for row in found if row["station"] == "casts"), default=0)
        inputs = {"room_c": 12.0}
        found.append({"job_id": AMMONITE, "station": "casts", "version": before + 1, "shape": 8, "inputs": inputs})

    def counted(files: dict[str, bytes]) -> None:
        in_table("stations", as_before)(files)
        in_table("earlier_inputs", earlier)(files)

    _, data = taking_out.job(filled, AMMONITE, NOW, sheet=SHEET)
    made = brought(elsewhere, changed(data, counted))
    assert stations.open_job(elsewhere, min(made)).job.rubber.room_temp_c is None


def test_a_shot_from_before_is_still_partly_filled(filled: Database, elsewhere: Database) -> None:
    def as_before(found: list[dict[str, Any]]) -> None:
        for row in found:
            row.pop("was_partly_filled")
            row["is_part"] = not row["was_short"]

    brought(elsewhere, changed(taking_out.everything(filled, NOW)[1], in_table("shots", as_before)))
    shown = rows(elsewhere, "select was_partly_filled, was_short from shots")
    assert shown
    assert all(row["was_partly_filled"] is not row["was_short"] for row in shown)


@pytest.mark.parametrize("keeps_both", [False, True])
def test_what_collides_is_shown_and_decided(filled: Database, elsewhere: Database, keeps_both: bool) -> None:
    data = taking_out.job(filled, AMMONITE, NOW, sheet=SHEET)[1]
    rubber = rows(
        filled, f"select r.* from stations s join rubbers r on r.id = s.rubber_id where s.job_id = {AMMONITE}"
    )[0]  # noqa: S608
    with elsewhere.transaction() as connection:
        connection.execute(
            "insert into rubbers (name, family, a_name, a_colour, b_name, b_colour, weight_a, weight_b, tolerance_pct, "
            "sg_mixed, hardness_scale) values (%s, 'addition-silicone', 'A', '', 'B', '', 100, 77, 2, 1.9, 'A')",
            [rubber["name"].upper()],
        )
    looked = bringing_in.look(elsewhere, bringing_in.send(elsewhere, "x.zip", data))
    (collision,) = [one for one in looked.collisions if one.table == "rubbers"]
    assert ("weight_b", rubber["weight_b"], 77) in collision.differing
    assert "kit_price" not in {name for name, _, _ in collision.differing}
    made = brought(elsewhere, data, both=frozenset({collision.key} if keeps_both else ()))
    plan = stations.open_job(elsewhere, next(iter(made))).plan
    assert plan.pour is not None
    assert plan.pour.rubber.weight_b == (rubber["weight_b"] if keeps_both else 77)
    assert plan.pour.rubber.name == (f"{rubber['name']} (imported)" if keeps_both else rubber["name"].upper())
    assert len(rows(elsewhere, "select id from coupons")) == (
        len(rows(filled, f"select id from coupons where rubber_id = {rubber['id']}")) if keeps_both else 0  # noqa: S608
    )


def changed(data: bytes, change: Callable[[dict[str, bytes]], None]) -> bytes:
    """Alter a parcel's members, and make the manifest agree with them, as somebody who means ill would."""
    import hashlib

    with zipfile.ZipFile(io.BytesIO(data)) as archive:
        members = {name: archive.read(name) for name in archive.namelist()}
    change(members)
    if "manifest.json" in members and members["manifest.json"].startswith(b"{"):
        manifest = json.loads(members["manifest.json"])
        manifest["files"] = {
            name: hashlib.sha256(held).hexdigest() for name, held in members.items() if name.startswith("files/")
        }
        for name, held in members.items():
            if name.startswith("tables/") and held.startswith(b"["):
                manifest["tables"][name[7:-5]] = len(json.loads(held))
        members["manifest.json"] = json.dumps(manifest).encode()
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, held in members.items():
            archive.writestr(name, held)
    return out.getvalue()


def in_table(table: str, change: Callable[[list[dict[str, Any]]], object]) -> Callable[[dict[str, bytes]], None]:
    def work(members: dict[str, bytes]) -> None:
        found = json.loads(members[f"tables/{table}.json"])
        change(found)
        members[f"tables/{table}.json"] = json.dumps(found).encode()

    return work


HOSTILE: dict[str, tuple[Callable[[dict[str, bytes]], object], str]] = {
    "a path out of it": (lambda m: m.update({"files/../../evil.sh": b"x"}), "which none has"),
    "an absolute path": (lambda m: m.update({"/etc/passwd": b"x"}), "which none has"),
    "a table of its own": (lambda m: m.update({"tables/accounts.json": b"[]"}), "do not match its manifest"),
    "a bomb": (lambda m: m.update({"files/meshes/a.mesh": b"0" * 60_000_000}), "unpacks to more"),
    "no manifest": (lambda m: m.pop("manifest.json"), "not an export file"),
    "a manifest of nothing": (lambda m: m.update({"manifest.json": b"[]"}), "can't be read"),
    "a table that is none": (lambda m: m.update({"tables/jobs.json": b"{}"}), "can't be read"),
    "rows that are none": (lambda m: m.update({"tables/jobs.json": b"[1]"}), "can't be read"),
    "a mesh that is none": (lambda m: m.update({next(n for n in m if n.startswith("files/meshes/")): b"solid"}), ""),
    "another mesh": (in_table("meshes", lambda found: found[0].update(hash="b" * 64)), "not the one"),
    "a job without a name": (in_table("jobs", lambda found: found[0].pop("name")), ""),
    "a job whose number is a list": (in_table("jobs", lambda found: found[0].update(id=[1])), ""),
    "a name with a zero in it": (in_table("jobs", lambda found: found[0].update(name="a\x00b")), ""),
    "a name that is too long": (in_table("jobs", lambda found: found[0].update(name="x" * 500)), ""),
    "a column of its own": (in_table("jobs", lambda found: found[0].update(evil=1)), "does not know"),
    "inputs of its own": (in_table("stations", lambda found: found[0].update(inputs={"evil": 1})), ""),
    "inputs that are none": (in_table("stations", lambda found: found[0].update(inputs=[1])), "can't be read"),
    "a pour without a plan": (in_table("pours", lambda found: found[0].update(plan={})), "can't be read"),
    "a pour with a plan of text": (in_table("pours", lambda found: found[0].update(plan="x")), ""),
    "a line of a kind of its own": (in_table("pour_entries", lambda found: found[1].update(kind="evil")), ""),
    "a weight that is none": (in_table("pour_entries", lambda found: found[1].update(net_g="NaN")), ""),
    "an SG of nothing": (in_table("rubbers", lambda found: found[0].update(sg_mixed=0)), ""),
}


@pytest.mark.parametrize("how", HOSTILE)
def test_what_is_hostile_is_refused_and_nothing_is_kept(
    filled: Database, elsewhere: Database, parcel_with_all: bytes, how: str
) -> None:
    change, says = HOSTILE[how]
    with pytest.raises(Refused, match=says or "."):
        brought(elsewhere, changed(parcel_with_all, change))  # type: ignore[arg-type]
    for table in ("jobs", "rubbers", "pours", "stations", "accounts", "safety_sheets"):
        assert rows(elsewhere, f"select count(*) as n from {table}") == [{"n": 0}], table  # noqa: S608


@pytest.fixture
def parcel_with_all(filled: Database) -> bytes:
    """A parcel with a mesh, pours and a rubber: of the first job that has all of them, or of everything."""
    found = rows(
        filled,
        "select p.job_id from pours p join stations s on s.job_id = p.job_id and s.station = 'master' "
        "where s.inputs ? 'mesh' order by 1 limit 1",
    )
    return (
        taking_out.job(filled, found[0]["job_id"], NOW, sheet=SHEET)[1]
        if found
        else taking_out.everything(filled, NOW)[1]
    )


def test_cut_off_or_altered_on_its_way_it_is_refused(filled: Database, elsewhere: Database) -> None:
    data = taking_out.job(filled, AMMONITE, NOW, sheet=SHEET)[1]
    for broken in (data[: len(data) // 2], b"", b"PK", data[:-10]):
        with pytest.raises(Refused, match="cut off"):
            bringing_in.send(elsewhere, "x.zip", broken)
    with pytest.raises(Refused, match="not whole|can't be read|cut off|manifest"):
        manifest = changed(data, lambda members: None)
        with zipfile.ZipFile(io.BytesIO(manifest)) as archive:
            members = {name: archive.read(name) for name in archive.namelist()}
        members["tables/jobs.json"] = b"[]"
        out = io.BytesIO()
        with zipfile.ZipFile(out, "w") as archive:
            for name, held in members.items():
                archive.writestr(name, held)
        bringing_in.send(elsewhere, "x.zip", out.getvalue())


def test_a_sheet_that_a_browser_would_run_is_sent_as_what_it_is(filled: Database, elsewhere: Database) -> None:
    from ufrin.actions.shop import safety_sheets

    rubber = rows(filled, f"select rubber_id as id from stations where job_id = {AMMONITE} and rubber_id is not null")[
        0
    ]["id"]  # noqa: S608
    safety_sheets.attach(filled, "rubbers", rubber, "sheet.pdf", b"%PDF-1.4 a sheet")
    data = taking_out.job(filled, AMMONITE, NOW, sheet=SHEET)[1]
    brought(elsewhere, changed(data, in_table("safety_sheets", lambda found: found[0].update(media="text/html"))))
    assert rows(elsewhere, "select media from safety_sheets") == [{"media": "application/pdf"}]
    with pytest.raises(Refused, match="PDF, PNG or JPEG"):
        evil = changed(
            data,
            lambda m: m.update({next(n for n in m if n.startswith("files/sheets/")): b"<script>alert(1)</script>"}),
        )
        with elsewhere.transaction() as connection:
            connection.execute("delete from safety_sheets; update rubbers set name = name || ' of ours'")
        brought(elsewhere, evil, again=frozenset({AMMONITE}))


def test_every_input_that_names_a_thing_is_known_to_parcels() -> None:
    named = {
        name for one in input_stations.INPUTS.values() for name in one.__dataclass_fields__ if name.endswith("_id")
    }
    assert named == set(INPUTS)


def test_the_pages_lead_through_it(client: TestClient, filled: Database) -> None:
    parcel = client.get(f"/jobs/{AMMONITE}/parcel.zip")
    assert re.search(r'filename="ufrin-[a-z0-9-]+\.zip"', parcel.headers["content-disposition"])
    read = parcel_file.read(parcel.content)
    assert read.manifest.what == "job"
    assert read.files["files/papers/sheet.pdf"].startswith(b"%PDF-")  # for a colleague who has no Ufrin
    assert client.get("/moulds/1/parcel.zip").status_code == 200
    assert client.post("/bring-in").status_code == 422
    refused = client.post("/bring-in", files={"file": ("x.zip", b"nothing", "application/zip")})
    assert (refused.status_code, "not an export file" in refused.text) == (422, True)
    looked = client.post("/bring-in", files={"file": ("x.zip", parcel.content, "application/zip")})
    assert "you have this job already: import a second copy" in looked.text
    number = re.findall(r"/bring-in/(\d+)", looked.text)[0]
    done = client.post(f"/bring-in/{number}", data={f"again-{AMMONITE}": "yes", "what": "bring in"})
    assert "All of it was imported" in done.text
    assert client.get(f"/bring-in/{number}").status_code == 404
    odd = {"again-" + "9" * 5000: "yes", "again-٣": "yes", "what": "bring in"}
    assert client.post("/bring-in/9999", data=odd).status_code == 404
    assert client.post("/bring-in/9999", data={"what": "bring in"}).status_code == 404


def test_a_shared_sheet_is_read_until_its_last_day_and_no_other(client: TestClient, filled: Database) -> None:
    assert client.post(f"/jobs/{AMMONITE}/sheet/share", data={"for_whom": "", "days": "3"}).status_code == 422
    assert client.post(f"/jobs/{AMMONITE}/sheet/share", data={"for_whom": "Isolde", "days": "0"}).status_code == 422
    page = client.post(f"/jobs/{AMMONITE}/sheet/share", data={"for_whom": "Isolde", "days": "3"}).text
    secret = re.findall(r"/shared/([\w-]{40,})", page)[0]
    sheet = client.get(f"/shared/{secret}")
    assert sheet.content.startswith(b"%PDF-")
    assert secret not in client.get(f"/jobs/{AMMONITE}/sheet").text
    assert client.get(f"/shared/{secret}x").status_code == 404
    with filled.transaction() as connection:
        assert secret not in str(connection.execute("select * from shared_sheets").fetchall())
        connection.execute("update shared_sheets set ends_at = now() - interval '1 second'")
    assert client.get(f"/shared/{secret}").status_code == 404
    page = client.post(f"/jobs/{AMMONITE}/sheet/share", data={"for_whom": "Isolde", "days": "3"}).text
    secret = re.findall(r"/shared/([\w-]{40,})", page)[0]
    number = re.findall(r"sheet/share/(\d+)/end", page)[0]
    client.post(f"/jobs/{AMMONITE}/sheet/share/{number}/end")
    assert client.get(f"/shared/{secret}").status_code == 404
