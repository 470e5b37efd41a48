"""Small files that would burst their reader are refused with the limit that they break, before memory is taken."""

import tracemalloc
from collections.abc import Callable

import bursting
import pytest

from ufrin.core.mesh.files import read
from ufrin.errors import Refused

MOST_MB = 150  # of memory for reading any of them, the file itself and its text among it


@pytest.mark.parametrize(
    ("make", "ending", "says"),
    [
        (bursting.many_items, "3mf", "places objects more than 100000 times"),
        (bursting.unpacks_to, "3mf", "times its size; 100 is the most"),
        (bursting.one_long_word, "3mf", "times its size; 100 is the most"),
        (lambda: bursting.one_long_word(30), "3mf", "has no end"),
        (bursting.multiplying, "3mf", "more than 6000000 triangles"),
        (lambda: bursting.multiplying(17, 2), "3mf", "placed in each other more than 100000 times"),
        (bursting.in_a_circle, "3mf", "nested more than 32 deep"),
        (bursting.many_nodes, "glb", "10000 nodes"),
        (bursting.deep_nodes, "glb", "nested more than 64 deep"),
        (bursting.endless_accessor, "glb", "more than 6000000 triangles"),
        (bursting.wide_face, "obj", "more than 1000 corners"),
        (bursting.wide_off, "off", "more than 1000 corners"),
        (bursting.endless_ply, "ply", "than there is room for"),
    ],
)
def test_it_is_refused_before_memory_is_taken(make: Callable[[], bytes], ending: str, says: str) -> None:
    data = make()
    tracemalloc.start()
    try:
        with pytest.raises(Refused, match=says):
            read(data, f"x.{ending}")
        _, peak = tracemalloc.get_traced_memory()
    finally:
        tracemalloc.stop()
    assert peak < MOST_MB * 1e6


def test_a_file_within_the_limits_is_read() -> None:
    fan = b"".join(b"v %d %d 0\n" % (n, n * n) for n in range(1000)) + b"v 0 0 9\n"
    assert read(fan + b"f " + b" ".join(b"%d" % (n + 1) for n in range(1000)) + b"\n", "x.obj").triangles == 998
    assert read(bursting.multiplying(3, 10), "x.3mf").triangles == 4000
