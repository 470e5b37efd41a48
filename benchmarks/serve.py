"""A server for the benchmarks, in a process of its own.

It serves Ufrin, or a bare FastAPI + Jinja page of a given size to compare with.
"""

import socket
import sys
import tempfile
from pathlib import Path

import uvicorn
from fastapi import FastAPI
from fastapi.responses import HTMLResponse
from jinja2 import Environment

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
    """Make Ufrin's own application; a bare page need not load it."""
    from ufrin import logs  # noqa: PLC0415
    from ufrin.settings import Settings  # noqa: PLC0415
    from ufrin.store.connection import Database  # noqa: PLC0415
    from ufrin.web.app import create_app  # noqa: PLC0415

    logs.write_to(Path(tempfile.mkdtemp(prefix="ufrin-bench-")))  # as in real life, so that writing the log is paid for
    return create_app(Database(conninfo), Settings(sign_in=sign_in))


def main() -> None:
    """Serve on a free port, printed first."""
    kind, argument = sys.argv[1:]
    app = bare(int(argument)) if kind == "bare" else ufrin(argument, sign_in=kind == "signed")
    with socket.socket(
        proto=socket.IPPROTO_TCP
    ) as listening:  # the protocol named, or asyncio leaves small answers waiting
        listening.bind(("127.0.0.1", 0))
        print(listening.getsockname()[1], flush=True)
        uvicorn.Server(uvicorn.Config(app, log_config=None, access_log=False)).run(sockets=[listening])


if __name__ == "__main__":
    main()
