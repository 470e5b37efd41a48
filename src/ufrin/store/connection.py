"""Connections: the pool, transactions, and the one place where the driver's errors become ours."""

from collections.abc import Callable, Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from threading import Lock
from typing import Any

import psycopg
from psycopg.rows import dict_row
from psycopg.types.numeric import FloatLoader
from psycopg_pool import ConnectionPool, PoolTimeout

from ufrin.errors import DatabaseAway, DatabaseBusy, DiskFull, InUse, Refused, UfrinError
from ufrin.store.constraint_words import ON_RECORD, SPOKEN, USED
from ufrin.store.listening import Listener

Connection = psycopg.Connection[dict[str, Any]]
# who is at work: the database keeps it with every change
doer: ContextVar[str] = ContextVar("doer", default="")


class _NamedConnection(psycopg.Connection[dict[str, Any]]):
    # knows whom it has named to the database

    named = ""

    def name(self, who: str) -> None:
        if who != self.named:
            self.execute("select set_config('ufrin.doer', %s, false)", [who])
            self.named = who


class Database:
    """A pool of connections to PostgreSQL.

    Parameters
    ----------
    conninfo : str
        Where it is.
    pool_size : int
        Most connections kept.
    wait_s : float
        How long to wait for one before ``DatabaseAway``.
    statement_limit_s : float
        How long one statement may run.
    """

    def __init__(
        self, conninfo: str, *, pool_size: int = 8, wait_s: float = 3.0, statement_limit_s: float = 10.0
    ) -> None:
        self._pool: ConnectionPool[_NamedConnection] = ConnectionPool(
            conninfo,
            connection_class=_NamedConnection,
            kwargs={
                "autocommit": True,  # a read is one statement and needs no transaction of its own
                "row_factory": dict_row,
                "connect_timeout": max(1, int(wait_s)),
                "options": f"-c statement_timeout={int(statement_limit_s * 1000)} -c timezone=UTC",
            },
            configure=_configure,
            min_size=1,
            max_size=pool_size,
            timeout=wait_s,
            # a pool that has given up tries again at the next request; with the usual five minutes of
            # growing pauses it would still report "away" long after the database is back
            reconnect_timeout=1.0,
            check=ConnectionPool.check_connection,
            open=False,
        )
        self._lent_out, self._count, self._conninfo = 0, Lock(), conninfo

    @property
    def conninfo(self) -> str:
        """Where it is."""
        return self._conninfo

    def open(self) -> None:
        """Start the pool; it connects when it can."""
        self._pool.open()

    def close(self) -> None:
        """Give back every connection."""
        self._pool.close()

    def listener(self, channel: str, heard: Callable[[str | None], None]) -> Listener:
        """Return a listener to a channel of this database; it is not started yet."""
        return Listener(self._conninfo, channel, heard)

    @contextmanager
    def reading(self) -> Iterator[Connection]:
        """Lend a connection for reads, each statement on its own."""
        with _spoken_errors(), self._lent() as connection:
            yield connection

    @contextmanager
    def transaction(self) -> Iterator[Connection]:
        """Lend a connection inside one transaction, rolled back on any error."""
        with _spoken_errors(), self._lent() as connection:
            connection.name(doer.get())
            with connection.transaction():
                yield connection

    @contextmanager
    def _lent(self) -> Iterator[_NamedConnection]:
        try:
            connection = self._pool.getconn()
        except PoolTimeout as error:
            # a pool without connections has lost the database; one whose connections are all lent out is busy
            raise (DatabaseBusy if self._lent_out >= self._pool.max_size else DatabaseAway) from error
        with self._count:
            self._lent_out += 1
        try:
            with connection:
                yield connection
        finally:
            with self._count:
                self._lent_out -= 1
            self._pool.putconn(connection)


def _configure(connection: psycopg.Connection[Any]) -> None:
    # money and stock are exact in the database; what is worked out from them is not
    connection.adapters.register_loader("numeric", FloatLoader)


@contextmanager
def _spoken_errors() -> Iterator[None]:
    try:
        yield
    except psycopg.errors.IntegrityError as error:
        raise _meaning(error) from error
    except (
        psycopg.DataError
    ) as error:  # a character or a number that it can't hold, which no form should have let through
        raise Refused(
            "",
            "That can't be kept: there is a sign or a number in it that the record book does not know. Type it again.",
        ) from error
    except psycopg.errors.DiskFull as error:
        raise DiskFull from error
    except (psycopg.errors.QueryCanceled, psycopg.errors.LockNotAvailable, psycopg.errors.TooManyConnections) as error:
        raise DatabaseBusy from error
    except (psycopg.OperationalError, psycopg.InterfaceError) as error:
        raise DatabaseAway from error


def _meaning(error: psycopg.errors.IntegrityError) -> UfrinError:
    name = error.diag.constraint_name or ""
    if name in USED:
        table, field, what = USED[name]
        if error.diag.table_name == table or "still referenced" in (error.diag.message_detail or ""):
            return InUse(
                f"A job counts on this {what}, so it can't be deleted. Retire it instead: it stays in its "
                "jobs and is no longer offered."
            )
        return Refused(field, f"This {what} is not on the Shelf any more. Choose another.")
    if name in ON_RECORD and "still referenced" in (error.diag.message_detail or ""):
        return InUse(
            "Lots, test coupons or pours of it are on record, so it can't be deleted. Retire it instead: it "
            "is no longer offered."
        )
    return SPOKEN.get(
        name,
        Refused("", "The record book refuses this, since it would contradict itself. Reload the page and try again."),
    )
