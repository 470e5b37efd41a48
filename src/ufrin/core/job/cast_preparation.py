"""Getting ready for a shot: what is dried, warmed, released, levelled and closed, and how long before."""

from collections.abc import Sequence

from ufrin.core.casting.cast_cups import CastPicks
from ufrin.core.casting.planned_cast import CastPlan
from ufrin.core.opening.mould_styles import PARTED
from ufrin.core.pairing.prep_step import PrepStep
from ufrin.language import Text

OWN = ("casting",)
# how long each takes, in min: work, and then leave it; common practice
FILLER_COOLS_MIN, WARM_MIN, LEVEL_MIN, CLOSE_MIN, LAY_READY_MIN = 30.0, 30.0, 5.0, 5.0, 5.0
STAYS_WARM_MIN = 60.0


def getting_ready(made: CastPlan, picks: CastPicks, checked: Sequence[PrepStep], style: str) -> tuple[PrepStep, ...]:
    """Return what is done before a shot.

    Parameters
    ----------
    made : CastPlan
        The shot.
    picks : CastPicks
        What it takes from the Shelf.
    checked : sequence of PrepStep
        The preparation that the Checks ask for; only that of the cast counts.
    style : str
        The kind of mould.

    Returns
    -------
    tuple of PrepStep
        Those to begin with first. Releases wait as the Checks say; a filler is dried and cools first of all.
    """
    last_min = LAY_READY_MIN
    steps = [
        _step(Text("Lay cups, sticks, gloves and all parts ready, and read every label"), last_min, LAY_READY_MIN, 0.0)
    ]
    if style in PARTED:
        last_min += CLOSE_MIN
        steps.append(_step(Text("Close the mould and band it all round"), last_min, CLOSE_MIN, 0.0))
    last_min += LEVEL_MIN
    steps.append(_step(Text("Level the table under the mould"), last_min, LEVEL_MIN, 0.0))
    released = [step for step in checked if step.phase == "cast"]
    steps += [
        PrepStep(
            phase="cast",
            do=step.do,
            before_min=step.before_min + last_min,
            work_min=step.work_min,
            dry_min=step.dry_min,
            pairs=step.pairs,
        )
        for step in released
    ]
    released_min = max((step.before_min for step in released), default=0.0)
    # warmed first, so that the release goes on a dry mould; a mould would be cold again after a spot test
    warm_min = last_min + WARM_MIN + (released_min if released_min <= STAYS_WARM_MIN else 0.0)
    steps.append(_step(Text("Warm and dry the mould"), warm_min, 0.0, WARM_MIN))
    filler = picks.filler
    if filler is not None and filler.dry_min and any(one.key == "filler" for one in made.totals.values()):
        at = Text(" at [{dry_c:.0f} temperature]", dry_c=filler.dry_c) if filler.dry_c is not None else ""
        dry_min = filler.dry_min + FILLER_COOLS_MIN
        steps.append(
            _step(
                Text("Dry {name}{at}, spread thinly, and let it cool", name=filler.name, at=at),
                dry_min + last_min,
                0.0,
                dry_min,
            )
        )
    return tuple(sorted(steps, key=lambda step: -step.before_min))


def _step(do: str, before_min: float, work_min: float, dry_min: float) -> PrepStep:
    return PrepStep(phase="cast", do=do, before_min=before_min, work_min=work_min, dry_min=dry_min, pairs=OWN)
