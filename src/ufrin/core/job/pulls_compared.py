"""Pulls and attitudes compared on the Opening station, and which of them the plan takes."""

from dataclasses import dataclass

import numpy as np

from ufrin.core.job.job_plan import Plan
from ufrin.core.job.mould_style import usual_clearances
from ufrin.core.job.opening_station import Opening
from ufrin.core.master.attitudes import turn_up
from ufrin.core.mesh.triangles import Floats
from ufrin.core.opening.pull_ranking import Ranking, direction_text, direction_words
from ufrin.core.opening.split_line import seam_mm

SAME_WAY = 0.9995  # cosine of two degrees; the other way round a pull parts the same


@dataclass(frozen=True, slots=True, kw_only=True)
class PullRow:
    """A pull direction in the table: the one that is taken has the figures of the plan.

    Parameters
    ----------
    own, words : str
        The direction in the master's own coordinates, as it is kept and in words.
    locked_ml, flatness_mm, seam_mm, shown_mm, balance : float
        As the ranking has them, of one master in two halves.
    rubber_ml : float
        Of one master in a box of its own.
    is_taken : bool
        Whether the master lies so.
    """

    own: str
    words: str
    locked_ml: float
    flatness_mm: float
    seam_mm: float
    shown_mm: float
    balance: float
    rubber_ml: float
    is_taken: bool


def pull_rows(plan: Plan, ranking: Ranking, shown: Floats | None) -> list[PullRow]:
    """Return the pull directions, with the rubber that each would take for one master in a box of its own.

    Parameters
    ----------
    plan : Plan
        Of a job whose master has a form.
    ranking : Ranking
        Of its pulls.
    shown : (3,) float64 or None
        The direction of the show face, in the master's own coordinates.

    Returns
    -------
    list of PullRow
        Best first.
    """
    form, made = plan.master.form, plan.opening
    if form is None:
        return []
    box, up = plan.box_inputs.settled(), form.turn[2]
    over_mm = box.over_mm if made is not None and made.is_parted else usual_clearances("two-part")["over_mm"]
    pulls = ranking.ranked(shown)
    along = [float(np.array(pull.scored.pull) @ up) for pull in pulls]
    nearest = max(range(len(pulls)), key=lambda n: (abs(along[n]) > SAME_WAY, along[n]), default=0)
    rows = []
    for number, pull in enumerate(pulls):
        direction = np.array(pull.scored.pull)
        is_taken = number == nearest and abs(along[number]) > SAME_WAY
        seen = made.parting_surface if made is not None and is_taken else None
        masters = len(plan.box.layout.places) if plan.box else 1
        length, width, height = np.ptp(form.drawn.vertices_mm @ turn_up(tuple(form.turn @ direction)).T, axis=0)
        block_ml = (length + 2 * box.side_mm) * (width + 2 * box.side_mm) * (height + 2 * over_mm) / 1000
        rows.append(
            PullRow(
                own=direction_text(pull.scored.pull),
                words=direction_words(pull.scored.pull),
                locked_ml=pull.scored.locked_ml,
                flatness_mm=seen.flatness_mm if seen else pull.flatness_mm,
                seam_mm=seam_mm(seen.seams) / masters if seen else pull.seam_mm,
                shown_mm=pull.shown_mm(shown),
                balance=seen.balance if seen else pull.balance,
                rubber_ml=float(block_ml) - form.volume_ml,
                is_taken=is_taken,
            )
        )
    return rows


def attitude_taken(made: Opening) -> int | None:
    """Return which of the ways to hold a mould for casting is the one of the plan.

    Parameters
    ----------
    made : Opening
        Worked out.

    Returns
    -------
    int or None
        Its place among the attitudes; None where the mould is held in none of them.
    """
    up = made.cast_turn[2]
    near = [float(np.array(one.up) @ up / np.linalg.norm(one.up)) for one in made.attitudes]
    return near.index(max(near)) if near and max(near) > SAME_WAY else None
