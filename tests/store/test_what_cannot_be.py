"""What can't be is refused by the database itself, whoever writes it, and each refusal has its sentence."""

import re
import typing

import pytest

from ufrin.core.faults.causes import CAUSES, SYMPTOMS
from ufrin.core.inputs.stations import INPUTS
from ufrin.core.materials.kinds import BETWEENS, POURS, SURFACES
from ufrin.core.opening.mould_styles import STYLES
from ufrin.core.pairing.releases import PRODUCT_FINISHES, PRODUCT_KINDS, PUT_ON_BY
from ufrin.core.pairing.rules import Verdict
from ufrin.core.rubber.additives import GOES_WITH
from ufrin.core.rubber.tins import FAMILIES, FORMS, THINNED
from ufrin.core.weighing.record_entries import EntryKind
from ufrin.errors import InUse, Refused, UfrinError
from ufrin.store import constraint_words
from ufrin.store.connection import Connection, Database

FILLED = """
insert into rubbers (name, family, a_name, a_colour, b_name, b_colour, weight_a, weight_b, tolerance_pct, sg_mixed,
    hardness_scale) values ('Tideline 15', 'addition-silicone', 'A', '', 'B', '', 100, 10, 2, 1.1, 'A');
insert into additives (name, kind, colour, family) values ('Slack water', 'thinner', '', 'any');
insert into products (name, kind, by, finish) values ('Slipway', 'wax', 'brush', 'kind');
insert into cups (name, bottom_mm, top_mm, height_mm) values ('Mug', 80, 90, 100);
insert into containers (name, shape, bottom_mm, height_mm) values ('Pot', 'round', 80, 90);
insert into scales (name, address, baud, step_g, most_g) values ('Bench', 'COM3', 9600, 0.1, 2000);
insert into jobs (name) values ('Ammonite'), ('Finial');
insert into stations (job_id, station, inputs) values (1, 'box', '{}'), (1, 'rubber', '{"rubber_id": 1}'),
    (2, 'box', '{"other_id": 1}'), (1, 'master', '{}');
insert into lots (rubber_id, code, part, got_g) values (1, 'TL-1', 'A', 5);
insert into pours (job_id, rubber_id, who, plan) values (1, 1, 'Wren', '{}');
insert into pour_entries (pour_id, number, token, at, steady_s, machine, kind, net_g) values
    (1, 1, 't1', now(), 0, 'm', 'start', null), (1, 2, 't2', now(), 0, 'm', 'weigh', 3);
insert into lot_moves (lot_id, grams, kind, why, pour_id, number) values (1, 3, 'poured', 'poured: Ammonite', 1, 2);
insert into coupons (rubber_id, parts, scale, readings, thickness_mm, edge_mm, apart_mm)
    values (1, 0, 'A', '{15, 16}', 6, 12, 6);
insert into own_rules (pour, touches, between_kind, verdict, why, tried_on)
    values ('addition-silicone', 'metal', 'none', 'fine', 'It set.', '2026-01-02');
insert into pour_photos (pour_id, number, data, width_px, height_px) values (1, 1, 'x', 1, 1);
insert into thermometers (name, address, baud) values ('Wall', 'COM4', 9600);
"""
TRIALS = [
    # (what is tried, the constraint that refuses it)
    ("update rubbers set weight_b = null", "rubber_ratio_has_two_parts"),
    ("update rubbers set volume_a = 1", "rubber_ratio_has_two_parts"),
    ("update rubbers set weight_a = null, weight_b = null", "rubber_ratio_has_two_parts"),
    ("update rubbers set weight_a = 'NaN'", "rubber_ratio_is_a_number"),
    ("update rubbers set weight_a = 'Infinity'", "rubber_ratio_is_a_number"),
    ("update rubbers set weight_a = -1", "rubber_ratio_by_weight"),
    ("update rubbers set family = 'glue'", "rubber_family"),
    ("update rubbers set form = 'gas'", "rubber_form"),
    ("update rubbers set thinner_of = 'B'", "rubber_thinner_of"),
    ("update rubbers set hardness_scale = 'E'", "rubber_hardness"),
    ("update rubbers set hardness = 101", "rubber_hardness"),
    ("update rubbers set sg_mixed = 'NaN'", "rubber_figures"),
    ("update rubbers set pot_life_min = 0", "rubber_figures"),
    ("update rubbers set kit_price = 'NaN'", "rubber_price"),
    ("update rubbers set kit_price = -1", "rubber_price"),
    ("update rubbers set mix_least_min = 3, mix_most_min = 2", "rubber_times"),
    ("update rubbers set cast_in_min = 'NaN'", "rubber_times"),
    ("update pour_photos set width_px = 4001", "photo_size"),
    ("insert into pour_photos values (1, 77, 'x', 1, 1)", "photo_of_entry"),
    ("update thermometers set baud = 1", "thermometer_baud"),
    ("update thermometers set name = ''", "thermometer_name_length"),
    (
        "insert into pour_entries (pour_id, number, token, at, steady_s, machine, kind, volume_ml) "
        "values (1, 3, 't3', now(), 0, 'm', 'short', 0)",
        "pour_entry_volume",
    ),
    (
        "insert into pour_entries (pour_id, number, token, at, steady_s, machine, kind, what) "
        "values (1, 3, 't3', now(), 0, 'm', 'witness', repeat('x', 41))",
        "pour_entry_what",
    ),
    ("update additives set kind = 'salt'", "additive_kind"),
    ("update additives set family = 'glue'", "additive_family"),
    ("update additives set sg = 'NaN'", "additive_figures"),
    ("update additives set pack_price = -1", "additive_price"),
    ("update products set kind = 'jam'", "product_kind"),
    ("update products set by = 'hope'", "product_put_on"),
    ("update products set finish = 'rough'", "product_finish"),
    ("update products set shots = 'NaN'", "product_figures"),
    ("update products set pack_price = -1", "product_price"),
    ("update cups set height_mm = 'NaN'", "cup_figures"),
    ("update containers set material = 'jam'", "container_material"),
    ("update containers set bottom_mm = 'NaN'", "container_figures"),
    ("update containers set height_mm = 'NaN'", "container_figures"),
    ("update scales set step_g = 0", "scale_figures"),
    ("update coupons set readings = '{NaN}'", "coupon_figures"),
    ("update coupons set readings = '{}'", "coupon_figures"),
    ("update pours set used_g = 'NaN'", "pour_figures"),
    ("update pours set needed_g = -1", "pour_figures"),
    ("update pours set plan = '[]'", "pour_plan"),
    ("update pours set finished_at = started_at - interval '1 hour'", "pour_finished_after_start"),
    ("delete from pours", "record_kept"),
    ("delete from pour_entries", "record_kept"),
    ("update pour_entries set net_g = 4", "record_kept"),
    ("delete from lot_moves", "record_kept"),
    ("update lot_moves set grams = 4", "record_kept"),
    ("delete from jobs where id = 1", "pour_of_job"),
    (
        "insert into pour_entries (pour_id, number, token, at, steady_s, machine, kind)"
        " values (1, 3, 't3', now(), 0, 'm', 'sigh')",
        "pour_entry_kind",
    ),
    (
        "insert into pour_entries (pour_id, number, token, at, steady_s, machine, kind, net_g)"
        " values (1, 3, 't3', now(), 0, 'm', 'weigh', 'NaN')",
        "pour_entry_figures",
    ),
    (
        "insert into pour_entries (pour_id, number, token, at, steady_s, machine, kind, of_number)"
        " values (1, 3, 't3', now(), 0, 'm', 'correction', 9)",
        "entry_of_entry",
    ),
    (
        "insert into pour_entries (pour_id, number, token, at, steady_s, machine, kind)"
        " values (9, 1, 't3', now(), 0, 'm', 'start')",
        "entry_of_pour",
    ),
    ("insert into lots (rubber_id, code, part, got_g, left_g) values (1, 'TL-2', 'A', 5, 50)", "lot_stock"),
    ("update lots set left_g = 50", "lot_stock"),
    ("update lots set left_g = 0", "lot_stock"),
    ("insert into lot_moves (lot_id, grams, kind, why) values (1, -45, 'counted', 'x')", "lot_left_of_got"),
    ("insert into lot_moves (lot_id, grams, kind, why) values (1, 3, 'counted', 'x')", "lot_left"),
    ("insert into lot_moves (lot_id, grams, kind, why) values (1, 'NaN', 'counted', 'x')", "lot_move_grams"),
    ("insert into lot_moves (lot_id, grams, kind, why) values (1, 1, 'lost', 'x')", "lot_move_kind"),
    ("insert into lot_moves (lot_id, grams, kind, why) values (1, 1, 'poured', 'x')", "lot_move_names_its_pour"),
    (
        "insert into lot_moves (lot_id, grams, kind, why, pour_id) values (1, 1, 'poured', 'x', 1)",
        "lot_move_names_its_entry",
    ),
    (
        "insert into lot_moves (lot_id, grams, kind, why, pour_id, number) values (1, 1, 'poured', 'x', 1, 9)",
        "lot_move_of_entry",
    ),
    ("update lots set price = -1", "lot_price"),
    ("update lots set got_g = 0", "lot_got"),
    ("update own_rules set pour = 'jam'", "own_rule_pour"),
    ("update own_rules set between_kind = 'jam'", "own_rule_between"),
    ("update own_rules set verdict = 'nice'", "own_rule_verdict"),
    ("update stations set inputs = '{\"lenght_mm\": 3}' where station = 'master'", "station_input_known"),
    ("update stations set inputs = '{\"length_mm\": \"3\"}' where station = 'master'", "station_input_kind"),
    ("update stations set inputs = '{\"what\": 3}' where station = 'master'", "station_input_kind"),
    ("update stations set inputs = '{\"solid\": \"yes\"}' where station = 'master'", "station_input_kind"),
    ("update stations set inputs = '{\"other_id\": 99}' where job_id = 1 and station = 'box'", "other_job_shares_box"),
    ("update stations set inputs = '{\"third_id\": 99}' where job_id = 1 and station = 'box'", "third_job_shares_box"),
    ("update stations set inputs = '{\"other_id\": 1}' where job_id = 1", "box_is_shared_with_others"),
    ("update jobs set advised_style = 'bag'", "job_advised_style"),
    ("update workshop set air_pressure_hpa = 'NaN'", "workshop_air_pressure"),
    ("update workshop set height_m = 9000", "workshop_height"),
    ("update workshop set room_temp_c = 'NaN'", "workshop_room"),
    ("update workshop set confidence_pct = 'NaN'", "workshop_confidence"),
]


