"""The plan of a practice: what is weighed, and what is left of its pot life for somebody who was called away."""

from ufrin.core.practice.levels import STEP_G, Level
from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.method import FAST_POT_LIFE_MIN, Method
from ufrin.core.weighing.weigh_plan import Ingredient, Role, WeighPlan
from ufrin.errors import Refused
from ufrin.language import Text

ROOM_C, TOTAL_G = 23.0, 200.0  # our own choice: a usual room, and a cup that a hand can pour
USUAL_POT_LIFE_MIN, USUAL_MIX_MIN = 30.0, 3.0  # common practice, where the tin states none
# our own choice, of what is left once the maker was called away: enough to mix and pour at once, or too little to mix
HURRY_MIN, TOO_LITTLE = 4.0, 0.5


def may_be_practised(rubber: Rubber) -> bool:
    """Return whether a rubber can be weighed in a practice: it is poured, and both its parts are."""
    return rubber.form == "liquid"


def practice_plan(rubber: Rubber) -> WeighPlan:
    """Plan the weighing of a practice.

    Parameters
    ----------
    rubber : Rubber
        As its tin describes it.

    Returns
    -------
    WeighPlan
        One cup of 200 g, with the ratio, the tolerance and the times of the rubber.

    Raises
    ------
    Refused
        For a putty, which is not poured.
    """
    if not may_be_practised(rubber):
        raise Refused("rubber", Text("A putty is kneaded, and this practice is about pouring. Choose another rubber."))
    a, b = rubber.weight_ratio
    sgs = rubber.sg_parts or {}
    parts: tuple[tuple[Role, str, str, float], ...] = (
        ("A", rubber.a_name, rubber.a_colour, a),
        ("B", rubber.b_name, rubber.b_colour, b),
    )
    batch = tuple(
        Ingredient(key=role, role=role, name=name, colour=colour, g=TOTAL_G * share / (a + b), sg=sgs.get(role))
        for role, name, colour, share in parts
    )
    mix_min = rubber.mix_least_min or USUAL_MIX_MIN
    return WeighPlan(
        what=Text("a practice cup"),
        rubber=rubber.name,
        b_per_a=b / a,
        tolerance_pct=rubber.tolerance_pct,
        step_g=STEP_G,
        sg=rubber.sg,
        need_g=TOTAL_G,
        batches=(batch,),
        pot_life_min=rubber.pot_life_min or USUAL_POT_LIFE_MIN,
        mix_min=mix_min,
        method=Method(least_mix_min=mix_min, most_mix_min=rubber.mix_most_min),
        family=rubber.family,
    )


def left_after_call_min(level: Level, plan: WeighPlan) -> float:
    """Return how much of the pot life somebody who was called away finds left.

    Parameters
    ----------
    level : Level
        Says whether there is time to mix and pour.
    plan : WeighPlan
        Whose method says how long that takes.

    Returns
    -------
    float
        In min, by the clock of the practice.
    """
    pot_life_min = plan.pot_life_min or USUAL_POT_LIFE_MIN
    method = plan.method or Method()
    if not level.leaves_time:
        return min(TOO_LITTLE * method.least_mix_min, TOO_LITTLE * pot_life_min)
    steps_min = sum(step.least_min for step in method.after_mix(pot_life_min))
    is_fast = pot_life_min < FAST_POT_LIFE_MIN
    return method.least_mix_min + steps_min + (HURRY_MIN / 2 if is_fast else HURRY_MIN)
