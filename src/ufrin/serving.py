"""The server itself: one process, or one of several that share an address."""

import os
import signal
import socket
import sys
import threading
from collections.abc import Callable
from datetime import UTC, datetime
from pathlib import Path

import uvicorn
from fastapi import FastAPI

from ufrin.certificates import server_files
from ufrin.network import is_https, names_served
from ufrin.settings import Settings
from ufrin.store.connection import Database
from ufrin.web.app import create_app, release_devices

GRACE_S = 3
BESIDE_PAGES = 4  # connections for mesh calls, which have threads of their own


class _Server(uvicorn.Server):
    # one that stops sends away the pages that follow a scale first, or it would wait for them

    def __init__(self, config: uvicorn.Config, app: FastAPI, leaving: Callable[[], None]) -> None:
        super().__init__(config)
        self._app, self._leaving = app, leaving

    async def shutdown(self, sockets: list[socket.socket] | None = None) -> None:
        self._leaving()
        release_devices(self._app)
        await super().shutdown(sockets)


def serve(conninfo: str, settings: Settings, leaving: Callable[[], None]) -> None:
    """Serve until stopped.

    Parameters
    ----------
    conninfo : str
        Of the database.
    settings : Settings
        Where to serve.
    leaving : function
        Called as soon as it begins to stop.
    """
    database = Database(
        conninfo,
        pool_size=settings.pool_size + BESIDE_PAGES,
        wait_s=settings.database_wait_s,
        statement_limit_s=settings.statement_limit_s,
    )
    app = create_app(database, settings)
    config = config_of(app, settings)
    _Server(config, app, leaving).run([_listening(settings)])


def config_of(app: FastAPI, settings: Settings) -> uvicorn.Config:
    """Return how an application is served: over HTTPS or not, and which proxies are believed.

    Parameters
    ----------
    app : FastAPI
        The application.
    settings : Settings
        As they are.

    Returns
    -------
    uvicorn.Config
        For the server.
    """
    certificate, key = _certificate(settings)
    return uvicorn.Config(
        app,
        log_config=None,
        access_log=False,
        server_header=False,
        timeout_graceful_shutdown=GRACE_S,
        proxy_headers=bool(settings.trusted_proxies),
        forwarded_allow_ips=settings.trusted_proxies,
        ssl_certfile=certificate,
        ssl_keyfile=key,
    )


def _certificate(settings: Settings) -> tuple[Path, Path] | tuple[None, None]:
    if not is_https(settings):
        return None, None
    return server_files(settings, names_served(settings), datetime.now(UTC))


def _listening(settings: Settings) -> socket.socket:
    family, kind, protocol, _, address = socket.getaddrinfo(
        settings.host, settings.port, type=socket.SOCK_STREAM, proto=socket.IPPROTO_TCP, flags=socket.AI_PASSIVE
    )[0]
    listening = socket.socket(family, kind, protocol)
    listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    if settings.server_processes > 1:  # the system shares out the connections among those that listen
        listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
    listening.bind(address)
    return listening


def stop_with_parent() -> None:
    """Stop this process when its standard input ends, as it does when the server that started it is gone."""

    def wait() -> None:
        sys.stdin.buffer.read()
        os.kill(os.getpid(), signal.SIGTERM)

    threading.Thread(target=wait, daemon=True).start()
