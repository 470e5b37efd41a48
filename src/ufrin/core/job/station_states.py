"""The state of each station of a job: empty, ready, with a warning, or stopped."""

from collections.abc import Mapping

from ufrin.core.inputs.stations import MOULD_STATIONS, State, Station
from ufrin.core.job.sign_off import Stop, open_stops
from ufrin.core.wording.findings import Finding


def station_states(
    made: Mapping[Station, bool], all_stops: tuple[Stop, ...], findings: Mapping[Station, tuple[Finding, ...]]
) -> dict[Station, State]:
    """Return the state of every station of the mould.

    Parameters
    ----------
    made : mapping of station to bool
        Whether it is worked out.
    all_stops : tuple of Stop
        Of the job.
    findings : mapping of station to tuple of Finding
        Of the job.

    Returns
    -------
    dict of station to State
        A stop that somebody signed off stays a warning.
    """
    stopped = {stop.station for stop in open_stops(all_stops)}
    return {one: _state(made[one], is_stopped=one in stopped, findings=findings[one]) for one in MOULD_STATIONS}


def _state(made: bool, *, is_stopped: bool, findings: tuple[Finding, ...]) -> State:
    if is_stopped:
        return "stop"
    if not made:
        return "empty"
    # a stop that somebody signed off stays a warning
    return "warning" if any(finding.level != "note" for finding in findings) else "ready"
