"""The database when it can't serve: busy, away and full are told apart."""

import psycopg
import pytest
from waiting import wait_until

from ufrin.errors import DatabaseAway, DatabaseBusy, DiskFull
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Database
from ufrin.trial import trial_database


def can_read(database: Database) -> bool:
    try:
        with database.reading() as connection:
            return connection.execute("select 1").fetchone() is not None
    except DatabaseAway:
        return False


def test_busy_is_not_away(conninfo: str) -> None:
    database = Database(conninfo, pool_size=1, wait_s=0.3)
    database.open()
    try:
        wait_until(lambda: can_read(database), "it does not connect")  # a busy machine takes its time
        with database.reading(), pytest.raises(DatabaseBusy, match="is busy"), database.reading():
            pass
        with database.reading() as connection:
            assert connection.execute("select 1 as one").fetchone() == {"one": 1}
    finally:
        database.close()


def test_away_is_not_busy_and_it_comes_back(cluster: Cluster) -> None:
    database = Database(trial_database(cluster, "goes_away"), pool_size=2, wait_s=0.5)
    database.open()
    try:
        with database.reading():
            pass
        cluster.stop()
        with pytest.raises(DatabaseAway, match="does not answer"), database.reading() as connection:
            connection.execute("select 1")
        cluster.start()
        for _ in range(40):
            try:
                with database.reading() as connection:
                    assert connection.execute("select 1 as one").fetchone() == {"one": 1}
                break
            except DatabaseAway:
                continue
        else:
            raise AssertionError("it did not come back")
    finally:
        database.close()


def test_a_full_disk_is_neither(database: Database) -> None:
    with pytest.raises(DiskFull, match="disk .* is full"), database.transaction() as connection:
        connection.execute("do $$ begin raise exception 'no space' using errcode = 'disk_full'; end $$")


def test_a_statement_that_takes_too_long_is_told_as_busy(conninfo: str) -> None:
    database = Database(conninfo, statement_limit_s=0.2)
    database.open()
    try:
        with pytest.raises(DatabaseBusy, match="record book is busy"), database.reading() as connection:
            connection.execute("select pg_sleep(5)")
    finally:
        database.close()


def test_money_and_stock_are_exact_where_they_are_kept(conninfo: str) -> None:
    with psycopg.connect(conninfo) as connection:
        rows = connection.execute(
            "select table_name, column_name from information_schema.columns where table_schema = 'public'"
            " and (column_name like '%price' or column_name in ('left_g', 'got_g', 'grams')) and data_type <> 'numeric'"
        ).fetchall()
    assert rows == []
