"""Long work on a mesh, told as it goes on: measuring a file, comparing attitudes, ranking pulls."""

import pytest

from ufrin.core.job.mesh_work import compare_attitudes, measure_file, rank_pulls
from ufrin.core.master.stand_ins import block, cone
from ufrin.core.mesh.written_files import write_stl
from ufrin.core.opening.pull_ranking import Ranking
from ufrin.errors import Refused


def test_a_file_is_measured_and_thinned_out_for_drawing() -> None:
    told: list[object] = []
    figures, solid, drawn = measure_file(told.append, write_stl(block(60, 40, 30)), "block.stl")
    assert figures.volume_ml == pytest.approx(72.0)
    assert solid.extents_mm == pytest.approx((60, 40, 30))
    assert drawn.volume_mm3 == pytest.approx(solid.volume_mm3)
    assert told == sorted(told)
    assert all(0 < float(str(one)) < 1 for one in told)
    with pytest.raises(Refused):
        measure_file(told.append, b"no mesh", "x.stl")


def test_attitudes_that_take_the_same_are_one() -> None:
    told: list[object] = []
    block_stands = compare_attitudes(told.append, block(60, 40, 30), block(60, 40, 30))
    # a block stands on each of three pairs of faces, which are alike
    assert len(block_stands) == 3
    assert told[-1] == pytest.approx(0.98)
    assert {round(one["form"]["size_mm"][2]) for one in block_stands if one["form"]} <= {30, 40, 60}


def test_a_ranking_becomes_closer_and_ends_with_the_whole_one() -> None:
    told: list[object] = []
    found = rank_pulls(told.append, cone(40, 20, 30))
    assert found.is_whole
    assert [one for one in told if isinstance(one, float)] == [0.2, 0.65]  # the whole one is what is returned
    assert [one.is_whole for one in told if isinstance(one, Ranking)] == [False, False]
