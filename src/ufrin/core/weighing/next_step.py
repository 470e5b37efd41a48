"""What to do next with the cup at work: by its plan, and by what is really in it."""

from collections.abc import Mapping, Sequence

from ufrin.core.weighing.method import MethodStep
from ufrin.core.weighing.ratio_mend import check
from ufrin.core.weighing.record_entries import Step, StepAttempt, StepKind
from ufrin.core.weighing.weigh_plan import BAND_PCT, Ingredient, WeighPlan, following_role, leading_role

Batch = Sequence[Ingredient]


def sum_of(batch: Batch, grams: Mapping[str, float], role: str) -> float:
    """Return what is in a cup of one role.

    Parameters
    ----------
    batch : sequence of Ingredient
        What the cup is to hold.
    grams : mapping of key to g
        What is in it.
    role : str
        "A", "B" and so on.

    Returns
    -------
    float
        In g; both parts of that role in a blend.
    """
    return sum(grams.get(one.key, 0.0) for one in batch if one.role == role)


def target_g(batch: Batch, cup: StepAttempt, key: str) -> float:
    """Return what is still missing of an ingredient, by what is really in the cup.

    Parameters
    ----------
    batch : sequence of Ingredient
        What the cup is to hold.
    cup : StepAttempt
        What is in it.
    key : str
        Of the ingredient.

    Returns
    -------
    float
        In g; never below 0.
    """
    one = next(ingredient for ingredient in batch if ingredient.key == key)
    leads, follows = leading_role(batch), following_role(batch)
    followed_g = sum_of(batch, cup.poured_g, follows)
    if one.role == leads and followed_g:
        scaled = followed_g / sum(other.g for other in batch if other.role == follows)
    else:
        # the part that goes in first determines all that follows it
        led = [other for other in batch if other.role == leads and other.key in cup.poured_g]
        scaled = sum(cup.poured_g[other.key] for other in led) / sum(other.g for other in led) if led else 1.0
        if one.role == leads and one in led:
            scaled = max(cup.poured_g[other.key] / other.g for other in led)
    return max(0.0, one.g * scaled - cup.poured_g.get(key, 0.0))


def next_step(
    plan: WeighPlan, batches: Sequence[Batch], cup: StepAttempt, *, pot_life_min: float | None, prepared: Sequence[str]
) -> Step:
    """Return what to do next while the pour is not finished.

    Parameters
    ----------
    plan : WeighPlan
        As it was when the weighing began.
    batches : sequence of batches
        Of the plan, and those that were added.
    cup : StepAttempt
        At work.
    pot_life_min : float or None
        In the room as it is.
    prepared : sequence of str
        Steps that were done before the first cup.

    Returns
    -------
    Step
        Never "cure" or "done".
    """
    if cup.outcome in {"wrong", "discarded"}:
        return Step(kind="cup")
    if cup.outcome == "poured":
        return _after_pour(plan, batches, cup)
    if not cup.tared:
        before = plan.method.before if plan.method else ()
        if found := _first_open(before, prepared):
            return found
        return Step(kind="mould") if plan.rotation and "mould" not in prepared else Step(kind="cup")
    batch = batches[cup.batch]
    for one in batch:
        if one.role == "pigment" and (mend := _mend(plan, batch, cup)):
            return mend
        if one.key not in cup.poured_g:
            return _weigh(plan, batch, cup, one)
    if mend := _mend(plan, batch, cup):
        return mend
    if not cup.mixed:
        if found := _first_open(plan.method.before_mix if plan.method else (), cup.steps_done):
            return found
        if len(batch) > 1:
            return _mix(plan, cup)
    after = plan.method.after_mix(pot_life_min) if plan.method else ()
    return _first_open(after, cup.steps_done) or Step(kind="pour")


def _mix(plan: WeighPlan, cup: StepAttempt) -> Step:
    other = plan.other_of(cup.batch)
    least, most = (plan.method.least_mix_min, plan.method.most_mix_min) if plan.method else (0.0, None)
    return Step(kind="mix", least_min=other.least_mix_min if other else least, most_min=most)


def _first_open(steps: Sequence[MethodStep], done: Sequence[str]) -> Step | None:
    one = next((step for step in steps if step.key not in done), None)
    return Step(kind="do", key=one.key, least_min=one.least_min) if one else None


def _after_pour(plan: WeighPlan, batches: Sequence[Batch], cup: StepAttempt) -> Step:
    is_last = cup.batch + 1 >= len(batches)
    if found := _first_open(plan.method.after_cup if plan.method else (), cup.steps_done):
        return found
    if plan.rotation and not cup.is_mould_weighed:
        return Step(kind="mould")
    # what is done with the whole mould is done once all of it is poured
    after = plan.method.after_pour if plan.method and is_last else ()
    if found := _first_open(after, cup.steps_done):
        return found
    if cup.leftover_g is None:
        return Step(kind="leftover")
    return Step(kind="finish") if is_last else Step(kind="cup")


def _weigh(plan: WeighPlan, batch: Batch, cup: StepAttempt, one: Ingredient, *, is_mend: bool = False) -> Step:
    target = target_g(batch, cup, one.key)
    whole = target + cup.poured_g.get(one.key, 0.0)
    # at least half a step each way: no scale is more exact
    tolerance_pct = _tolerance_pct(plan, cup)
    band = max(whole * BAND_PCT.get(one.role, tolerance_pct) / 100, plan.step_g / 2)
    if is_mend:  # a missing remainder has the tolerance of the whole part
        band = max(whole * tolerance_pct / 100, plan.step_g / 2)
    kind: StepKind = "weigh" if cup.in_hand == one.key else "hold"
    return Step(
        kind=kind, ingredient=one, target_g=target, low_g=max(0.0, target - band), high_g=target + band, is_mend=is_mend
    )


def _tolerance_pct(plan: WeighPlan, cup: StepAttempt) -> float:
    other = plan.other_of(cup.batch)
    return other.tolerance_pct if other else plan.tolerance_pct


def b_per_a_of(plan: WeighPlan, batch: Batch) -> float:
    """Return the ratio of a cup by weight: that of the plan, or of another material such as the foam behind a shell.

    Parameters
    ----------
    plan : WeighPlan
        With the ratio of its main material.
    batch : sequence of Ingredient
        What the cup is to hold.

    Returns
    -------
    float
        B for each A.
    """
    if plan.how != "cast":
        return plan.b_per_a
    planned = {one.key: one.g for one in batch}
    return sum_of(batch, planned, "B") / sum_of(batch, planned, "A")


def _mend(plan: WeighPlan, batch: Batch, cup: StepAttempt) -> Step | None:
    a, b = (sum_of(batch, cup.poured_g, role) for role in ("A", "B"))
    follows = following_role(batch)
    if not a or not b or any(one.role == follows and one.key not in cup.poured_g for one in batch):
        return None
    ratio = {"A": 1.0, "B": b_per_a_of(plan, batch)}
    checked = check(ratio=ratio, poured_g={"A": a, "B": b}, tolerance_pct=_tolerance_pct(plan, cup))
    if checked.verdict == "within":
        return None
    short = [one for one in batch if one.role == checked.add_part and target_g(batch, cup, one.key) > 0]
    return _weigh(plan, batch, cup, short[0], is_mend=True) if short else None
