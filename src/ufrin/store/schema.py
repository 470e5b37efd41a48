"""The schema: brings a database to the newest step of ``migrations/``, or back."""

from collections.abc import Iterator
from contextlib import contextmanager
from importlib.resources import as_file, files
from urllib.parse import quote, urlencode

import psycopg
from psycopg.conninfo import conninfo_to_dict
from yoyo import get_backend, read_migrations
from yoyo.backends import DatabaseBackend
from yoyo.migrations import MigrationList

from ufrin.errors import UfrinError

# any number will do, as long as every Ufrin takes the same one
LOCK, WAIT_S = 8537_0001, 60


class SchemaNotMade(UfrinError):
    """The schema could not be brought to its newest step.

    Parameters
    ----------
    why : str
        What went wrong and what to do.
    """

    status = 503
    title = "The schema could not be brought up to date"

    def __init__(self, why: str) -> None:
        super().__init__(why)
        self.why = why

    def __str__(self) -> str:
        return self.why


def _backend(conninfo: str) -> DatabaseBackend:
    # the migration library wants a URL of its own; whatever psycopg understands is turned into one
    parts = {key: str(value) for key, value in conninfo_to_dict(conninfo).items() if value is not None}
    user, password, port, name = (
        parts.pop("user", ""),
        parts.pop("password", ""),
        parts.pop("port", ""),
        parts.pop("dbname", ""),
    )
    host = parts.pop("host", "")
    if host.startswith("/"):
        parts["host"], host = host, ""
    who = quote(user, safe="") + (f":{quote(password, safe='')}" if password else "") + "@" if user else ""
    where = f"{host}:{port}" if port and host else host
    return get_backend(f"postgresql+psycopg://{who}{where}/{quote(name)}?{urlencode(parts)}")


def steps() -> list[str]:
    """Return the names of all steps, in their order."""
    with _migrations() as migrations:
        return [migration.id for migration in migrations]


def step_of(conninfo: str) -> str:
    """Return the newest step that is applied to a database; empty where there is none."""
    with _migrations() as migrations:
        backend = _backend(conninfo)
        try:
            return max((one.id for one in backend.to_rollback(migrations)), default="")
        finally:
            backend.connection.close()


def bring_up_to_date(conninfo: str, *, last: str | None = None) -> int:
    """Apply every step that is not applied yet, up to one of them where it is named.

    Each step is one transaction together with the note that it is done, so that whoever is killed in the middle leaves
    none of it behind; and the lock is the database's own, which ends with the connection of whoever held it.

    Returns the number of steps; raises SchemaNotMade with a sentence.
    """
    with _alone(conninfo), _migrations() as migrations:
        backend = _backend(conninfo)
        backend.break_lock()  # the library's own, left by a process that was killed: nobody else is here now
        try:
            wanted = [one for one in backend.to_apply(migrations) if last is None or one.id <= last]
            for migration in wanted:
                backend.ensure_internal_schema_updated()
                with backend.transaction():
                    migration.process_steps(backend, "apply")
                    backend.mark_one(migration)
        except psycopg.Error as error:
            raise SchemaNotMade(
                "The database could not be brought to this version's schema, and is as it was before that step. "
                f"PostgreSQL says: {str(error).strip()}"
            ) from error
        finally:
            backend.connection.close()
    return len(wanted)


def take_down(conninfo: str, *, to: str = "") -> int:
    """Roll steps back, newest first, as far as one that stays. Without one, everything kept is lost."""
    with _alone(conninfo), _migrations() as migrations:
        backend = _backend(conninfo)
        wanted = MigrationList([one for one in backend.to_rollback(migrations) if one.id > to])
        number = len(wanted)
        backend.rollback_migrations(wanted)
        backend.connection.close()
    return number


@contextmanager
def _migrations() -> Iterator[MigrationList]:
    with as_file(files("ufrin.store").joinpath("migrations")) as folder:
        yield read_migrations(str(folder))


@contextmanager
def _alone(conninfo: str) -> Iterator[None]:
    try:
        with psycopg.connect(conninfo, autocommit=True) as connection:
            connection.execute("select set_config('statement_timeout', %s, false)", [str(WAIT_S * 1000)])
            try:
                connection.execute("select pg_advisory_lock(%s)", [LOCK])
            except psycopg.errors.QueryCanceled as error:
                raise SchemaNotMade(
                    f"Another Ufrin has been changing this database's schema for more than {WAIT_S} s. Wait until it "
                    "is done, then start again."
                ) from error
            yield
    except psycopg.OperationalError as error:
        raise SchemaNotMade(
            f"The database went away while its schema was looked at; start again. PostgreSQL says: {error}"
        ) from error
