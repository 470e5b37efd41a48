"""Ufrin as real processes: a server that can be killed, and the simulated scales with their lever."""

import atexit
import contextlib
import itertools
import json
import os
import random
import shutil
import signal
import socket
import subprocess
import sys
import tempfile
import urllib.error
import urllib.parse
import urllib.request
from collections.abc import Iterator, Sequence
from contextlib import contextmanager
from pathlib import Path

from waiting import PATIENCE_S, wait_until

from ufrin.store.cluster import Cluster

ROOT = Path(__file__).parents[1]


def _blocks() -> Iterator[int]:
    process = int(os.environ.get("PYTEST_XDIST_WORKER", "gw0").removeprefix("gw")) % 8
    begin_at = 15_000 + 2_000 * process
    blocks = list(range(begin_at, begin_at + 2_000, 10))
    return itertools.cycle(random.sample(blocks, len(blocks)))


_in_turn = _blocks()


def free_port() -> int:
    """Return a port that nobody listens on, and the nine after it too.

    It lies below those that the system gives to outgoing connections, so that none of these takes it while a server
    is killed and started again; each test process has its own, and gives none twice before all others had their turn.
    """
    for port in itertools.islice(_in_turn, 200):
        with contextlib.ExitStack() as held, contextlib.suppress(OSError):
            for one in range(port, port + 10):
                held.enter_context(socket.socket()).bind(("127.0.0.1", one))
            return port
    raise AssertionError("no port is free")


@contextmanager
def place_of_its_own(like: Path | None = None) -> Iterator[Path]:
    """Give a folder that the database's own user can pass through, whatever other test runs do beside this one.

    It is empty, or holds a copy of a cluster that nobody runs, which takes less time than to make one.
    """
    folder = Path(tempfile.mkdtemp(prefix="ufrin-var-"))
    folder.chmod(0o755)
    if like is not None:
        subprocess.run(["cp", "-a", str(like / "postgres"), str(folder)], check=True)
    try:
        yield folder
    finally:
        Cluster(folder / "postgres").drop()
        shutil.rmtree(folder, ignore_errors=True)


_starter: list[tuple[subprocess.Popen[bytes], str]] = []


def starter() -> str:
    """Return where the program listens that starts others; it is started with the first one."""
    if not _starter:
        folder = tempfile.mkdtemp(prefix="ufrin-starter-")
        told = os.environ | {"PYTHONPATH": f"{ROOT / 'src'}:{ROOT / 'tests'}"}
        process = subprocess.Popen([sys.executable, str(ROOT / "tests" / "starting.py"), f"{folder}/line"], env=told)
        _starter.append((process, f"{folder}/line"))
        atexit.register(_end_starter)
        wait_until(Path(_starter[0][1]).exists, "the program that starts others did not start")
    return _starter[0][1]


def _end_starter() -> None:
    process, place = _starter.pop()
    process.kill()
    process.wait()
    shutil.rmtree(Path(place).parent, ignore_errors=True)


class Program:
    """Ufrin's own command in a process of its own, begun by a fork; it is used like one of ``subprocess``.

    What it says on both of its outputs is read from ``stdout``.
    """

    def __init__(self, words: Sequence[str], told: dict[str, str]) -> None:
        said, says = os.pipe()
        self._line = socket.socket(socket.AF_UNIX)
        self._line.connect(starter())
        asked = json.dumps({"words": list(words), "environment": told}).encode()
        socket.send_fds(self._line, [asked], [says, says])
        os.close(says)
        self.stdout = os.fdopen(said, "r")
        self.pid = self._told()
        self.returncode: int | None = None

    def _told(self) -> int:
        said = b""
        while not said.endswith(b"\n"):
            more = self._line.recv(1)
            assert more, "the program that starts others is gone"
            said += more
        return int(said)

    def send_signal(self, number: int) -> None:
        if self.returncode is None:
            os.kill(self.pid, number)

    def terminate(self) -> None:
        self.send_signal(signal.SIGTERM)

    def kill(self) -> None:
        self.send_signal(signal.SIGKILL)

    def wait(self, timeout: float | None = None) -> int:
        """Wait for its end; what it said and nobody has read is lost."""
        self.communicate(timeout)
        assert self.returncode is not None
        return self.returncode

    def communicate(self, timeout: float | None = None) -> tuple[str, None]:
        """Wait for its end and return what it said, as far as it was not read yet."""
        if self.returncode is not None:
            return "", None
        self._line.settimeout(timeout)
        self.returncode = self._told()
        self._line.close()
        with self.stdout:
            return self.stdout.read(), None


