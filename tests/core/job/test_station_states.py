"""The state of a station: a stop, empty, a warning, ready, in that order."""

import pytest

from ufrin.core.inputs.stations import MOULD_STATIONS, State
from ufrin.core.job.sign_off import SignOff, Stop
from ufrin.core.job.station_states import station_states
from ufrin.core.wording.findings import SENTENCES, Finding

CODES = {
    level: next(code for code, (one, _) in SENTENCES.items() if one == level) for level in ("stop", "warn", "note")
}
SIGNED = SignOff(about="x", text="x", reason="seen", who="Wren", at_s=0.0)


@pytest.mark.parametrize(
    ("levels", "is_made", "stop", "wanted"),
    [
        ((), True, None, "ready"),
        ((), False, None, "empty"),
        (("note",), True, None, "ready"),
        (("note", "warn"), True, None, "warning"),
        (("warn",), False, None, "empty"),
        (("stop",), True, "open", "stop"),
        (("stop",), False, "open", "stop"),
        (("stop",), True, "signed", "warning"),  # what somebody took upon themselves stays in sight
        (("note",), True, "signed", "ready"),
    ],
)
def test_each_state(levels: tuple[str, ...], is_made: bool, stop: str | None, wanted: State) -> None:
    findings = tuple(Finding(code=CODES[level]) for level in levels)
    signed = SIGNED if stop == "signed" else None
    stops = () if stop is None else (Stop(key="x", station="box", why=Finding(code=CODES["stop"]), signed=signed),)
    states = station_states(
        dict.fromkeys(MOULD_STATIONS, True) | {"box": is_made},  # type: ignore[arg-type]
        stops,
        dict.fromkeys(MOULD_STATIONS, ()) | {"box": findings},  # type: ignore[arg-type]
    )
    assert states == dict.fromkeys(MOULD_STATIONS, "ready") | {"box": wanted}
