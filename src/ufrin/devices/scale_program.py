"""The scale program: simulated scales, each on a TCP port as a serial server would have it.

It also serves a page with a lever that pours.
"""

import asyncio
import contextlib
import sys
import time
from collections.abc import AsyncIterator, Sequence
from importlib.resources import files
from typing import Annotated

import uvicorn
from fastapi import FastAPI, Form
from fastapi.responses import HTMLResponse, JSONResponse, Response

from ufrin.devices.simulated_scale import SimulatedScale
from ufrin.devices.simulated_thermometer import SimulatedThermometer

READINGS_PER_S = 10.0
HOST = "127.0.0.1"
PORT, LEVER_PORT = 8540, 8549
LINES_PER_S = 0.5
MOST_FLOW = 500.0


class Bench:
    """Simulated scales that send their readings to whoever connects.

    Parameters
    ----------
    scales : sequence of SimulatedScale
        One for each port.
    port : int
        Of the first; the others follow. 0 takes free ones.
    thermometer_port : int, optional
        Of a thermometer beside them; 0 has none.
    """

    def __init__(self, scales: Sequence[SimulatedScale], port: int, *, thermometer_port: int = 0) -> None:
        self.scales, self._port = list(scales), port
        self.thermometer, self._thermometer_port = SimulatedThermometer(), thermometer_port
        self.ports: list[int] = []
        self._servers: list[asyncio.Server] = []
        self._talking: set[asyncio.Task[None]] = set()

    @contextlib.asynccontextmanager
    async def serving(self) -> AsyncIterator["Bench"]:
        """Serve while the block runs.

        Yields
        ------
        Bench
            With its ports.
        """
        try:
            for index, scale in enumerate(self.scales):
                port = self._port + index if self._port else 0
                server = await asyncio.start_server(self._to(scale), HOST, port)
                self._servers.append(server)
                self.ports.append(server.sockets[0].getsockname()[1])
            if self._thermometer_port:
                self._servers.append(await asyncio.start_server(self._read_room, HOST, self._thermometer_port))
            yield self
        finally:
            for server in self._servers:
                server.close()
            talking = tuple(self._talking)
            for task in talking:
                task.cancel()
            await asyncio.gather(*talking, return_exceptions=True)

    def _to(self, scale: SimulatedScale):  # type: ignore[no-untyped-def]  # noqa: ANN202 - what asyncio wants
        async def talk(reader: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
            task = asyncio.current_task()
            if task:
                self._talking.add(task)
            hearing = asyncio.create_task(self._hear(reader, scale))
            try:
                await self._send(scale, writer)
            except (ConnectionError, asyncio.CancelledError):
                pass
            finally:
                hearing.cancel()
                await asyncio.gather(hearing, return_exceptions=True)
                writer.close()
                if task:
                    self._talking.discard(task)

        return talk

    async def _send(self, scale: SimulatedScale, writer: asyncio.StreamWriter) -> None:
        due = time.monotonic()
        while scale.is_plugged and not writer.is_closing():
            writer.write(scale.line(time.monotonic()))
            await writer.drain()
            due += 1 / READINGS_PER_S
            await asyncio.sleep(max(0.0, due - time.monotonic()))

    async def _read_room(self, _: asyncio.StreamReader, writer: asyncio.StreamWriter) -> None:
        task = asyncio.current_task()
        if task:
            self._talking.add(task)
        try:
            while self.thermometer.is_plugged and not writer.is_closing():
                writer.write(self.thermometer.line(time.monotonic()))
                await writer.drain()
                await asyncio.sleep(1 / LINES_PER_S)
        except (ConnectionError, asyncio.CancelledError):
            pass
        finally:
            writer.close()
            if task:
                self._talking.discard(task)

    async def _hear(self, reader: asyncio.StreamReader, scale: SimulatedScale) -> None:
        while data := await reader.readline():
            scale.hear(data)


def lever_page(bench: Bench) -> FastAPI:
    """Make the page with the lever.

    Parameters
    ----------
    bench : Bench
        The scales that it works.

    Returns
    -------
    FastAPI
        The page, its script, and the addresses that they use.
    """
    app = FastAPI(title="Simulated scales", docs_url=None, redoc_url=None, openapi_url=None)

    @app.get("/")
    def page() -> HTMLResponse:
        return HTMLResponse(_file("lever.html"), headers={"Content-Security-Policy": "default-src 'self'"})

    @app.get("/lever.{kind}")
    def part(kind: str) -> Response:
        if kind not in {"js", "css"}:
            return Response(status_code=404)
        return Response(_file(f"lever.{kind}"), media_type="text/javascript" if kind == "js" else "text/css")

    @app.get("/scales")
    def scales() -> JSONResponse:
        now = time.monotonic()
        shown = []
        for scale in bench.scales:
            scale.move_on(now)
            shown.append(
                {
                    "load_g": round(scale.load_g, 2),
                    "flow_g_per_s": scale.flow_g_per_s,
                    "is_plugged": scale.is_plugged,
                    "is_mad": scale.is_mad,
                }
            )
        return JSONResponse(shown)

    @app.get("/room")
    def room() -> JSONResponse:
        of = bench.thermometer
        return JSONResponse({"set_c": of.set_c, "room_c": round(of.room_c, 2), "is_plugged": of.is_plugged})

    @app.post("/room/{what}")
    def change_room(what: str, amount: Annotated[float, Form()] = 0.0) -> Response:
        if what == "set" and -20 <= amount <= 60:
            bench.thermometer.set_c = amount
        elif what == "plug":
            bench.thermometer.is_plugged = amount > 0
        else:
            return Response(status_code=404)
        return Response(status_code=204)

    @app.post("/scales/{index}/{what}")
    def do(index: int, what: str, amount: Annotated[float, Form()] = 0.0) -> Response:
        if not 0 <= index < len(bench.scales) or not abs(amount) <= 1e6:
            return Response(status_code=404)
        scale = bench.scales[index]
        scale.move_on(time.monotonic())
        if what == "flow":
            scale.flow_g_per_s = min(MOST_FLOW, max(0.0, amount))
        elif what == "add":
            scale.load_g = max(0.0, scale.load_g + amount)
        elif what == "load":
            scale.load_g = max(0.0, amount)
        elif what == "drift":
            scale.drift_g_per_min = amount
        elif what == "plug":
            scale.is_plugged = amount > 0
        elif what == "mad":
            scale.is_mad = amount > 0
        else:
            return Response(status_code=404)
        return Response(status_code=204)

    return app


def _file(name: str) -> str:
    return files("ufrin.devices").joinpath(name).read_text("utf-8")


def run(port: int, page_port: int, *, number: int = 2, thermometer_port: int = 0, with_server: bool = False) -> None:
    """Run simulated scales until stopped.

    Parameters
    ----------
    port, page_port : int
        Of the first scale, and of the page with the lever.
    number : int, optional
        Of scales.
    thermometer_port : int, optional
        Of a thermometer beside them; 0 has none.
    with_server : bool, optional
        Stop as well when standard input ends, as it does when the server that started this is gone.
    """
    try:
        asyncio.run(_run(port, page_port, number, thermometer_port, with_server))
    except KeyboardInterrupt:
        pass
    except OSError as error:  # simulated scales of another demo most likely run there already, and serve as well
        print(f"The simulated scales can't be started: {error}", file=sys.stderr, flush=True)


async def _run(port: int, page_port: int, number: int, thermometer_port: int, with_server: bool) -> None:
    bench = Bench(
        [
            SimulatedScale(step_g=0.1 if index == 0 else 1.0, most_g=2000.0 if index == 0 else 6000.0, seed=index + 1)
            for index in range(number)
        ],
        port,
        thermometer_port=thermometer_port,
    )
    async with bench.serving():
        server = uvicorn.Server(
            uvicorn.Config(
                lever_page(bench),
                host=HOST,
                port=page_port,
                log_config=None,
                access_log=False,
                timeout_graceful_shutdown=1,
            )
        )
        if with_server:
            asyncio.get_running_loop().add_reader(sys.stdin.fileno(), lambda: setattr(server, "should_exit", True))
        for index, at in enumerate(bench.ports):
            print(f"Simulated scale {index + 1}: socket://{HOST}:{at}", flush=True)
        if thermometer_port:
            print(f"Simulated thermometer: socket://{HOST}:{thermometer_port}", flush=True)
        print(f"The lever that pours: http://{HOST}:{page_port}", flush=True)
        await server.serve()
