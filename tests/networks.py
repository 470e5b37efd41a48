"""Two machines on a private network, each a network namespace of its own, with nothing else on it."""

import contextlib
import ctypes
import os
import subprocess
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import TypeVar

import pytest

Answer = TypeVar("Answer")
NEW_NET = 0x40000000


@dataclass
class Machine:
    """A machine by the name of its namespace, with its address, and a thread that lives in it."""

    name: str
    address: str
    thread: ThreadPoolExecutor

    @property
    def within(self) -> list[str]:
        """What a command begins with to run there."""
        return ["ip", "netns", "exec", self.name]

    def do(self, work: Callable[[], Answer]) -> Answer:
        """Do something whose connections are made from there."""
        return self.thread.submit(work).result()


def _enter(name: str) -> None:
    with Path(f"/var/run/netns/{name}").open() as place:
        if ctypes.CDLL(None, use_errno=True).setns(place.fileno(), NEW_NET):
            raise OSError(ctypes.get_errno(), "can't enter the namespace")


def _ip(*words: str) -> None:
    subprocess.run(["ip", *words], check=True, capture_output=True)


def _connected(names: tuple[str, str], mark: int) -> list[Machine]:
    for name in names:
        _ip("netns", "add", name)
    _ip("link", "add", f"s{mark}", "netns", names[0], "type", "veth", "peer", "name", f"t{mark}", "netns", names[1])
    machines = []
    for number, (name, link) in enumerate(zip(names, (f"s{mark}", f"t{mark}"), strict=True), start=1):
        _ip("-n", name, "address", "add", f"10.77.0.{number}/24", "dev", link)
        _ip("-n", name, "link", "set", link, "up")
        _ip("-n", name, "link", "set", "lo", "up")
        machines.append(Machine(name, f"10.77.0.{number}", ThreadPoolExecutor(1, initializer=_enter, initargs=(name,))))
    return machines


@contextlib.contextmanager
def two_machines() -> Iterator[tuple[Machine, Machine]]:
    mark = os.getpid() % 100_000
    names = (f"shop-{mark}", f"tablet-{mark}")
    try:
        try:
            machines = _connected(names, mark)
        except (OSError, subprocess.CalledProcessError) as error:
            pytest.skip(f"no networks of one's own can be made here: {error}")
        yield machines[0], machines[1]
    finally:
        for name in names:
            subprocess.run(["ip", "netns", "delete", name], check=False, capture_output=True)
