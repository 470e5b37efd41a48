"""Every earlier schema, with filled tables, is brought to the newest; whoever is killed in between leaves no trace."""

import os
import signal
import subprocess
import sys
import time
from pathlib import Path

import psycopg
import pytest
from psycopg.rows import dict_row
from released import FOLDER, MESH, as_released

from ufrin.actions.job import board, stations
from ufrin.store import lots, meshes, moulds, schema
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Database
from ufrin.store.shelf import RUBBERS

ROOT = Path(__file__).parents[2]
STEPS = schema.steps()[:-1]


def test_every_released_schema_is_kept_as_a_dump() -> None:
    assert [file.name.removesuffix(".sql.gz") for file in sorted(FOLDER.iterdir())] == schema.steps()


def test_the_room_of_a_cast_becomes_that_of_its_job(cluster: Cluster) -> None:
    conninfo = as_released(cluster, "0017.practice", "rooms")
    with psycopg.connect(conninfo) as connection:
        for table in ("stations", "earlier_inputs"):
            connection.execute(
                f"update {table} set inputs = inputs || '{{\"room_c\": 28}}' where station = 'casts' and job_id = 1"  # type: ignore[arg-type]
            )
        connection.execute(
            "update stations set inputs = inputs - 'room_temp_c' where station = 'rubber' and job_id = 1"
        )
    schema.bring_up_to_date(conninfo)
    database = Database(conninfo)
    database.open()
    try:
        opened = stations.open_job(database, 1, "casts")
        assert opened.job.rubber.room_temp_c == 28
        assert opened.casts is None or opened.casts.settled.room_c == 28
        with database.reading() as connection:
            kept = connection.execute("select value from retired_inputs where key = 'room_c'").fetchall()
        assert [row["value"] for row in kept] == [28]
    finally:
        database.close()


@pytest.mark.parametrize(("was", "face"), [("foam-back", 0), ("cold-cast", 0.5)])
def test_an_amount_of_both_parts_together_becomes_neither_ones(cluster: Cluster, was: str, face: float) -> None:
    conninfo = as_released(cluster, "0019.begun-moulds", f"amounts_{was[:4]}")
    with psycopg.connect(conninfo) as connection:
        own = "jsonb_build_object('each_g', 30, 'cast_kind', %s::text, 'face_mm', %s::float8)"
        for job, kind, face_mm in ((1, was, face), (2, "shell", 1)):
            connection.execute(
                f"update stations set inputs = inputs || {own} where station = 'casts' and job_id = %s",  # type: ignore[arg-type]
                [kind, face_mm, job],
            )
        connection.execute(
            "insert into earlier_inputs (job_id, station, version, inputs) select job_id, station, 99, inputs "
            "from stations where station = 'casts'"
        )
    schema.bring_up_to_date(conninfo)
    with psycopg.connect(conninfo) as connection:
        query = "select job_id, inputs ? 'each_g' from stations where station = 'casts' order by job_id"
        assert connection.execute(query).fetchall()[:2] == [(1, False), (2, True)]
        # what undo would bring back has it no more either
        earlier = query.replace("from stations where", "from earlier_inputs where version = 99 and")
        assert connection.execute(earlier).fetchall()[:2] == [(1, False), (2, True)]
        kept = connection.execute("select job_id, value from retired_inputs where key = 'each_g'").fetchall()
    assert kept == [(1, 30)]


