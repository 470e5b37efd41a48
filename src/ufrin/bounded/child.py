"""A child process: it does one piece of work within its bounds, reports on it, and is gone."""

import contextlib
import multiprocessing
import os
import pickle
import re
import resource
import signal
import threading
import time
import traceback
from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from multiprocessing import forkserver
from multiprocessing.connection import Connection
from multiprocessing.context import ForkServerProcess
from multiprocessing.process import parent_process
from pathlib import Path
from typing import Any, Concatenate, Literal, ParamSpec, TypeVar, cast

import structlog

from ufrin.errors import Refused, UfrinError
from ufrin.language import Text

Arguments = ParamSpec("Arguments")
Answer = TypeVar("Answer")
Report = Callable[[object], None]
Work = Callable[Concatenate[Report, Arguments], Answer]
OnReport = Callable[[object], bool]

MEGABYTE = 1024 * 1024
LOOK_S, WAIT_S, MOST_WAITING, LONGEST_WORDS = 0.5, 30.0, 4, 20_000
# loaded once, in the process that all children are copied from
PRELOADED = ("trimesh", "ufrin.bounded.child", "ufrin.core.job.mesh_work", "ufrin.core.opening.file_calls")

log = structlog.get_logger()
_context = multiprocessing.get_context("forkserver")
_context.set_forkserver_preload(list(PRELOADED))
_running: set[ForkServerProcess] = set()
_lock = threading.Lock()


class Exceeded(Refused):
    """The work needed more than it is allowed.

    Parameters
    ----------
    what : "memory", "time" or "answer"
        Of which.
    most : str
        The bound, with its unit.
    """

    title = Text("More than one piece of work may take")

    def __init__(self, what: Literal["memory", "time", "answer"], most: str) -> None:
        needed = {"memory": Text("needed more memory"), "time": Text("took longer"), "answer": Text("came to more")}[
            what
        ]
        super().__init__(
            "file",
            Text(
                "The work {needed} than the {most} that it may, so it was ended. Send less at once: a "
                "model with fewer triangles, or fewer steps.",
                needed=needed,
                most=most,
            ),
        )


class BrokeOff(UfrinError):
    """The child process was gone before it had answered."""

    status = 503
    title = Text("The work broke off")

    def __str__(self) -> str:
        return Text(
            "The work broke off without an answer, and nothing was saved. Send it again; if that "
            "happens once more, send less at once: a model with fewer triangles, or fewer steps."
        )


class Stopped(UfrinError):
    """Whoever waited for the work no longer does."""

    title = Text("The work was stopped")


class Closing(BrokeOff):
    """The server or the worker is being stopped in an orderly way; the file is not to blame."""