@pytest.mark.parametrize(("sql", "constraint"), TRIALS)
def test_it_is_refused_by_name_and_with_a_sentence(database: Database, sql: str, constraint: str) -> None:
    with database.transaction() as connection:
        connection.execute(FILLED)
    with pytest.raises(UfrinError) as refused, database.transaction() as connection:
        connection.execute(sql)
    cause = refused.value.__cause__
    assert getattr(cause, "diag", None) is not None
    assert cause.diag.constraint_name == constraint
    assert type(refused.value) in {Refused, InUse}
    assert "contradict itself" not in str(refused.value)


def test_a_time_zone_that_nobody_knows_is_refused(database: Database) -> None:
    with pytest.raises(UfrinError, match="can't be kept"), database.transaction() as other:
        other.execute("update workshop set time_zone = 'Atlantis/Harbour'")


def test_a_job_without_pours_goes_and_one_with_pours_is_put_away(database: Database) -> None:
    with database.transaction() as connection:
        connection.execute(FILLED)
        connection.execute("delete from jobs where id = 2")
        connection.execute("update jobs set put_away_at = now() where id = 1")
        rows = connection.execute("select id, put_away_at is not null as is_put_away from jobs order by id").fetchall()
        pours = connection.execute("select count(*) as number from pours where job_id = 1").fetchall()
    assert [(row["id"], row["is_put_away"]) for row in rows if row["id"] in {1, 2}] == [(1, True)]
    assert pours[0]["number"] > 0  # what was poured of it is kept
    with pytest.raises(UfrinError), database.transaction() as connection:
        connection.execute("delete from jobs where id = 1")


