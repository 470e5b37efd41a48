"""The programs beside the server: workers and simulated scales, started again when one ends, and stopped with it."""

import os
import subprocess
import sys
import threading
import time
from collections.abc import Callable, Mapping, Sequence

import structlog

log = structlog.get_logger()
FIRST_PAUSE_S, LONGEST_PAUSE_S = 1.0, 60.0
STEADY_S = 60.0  # a program that ran so long ended for a reason of its own: the pauses begin anew
LEAVE_S, LOOK_S = 5.0, 2.0


class HelperPrograms:
    """Programs in processes of their own, so that the pages stay quick whatever they do.

    Each hears on its standard input that this process is gone, however it went.

    Parameters
    ----------
    programs : sequence of sequences of str
        The module of each and its words.
    environment : mapping of str to str
        Added to this process's own.
    keep_up : function or None
        Called every two seconds, to start again whatever else has ended.
    """

    def __init__(
        self,
        programs: Sequence[Sequence[str]],
        environment: Mapping[str, str],
        keep_up: Callable[[], None] | None = None,
    ) -> None:
        self._environment = os.environ | dict(environment)
        self._stopping = threading.Event()
        self._lock = threading.Lock()
        self._running: set[subprocess.Popen[bytes]] = set()
        self._threads = [threading.Thread(target=self._keep, args=(program,), daemon=True) for program in programs]
        if keep_up is not None:
            self._threads.append(threading.Thread(target=self._look_after, args=(keep_up,), daemon=True))

    def start(self) -> None:
        """Start all of them."""
        for thread in self._threads:
            thread.start()

    def stop_soon(self) -> None:
        """Ask all of them to stop."""
        self._stopping.set()
        with self._lock:
            for process in self._running:
                process.terminate()

    def stop(self) -> None:
        """Stop all of them; one that does not stop in a few seconds is killed."""
        self.stop_soon()
        end = time.monotonic() + LEAVE_S
        for thread in self._threads:
            thread.join(max(0.0, end - time.monotonic()))
        with self._lock:
            for process in self._running:
                process.kill()

    def _keep(self, program: Sequence[str]) -> None:
        pause_s = FIRST_PAUSE_S
        while not self._stopping.is_set():
            began = time.monotonic()
            process = self._begin(program)
            code = process.wait()
            if process.stdin:
                process.stdin.close()
            with self._lock:
                self._running.discard(process)
            if self._stopping.is_set():
                return
            if time.monotonic() - began > STEADY_S:
                pause_s = FIRST_PAUSE_S
            log.warning("a helper program ended and is started again", program=program[0], code=code, pause_s=pause_s)
            self._stopping.wait(pause_s)
            pause_s = min(2 * pause_s, LONGEST_PAUSE_S)

    def _begin(self, program: Sequence[str]) -> subprocess.Popen[bytes]:
        command = [sys.executable, "-m", *program, "--with-server"]
        with self._lock:
            # every word of the command is our own
            process = subprocess.Popen(  # noqa: S603
                command, env=self._environment, stdin=subprocess.PIPE, stdout=subprocess.DEVNULL
            )
            self._running.add(process)
            if self._stopping.is_set():
                process.terminate()
        return process

    def _look_after(self, keep_up: Callable[[], None]) -> None:
        while not self._stopping.wait(LOOK_S):
            try:
                keep_up()
            except Exception:
                log.exception("could not be started again")
