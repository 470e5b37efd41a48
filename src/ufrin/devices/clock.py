"""The machine's clock: the time on the wall, and the time that the machine has run, which can't be set."""

import time
from functools import cache
from pathlib import Path

from ufrin.core.clocks.moment import Moment


@cache
def _machine() -> str:
    try:
        return Path("/proc/sys/kernel/random/boot_id").read_text("ascii").strip()
    except OSError:  # another kind of machine: only this run of this program can be distinguished from others
        return f"run-{time.time_ns()}"


def now() -> Moment:
    """Read both clocks.

    Returns
    -------
    Moment
        The steady one runs on while the machine sleeps, and across a restart of the server.
    """
    steady = time.clock_gettime(time.CLOCK_BOOTTIME) if hasattr(time, "CLOCK_BOOTTIME") else time.monotonic()
    return Moment(wall_s=time.time(), steady_s=steady, machine=_machine())
