"""How much the benchmarks do: all of it, or so little that only shows that each part still measures."""

import os
from typing import TypeVar

Number = TypeVar("Number", int, float)
IS_SHORT = "UFRIN_BENCH_SHORT" in os.environ


def at_most(full: Number, short: Number) -> Number:
    """Return how much of something is done.

    Parameters
    ----------
    full, short : int or float
        In a run that is to be believed, and in one that only shows that it measures.

    Returns
    -------
    int or float
        One of the two.
    """
    return short if IS_SHORT else full
