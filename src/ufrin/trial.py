"""Trial: a whole Ufrin on a temporary cluster, for tests, benchmarks and pictures.

Everything in it is deleted afterwards.
"""

import socket
import tempfile
import threading
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

import uvicorn

from ufrin.settings import Settings
from ufrin.store import schema
from ufrin.store.cluster import Cluster
from ufrin.store.connection import Database
from ufrin.web.app import create_app, release_devices

NEWEST = "newest_schema"  # the others are copies of it, in a twentieth of the time that the steps take


@contextmanager
def trial_cluster() -> Iterator[Cluster]:
    """Run a PostgreSQL of its own in a temporary folder.

    Yields
    ------
    Cluster
        Started.
    """
    with tempfile.TemporaryDirectory(prefix="ufrin-", ignore_cleanup_errors=True) as folder:
        Path(folder).chmod(0o755)  # the database's own user passes through
        cluster = Cluster(Path(folder) / "pg", fast=True)
        try:
            cluster.start()
            yield cluster
        finally:
            cluster.drop()


def trial_database(cluster: Cluster, name: str) -> str:
    """Make a database with the newest schema.

    Parameters
    ----------
    cluster : Cluster
        Started.
    name : str
        Of the database.

    Returns
    -------
    str
        Its address.
    """
    if NEWEST not in cluster.databases():
        schema.bring_up_to_date(cluster.database(NEWEST))
    return cluster.database(name, like=NEWEST)


@contextmanager
def trial_server(conninfo: str, *, sign_in: bool = False) -> Iterator[str]:
    """Serve Ufrin on a free port of loopback, in a thread.

    Parameters
    ----------
    conninfo : str
        Of its database.
    sign_in : bool, optional
        Whether people sign in.

    Yields
    ------
    str
        The address to browse.

    Raises
    ------
    TimeoutError
        When it does not come up.
    """
    settings = Settings(sign_in=sign_in)
    app = create_app(Database(conninfo, wait_s=5.0), settings)  # a busy machine is slow to open a connection
    with socket.socket(
        proto=socket.IPPROTO_TCP
    ) as listening:  # the protocol named, or asyncio leaves small answers waiting
        listening.bind(("127.0.0.1", 0))
        server = uvicorn.Server(uvicorn.Config(app, log_config=None, access_log=False, timeout_graceful_shutdown=2))
        thread = threading.Thread(target=server.run, kwargs={"sockets": [listening]}, daemon=True)
        thread.start()
        patience = time.monotonic() + 60
        while not server.started:
            if time.monotonic() > patience:
                raise TimeoutError("the trial server did not start")
            time.sleep(0.02)
        try:
            yield f"http://127.0.0.1:{listening.getsockname()[1]}"
        finally:
            release_devices(app)
            server.should_exit = True
            thread.join(10)
