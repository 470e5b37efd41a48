"""Marks: what was read is not believed once anything it follows from has changed."""

from types import SimpleNamespace

import pytest

from ufrin.store import marks
from ufrin.store.connection import Database
from ufrin.store.marks import BELIEVED_S, KeptAnswers

READ_BY_LISTS = """
    select distinct t.relname as name
    from pg_rewrite r join pg_depend d on d.objid = r.oid and d.deptype = 'n' join pg_class t on t.oid = d.refobjid
    where r.ev_class in ('job_marks'::regclass, 'job_input_marks'::regclass) and t.relkind = 'r'
"""
WATCHED = """
    select c.relname as name from pg_trigger g join pg_class c on c.oid = g.tgrelid
    where g.tgname = 'lists_mark_goes_up'
"""


def test_every_table_that_a_list_follows_from_moves_its_mark(database: Database) -> None:
    with database.reading() as connection:
        followed = {row["name"] for row in connection.execute(READ_BY_LISTS).fetchall()}
        watched = {row["name"] for row in connection.execute(WATCHED).fetchall()}
    assert {"jobs", "stations", "rubbers", "workshop"} <= followed
    assert followed | {"board_rows", "pour_entries", "room_temps"} == watched


@pytest.mark.parametrize(
    "statement", ["insert into jobs (name) values ('Tile')", "delete from jobs", "truncate jobs cascade"]
)
def test_a_change_moves_both_marks(database: Database, statement: str) -> None:
    with database.transaction() as connection:
        before = marks.read(connection)
        connection.execute(statement)
        after = marks.read(connection)
    assert after.runs > before.runs
    assert after.lists > before.lists


def test_an_answer_is_believed_under_its_own_mark_and_for_a_moment_only(
    database: Database, monkeypatch: pytest.MonkeyPatch
) -> None:
    def at(seconds: float) -> None:
        monkeypatch.setattr(marks, "time", SimpleNamespace(monotonic=lambda: seconds))

    kept: KeptAnswers[str, str] = KeptAnswers()
    at(100.0)
    kept.keep(database, "first page", 7, "three jobs", read_at_s=100.0)
    assert kept.get(database, "first page", 7) == "three jobs"
    assert kept.get(database, "first page", 8) is None
    assert kept.get(database, "second page", 7) is None
    at(100.0 + BELIEVED_S + 0.01)
    assert kept.get(database, "first page", 7) is None
