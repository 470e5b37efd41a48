"""Child processes: what they answer, what they may take, and how they end."""

import contextlib
import os
import signal
import threading
import time
from pathlib import Path

import bursting
import numpy as np
import pytest
from waiting import PATIENCE_S, wait_until

from ufrin.bounded import child
from ufrin.bounded.child import (
    Bounds,
    BrokeOff,
    Busy,
    Closing,
    Exceeded,
    Report,
    Stopped,
    do_apart,
    stop_all,
    take_work,
)
from ufrin.core.opening.file_calls import SentFile, measure_sent
from ufrin.errors import Refused

BOUNDS = Bounds(memory_mb=300, time_s=PATIENCE_S, answer_mb=10)


def add(report: Report, one: int, other: int) -> tuple[int, int]:
    report("adding")
    return one + other, os.getpid()


def refuse(report: Report) -> None:
    raise Refused("file", "It is none.")


def stumble(report: Report) -> None:
    raise ZeroDivisionError


def take_memory(report: Report, megabytes: int) -> int:
    return int(sum(np.ones(megabytes * 131_072).sum() for _ in range(1)))


def answer_much(report: Report, megabytes: int) -> bytes:
    return b"x" * megabytes * 1_048_576


def last(report: Report, seconds: float) -> str:
    time.sleep(seconds)
    return "done"


def count_on(report: Report) -> None:
    while True:
        pass


def leave(report: Report, number: int) -> None:
    os.kill(os.getpid(), number)


def peak_mb(report: Report, data: bytes, name: str) -> float:
    with contextlib.suppress(Refused):
        measure_sent(report, SentFile(data=data, name=name, unit="mm", cells=64))
    words = Path("/proc/self/status").read_text().split()
    return int(words[words.index("VmHWM:") + 1]) / 1024


def test_it_answers_from_another_process() -> None:
    heard: list[object] = []

    def hear(value: object) -> bool:
        heard.append(value)
        return True

    total, number = do_apart(add, BOUNDS, hear, 2, 3)
    assert (total, [value for value in heard if value is not None]) == (5, ["adding"])  # None: still at it
    assert number != os.getpid()


def test_what_it_refuses_is_refused_here() -> None:
    with pytest.raises(Refused, match="It is none"):
        do_apart(refuse, BOUNDS, None)


def test_our_own_mistakes_are_not_the_files() -> None:
    with pytest.raises(RuntimeError, match="ZeroDivisionError"):
        do_apart(stumble, BOUNDS, None)


def test_memory_is_bounded() -> None:
    assert do_apart(take_memory, BOUNDS, None, 200) == 200 * 131_072
    with pytest.raises(Exceeded, match="needed more memory than the 300 MB"):
        do_apart(take_memory, BOUNDS, None, 400)


def test_time_is_bounded_whatever_it_does() -> None:
    began = time.monotonic()
    with pytest.raises(Exceeded, match="took longer than the 1 s"):
        do_apart(last, Bounds(time_s=1.0), None, 60.0)
    with pytest.raises(Exceeded, match="took longer than the 1 s"):
        do_apart(count_on, Bounds(time_s=1.0), None)
    assert time.monotonic() - began < 20


def test_the_answer_is_bounded() -> None:
    assert len(do_apart(answer_much, BOUNDS, None, 9)) == 9 * 1_048_576
    with pytest.raises(Exceeded, match="came to more than the 10 MB"):
        do_apart(answer_much, BOUNDS, None, 11)


@pytest.mark.parametrize("number", [signal.SIGKILL, signal.SIGSEGV, signal.SIGTERM])
def test_a_child_that_is_killed_is_told(number: int) -> None:
    with pytest.raises(BrokeOff, match="broke off"):
        do_apart(leave, BOUNDS, None, number)


def test_work_that_nobody_waits_for_is_stopped() -> None:
    began = time.monotonic()
    with pytest.raises(Stopped):
        do_apart(last, BOUNDS, lambda _: False, 60.0)
    assert time.monotonic() - began < 20


def test_all_are_ended_at_once_and_none_is_begun_until_work_is_taken_again() -> None:
    ended: list[BaseException] = []

    def wait() -> None:
        try:
            do_apart(last, BOUNDS, None, 60.0)
        except Closing as closing:
            ended.append(closing)

    waiting = [threading.Thread(target=wait) for _ in range(2)]
    for thread in waiting:
        thread.start()
    wait_until(lambda: len(child._running) == 2)  # noqa: SLF001 - that both have begun shows nowhere else
    stop_all()
    for thread in waiting:
        thread.join(10)
    assert len(ended) == 2
    with pytest.raises(Closing):
        do_apart(add, BOUNDS, None, 1, 1)
    take_work()
    assert do_apart(add, BOUNDS, None, 1, 1)[0] == 2


def test_those_that_find_no_place_are_told_so(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("ufrin.bounded.child.WAIT_S", 0.3)

    def wait() -> None:
        with contextlib.suppress(Closing):
            do_apart(last, BOUNDS, None, 60.0)

    others = [threading.Thread(target=wait) for _ in range(2)]
    for thread in others:
        thread.start()
    wait_until(lambda: len(child._running) == 2)  # noqa: SLF001
    with pytest.raises(Busy, match="at once"):
        do_apart(add, BOUNDS, None, 1, 1)
    stop_all()
    for thread in others:
        thread.join(PATIENCE_S)
    take_work()


@pytest.mark.parametrize("ending", ["3mf", "glb", "obj"])
def test_the_memory_of_a_child_that_reads_a_bursting_file(ending: str) -> None:
    data = {"3mf": bursting.many_items, "glb": bursting.many_nodes, "obj": bursting.wide_face}[ending]()
    assert do_apart(peak_mb, Bounds(), None, data, f"x.{ending}") < 400
