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


def next_look_after_s(state: BenchState, clock: CureClock | None) -> float | None:
    """Return how long after first contact the cup is pressed next.

    Parameters
    ----------
    state : BenchState
        Of the pour.
    clock : CureClock or None
        Of taking it out.

    Returns
    -------
    float or None
        In s; None once it has set, the mould is out, or nobody knows.
    """
    share = next_look_share(state, clock)
    return share * clock.end_s if share is not None and clock is not None else None


def next_look_share(state: BenchState, clock: CureClock | None) -> float | None:
    """Return at which share of its time the cup is pressed next.

    Parameters
    ----------
    state : BenchState
        Of the pour.
    clock : CureClock or None
        Of taking it out.

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
    clock = demould_clock(state, now)
    share = next_look_share(state, clock)
    if share is None or not state.has_poured:
        return False
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
    clock = demould_clock(state, now)
    after_s = next_look_after_s(state, clock)
    if after_s is None or clock is None:
        return None
    left_s = after_s - clock.elapsed_s
    return left_s if left_s > 0 else None
