"""The queue of long work: procrastinate's own tables, as the pinned version ships them."""

from importlib.resources import files
from typing import Any

from yoyo import step

__depends__ = {"0002.meshes-and-containers"}

_DOWN = """
do $$
declare thing record;
begin
    for thing in select oid::regclass as name from pg_class where relname like 'procrastinate\\_%' and relkind = 'r' loop
        execute format('drop table if exists %s cascade', thing.name);
    end loop;
    for thing in select oid::regprocedure as name from pg_proc where proname like 'procrastinate\\_%' loop
        execute format('drop function if exists %s cascade', thing.name);
    end loop;
    for thing in select typname as name from pg_type where typname like 'procrastinate\\_job%' and typtype in ('e', 'c') loop
        execute format('drop type if exists %I cascade', thing.name);
    end loop;
end $$
"""


def _up(connection: Any) -> None:
    connection.cursor().execute(files("procrastinate").joinpath("sql/schema.sql").read_text("utf-8"))


def _down(connection: Any) -> None:
    connection.cursor().execute(_DOWN)


steps = [step(_up, _down)]