def test_stock_follows_its_moves_whatever_is_done(database: Database) -> None:
    with database.transaction() as connection:
        connection.execute(FILLED)
        connection.execute("insert into lot_moves (lot_id, grams, kind, why) values (1, 1.25, 'counted', 'x')")
        connection.execute("update lots set got_g = 10, code = 'TL-1b'")
        rows = connection.execute(
            "select l.got_g, l.left_g, (select sum(grams) from lot_moves where lot_id = l.id) as moved from lots l"
        ).fetchall()
    assert [(row["got_g"], row["left_g"], row["moved"]) for row in rows] == [(10.0, 5.75, 4.25)]


def test_every_foreign_key_has_an_index(connection: Connection) -> None:
    missing = connection.execute(
        """
        select c.conrelid::regclass::text as on_table, c.conname from pg_constraint c
        where c.contype = 'f' and c.connamespace = 'public'::regnamespace
            and c.conrelid::regclass::text not like 'procrastinate%' and not exists (
                select from pg_index i where i.indrelid = c.conrelid
                    and (i.indkey::smallint[])[0:cardinality(c.conkey) - 1] @> c.conkey
            )
        """
    ).fetchall()
    assert missing == []


def lists(connection: Connection) -> dict[str, set[str]]:
    """Return the words in each check, by the name of the constraint."""
    rows = connection.execute(
        "select conname, pg_get_constraintdef(oid) as rule from pg_constraint where contype = 'c'"
    ).fetchall()
    return {row["conname"]: set(re.findall(r"'([^']*)'::text", row["rule"])) for row in rows}


