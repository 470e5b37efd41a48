"""Released schemas with filled tables, each kept as a dump in ``tests/data/released``, as that version left it.

Run as a script, it makes the dump of each step that has none yet: do so whenever a version with a new step is released.
"""

import gzip
import json
import subprocess
from dataclasses import asdict
from pathlib import Path

import psycopg
from records import PLAN
from shapes import ball

from ufrin.core.job.mesh_work import measure_file
from ufrin.core.mesh.written_files import write_stl
from ufrin.store import meshes, schema
from ufrin.store.cluster import Cluster, program
from ufrin.trial import trial_cluster

FOLDER = Path(__file__).parent / "data" / "released"
MESH = "a" * 64
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
    "0002.meshes-and-containers": """
insert into meshes (hash, name, data, figures, solid, drawn)
    values ('MESH', 'egg.stl', 'the file', 'FIGURES', 'SOLID', 'SOLID');
insert into mesh_work (mesh, what, state) values ('MESH', 'measure', 'done');
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
    "0006.checks": """
update stations set inputs = '{"cast_material": "plaster"}' where job_id = 1 and station = 'checks';
update stations set inputs = inputs || '{"other_id": 2, "third_id": 99, "third_count": 2}'
    where job_id = 1 and station = 'box';
insert into faults (job_id, symptom, cause, note, pairs) values (1, 'soft', 'cold', 'In March.',
    array['addition-silicone|metal|none', 'plaster|addition-silicone|talc']);
insert into own_rules (pour, touches, between_kind, verdict, why, tried_on)
    values ('addition-silicone', 'metal', 'none', 'fine', 'It set.', '2026-01-02');
insert into safety_sheets (rubber_id, name, media, data) values (1, 'sheet.pdf', 'application/pdf', '%PDF-');
update stations set inputs = inputs || '{"mesh": "MESH"}' where job_id = 2 and station = 'master';
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
MORE["0013.schedule"] = """
insert into equipment (name, kind) values ('Oven', 'oven');
insert into other_work (name, attended_min) values ('Delivery', 20);
"""


def statements(step: str) -> str:
    """Return what fills the tables that a step has added."""
    figures, whole, _ = measure_file(lambda _: None, write_stl(ball(around=12)), "egg.stl")
    solid = "\\x" + meshes.packed(whole).hex()
    found = FIRST if step == schema.steps()[0] else MORE.get(step, "select")
    for name, text in (
        ("PLAN_TEXT", json.dumps(asdict(PLAN))),
        ("FIGURES", json.dumps(figures.to_plain())),
        ("SOLID", solid),
        ("MESH", MESH),
    ):
        found = found.replace(name, text)
    return found


def dump_of(step: str) -> Path:
    return FOLDER / f"{step}.sql.gz"


def as_released(cluster: Cluster, step: str, name: str) -> str:
    """Make a database as the version whose newest step this is would have left it."""
    conninfo = cluster.database(f"{name}_{step[:4]}")
    words = ["--quiet", "--no-psqlrc", "--set=ON_ERROR_STOP=1", "--output=/dev/null", "--dbname", conninfo]
    subprocess.run([str(program("psql")), *words], input=gzip.decompress(dump_of(step).read_bytes()), check=True)
    return conninfo


def main() -> None:
    FOLDER.mkdir(exist_ok=True)
    with trial_cluster() as cluster:
        conninfo = cluster.database("released")
        with psycopg.connect(conninfo, autocommit=True) as connection:
            for step in schema.steps():
                schema.bring_up_to_date(conninfo, last=step)
                connection.execute(statements(step))
                if not dump_of(step).exists():
                    words = ["--no-owner", "--dbname", conninfo]
                    done = subprocess.run([str(program("pg_dump")), *words], check=True, stdout=subprocess.PIPE)
                    dump_of(step).write_bytes(gzip.compress(done.stdout, 9, mtime=0))


if __name__ == "__main__":
    main()
