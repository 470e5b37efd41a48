"""Generations and care: sizes by hand, finishes passed on, and what is due first."""

import pytest

from ufrin.core.moulds.generations import ChainLink, chain
from ufrin.core.moulds.retirement import dues


def test_sizes_shrink_and_finishes_are_passed_on() -> None:
    links = (
        ChainLink(kind="master", name="carving", finish="matt"),
        ChainLink(kind="mould", name="first mould", shrink_pct=1.0),
        ChainLink(kind="cast", name="resin cast", shrink_pct=0.5, finish="gloss"),
        ChainLink(kind="mould", name="second mould", shrink_pct=1.0),
    )
    found = chain(links, 100.0)
    assert [one.size_mm for one in found] == [
        pytest.approx(value) for value in (100, 99, 99 * 0.995, 99 * 0.995 * 0.99)
    ]
    assert [one.finish for one in found] == ["matt", "matt", "gloss", "gloss"]
    assert found[3].finish_from == "resin cast"
    assert [one.generation for one in found] == [0, 1, 1, 2]
    assert [one.size_mm for one in chain(links, None)] == [None] * 4


def test_the_most_urgent_care_comes_first() -> None:
    found = dues({"release": 5, "clean": 20, "rest": None}, {"release": 3, "clean": 22})
    assert [(one.care, one.to_go) for one in found] == [("clean", -2), ("release", 2)]
