"""How long moulds last: against lifelines, against laws, and the outlook's band on simulated shops."""

from math import log

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from ufrin.core.moulds.life_outlook import LifeModel, life_model
from ufrin.core.moulds.life_prior import PRIOR_SHAPE, USUAL_CASTS, LifePrior, life_prior
from ufrin.core.moulds.mould_life import UsedMould, life_curve, life_findings, weibull_fit
from ufrin.errors import Refused

RECORDS = st.lists(st.tuples(st.integers(1, 120), st.booleans()), min_size=1, max_size=60)


def used(*record: tuple[float, bool]) -> list[UsedMould]:
    return [UsedMould(casts=casts, failed=failed) for casts, failed in record]


@given(RECORDS)
def test_the_curve_is_that_of_lifelines(record: list[tuple[int, bool]]) -> None:
    from lifelines import KaplanMeierFitter

    casts, failed = zip(*record, strict=True)
    theirs = KaplanMeierFitter().fit(casts, event_observed=failed)
    ours = life_curve(used(*record))
    for at in {0, 1, 30, 119, *casts}:
        assert ours.survival_at(at) == pytest.approx(float(theirs.predict(at)), abs=1e-9)
    # their own median takes rounding at a half for more than a half
    half = theirs.survival_function_["KM_estimate"] <= 0.5 + 1e-9
    assert ours.median_casts == (float(half.idxmax()) if half.any() else None)


@pytest.mark.parametrize("seed", range(4))
def test_the_distribution_is_that_of_lifelines(seed: int) -> None:
    from lifelines import WeibullFitter

    chance = np.random.default_rng(seed)
    lives, until = 30 * chance.weibull(2.4, 25), chance.uniform(5, 60, 25)
    record = [(float(min(life, end)), bool(life <= end)) for life, end in zip(lives, until, strict=True)]
    theirs = WeibullFitter().fit(*zip(*record, strict=True))
    ours = weibull_fit(used(*record))
    assert ours is not None
    assert ours.shape == pytest.approx(theirs.rho_, rel=1e-3)
    assert ours.scale_casts == pytest.approx(theirs.lambda_, rel=1e-3)
    assert ours.median_casts == pytest.approx(theirs.median_survival_time_, rel=1e-3)


def test_what_no_distribution_fits() -> None:
    assert weibull_fit(used((12, True), (30, False))) is None
    assert weibull_fit(used((12, True), (12, True), (9, False))) is None  # any steepness fits
    assert weibull_fit(used((12, True), (12, True), (20, False))) is not None
    records = ([(5, False)], [(5, True)], [(5, True)] * 2)
    codes = [[one.code for one in life_findings(used(*record))] for record in records]
    assert codes == [["life-none-failed"], ["life-one-failed"], ["life-all-alike"]]
    assert life_curve(used((5, False), (9, False))).median_casts is None
    for wrong in ((0, True), (-1, False), (float("nan"), True), (1e7, False)):
        with pytest.raises(Refused):
            used(wrong)
    with pytest.raises(Refused, match="Between 1"):
        life_curve([])


def test_what_makes_a_mould_last_longer_or_shorter() -> None:
    assert life_prior().median_casts == USUAL_CASTS == 25  # 20 to 30 as a rule
    assert 50 <= life_prior(cast_kind="epoxy-resin", pot_life_min=40).median_casts <= 70  # slow and cool
    assert round(life_prior(detail="deep").median_casts) == 22  # deep wood grain
    assert 30 <= life_prior(detail="easy").median_casts <= 150
    hot = life_prior(cast_kind="polyester-resin", mould_family="condensation-silicone")
    assert hot.median_casts == pytest.approx(25 * 0.6 * 0.8)
    assert [one.times for one in hot.factors] == [0.8, 0.6]
    assert life_prior(is_released=True).median_casts > life_prior().median_casts > life_prior(shore_a=5).median_casts
    assert life_prior(mould_family="plaster", shore_a=5).median_casts == 150  # rigid: hardness says nothing


def survival_of(model: LifeModel, casts: float) -> float:
    return float(model.survival(np.array([casts]))[0])


def test_the_prior_alone_is_centred_on_the_life_to_expect() -> None:
    model = life_model(LifePrior(median_casts=25, factors=()))
    assert survival_of(model, 25) == pytest.approx(0.5, abs=0.06)
    assert survival_of(model, 0) == pytest.approx(1)
    left = model.left([0], 1)
    assert left.low < 12 < 25 < left.high
    # counted in the draws or summed over the grid: the same chance
    assert left.chance(20) == pytest.approx(survival_of(model, 20), abs=0.03)


def test_own_moulds_outweigh_the_prior() -> None:
    prior = LifePrior(median_casts=25, factors=())
    own = used(*[(50 + number, True) for number in range(-10, 11)])
    model = life_model(prior, own)
    assert 42 < model.left([0], 1).median < 52
    assert (
        survival_of(life_model(prior, used(*[(80, False)] * 5)), 60) > 0.5 > survival_of(life_model(prior), 60)
    )  # not one failed by 80
    # four expected moulds weigh as much as four real ones of the other kind
    mixed = life_model(prior, used(*[(60, True)] * 4)).left([0], 1).median
    assert 30 < mixed < 52


def test_what_a_mould_has_made_tells_of_what_it_will() -> None:
    model = life_model(LifePrior(median_casts=25, factors=()))
    fresh, worn = model.left([0], 1), model.left([24], 1)
    assert worn.median < fresh.median
    assert worn.chance(1) < 1
    # by Bayes' rule: to last 30 given that it lasted 24
    assert worn.chance(6) == pytest.approx(survival_of(model, 30) / survival_of(model, 24), abs=0.12)
    four = model.left([10, 10, 10, 10], 1)
    assert four.median > 3 * model.left([10], 1).median
    assert four.at_least(0.9) <= four.median
    assert four.chance(four.at_least(0.9)) >= 0.9
    assert model.left([], 1).median == 0


def test_nine_of_ten_bands_hold_the_truth() -> None:
    """Shops of many kinds, each with a few worn-out moulds and one half used, simulated to its end."""
    chance, held, shops = np.random.default_rng(7), 0, 300
    scale = 25 / log(2) ** (1 / PRIOR_SHAPE)
    for shop in range(shops):
        shape, typical = chance.uniform(1.8, 4), scale * chance.lognormal(0, 0.35)
        lives = np.floor(typical * chance.weibull(shape, 6)).clip(min=1)
        record = [(float(life), True) for life in lives[:4]] + [(float(life) // 2, False) for life in lives[4:]]
        made = float(chance.integers(0, 15))
        while (life := typical * chance.weibull(shape)) <= made:
            pass
        left = life_model(LifePrior(median_casts=25, factors=()), used(*record)).left([made], shop)
        held += left.low <= np.floor(life) - made <= left.high
    assert 0.85 <= held / shops <= 0.95