class Busy(UfrinError):
    """Too much is being worked on at once."""

    status = 503
    title = Text("Other work is being done")

    def __str__(self) -> str:
        return Text(
            "This server is at as much as it does at once just now, so this was not taken. Send it again in a minute."
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class Bounds:
    """What a piece of work may take: memory beyond that of an idle child, time, and the size of what it answers.

    Without a bound of its own for memory, the one that is set for every child counts.
    """

    memory_mb: int | None = None
    time_s: float = 60.0
    answer_mb: int = 512


class _Places:
    # how many children may work at once in this process

    def __init__(self, at_once: int) -> None:
        self._free, self._waiting, self._lock = threading.BoundedSemaphore(at_once), 0, threading.Lock()

    @contextlib.contextmanager
    def taken(self) -> Iterator[None]:
        with self._lock:
            if self._waiting >= MOST_WAITING:
                raise Busy
            self._waiting += 1
        try:
            if not self._free.acquire(timeout=WAIT_S):
                raise Busy
        finally:
            with self._lock:
                self._waiting -= 1
        try:
            yield
        finally:
            self._free.release()


@dataclass(slots=True)
class _Shop:
    places: _Places
    memory_mb: int
    is_closing: bool = False


_shop = _Shop(_Places(2), 2048)


def set_limits(*, at_once: int, memory_mb: int) -> None:
    """Set how many children may work at once in this process, and the most memory that each may take."""
    _shop.places, _shop.memory_mb = _Places(at_once), memory_mb


def take_work() -> None:
    """Take work from now on; the process that children are copied from is started, so that nobody waits for it."""
    _shop.is_closing = False
    forkserver.ensure_running()


def stop_all() -> None:
    """End every child of this process at once; whoever waits for one gets ``Closing``."""
    with _lock:
        _shop.is_closing = True
        for process in _running:
            process.kill()


def do_apart(
    work: Work[Arguments, Answer],
    bounds: Bounds,
    on_report: OnReport | None,
    /,
    *args: Arguments.args,
    **kwargs: Arguments.kwargs,
) -> Answer:
    """Do some work in a child process.

    Parameters
    ----------
    work : function
        Of a module, with a function to report with as its first argument.
    bounds : Bounds
        What it may take.
    on_report : function or None
        Receives each report here, and returns False to stop the work; it is called with None now and then besides.
    *args : object
        For the work; they and the answer are copied.
    **kwargs : object
        The same.

    Returns
    -------
    Answer
        Of the work.

    Raises
    ------
    Exceeded
        When it took more than it may.
    BrokeOff, Stopped, Busy
        When it ended without an answer, was stopped, or had no place.
    Closing
        When everything is being stopped.
    UfrinError
        What the work refused.
    """
    bounds = replace(bounds, memory_mb=bounds.memory_mb or _shop.memory_mb)
    with _shop.places.taken():
        here, there = _context.Pipe(duplex=False)
        process = _context.Process(target=_child, args=(there, bounds, work, args, kwargs), daemon=True)
        try:
            process.start()  # outside the lock: it lasts until the child has taken what it is to work on
        except (OSError, EOFError) as error:  # it was gone before it had
            raise (Closing if _shop.is_closing else BrokeOff) from error
        with _lock:
            _running.add(process)
            if _shop.is_closing:
                process.kill()
        there.close()
        try:
            return cast(Answer, _answer(here, process, bounds, on_report))
        finally:
            process.kill()
            process.join()
            here.close()
            with _lock:
                _running.discard(process)


def _answer(here: Connection, process: ForkServerProcess, bounds: Bounds, on_report: OnReport | None) -> object:
    end = time.monotonic() + bounds.time_s
    while True:
        if not here.poll(min(LOOK_S, max(0.0, end - time.monotonic()))):
            if time.monotonic() >= end:
                raise Exceeded("time", f"{bounds.time_s:.0f} s")
            if on_report is not None and not on_report(None):
                raise Stopped
            continue
        kind, value = _received(here, process, bounds)
        if kind == "answer":
            return value
        if kind == "refused":
            raise value
        if kind == "exceeded":
            raise Exceeded(value, f"{getattr(bounds, f'{value}_mb')} MB")
        if kind == "failed":
            raise RuntimeError(value)
        if on_report is not None and not on_report(value):
            raise Stopped


def _received(here: Connection, process: ForkServerProcess, bounds: Bounds) -> tuple[str, Any]:
    try:
        return cast(tuple[str, Any], pickle.loads(here.recv_bytes(bounds.answer_mb * MEGABYTE)))  # noqa: S301 # our own
    except (EOFError, OSError):
        process.join(WAIT_S)  # on a busy machine the reason why it ended takes a moment to arrive
    if _shop.is_closing:
        raise Closing
    log.warning("a child was gone before it had answered", exit_code=process.exitcode)
    if process.exitcode == -signal.SIGXCPU:
        raise Exceeded("time", f"{bounds.time_s:.0f} s")
    raise BrokeOff


def _child(
    there: Connection, bounds: Bounds, work: Callable[..., object], args: tuple[object, ...], kwargs: dict[str, object]
) -> None:
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # whoever started it ends it
    threading.Thread(target=_leave_with_parent, daemon=True).start()
    _bound(bounds)

    def send(kind: str, value: object) -> None:
        message = pickle.dumps((kind, value), pickle.HIGHEST_PROTOCOL)
        if len(message) > bounds.answer_mb * MEGABYTE:
            kind, message = "exceeded", pickle.dumps(("exceeded", "answer"))
        with contextlib.suppress(OSError):  # nobody listens any more
            there.send_bytes(message)

    try:
        send("answer", work(lambda value: send("report", value), *args, **kwargs))
    except UfrinError as refused:
        send("refused", refused)
    except MemoryError:
        send("exceeded", "memory")
    except Exception:
        send("failed", traceback.format_exc()[-LONGEST_WORDS:])
    os._exit(0)


def _bound(bounds: Bounds) -> None:
    status = Path("/proc/self/status").read_text()
    found = re.search(r"VmData:\s+(\d+) kB", status)
    most = (int(found[1]) * 1024 if found else 0) + (bounds.memory_mb or 0) * MEGABYTE
    resource.setrlimit(resource.RLIMIT_DATA, (most, most))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    resource.setrlimit(resource.RLIMIT_CPU, (2 * int(bounds.time_s) + 1, 2 * int(bounds.time_s) + 2))


def _leave_with_parent() -> None:
    parent = parent_process()
    if parent is not None:
        parent.join()
    os._exit(1)
