"""What may be spent on a plan, and how far the search for it is."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Effort:
    """What may be spent on a plan.

    Parameters
    ----------
    most_s : float
        Time by the clock on the wall; what was found by then counts.
    threads : int
        Of the processor.
    """

    most_s: float = 10.0
    threads: int = 2


@dataclass(frozen=True, slots=True, kw_only=True)
class Progress:
    """How far the search is.

    Parameters
    ----------
    late_s, makespan_s : int
        Of the best plan until now.
    share : float
        Of the time that may be spent, 0 to 1.
    """

    late_s: int
    makespan_s: int
    share: float
