"""Whole kit: all of the A that is left is used, so that the ratio can't be wrong.

The module tells what it makes, and what the rest would fill.
"""

from collections.abc import Sequence
from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class Waiting:
    """Another job that waits for the same rubber, and the amount that it needs."""

    job_id: int
    name: str
    need_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class WholeKit:
    """What all of the A makes.

    Parameters
    ----------
    makes_g : float
        In all, thinner and pigment included.
    over_g : float
        Left over after this job; negative when rubber is missing.
    fills : tuple of Waiting
        The jobs that the rest would fill one after the other, those that use most of it first.
    """

    makes_g: float
    over_g: float
    fills: tuple[Waiting, ...]


def whole_kit(makes_g: float, this_job_g: float, waiting: Sequence[Waiting] = ()) -> WholeKit:
    """Work out what is left when all of the A is used.

    Parameters
    ----------
    makes_g : float
        All that it makes, in every pour of the job.
    this_job_g : float
        What this job takes, spare and loss on cups included.
    waiting : sequence of Waiting
        Jobs of the same rubber.

    Returns
    -------
    WholeKit
        The rest goes to the biggest job that it fills, then to the next.
    """
    rest, fills = makes_g - this_job_g, []
    for job in sorted(waiting, key=lambda job: -job.need_g):
        if 0 < job.need_g <= rest:
            fills.append(job)
            rest -= job.need_g
    return WholeKit(makes_g=makes_g, over_g=makes_g - this_job_g, fills=tuple(fills))
