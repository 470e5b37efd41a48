"""The show face: a surface within 60 degrees of its direction belongs to it."""

from math import cos, radians

import numpy as np
import pytest

from ufrin.core.opening.pull_directions import ScoredDirection
from ufrin.core.opening.pull_ranking import Pull
from ufrin.core.opening.show_face import ON_SHOW_COSINE


@pytest.mark.parametrize(("degrees", "is_shown"), [(0, True), (59, True), (61, False), (180, False)])
def test_a_seam_counts_as_shown_where_its_surface_looks_that_way(degrees: float, is_shown: bool) -> None:
    assert pytest.approx(cos(radians(60))) == ON_SHOW_COSINE
    turned = np.array([[np.sin(radians(degrees)), 0.0, np.cos(radians(degrees))]])
    pull = Pull(
        scored=ScoredDirection(
            pull=(0.0, 0.0, 1.0), locked_ml=0.0, overhang_ml=0.0, trapped_ml=0.0, depth_mm=30.0, cells=96
        ),
        volume_ml=10.0,
        size_mm=60.0,
        flatness_mm=0.0,
        balance=0.5,
        seam_mm=25.0,
        outward=turned,
        span_mm=np.array([25.0]),
    )
    assert pull.shown_mm(np.array([0.0, 0.0, 1.0])) == (25.0 if is_shown else 0.0)
    assert pull.shown_mm(None) == 0.0
