"""Starts Ufrin's own command as often as it is asked to, in a process of its own: its libraries are loaded once.

It is asked through a socket that it is given, with the words of the command and its environment; the files that the
command writes to come along. A keeper waits beside each command and tells how it ended.
"""

import contextlib
import json
import os
import signal
import socket
import sys
from collections.abc import Sequence
from multiprocessing import forkserver, resource_tracker, util

ENDING = {signal.SIGINT, signal.SIGTERM}
if __name__ == "__main__":  # whoever only imports this could not be ended any more
    signal.pthread_sigmask(signal.SIG_BLOCK, ENDING)  # as the command does while its libraries load

import ufrin.serving  # noqa: E402, F401
from ufrin import __main__ as command  # noqa: E402
from ufrin.web.frame.pages import environment  # noqa: E402

LONGEST = 1 << 20
WITH_CHILDREN = {"demo", "start", "worker"}


def fork_instead(_: object, arguments: Sequence[bytes | str], files: Sequence[int]) -> int:
    """Begin the process that a server's children are copied from, as a copy of this one: it has all they load."""
    assert "forkserver" in str(arguments[-1])
    number = os.fork()
    if number:
        return number
    listening, alive = files
    for one in range(3, os.sysconf("SC_OPEN_MAX")):
        if one not in files:
            with contextlib.suppress(OSError):
                os.close(one)
    try:
        forkserver.main(listening, alive, [])  # until nobody holds the other end of “alive”
    finally:
        os._exit(0)


def children_are_copied_from_here() -> None:
    """Start that process before this one has threads; it would load all of it again otherwise."""
    resource_tracker.ensure_running()
    usual = util.spawnv_passfds
    util.spawnv_passfds = fork_instead
    forkserver.ensure_running()
    util.spawnv_passfds = usual


def run(words: list[str], told: dict[str, str], files: list[int]) -> int:
    """Be the command, in a process that was just made."""
    signal.signal(signal.SIGCHLD, signal.SIG_DFL)
    nothing = os.open(os.devnull, os.O_RDONLY)
    for number, file in enumerate((nothing, *files)):
        os.dup2(file, number)
    os.environ.clear()
    os.environ.update(told)
    sys.argv = ["ufrin", *words]
    sys.stdout.reconfigure(line_buffering=True)  # type: ignore[union-attr]
    if words[0] in WITH_CHILDREN:
        children_are_copied_from_here()
    return command.main(words)


def keep(line: socket.socket, words: list[str], told: dict[str, str], files: list[int]) -> int:
    """Begin the command, tell its number, and how it ended; return how it ended in its own process."""
    signal.signal(signal.SIGCHLD, signal.SIG_DFL)
    number = os.fork()
    if number == 0:
        line.close()
        return run(words, told, files)
    for file in files:
        os.close(file)
    line.sendall(f"{number}\n".encode())
    _, status = os.waitpid(number, 0)
    line.sendall(f"{os.waitstatus_to_exitcode(status)}\n".encode())
    os._exit(0)


def main(path: str) -> int:
    for name in environment.list_templates(extensions=["html"]):
        environment.get_template(name)
    listening = socket.socket(socket.AF_UNIX)
    listening.bind(f"{path}.new")
    listening.listen()
    os.rename(f"{path}.new", path)  # whoever finds it is answered
    signal.signal(signal.SIGCHLD, signal.SIG_IGN)  # keepers are forgotten when they end
    while True:
        line, _ = listening.accept()
        asked, files, _, _ = socket.recv_fds(line, LONGEST, 2)
        if os.fork() == 0:
            listening.close()
            told = json.loads(asked)
            return keep(line, told["words"], told["environment"], files)
        line.close()
        for file in files:
            os.close(file)


if __name__ == "__main__":
    sys.exit(main(sys.argv[1]))
