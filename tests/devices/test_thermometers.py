"""Thermometers: their lines, a simulated one that is read, lost and found again, and the log of the room."""

import socket
import threading
from collections.abc import Iterator
from contextlib import contextmanager, suppress

import pytest
from hypothesis import given
from hypothesis import strategies as st
from running import free_port
from waiting import wait_until

from ufrin.actions import THERMOMETERS
from ufrin.actions.shelf import things
from ufrin.actions.shop import room
from ufrin.core.clocks.moment import Moment
from ufrin.core.shelf.thermometers import Thermometer
from ufrin.devices.simulated_thermometer import SimulatedThermometer
from ufrin.devices.thermometers import Thermometers, read_temp_c
from ufrin.errors import Refused
from ufrin.store import pours as kept_pours
from ufrin.store.connection import Database
from ufrin.web.frame.room_watch import RoomWatch


@pytest.mark.parametrize(
    ("line", "temp_c"),
    [
        (b"T 21.3 C", 21.3),
        (b"temperature: 19.0", 19.0),
        ("room = 18.25 °C".encode(), 18.25),
        (b"-4 c", -4.0),
        (b"68 F", 20.0),
        (b"250 C", None),
        (b"21.3 g", None),
        (b"21.3 C 40 %", None),
        (b"", None),
        (b"\xff\xfe", None),
        (b"T 21.3 C" * 20, None),
    ],
)
def test_lines_are_read_strictly(line: bytes, temp_c: float | None) -> None:
    read = read_temp_c(line)
    assert read == (None if temp_c is None else pytest.approx(temp_c))


@given(st.binary(max_size=200))
def test_noise_is_no_temperature_beyond_belief(data: bytes) -> None:
    read = read_temp_c(data)
    assert read is None or -60 <= read <= 200


@given(st.floats(-10, 45), st.floats(-10, 45))
def test_the_simulated_room_goes_to_what_is_set(from_c: float, to_c: float) -> None:
    one = SimulatedThermometer(set_c=to_c, room_c=from_c, noise_c=0.0)
    assert read_temp_c(one.line(0).strip()) == pytest.approx(from_c, abs=0.051)
    between = read_temp_c(one.line(10).strip())
    assert min(from_c, to_c) - 0.06 <= between <= max(from_c, to_c) + 0.06
    assert read_temp_c(one.line(1000).strip()) == pytest.approx(to_c, abs=0.051)


@contextmanager
def wire(port: int, lines: list[bytes]) -> Iterator[None]:
    """A thermometer on a socket that sends its newest line again and again."""
    over, server = threading.Event(), socket.create_server(("127.0.0.1", port))
    server.settimeout(0.1)
    talking: list[socket.socket] = []

    def talk() -> None:
        while not over.wait(0.05):
            with suppress(TimeoutError):
                talking.append(server.accept()[0])
            for one in list(talking):
                try:
                    one.sendall(lines[-1] + b"\r\n")
                except OSError:
                    talking.remove(one)

    thread = threading.Thread(target=talk)
    thread.start()
    try:
        yield
    finally:
        over.set()
        thread.join()
        for one in talking:
            one.close()
        server.close()


def test_it_is_read_lost_and_found_again() -> None:
    port, lines = free_port(), [b"T 20.0 C"]
    one, read = Thermometer(name="Wall", address=f"socket://127.0.0.1:{port}"), Thermometers()
    try:
        assert read.fresh_c(1, one) is None
        with wire(port, lines):
            wait_until(lambda: read.fresh_c(1, one) == 20.0)
            lines.append(b"#?!")
            lines.append(b"T 25.5 C")
            wait_until(lambda: read.fresh_c(1, one) == 25.5)
        wait_until(lambda: read.fresh_c(1, one) is None)
        with wire(port, lines):
            wait_until(lambda: read.fresh_c(1, one) == 25.5)
        read.keep_only(set())
        assert read.fresh_c(1, one) is None
    finally:
        read.close()
    assert read.fresh_c(2, one) is None


def test_the_watch_keeps_what_it_reads(database: Database) -> None:
    port, lines = free_port(), [b"T 20.0 C"]
    number = things.add(database, THERMOMETERS, Thermometer(name="Wall", address=f"socket://127.0.0.1:{port}"))
    watch = RoomWatch(database, every_s=0.05)
    watch.start()
    try:
        with wire(port, lines):
            wait_until(lambda: [one.heard_c for one in room.heard(database)] == [20.0])
            lines.append(b"T 27.0 C")
            wait_until(lambda: [one.heard_c for one in room.heard(database)] == [27.0])
    finally:
        watch.stop()
    with database.reading() as connection:
        rows = connection.execute("select temp_c, thermometer from room_temps order by id").fetchall()
    assert [(row["temp_c"], row["thermometer"]) for row in rows] == [(20.0, "Wall"), (27.0, "Wall")]
    assert number == 1


def moment(minutes: float) -> Moment:
    return Moment(wall_s=1.8e9 + 60 * minutes, steady_s=60 * minutes, machine="m")


def test_the_log_has_what_changed_and_now_and_then_what_did_not(database: Database) -> None:
    number = things.add(database, THERMOMETERS, Thermometer(name="Wall", address="COM3"))
    other = things.add(database, THERMOMETERS, Thermometer(name="Oven", address="COM4"))
    for minutes, temp_c in ((0, 20.0), (1, 20.3), (2, 20.5), (3, 20.2), (20, 20.4), (33, 20.4), (34, 19.0)):
        room.note(database, number, temp_c, moment(minutes))
    room.note(database, other, 60.0, moment(35))
    with database.reading() as connection:
        rows = connection.execute("select temp_c, thermometer from room_temps order by id").fetchall()
    noted = [row["temp_c"] for row in rows if row["thermometer"] == "Wall"]
    assert noted == [20.0, 20.5, 20.4, 19.0]
    assert rows[-1] == {"temp_c": 60.0, "thermometer": "Oven"}
    heard = {one.name: one.heard_c for one in room.heard(database)}
    assert heard == {"Oven": 60.0, "Wall": 19.0}
    assert room.now_c(database, moment(36)) == 60.0
    assert room.now_c(database, moment(60)) is None


def test_a_pour_has_the_readings_of_its_own_time(filled: Database) -> None:
    with filled.transaction() as connection:
        connection.execute(
            "insert into room_temps (at, steady_s, machine, temp_c, thermometer) "
            "select started_at + make_interval(hours => h), 0, 'demo', 20 + h % 40, 'Wall' from pours, "
            "unnest(array[-24, -1, 2, 500]) as h where id = 1"
        )
    with filled.reading() as connection:
        first = kept_pours.look(connection, 1)
        last = kept_pours.look(connection, 12)
    assert [one.temp_c for one in first.room] == [19.0, 22.0]
    assert last.room == ()


def test_addresses_are_ports_or_sockets_of_listed_hosts(database: Database) -> None:
    for wrong in ("spy:///tmp/x", "http://example.org", "/dev/../etc/passwd"):
        with pytest.raises(Refused, match="A thermometer is reached"):
            Thermometer(name="x", address=wrong)
    with pytest.raises(Refused, match="not among the hosts"):
        things.add(database, THERMOMETERS, Thermometer(name="x", address="socket://192.0.2.7:1"))
