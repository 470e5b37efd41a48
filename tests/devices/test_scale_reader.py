"""Reading simulated scales over real TCP: readings, loss, silence, noise, and a scale that comes back."""

import asyncio
import socket
import threading
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager

import pytest
from waiting import PATIENCE_S, wait_until

from ufrin.core.shelf.scales import Scale
from ufrin.devices.scale_program import Bench
from ufrin.devices.scales import Scales
from ufrin.devices.simulated_scale import SimulatedScale
from ufrin.errors import Refused


@contextmanager
def program(*scales: SimulatedScale) -> Iterator[list[int]]:
    """The scale program in a thread, on free ports."""
    ready, ports, loop = threading.Event(), [], asyncio.new_event_loop()
    over = asyncio.Event()

    async def serve() -> None:
        async with Bench(scales, 0).serving() as bench:
            ports.extend(bench.ports)
            ready.set()
            await over.wait()

    thread = threading.Thread(target=loop.run_until_complete, args=(serve(),), daemon=True)
    thread.start()
    assert ready.wait(5)
    try:
        yield ports
    finally:
        loop.call_soon_threadsafe(over.set)
        thread.join(5)
        loop.close()


@pytest.fixture
def scales() -> Iterator[Scales]:
    reading = Scales()
    yield reading
    reading.close()


def at(port: int) -> Scale:
    return Scale(name="Bench scale", address=f"socket://127.0.0.1:{port}")


def test_a_weight_is_read_tared_lost_and_found_again(scales: Scales) -> None:
    simulated = SimulatedScale(seed=2, load_g=120.0)
    with program(simulated) as (port,):
        scale = at(port)
        reader = scales.reader(1, scale)
        assert scales.reader(1, scale) is reader
        wait_until(lambda: reader.heard.is_settled)
        assert scales.settled_g(1, scale) == pytest.approx(120, abs=0.11)
        assert reader.tare()
        wait_until(lambda: reader.heard.line is not None and abs(reader.heard.line.g) <= 0.1)
        simulated.load_g += 46.6
        with pytest.raises(Refused, match="has not come to rest"):
            wait_until(lambda: scales.settled_g(1, scale) > 1e9)  # asked while it still moves
        wait_until(lambda: reader.heard.is_settled)
        assert scales.settled_g(1, scale) == pytest.approx(46.6, abs=0.2)
        simulated.is_plugged = False
        wait_until(lambda: reader.heard.link == "lost")
        with pytest.raises(Refused, match="says nothing just now"):
            scales.settled_g(1, scale)
        simulated.is_plugged = True
        wait_until(lambda: reader.heard.link == "reading" and reader.heard.is_settled)


def test_too_much_and_noise_are_told_and_never_taken(scales: Scales) -> None:
    simulated = SimulatedScale(most_g=500.0, load_g=900.0)
    with program(simulated) as (port,):
        scale = at(port)
        reader = scales.reader(1, scale)
        wait_until(lambda: reader.heard.line is not None)
        with pytest.raises(Refused, match="more on Bench scale than it weighs"):
            scales.settled_g(1, scale)
        simulated.is_mad = True
        wait_until(lambda: reader.garbage > 3)
        before = reader.heard.count
        wait_until(lambda: reader.heard.link == "silent")  # it talks, and says nothing
        assert reader.heard.count == before
        simulated.is_mad, simulated.load_g = False, 100.0
        wait_until(lambda: reader.heard.is_settled)


def test_a_port_that_hangs_up_or_is_not_there_is_lost_until_it_is_there(scales: Scales) -> None:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = int(free.getsockname()[1])
    reader = scales.reader(1, at(port))
    wait_until(lambda: reader.heard.link == "lost")
    assert not reader.tare()
    with pytest.raises(Refused, match="says nothing"):
        scales.settled_g(1, at(port))


def test_two_listeners_hear_every_reading_and_are_sent_away_at_the_end(scales: Scales) -> None:
    async def listen(scale: Scale, heard: list[int]) -> None:
        async for one in scales.listen(1, scale):
            heard.append(one.count)

    async def both(scale: Scale) -> tuple[list[int], list[int]]:
        first: list[int] = []
        second: list[int] = []
        listening = [asyncio.create_task(listen(scale, heard)) for heard in (first, second)]
        while min(len(first), len(second)) < 16:
            await asyncio.sleep(0.02)
        scales.close()
        await asyncio.wait_for(asyncio.gather(*listening), PATIENCE_S)
        return first, second

    with program(SimulatedScale()) as (port,):
        # in a thread of its own: another test's browser may keep a loop in this one
        with ThreadPoolExecutor(1) as aside:
            heard_by_both = aside.submit(lambda: asyncio.run(both(at(port)))).result(PATIENCE_S)
        for heard in heard_by_both:
            counts = [count for count in heard if count]
            assert len(counts) > 12
            assert counts == list(range(counts[0], counts[0] + len(counts)))  # none lost


def test_an_address_that_is_changed_is_read_anew(scales: Scales) -> None:
    with program(SimulatedScale(load_g=10.0), SimulatedScale(load_g=90.0, seed=9)) as ports:
        first = scales.reader(1, at(ports[0]))
        wait_until(lambda: first.heard.is_settled)
        second = scales.reader(1, at(ports[1]))
        assert second is not first
        wait_until(lambda: second.heard.is_settled)
        assert scales.settled_g(1, at(ports[1])) == pytest.approx(90, abs=0.2)
        scales.forget(1)