def test_the_databases_lists_are_those_of_the_core(connection: Connection) -> None:
    known = lists(connection)
    assert known["rubber_family"] == set(FAMILIES)
    assert known["rubber_form"] == set(FORMS)
    assert known["rubber_thinner_of"] == set(THINNED)
    assert known["additive_family"] == set(GOES_WITH)
    assert known["product_kind"] == set(PRODUCT_KINDS)
    assert known["product_put_on"] == set(PUT_ON_BY)
    assert known["product_finish"] == set(PRODUCT_FINISHES)
    assert known["container_material"] == set(SURFACES)
    assert known["pour_entry_kind"] == set(typing.get_args(EntryKind))
    assert known["own_rule_pour"] == set(POURS)
    assert known["own_rule_between"] == set(BETWEENS)
    assert known["own_rule_verdict"] == set(typing.get_args(Verdict))
    assert known["job_advised_style"] == set(STYLES)
    assert max(map(len, (*CAUSES, *SYMPTOMS))) <= 60


def test_the_database_knows_every_input_with_its_kind(connection: Connection) -> None:
    kinds = {float: "number", int: "number", str: "string", bool: "boolean"}
    expected = {}
    for station, made in INPUTS.items():
        for name, hint in typing.get_type_hints(made).items():
            plain = [one for one in (typing.get_args(hint) or (hint,)) if one is not type(None)]
            expected[station, name] = kinds[plain[0]]
    rows = connection.execute("select station, key, kind from input_keys").fetchall()
    assert {(row["station"], row["key"]): row["kind"] for row in rows} == expected


def test_every_check_has_its_words(connection: Connection) -> None:
    rows = connection.execute(
        "select conname from pg_constraint where contype = 'c' and connamespace = 'public'::regnamespace"
        " and conrelid::regclass::text not like '%yoyo%' and conrelid::regclass::text not like 'procrastinate%'"
    ).fetchall()
    assert {row["conname"] for row in rows} - set(constraint_words.SPOKEN) == constraint_words.INTERNAL
