"""The schema: brings a database to the newest step of ``migrations/``, or back."""

from importlib.resources import as_file, files
from urllib.parse import quote, urlencode

from psycopg.conninfo import conninfo_to_dict
from yoyo import get_backend, read_migrations
from yoyo.backends import DatabaseBackend


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


def bring_up_to_date(conninfo: str) -> int:
    """Apply every step that is not applied yet."""
    return _steps(conninfo, apply=True)


def take_down(conninfo: str) -> int:
    """Roll every step back, newest first. Everything kept is lost."""
    return _steps(conninfo, apply=False)


def _steps(conninfo: str, *, apply: bool) -> int:
    backend = _backend(conninfo)
    with as_file(files("ufrin.store").joinpath("migrations")) as folder, backend.lock():
        migrations = read_migrations(str(folder))
        steps = backend.to_apply(migrations) if apply else backend.to_rollback(migrations)
        number = len(steps)
        (backend.apply_migrations if apply else backend.rollback_migrations)(steps)
    backend.connection.close()
    return number
