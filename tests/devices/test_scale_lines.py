"""Lines of a scale: every spelling that is one, and everything that is not."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.shelf.scales import Scale
from ufrin.devices.scale_line import Lines, ScaleLine, Settling, read_line
from ufrin.devices.simulated_scale import SimulatedScale
from ufrin.errors import Refused


@pytest.mark.parametrize(
    ("data", "g", "stable", "state"),
    [
        (b"stable 123.4 g", 123.4, True, "ok"),
        (b"moving  -0.1 g", -0.1, False, "ok"),
        (b"S  +  12.50 kg", 12500.0, True, "ok"),
        (b"12.5", 12.5, None, "ok"),
        (b"4 oz, moving", 113.398, False, "ok"),
        (b"ST, 2 lb", 907.185, True, "ok"),
        (b"over", 0.0, False, "overload"),
        (b"  ----OL----", 0.0, False, "overload"),
        (b"stable 12 pcs", 0.0, True, "unit"),
        (b"stable 0.5 ct", 0.0, True, "unit"),
    ],
)
def test_what_a_line_says(data: bytes, g: float, stable: bool | None, state: str) -> None:
    line = read_line(data)
    assert line is not None
    assert (line.g, line.is_stable, line.state) == (pytest.approx(g, rel=1e-5), stable, state)


@pytest.mark.parametrize(
    "data",
    [
        b"",
        b"hello",
        b"12.5.6 g",
        b"1e5 g",
        b"stable",
        b"\xff\xfe12 g",
        b"x" * 81,
        b"nan g",
        b"stable 12 g rubbish",
        b"12 g 13 g",
        b"99999999 g",
    ],
)
def test_what_is_no_line(data: bytes) -> None:
    assert read_line(data) is None


@given(st.binary(max_size=200))
def test_noise_never_breaks_it(data: bytes) -> None:
    for line in Lines().take(data + b"\n" + data + b"\n"):
        read = read_line(line)
        assert read is None or abs(read.g) <= 1e6


@given(
    st.lists(st.floats(-500, 5000).map(lambda g: round(g, 1)), min_size=2, max_size=20),
    st.integers(1, 9),
    st.integers(0, 12),
)
def test_however_a_stream_is_cut_the_lines_are_the_same_and_half_a_first_one_is_dropped(
    weights: list[float], piece: int, cut: int
) -> None:
    data = b"".join(f"stable {g} g\r\n".encode() for g in weights)[cut:]
    lines = Lines()
    read = [read_line(line) for start in range(0, len(data), piece) for line in lines.take(data[start : start + piece])]
    assert [line.g for line in read if line] == weights[1:]


def test_rest_is_the_scales_own_word_unless_it_just_jumped() -> None:
    settling = Settling(0.1)
    assert settling.is_settled(ScaleLine(g=100.0, is_stable=True), 0.0)
    assert not settling.is_settled(ScaleLine(g=5000.0, is_stable=True), 0.1)
    assert not settling.is_settled(ScaleLine(g=100.0, is_stable=True), 0.2)
    assert settling.is_settled(ScaleLine(g=100.0, is_stable=True), 0.3)
    assert not settling.is_settled(ScaleLine(g=100.0, is_stable=False), 0.4)
    assert not settling.is_settled(ScaleLine(g=0.0, is_stable=False, state="overload"), 0.5)


def test_a_scale_that_says_nothing_of_it_is_at_rest_when_it_stands_still() -> None:
    settling = Settling(0.1)
    told = [settling.is_settled(ScaleLine(g=100.0, is_stable=None), 0.1 * tick) for tick in range(9)]
    assert told == [False] * 6 + [True] * 3
    assert not settling.is_settled(ScaleLine(g=100.3, is_stable=None), 0.9)


def test_the_simulated_scale_settles_on_what_is_on_it_within_a_step() -> None:
    scale = SimulatedScale(step_g=0.1, seed=7)
    scale.load_g = 231.37
    lines = [read_line(scale.line(tick / 10).rstrip()) for tick in range(60)]
    assert all(line is not None for line in lines)
    assert lines[2] is not None
    assert not lines[2].is_stable
    last = lines[-1]
    assert last is not None
    assert last.is_stable
    assert last.g == pytest.approx(231.37, abs=0.16)
    scale.hear(b"T\r\n")
    tared = read_line(scale.line(6.1).rstrip())
    assert tared is not None
    assert abs(tared.g) <= 0.1
    scale.load_g = 3000.0
    assert scale.line(6.2) == b"over\r\n"
    scale.load_g, scale.drift_g_per_min = 231.37, 6.0
    drifted = read_line(scale.line(66.2).rstrip())
    assert drifted is not None
    assert drifted.g == pytest.approx(-6.0, abs=0.3)
    assert SimulatedScale(seed=3).line(0.0) == SimulatedScale(seed=3).line(0.0)


@pytest.mark.parametrize(
    "address",
    [
        "",
        "spy:///tmp/x",
        "loop://",
        "hwgrep://usb",
        "rfc2217://h:1",
        "/etc/passwd",
        "/dev/../etc/passwd",
        "/dev/tty/../../etc",
        "socket://x",
        "http://h:1",
        "COM",
        "alt:///dev/ttyS0",
    ],
)
def test_only_ports_and_plain_sockets_are_addresses(address: str) -> None:
    with pytest.raises(Refused, match="A scale is reached at"):
        Scale(name="Bench", address=address)


def test_addresses_that_are() -> None:
    for address in (
        "/dev/ttyUSB0",
        "/dev/serial/by-id/usb-scale",
        "COM3",
        "socket://127.0.0.1:8540",
        "socket://[::1]:8540",
    ):
        assert Scale(name="Bench", address=address).address == address
    for wrong in ({"step_g": 0.0}, {"step_g": 5000.0}, {"baud": 1.0}, {"most_g": float("nan")}):
        with pytest.raises(Refused, match="steps are more than nothing|baud"):
            Scale(name="Bench", address="COM1", **wrong)
