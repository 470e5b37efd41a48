"""Programs beside the server: started again with a growing pause, and stopped with it."""

import os
import signal
import sys
import time
from pathlib import Path

import pytest
from waiting import wait_until

from ufrin import helper_programs
from ufrin.helper_programs import HelperPrograms

PROGRAM = """
import os, sys, time
from pathlib import Path
Path(sys.argv[1], f"{time.monotonic()}-{os.getpid()}").touch()
if sys.argv[2] == "stays":
    sys.stdin.read()
"""


@pytest.fixture
def place(tmp_path: Path) -> Path:
    (tmp_path / "helper_that_notes.py").write_text(PROGRAM)
    (tmp_path / "runs").mkdir()
    return tmp_path


def runs(place: Path) -> list[tuple[float, int]]:
    return sorted((float(one.name.split("-")[0]), int(one.name.split("-")[1])) for one in (place / "runs").iterdir())


def started(place: Path, what: str) -> HelperPrograms:
    programs = HelperPrograms(
        [["helper_that_notes", str(place / "runs"), what]], {"PYTHONPATH": f"{place}:{os.pathsep.join(sys.path)}"}
    )
    programs.start()
    return programs


def wait_for(number: int, place: Path) -> None:
    wait_until(lambda: len(runs(place)) >= number, "it was not started again")


def test_one_that_ends_is_started_again_after_a_growing_pause(place: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(helper_programs, "FIRST_PAUSE_S", 0.4)
    programs = started(place, "ends")
    wait_for(4, place)
    programs.stop()
    begun = [at for at, _ in runs(place)][:4]
    pauses = [later - earlier for earlier, later in zip(begun, begun[1:], strict=False)]
    assert all(pause >= least for pause, least in zip(pauses, (0.4, 0.8, 1.6), strict=True))
    known = len(runs(place))
    time.sleep(0.5)
    assert len(runs(place)) == known


def test_one_that_is_killed_is_replaced_and_all_end_with_the_server(
    place: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(helper_programs, "FIRST_PAUSE_S", 0.1)
    programs = started(place, "stays")
    for number in range(1, 4):
        wait_for(number, place)
        os.kill(runs(place)[-1][1], signal.SIGKILL)
    wait_for(4, place)
    last = runs(place)[-1][1]
    programs.stop()
    wait_until(lambda: not Path(f"/proc/{last}").exists(), "it outlives the server")


def test_what_is_to_be_kept_up_is_looked_after(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(helper_programs, "LOOK_S", 0.05)
    looks: list[int] = []

    def keep_up() -> None:
        looks.append(1)
        if len(looks) == 2:
            raise OSError("a failure that passes")

    programs = HelperPrograms([], {}, keep_up)
    programs.start()
    wait_until(lambda: len(looks) >= 4)
    programs.stop()
