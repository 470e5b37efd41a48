"""The size of a cast: the rubber shrinks as it cures, and so does what is cast in it."""

from collections.abc import Sequence

from ufrin.errors import Refused
from ufrin.language import Text


def size_after(master_mm: float, shrinkages_pct: Sequence[float]) -> float:
    """Return what size comes out of a chain of moulds and casts.

    Parameters
    ----------
    master_mm : float
        A length of the master.
    shrinkages_pct : sequence of float
        Linear shrinkage of every rubber and casting material on the way, in percent; negative where it grows.

    Returns
    -------
    float
        master x (1 - s1) x (1 - s2) ...

    Raises
    ------
    Refused
        For a shrinkage that leaves nothing.

    Examples
    --------
    >>> round(size_after(100, [0.5, 1.0]), 3)
    98.505
    """
    size_mm = master_mm
    for shrinkage in shrinkages_pct:
        if not shrinkage < 100:
            raise Refused("shrinkage_pct", Text("A shrinkage of 100 % or more leaves nothing. 0.1 to 2 % is usual."))
        size_mm *= 1 - shrinkage / 100
    return size_mm


def master_for(wanted_mm: float, shrinkages_pct: Sequence[float]) -> float:
    """Return how large a master must be for a wanted size.

    Parameters
    ----------
    wanted_mm : float
        A length of the finished cast.
    shrinkages_pct : sequence of float
        As for ``size_after``.

    Returns
    -------
    float
        The inverse of ``size_after``.
    """
    return wanted_mm / size_after(1.0, shrinkages_pct)


def cavity_ml(master_ml: float, rubber_shrinkage_pct: float) -> float:
    """Return the volume of a cavity.

    Parameters
    ----------
    master_ml, rubber_shrinkage_pct : float
        Volume of the master, and linear shrinkage of the rubber's cure.

    Returns
    -------
    float
        A rubber that shrinks makes the cavity smaller: master x (1 - s)^3.
    """
    return master_ml * size_after(1.0, [rubber_shrinkage_pct]) ** 3