@pytest.mark.parametrize("last", STEPS)
def test_an_earlier_schema_with_filled_tables_is_brought_to_the_newest(cluster: Cluster, last: str) -> None:
    conninfo = as_released(cluster, last, "earlier")
    assert schema.bring_up_to_date(conninfo) == len(schema.steps()) - len([one for one in STEPS if one <= last])
    database = Database(conninfo)
    database.open()
    try:
        opened = stations.open_job(database, 1, "rubber")
        assert (opened.job.master.known_ml, opened.job.master.what) == (61.5, "a fossil")
        assert (opened.job.box.side_mm, opened.job.rubber.rubber_id, opened.job.rubber.spare_pct) == (14, 1, 12)
        assert opened.plan.rubber is not None
        assert [row.job.name for row in board.board(database).listed] == ["Finial", "Ammonite"]
        # an input that was kept in an older shape survives a save, and a step back
        saved = stations.change_station(
            database, 1, "box", version=opened.job.versions["box"], changes={"over_mm": 15.0}
        )
        assert (saved.job.box.side_mm, saved.job.box.shape, saved.job.box.over_mm) == (14, "round", 15)
        assert stations.undo(database, 1, "box", version=saved.job.versions["box"]).job.box.over_mm is None
        with database.reading() as connection:
            assert RUBBERS.some(connection, [1])[1].thing.kit_price == 39.95
            if last >= "0002":
                assert meshes.data(connection, MESH) == ("egg.stl", b"the file")
            if last >= "0004":
                tins = lots.of(connection, rubbers=[1])
                assert {one.lot.part: (one.lot.left_g, one.lot.got_g) for one in tins} == {
                    "A": (400, 1000),
                    "B": (0, 100),
                }
                for tin in tins:
                    moved = sum(move.grams for move in lots.moves(connection, [tin.id]))
                    assert tin.lot.got_g - moved == pytest.approx(tin.lot.left_g)
                retired = connection.execute("select key, value from retired_inputs").fetchall()
                assert "how" not in {row["key"] for row in retired}  # it became a kind of mould, and is not lost
                assert stations.open_job(database, 2, "opening").job.opening.style == "skin"
                assert stations.undo(database, 2, "rubber", version=1).job.rubber.rubber_id is None
            if last >= "0006":
                pairs = connection.execute(
                    "select pour, touches, between_kind from fault_pairs order by place"
                ).fetchall()
                assert [tuple(pair.values()) for pair in pairs] == [
                    ("addition-silicone", "metal", "none"),
                    ("plaster", "addition-silicone", "talc"),
                ]
                assert (opened.job.box.other_id, opened.job.box.third_id) == (2, None)
            if last >= "0010":
                made = connection.execute("select job_id, made_on::text from moulds").fetchall()
                assert [tuple(row.values()) for row in made] == [(2, "2026-10-05")]  # what was cast in is a mould
                assert moulds.gone(connection, 2) == {1: ("other", "torn at the rim")}
    finally:
        database.close()


def test_the_newest_step_and_back_again_loses_nothing_of_the_one_before(cluster: Cluster) -> None:
    conninfo = as_released(cluster, STEPS[-1], "back")
    with psycopg.connect(conninfo, autocommit=True, row_factory=dict_row) as connection:

        def kept() -> list[object]:
            return [
                connection.execute(f"select * from {table} order by 1, 2").fetchall()  # noqa: S608 - our own names
                for table in (
                    "rubbers",
                    "jobs",
                    "meshes",
                    "safety_sheets",
                    "faults",
                    "pours",
                    "pour_entries",
                    "done_steps",
                )
            ]

        before = kept()
        schema.bring_up_to_date(conninfo)
        schema.take_down(conninfo, to=STEPS[-1])
        assert kept() == before


@pytest.mark.parametrize("after_s", [0.05, 0.15, 0.3, 0.5])
def test_killed_during_the_steps_the_next_start_goes_on(cluster: Cluster, after_s: float) -> None:
    conninfo = cluster.database(f"killed_{int(after_s * 1000)}")
    code = (
        "import sys, time; from ufrin.store import schema; print('go', flush=True); "
        "schema.bring_up_to_date(sys.argv[1]); print('done', flush=True); time.sleep(60)"
    )
    told = os.environ | {"PYTHONPATH": str(ROOT / "src")}
    process = subprocess.Popen([sys.executable, "-c", code, conninfo], env=told, stdout=subprocess.PIPE, text=True)
    assert process.stdout is not None
    assert process.stdout.readline() == "go\n"
    time.sleep(after_s)
    process.send_signal(signal.SIGKILL)
    process.wait()
    process.stdout.close()
    schema.bring_up_to_date(conninfo)
    assert schema.bring_up_to_date(conninfo) == 0
    with psycopg.connect(conninfo) as connection:
        assert connection.execute("select count(*) from workshop").fetchone() == (1,)


def test_a_lock_that_a_dead_process_of_an_earlier_version_left_is_no_obstacle(cluster: Cluster) -> None:
    conninfo = cluster.database("left_locked")
    schema.bring_up_to_date(conninfo, last=STEPS[0])
    with psycopg.connect(conninfo, autocommit=True) as connection:
        connection.execute("insert into yoyo_lock (locked, ctime, pid) values (1, now(), 999999)")
    assert schema.bring_up_to_date(conninfo) == len(STEPS)
