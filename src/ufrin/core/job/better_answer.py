"""What would make the amounts of a job better: each thing that they hang on, by how much of them it leaves open."""

from dataclasses import dataclass
from typing import Literal

from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.inputs.usual import USUAL
from ufrin.core.job.job_plan import Plan
from ufrin.core.job.rubber_station import Pour
from ufrin.core.job.terms.master import WAYS
from ufrin.core.master.measuring_ways import WAY_OF, error_on_an_egg_ml
from ufrin.core.rubber.cure_times import time_at
from ufrin.core.rubber.shore import ShoreScale, reading
from ufrin.core.weighing.allowance import PRIOR_WEIGHT
from ufrin.language import Counted, Text

USUAL_ROOM_C = USUAL["rubber"]["room_temp_c"]
WARMER_C = 5.0  # a room that nobody measured is easily so much warmer (common practice)
SG_STEP = 0.01  # tins state two decimals
LEAST_SHARE_PCT, MOST_SHOWN = 0.5, 3
MUCH_BETTER = 0.5  # of the error: a second measurement that gains less is not worth the water

Place = Literal["master", "pour", "shelf", "coupons", "room_temp_c"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Improvement:
    """Something that would make the answer better.

    Parameters
    ----------
    key : str
        What it is about.
    share_pct : float
        How much of the figure that hangs on it is left open, in percent.
    sentence : str
        What to do, and what it would bring; amounts as ``say_amounts`` reads them.
    place : str
        Where it is done: another page of the job, the rubber on the Shelf or its test pucks, or a field of this page.
    """

    key: str
    share_pct: float
    sentence: str
    place: Place


def improvements(plan: Plan, master: MasterInputs, rubber: RubberInputs, *, room_c: float) -> tuple[Improvement, ...]:
    """Return what would make the amounts and times of a job better.

    Parameters
    ----------
    plan : Plan
        The job worked out.
    master, rubber : MasterInputs, RubberInputs
        Its stations as they were filled in.
    room_c : float
        The room of the workshop, in degC.

    Returns
    -------
    tuple of Improvement
        What leaves most open first; empty before there is a pour.
    """
    if plan.rubber is None or plan.pour is None:
        return ()
    found = (
        _displacement(plan, master),
        _spare(plan, rubber),
        _sg(plan, plan.pour),
        _room(plan.pour, rubber, room_c),
        _hardness(plan.pour),
    )
    telling = [one for one in found if one is not None and one.share_pct >= LEAST_SHARE_PCT]
    return tuple(sorted(telling, key=lambda one: -one.share_pct))[:MOST_SHOWN]


def _displacement(plan: Plan, master: MasterInputs) -> Improvement | None:
    if plan.net_pm_ml is None or plan.rubber is None or plan.pour is None or not plan.rubber.need_ml:
        return None
    off_g = plan.net_pm_ml * plan.pour.need_g / plan.pour.need_ml
    sentence: str = Text(
        "Measure the displacement again: it may be off by [{off_ml:.3f} volume ~], which is [{off_g:.2f} mass ~] of "
        "rubber more or less.",
        off_ml=plan.net_pm_ml,
        off_g=off_g,
    )
    if better := _better_way(plan, master):
        way, error_ml = better
        sentence += Text(" {way} brings it to about [{error_ml:.3f} volume ~].", way=WAYS[way], error_ml=error_ml)
    share_pct = 100 * plan.net_pm_ml / plan.rubber.need_ml
    return Improvement(key="displacement", share_pct=share_pct, sentence=sentence, place="master")


def _better_way(plan: Plan, master: MasterInputs) -> tuple[str, float] | None:
    measured, counted = plan.master.measured, plan.master.counted
    if measured is None or counted is None:
        return None
    errors = {
        way: error_ml
        for way in WAY_OF
        if way not in {"known", counted.key} and (error_ml := error_on_an_egg_ml(way, master)) is not None
    }
    way = min(errors, key=lambda one: errors[one], default="")
    if not way or errors[way] >= MUCH_BETTER * measured.plus_minus_ml:
        return None
    masters = (plan.net_pm_ml or 0.0) / measured.plus_minus_ml  # that stand in the box, each as uncertain as this one
    return way, masters * errors[way]


def _spare(plan: Plan, rubber: RubberInputs) -> Improvement | None:
    if plan.rubber is None or rubber.spare_pct is not None:
        return None
    allowance, spare_pct = plan.rubber.allowance, plan.rubber.settled.spare_pct
    to_go = int(PRIOR_WEIGHT) + 1 - allowance.pours  # until the pours weigh more than what is usual
    if to_go <= 0:
        return None
    sentence = Counted(
        "Weigh what is left over at the bench: [{spare_g:.1f} mass ~] are spare, mostly because that is usual. After "
        "{n} more pour it follows mostly from your own.",
        "Weigh what is left over at the bench: [{spare_g:.1f} mass ~] are spare, mostly because that is usual. After "
        "{n} more pours it follows mostly from your own.",
        n=to_go,
        spare_g=plan.rubber.need_g * spare_pct / 100,
    )
    return Improvement(key="spare", share_pct=spare_pct * (1 - allowance.weight), sentence=sentence, place="pour")


def _sg(plan: Plan, pour: Pour) -> Improvement | None:
    if plan.rubber is None:
        return None
    sg = pour.need_g / pour.need_ml
    sentence = Text(
        "Weigh [100 volume] of the mixed rubber: its SG is rounded on the tin, and {step:.2f} more or less is "
        "[{off_g:.2f} mass ~] here.",
        step=SG_STEP,
        off_g=SG_STEP * plan.rubber.need_ml,
    )
    return Improvement(key="sg", share_pct=100 * SG_STEP / sg, sentence=sentence, place="shelf")


def _room(pour: Pour, rubber: RubberInputs, room_c: float) -> Improvement | None:
    tin_min = pour.rubber.pot_life_min
    if rubber.room_temp_c is not None or room_c != USUAL_ROOM_C or not tin_min:
        return None
    here_min, warm_min = time_at(tin_min, room_c), time_at(tin_min, room_c + WARMER_C)
    sentence = Text(
        "Type the temperature of the room: [{room_c:.1f} temperature] is assumed, and at [{warm_c:.1f} temperature] "
        "the pot life is [{warm_min:.2f} time ~] instead of [{here_min:.2f} time ~].",
        room_c=room_c,
        warm_c=room_c + WARMER_C,
        warm_min=warm_min,
        here_min=here_min,
    )
    share_pct = 100 * (1 - warm_min / here_min)
    return Improvement(key="room", share_pct=share_pct, sentence=sentence, place="room_temp_c")


def _hardness(pour: Pour) -> Improvement | None:
    thinned = pour.thinned
    if thinned is None or thinned.range_mpa is None or not thinned.parts_per_100:
        return None
    scales: tuple[ShoreScale, ...] = ("A", "00")
    for scale in scales:
        low, high = sorted(_shore(one, scale) for one in thinned.range_mpa)
        if low > 0:
            break
    else:
        return None
    sentence = Text(
        "Cast a test puck with as much thinner: until one is measured, the rubber comes out anywhere between {low:.0f} "
        "and {high:.0f} Shore {scale}.",
        low=low,
        high=high,
        scale=scale,
    )
    share_pct = 100 * (high - low) / (high + low)
    return Improvement(key="hardness", share_pct=share_pct, sentence=sentence, place="coupons")


def _shore(modulus_mpa: float, scale: ShoreScale) -> float:
    return reading(modulus_mpa, scale) or 0.0
