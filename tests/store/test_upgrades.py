"""Every earlier schema, with filled tables, is brought to the newest; whoever is killed in between leaves no trace."""

import json
import os
import signal
import subprocess
import sys
import time
from dataclasses import asdict
from pathlib import Path

import psycopg
import pytest
from psycopg.rows import dict_row
from records import PLAN
from shapes import egg

from ufrin.actions.job import board, stations
from ufrin.core.job.mesh_work import measure_file
from ufrin.core.mesh.files import write_stl
from ufrin.store import lots, meshes, moulds, schema
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Database
from ufrin.store.shelf import RUBBERS

ROOT = Path(__file__).parents[2]
MESH = "a" * 64
PLAN_TEXT = json.dumps(asdict(PLAN))
FIGURES, WHOLE, _ = measure_file(lambda _: None, write_stl(egg()), "egg.stl")
SOLID = "\\x" + meshes.packed(WHOLE).hex()
FIGURES_TEXT = json.dumps(FIGURES.to_plain())
FIRST = """
insert into rubbers (name, family, a_name, a_colour, b_name, b_colour, weight_a, weight_b, tolerance_pct, sg_mixed,
    hardness_scale, kit_price) values ('Tideline 15', 'addition-silicone', 'A', 'white', 'B', 'blue', 100, 10, 2, 1.1,
    'A', 39.95);
insert into jobs (name) values ('Ammonite'), ('Finial');
insert into stations (job_id, station, inputs, version) values
    (1, 'master', '{"length_mm": 90, "width_mm": 70, "height_mm": 30, "known_ml": 61.5, "what": "a fossil"}', 4),
    (1, 'box', '{"side_mm": 14, "shape": "round"}', 2),
    (1, 'rubber', '{"rubber_id": 1, "spare_pct": 12}', 3),
    (2, 'master', '{"length_mm": 40, "width_mm": 40, "height_mm": 80}', 1),
    (2, 'box', '{}', 1), (2, 'rubber', '{}', 1);
insert into earlier_inputs (job_id, station, version, inputs) values (1, 'box', 1, '{"side_mm": 12}');
"""
# what each schema after the first adds to the tables above
MORE = {
    "0002.meshes-and-containers": f"""
insert into meshes (hash, name, data, figures, solid, drawn)
    values ('{MESH}', 'egg.stl', 'the file', '{FIGURES_TEXT}', '{SOLID}', '{SOLID}');
insert into mesh_work (mesh, what, state) values ('{MESH}', 'measure', 'done');
insert into containers (name, shape, bottom_mm, height_mm) values ('Pot', 'round', 120, 90);
""",
    "0004.shelf-and-pours": """
insert into lots (rubber_id, code, part, got_g, left_g, price) values
    (1, 'TL-1', 'A', 1000, 400, 30), (1, 'TL-1', 'B', 100, 0, 9.5);
insert into pours (job_id, rubber_id, who, plan, finished_at, needed_g, used_g)
    values (1, 1, 'Wren', 'PLAN_TEXT', now() + interval '1 hour', 500, 540);
insert into pour_entries (pour_id, number, token, at, steady_s, machine, kind, net_g, lot_id)
    values (1, 1, 't1', now(), 0, 'm', 'start', null, null), (1, 2, 't2', now(), 1, 'm', 'note', null, 1);
insert into lot_moves (lot_id, grams, pour_id, number, why)
    values (1, 550, 1, 2, 'poured: Ammonite'), (1, 20, null, null, 'counted again'), (1, 5, 77, 3, 'of a lost pour');
update stations set inputs = inputs || '{"how": "brushed"}' where job_id = 2 and station = 'rubber';
insert into earlier_inputs (job_id, station, version, inputs)
    values (2, 'rubber', 1, '{"how": "putty", "half": "first"}');
""",
    "0005.opening": """
update stations set inputs = '{"tilt_limit_deg": 8}' where job_id = 1 and station = 'opening';
""",
    "0006.checks": f"""
update stations set inputs = '{{"cast_material": "plaster"}}' where job_id = 1 and station = 'checks';
update stations set inputs = inputs || '{{"other_id": 2, "third_id": 99, "third_count": 2}}'
    where job_id = 1 and station = 'box';
insert into faults (job_id, symptom, cause, note, pairs) values (1, 'soft', 'cold', 'In March.',
    array['addition-silicone|metal|none', 'plaster|addition-silicone|talc']);
insert into own_rules (pour, touches, between_kind, verdict, why, tried_on)
    values ('addition-silicone', 'metal', 'none', 'fine', 'It set.', '2026-01-02');
insert into safety_sheets (rubber_id, name, media, data) values (1, 'sheet.pdf', 'application/pdf', '%PDF-');
update stations set inputs = inputs || '{{"mesh": "{MESH}"}}' where job_id = 2 and station = 'master';
""",
    "0010.casting": """
insert into shots (job_id, at, who, kind, resin, mixed_g, left_over_g, was_short, missing_g, release, air, attitude,
    note, reason, token)
values (2, '2026-10-05T10:00Z', 'Wren', 'solid', 'Quay', 50, 2, false, 0, '', '', '', '', '', 'once');
insert into shot_pieces (shot_id, cavity, is_good, flaws) values (1, 1, true, '{}');
insert into retired_cavities (job_id, cavity, why) values (2, 1, 'torn at the rim');
""",
    "0007.one-plan": """
insert into sheets (job_id, revision, figures) values (1, 1, 'abc');
insert into done_steps (job_id, step) values (1, 'seal');
""",
}
STEPS = [step for step in schema.steps() if step != schema.steps()[-1]]


def filled(cluster: Cluster, last: str, name: str = "earlier") -> str:
    """Make a database of an earlier schema, each of its tables filled as soon as there is one."""
    name = f"{name}_{last[:4]}"
    conninfo = cluster.database(name)
    with psycopg.connect(conninfo, autocommit=True) as connection:
        for step in [one for one in STEPS if one <= last]:
            schema.bring_up_to_date(conninfo, last=step)
            connection.execute(
                (FIRST if step == STEPS[0] else MORE.get(step, "select")).replace("PLAN_TEXT", PLAN_TEXT)
            )
    return conninfo


@pytest.mark.parametrize("last", STEPS)
def test_an_earlier_schema_with_filled_tables_is_brought_to_the_newest(cluster: Cluster, last: str) -> None:
    conninfo = filled(cluster, last)
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
    conninfo = filled(cluster, STEPS[-1], "back")
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