def begin(var: Path, what: str = "demo", *, port: int = 0, **more: str) -> tuple[Program, str]:
    """Begin a command; without a worker beside it, unless one is asked for."""
    port = port or free_port()
    told = os.environ | {"UFRIN_VAR": str(var), "PYTHONPATH": str(ROOT / "src"), "PYTHONUNBUFFERED": "1"}
    told |= {"UFRIN_SIGN_IN": "false", "UFRIN_WORKERS": "0"} | more
    return Program([what, "--port", str(port)], told), f"http://127.0.0.1:{port}"


def wait_for(process: Program, address: str) -> None:
    said = process.stdout.readline()
    assert address in said, said
    wait_until(lambda: answers(f"{address}/healthz"), "it printed its address and does not answer")
    told = json.load(urllib.request.urlopen(f"{address}/healthz"))
    assert (told["server"], told["database"]) == ("up", "up")


def answers(address: str) -> bool:
    try:
        urllib.request.urlopen(address, timeout=10)
    except OSError:
        return False
    return True


def end(process: Program, number: int) -> None:
    process.send_signal(number)
    process.communicate(timeout=PATIENCE_S)


class Lever:
    """The lever of the first simulated scale."""

    def __init__(self, port: int, lever: int) -> None:
        self.port, self._address = port, f"http://127.0.0.1:{lever}"

    def do(self, what: str, amount: float) -> None:
        urllib.request.urlopen(f"{self._address}/scales/0/{what}", urllib.parse.urlencode({"amount": amount}).encode())

    def room(self, temp_c: float) -> None:
        urllib.request.urlopen(f"{self._address}/room/set", urllib.parse.urlencode({"amount": temp_c}).encode())

    def get(self, place: str) -> int:
        try:
            return int(urllib.request.urlopen(f"{self._address}/{place}").status)
        except urllib.error.HTTPError as error:
            return error.code


@contextmanager
def simulated_scales(*, thermometer: bool = False) -> Iterator[Lever]:
    port = free_port()
    lever = port + 1  # two ports that were asked for one after the other could be one
    told = os.environ | {"PYTHONPATH": str(ROOT / "src")}
    command = [sys.executable, "-m", "ufrin.devices", "--port", str(port), "--lever-port", str(lever), "--scales", "1"]
    command += ["--thermometer"] * thermometer
    process = subprocess.Popen(command, env=told, stdout=subprocess.PIPE, text=True)
    try:
        said = "".join(process.stdout.readline() for _ in range(2 + thermometer)) if process.stdout else ""
        assert f"socket://127.0.0.1:{port}" in said
        assert str(lever) in said
        wait_until(lambda: answers(f"http://127.0.0.1:{lever}/scales"))
        yield Lever(port, lever)
    finally:
        process.terminate()
        process.communicate(timeout=PATIENCE_S)


class Killable:
    """A server that is killed and started again on one port, quickly."""

    def __init__(self, conninfo: str) -> None:
        self.port = free_port()
        self.address = f"http://127.0.0.1:{self.port}"
        told = os.environ | {"PYTHONPATH": str(ROOT / "src")}
        self._process = subprocess.Popen(
            [sys.executable, str(ROOT / "tests" / "serving.py"), conninfo, str(self.port)],
            env=told,
            stdin=subprocess.PIPE,
            stdout=subprocess.PIPE,
            text=True,
        )
        assert self._process.stdout
        assert self._process.stdout.readline() == "ready\n"
        self._pid = 0

    def start(self) -> None:
        assert self._process.stdin
        assert self._process.stdout
        self._process.stdin.write("go\n")
        self._process.stdin.flush()
        self._pid = int(self._process.stdout.readline())
        wait_until(lambda: answers(f"{self.address}/healthz"), "it does not answer")

    def kill(self) -> None:
        os.kill(self._pid, signal.SIGKILL)
        wait_until(lambda: not answers(f"{self.address}/healthz"), "it still answers")

    def close(self) -> None:
        self._process.kill()
        if self._pid:  # number 0 would be every process of this very run
            with contextlib.suppress(ProcessLookupError):
                os.kill(self._pid, signal.SIGKILL)
        self._process.communicate(timeout=10)
