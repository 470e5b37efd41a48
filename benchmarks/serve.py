"""Servers for the benchmarks, each in a process of its own that is copied from one with everything loaded.

One serves Ufrin, or a bare FastAPI + Jinja page of a given size to compare with.
"""

import json
import multiprocessing
import os
import signal
import socket
import sys
import tempfile
from pathlib import Path

import uvicorn
from extent import IS_SHORT
from fastapi import FastAPI
from fastapi.responses import HTMLResponse
from jinja2 import Environment

from ufrin import logs
from ufrin.settings import Settings
from ufrin.store.connection import Database
from ufrin.web.app import create_app

ROW = "<tr><td>{{ row.number }}</td><td>{{ row.name }}</td></tr>\n"


def bare(size: int) -> FastAPI:
    """Make an application with one page of rows from a template, as long as the page it is compared with."""
    app = FastAPI()
    environment = Environment(autoescape=True)
    template = environment.from_string("<!doctype html><table>{% for row in rows %}" + ROW + "{% endfor %}</table>")
    each = len(environment.from_string(ROW).render(row={"number": 100, "name": "Ammonite from the foreshore"}))
    rows = [{"number": number, "name": "Ammonite from the foreshore"} for number in range(100, 100 + size // each)]

    @app.get("/")
    def page() -> HTMLResponse:
        return HTMLResponse(template.render(rows=rows))

    return app


def ufrin(conninfo: str, *, sign_in: bool) -> FastAPI:
    """Make Ufrin's own application."""
    logs.write_to(Path(tempfile.mkdtemp(prefix="ufrin-bench-")))  # as in real life, so that writing the log is paid for
    return create_app(Database(conninfo), Settings(sign_in=sign_in))


def serve(kind: str, argument: str) -> None:
    """Serve on a free port, printed first with the number of the process."""
    app = bare(int(argument)) if kind == "bare" else ufrin(argument, sign_in=kind == "signed")
    with socket.socket(
        proto=socket.IPPROTO_TCP
    ) as listening:  # the protocol named, or asyncio leaves small answers waiting
        listening.bind(("127.0.0.1", 0))
        print(listening.getsockname()[1], os.getpid(), flush=True)
        uvicorn.Server(uvicorn.Config(app, log_config=None, access_log=False)).run(sockets=[listening])


def main() -> None:
    """Start a server for each line: its kind, and what it serves."""
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # so that nobody has to wait for those that have ended
    if IS_SHORT:  # a process for children that has its libraries loaded beside each server would take longest of all
        multiprocessing.get_context("forkserver").set_forkserver_preload([])
    for line in sys.stdin:
        if os.fork() == 0:
            sys.stdin.close()
            serve(*json.loads(line))
            os._exit(0)


if __name__ == "__main__":
    main()
