"""The figures by which pulls and castings are ranked, added up by hand; and the surface between two envelopes."""

from dataclasses import replace

import numpy as np
import pytest

from ufrin.core.opening.flattest_surface import settled_surface
from ufrin.core.opening.gates_and_vents import casting_cost
from ufrin.core.opening.pull_directions import ScoredDirection
from ufrin.core.opening.pull_ranking import Pull, direction_text, direction_words
from ufrin.core.opening.ranking_costs import COSTS, DECIDING
from ufrin.core.opening.split_line import Seam, height_at, seam_mm


def scored(**more: float) -> ScoredDirection:
    plain = dict.fromkeys(ScoredDirection.__dataclass_fields__, 0.0)
    return ScoredDirection(**{**plain, "pull": (0.0, 0.0, 1.0), **more})


def pull(**more: object) -> Pull:
    return Pull(
        **{
            "scored": scored(depth_mm=30.0),
            "volume_ml": 100.0,
            "size_mm": 60.0,
            "flatness_mm": 6.0,
            "balance": 0.4,
            "seam_mm": 120.0,
            "outward": np.array([[1.0, 0, 0], [0.6, 0.8, 0], [0.4, 0, 0.9], [-1.0, 0, 0]]),
            "span_mm": np.array([10.0, 20.0, 40.0, 50.0]),
            **more,
        }
    )


def test_a_pull_costs_what_its_faults_add_up_to() -> None:
    # 4 x 6 / 60 for the uneven bed, 2 x 0.1 for unequal halves, 1 x 30 / 60 for its depth
    assert pull().cost(None) == pytest.approx(0.4 + 0.2 + 0.5)
    # of the show face only what looks within 60 degrees of it: 10 and 20 mm of seam
    shown = np.array([1.0, 0.0, 0.0])
    assert (pull().shown_mm(shown), pull().shown_mm(None)) == (30, 0)
    assert pull().cost(shown) == pytest.approx(1.1 + 3 * 30 / 60)
    # locked rubber outweighs all, but not what is an error of the cells
    assert pull(scored=scored(depth_mm=30.0, locked_ml=0.1)).cost(None) == pytest.approx(1.1)
    assert pull(scored=scored(depth_mm=30.0, locked_ml=1.1)).cost(None) == pytest.approx(1.1 + 300 * 0.01)
    assert pull(scored=scored(depth_mm=30.0, trapped_ml=2.0)).cost(None) == pytest.approx(1.1 + 20 * 0.02)


def test_a_pull_is_kept_and_made_larger() -> None:
    kept = pull().to_plain()
    again = Pull.from_plain(kept)
    assert again.cost(np.array([1.0, 0, 0])) == pytest.approx(pull().cost(np.array([1.0, 0, 0])))
    double = Pull.from_plain(kept, 2.0)
    assert (double.volume_ml, double.size_mm, double.flatness_mm, double.balance) == (800, 120, 12, 0.4)
    assert (double.seam_mm, list(double.span_mm), double.scored.depth_mm) == (240, [20, 40, 80, 100], 60)
    # a shape that is twice as large opens just as well
    assert double.cost(None) == pytest.approx(pull().cost(None))


def test_air_vents_and_stubs_cost_a_casting() -> None:
    assert casting_cost(0, 0, 0) == 0
    # 2 for each millilitre of air, 1 for each vent, 3 for each stub on the show face
    assert casting_cost(1.5, 2, 1) == pytest.approx(3 + 2 + 3)


def test_every_figure_that_decides_is_told_with_its_reason() -> None:
    for subject, figures in DECIDING.items():
        assert figures
        for one in figures:
            assert one.reason
            assert one.unit
            assert one.name
        assert [one.value for one in figures] == list(COSTS[subject].values())


def test_directions_in_words() -> None:
    assert [direction_words(way) for way in ((0.0, 0.0, 1.0), (0.0, 0.0, -1.0), (1.0, 0.0, 0.0))] == [
        "its z upwards",
        "its z downwards",
        "its x upwards",
    ]
    lean = np.radians(15)
    assert direction_words((float(np.sin(lean)), 0.0, float(np.cos(lean)))) == "15° off its z upwards, towards its x"
    both = (0.2, -0.3, float(-np.sqrt(1 - 0.13)))
    assert direction_words(both) == "21° off its z downwards, towards its minus y and x"
    assert direction_text((0.123456, -0.0, -1.0)) == "0.1235, 0, -1"


def surface(low: np.ndarray, high: np.ndarray, slack: float = 0.0) -> np.ndarray:
    return settled_surface(
        low, high, [], np.ones(low.shape, dtype=bool), np.zeros(2), cell=1.0, floor=0.0, top=40.0, slack=slack
    )


def test_the_flattest_surface_between_envelopes() -> None:
    free = np.full((24, 24), np.nan)
    # held at 3 mm on the left and at 13 on the right, it runs straight between them
    low, high = free.copy(), free.copy()
    low[0], high[0] = 3.0, 3.0
    low[-1], high[-1] = 13.0, 13.0
    found = surface(low, high)
    assert np.allclose(found, np.linspace(3, 13, 24)[:, None], atol=0.1)
    # with a slack of 1 mm it is that much calmer
    calm = surface(low, high, slack=1.0)
    assert float(np.ptp(calm)) == pytest.approx(8, abs=0.1)
    # an envelope that lets it through level leaves it level
    low, high = free.copy(), free.copy()
    low[8:16, 8:16], high[8:16, 8:16] = 5.0, 20.0
    level = surface(low, high)
    assert float(np.ptp(level)) == pytest.approx(0, abs=1e-3)
    assert 5 <= level.min() <= level.max() <= 20
    # a peak that it has to pass under holds it down there alone
    low, high = free.copy(), free.copy()
    low[0], high[0] = 10.0, 10.0
    low[12, 12], high[12, 12] = 2.0, 4.0
    under = surface(low, high)
    assert under[12, 12] == pytest.approx(4, abs=0.05)
    assert under[0].min() == pytest.approx(10)
    assert under[12, 0] > under[12, 12]


def test_heights_between_the_middles_of_cells() -> None:
    height = np.array([[0.0, 10.0], [20.0, 30.0]])
    at = height_at(height, np.array([100.0, 200.0]), 2.0, np.array([[101, 201], [102, 202], [103, 201], [99, 190]]))
    assert list(at) == [0, 15, 20, 0]


def test_the_length_of_a_seam_goes_round_and_up() -> None:
    square = Seam(
        points_mm=np.array([[0.0, 0, 0], [3, 0, 4], [3, 4, 4], [0, 4, 0]]),
        outward=np.array([[0.0, -1], [1, 0], [0, 1], [-1, 0]]),
        span_mm=np.ones(4),
    )
    # 5 up, 4 level, 5 down, 4 back
    assert seam_mm((square,)) == 18
    assert seam_mm((square, square)) == 36
    assert seam_mm((square,), np.array([1.0, 0, 0])) == 4
    assert seam_mm((replace(square, outward=-square.outward),), np.array([0.0, -1, 0])) == 5
