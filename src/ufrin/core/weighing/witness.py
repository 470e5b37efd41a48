"""The witness cup: when the left-over of a pour is to be pressed."""

from ufrin.core.clocks.cure_clocks import CureClock
from ufrin.core.clocks.moment import Moment
from ufrin.core.weighing.bench_state import BenchState

# it is pressed from half of the time to demould on, and again after so much more of it (common practice)
FIRST_LOOK, NEXT_LOOK = 0.5, 0.15


def demould_clock(state: BenchState, now: Moment) -> CureClock | None:
    """Return the clock of taking a mould out; None where its tin states no time.

    Parameters
    ----------
    state : BenchState
        Of the pour.
    now : Moment
        By the server's clock.

    Returns
    -------
    CureClock or None
        Of the batch that ends last.
    """
    return state.clocks.of_kind("demould", now)


def next_look_share(state: BenchState, now: Moment) -> float | None:
    """Return at which share of its time the cup is pressed next.

    Parameters
    ----------
    state : BenchState
        Of the pour.
    now : Moment
        By the server's clock.

    Returns
    -------
    float or None
        Of the time to demould, at most 1; None once it has set, or the mould is out.
    """
    last = state.clocks.last_witness
    if state.is_demoulded or (last is not None and last.what == "set"):
        return None
    if last is None:
        return FIRST_LOOK
    clock = demould_clock(state, now)
    if clock is None or clock.end_s <= 0:
        return FIRST_LOOK
    contact = state.clocks.poured[-1].contact
    pressed_s = last.at.since_s(contact) if contact else 0.0
    return min(1.0, max(FIRST_LOOK, pressed_s / clock.end_s + NEXT_LOOK))


def asks_witness(state: BenchState, now: Moment) -> bool:
    """Return whether the left-over is to be pressed now.

    Parameters
    ----------
    state : BenchState
        Of the pour.
    now : Moment
        By the server's clock.

    Returns
    -------
    bool
        From half of the time on, then at times until it has set.
    """
    share = next_look_share(state, now)
    if share is None or not state.has_poured:
        return False
    clock = demould_clock(state, now)
    return clock is None or clock.elapsed_s >= share * clock.end_s


def next_look_s(state: BenchState, now: Moment) -> float | None:
    """Return in how long the left-over is pressed next.

    Parameters
    ----------
    state : BenchState
        Of the pour.
    now : Moment
        By the server's clock.

    Returns
    -------
    float or None
        In s; None where it is due now, has set, or nobody knows.
    """
    share, clock = next_look_share(state, now), demould_clock(state, now)
    if share is None or clock is None:
        return None
    left_s = share * clock.end_s - clock.elapsed_s
    return left_s if left_s > 0 else None
