"""Connections: the pool, transactions, and the one place where the driver's errors become ours."""

from collections.abc import Iterator
from contextlib import contextmanager
from threading import Lock
from typing import Any

import psycopg
from psycopg.rows import dict_row
from psycopg_pool import ConnectionPool, PoolTimeout

from ufrin.errors import DatabaseAway, DatabaseBusy, DiskFull, InUse, Refused, UfrinError

Connection = psycopg.Connection[dict[str, Any]]

# what a broken constraint means to a person
_SPOKEN: dict[str, UfrinError] = {
    "rubber_name_taken": Refused(
        "name", "Another rubber on the Shelf has this name. Two tins with one name get mixed up: choose another."
    ),
    "rubber_name_length": Refused("name", "A name has 1 to 120 characters."),
    "job_name_length": Refused("name", "A job's name has 1 to 120 characters."),
    "rubber_ratio_by_weight": Refused(
        "weight_a", "A ratio of nothing to something never sets. Both numbers must be more than 0."
    ),
    "rubber_ratio_by_volume": Refused(
        "volume_a", "A ratio of nothing to something never sets. Both numbers must be more than 0."
    ),
    "container_name_taken": Refused(
        "name", "Another container on the Shelf has this name. Two pots with one name get mixed up: choose another."
    ),
    "container_name_length": Refused("name", "A name has 1 to 120 characters."),
    "container_height": Refused("height_mm", "A container's height must be more than nothing."),
    "mesh_in_use": Refused("mesh", "The mesh named here is not in the record book. Upload it again."),
    "additive_name_taken": Refused(
        "name", "Another additive on the Shelf has this name. Two bottles with one name get mixed up: choose another."
    ),
    "additive_name_length": Refused("name", "A name has 1 to 120 characters."),
    "cup_name_taken": Refused("name", "Another cup on the Shelf has this name. Choose another."),
    "cup_name_length": Refused("name", "A name has 1 to 120 characters."),
    "scale_name_taken": Refused(
        "name", "Another scale has this name. Choose another, so that nobody reads the wrong one."
    ),
    "scale_name_length": Refused("name", "A name has 1 to 120 characters."),
    "lot_code_taken": Refused(
        "code",
        "This lot is on the Shelf already. Count it again there, or add what distinguishes the two tins to its code.",
    ),
    "lot_part_fits": Refused(
        "part", "A lot of a rubber is of its part A or of its part B; a lot of anything else is of all of it."
    ),
    "lot_was_poured": Refused("lot_id", "This lot is not on the Shelf any more. Choose another."),
    "workshop_confidence": Refused(
        "confidence_pct", "Choose how often it should be enough: between 50 and 99 pours out of 100."
    ),
    "product_name_taken": Refused("name", "Another release on the Shelf has this name. Choose another."),
    "product_name_length": Refused("name", "A name has 1 to 120 characters."),
    "workshop_air": Refused("air", "That is not one of the choices. Choose again."),
    "workshop_release": Refused("release", "That is not one of the choices. Choose again."),
    "own_rule_once": Refused("", "The same test is counted on already."),
    "own_rule_why": Refused("why", "Say in up to 400 characters what was seen."),
    "sign_off_reason": Refused("reason", "Say in up to 400 characters why it may be poured all the same."),
    "sign_off_who": Refused("who", "Who takes it upon themselves? A name of up to 120 characters is kept."),
    "sign_off_about": Refused("", "That stop is not there any more. Look at the page again."),
    "fault_note": Refused("note", "That is too long: 400 characters are the most."),
    "safety_sheet_name": Refused("file", "The file's name has 1 to 200 characters."),
    "workshop_units": Refused("units", "Units are metric or US."),
    "workshop_currency": Refused("currency", "A currency is written in 1 to 8 characters, such as EUR."),
}
# the same constraint fails when a used thing is deleted and when a job names one that is gone
_USED: dict[str, tuple[str, str, str]] = {
    "rubber_in_use": ("rubbers", "rubber_id", "rubber"),
    "blend_in_use": ("rubbers", "blend_id", "rubber"),
    "thinner_in_use": ("additives", "thinner_id", "thinner"),
    "thickener_in_use": ("additives", "thickener_id", "thickener"),
    "pigment_in_use": ("additives", "pigment_id", "pigment"),
    "cup_in_use": ("cups", "cup_id", "cup"),
    "container_in_use": ("containers", "container_id", "container"),
}


# why a thing can't be deleted: its lots, coupons and pours
_ON_RECORD = {
    "rubber_has_lots",
    "additive_has_lots",
    "rubber_has_coupons",
    "additive_has_coupons",
    "rubber_was_poured",
    "lot_was_poured",
    "rubber_has_tests",
}


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
        self._pool: ConnectionPool[Connection] = ConnectionPool(
            conninfo,
            connection_class=psycopg.Connection[dict[str, Any]],
            kwargs={
                "autocommit": True,  # a read is one statement and needs no transaction of its own
                "row_factory": dict_row,
                "connect_timeout": max(1, int(wait_s)),
                "options": f"-c statement_timeout={int(statement_limit_s * 1000)} -c timezone=UTC",
            },
            min_size=1,
            max_size=pool_size,
            timeout=wait_s,
            # a pool that has given up tries again at the next request; with the usual five minutes of
            # growing pauses it would still report "away" long after the database is back
            reconnect_timeout=1.0,
            check=ConnectionPool.check_connection,
            open=False,
        )
        self._lent_out, self._count = 0, Lock()

    def open(self) -> None:
        """Start the pool; it connects when it can."""
        self._pool.open()

    def close(self) -> None:
        """Give back every connection."""
        self._pool.close()

    @contextmanager
    def reading(self) -> Iterator[Connection]:
        """Lend a connection for reads, each statement on its own."""
        with _spoken_errors(), self._lent() as connection:
            yield connection

    @contextmanager
    def transaction(self) -> Iterator[Connection]:
        """Lend a connection inside one transaction, rolled back on any error."""
        with _spoken_errors(), self._lent() as connection, connection.transaction():
            yield connection

    @contextmanager
    def _lent(self) -> Iterator[Connection]:
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
    if name in _USED:
        table, field, what = _USED[name]
        if error.diag.table_name == table or "still referenced" in (error.diag.message_detail or ""):
            return InUse(
                f"A job counts on this {what}, so it can't be deleted. Retire it instead: it stays in its "
                "jobs and is no longer offered."
            )
        return Refused(field, f"This {what} is not on the Shelf any more. Choose another.")
    if name in _ON_RECORD and "still referenced" in (error.diag.message_detail or ""):
        return InUse(
            "Lots, test coupons or pours of it are on record, so it can't be deleted. Retire it instead: it "
            "is no longer offered."
        )
    return _SPOKEN.get(
        name,
        Refused("", "The record book refuses this, since it would contradict itself. Reload the page and try again."),
    )
