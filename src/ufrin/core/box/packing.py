"""Packing: masters of several kinds set as closely as their gaps allow."""

from collections.abc import Sequence
from math import ceil

import rectpack

from ufrin.core.box.layouts import Layout, Place
from ufrin.core.master.master_form import Master
from ufrin.core.measures.plain_volumes import diagonal_mm

TENTHS = 10  # the packing library wants whole numbers
TRIED_WIDTHS = 14


def packed(masters: Sequence[Master], gap_mm: float) -> list[Layout]:
    """Pack masters of several kinds as closely as their gaps allow, each turned a quarter where that helps.

    Parameters
    ----------
    masters : sequence of Master
        Each kind with its count.
    gap_mm : float
        Between neighbours.

    Returns
    -------
    list of Layout
        One for each width tried; the packing itself is a library's (maximal rectangles).
    """
    sizes = [(master.length_mm, master.width_mm) for master in masters for _ in range(master.count)]
    kinds = [kind for kind, master in enumerate(masters) for _ in range(master.count)]
    whole = [(ceil((x + gap_mm) * TENTHS), ceil((y + gap_mm) * TENTHS)) for x, y in sizes]
    least = max(min(pair) for pair in whole)
    most = sum(max(pair) for pair in whole)
    found = []
    for step in range(TRIED_WIDTHS):
        width = round(least + (most - least) * (step / (TRIED_WIDTHS - 1)) ** 2)
        packer = rectpack.newPacker(rotation=True)
        for number, pair in enumerate(whole):
            packer.add_rect(*pair, rid=number)
        packer.add_bin(width, most + 1)
        packer.pack()
        rectangles = packer.rect_list()
        if len(rectangles) == len(whole):
            found.append(_from_packing(masters, rectangles, sizes, kinds, gap_mm))
    return found


def _from_packing(
    masters: Sequence[Master],
    rectangles: list[tuple[int, int, int, int, int, int]],
    sizes: list[tuple[float, float]],
    kinds: list[int],
    gap_mm: float,
) -> Layout:
    places, right, far = [], 0.0, 0.0
    for _, x, y, wide, _, number in rectangles:
        length, width = sizes[number]
        turned = wide != ceil((length + gap_mm) * TENTHS)
        length, width = (width, length) if turned else (length, width)
        places.append(
            Place(kind=kinds[number], x_mm=x / TENTHS + length / 2, y_mm=y / TENTHS + width / 2, turned=turned)
        )
        right, far = max(right, x / TENTHS + length), max(far, y / TENTHS + width)
    places = [
        Place(kind=place.kind, x_mm=place.x_mm - right / 2, y_mm=place.y_mm - far / 2, turned=place.turned)
        for place in places
    ]
    places.sort(key=lambda place: (-round(place.y_mm, 1), place.x_mm))
    circle, at = diagonal_mm(right, far), (0.0, 0.0)
    return Layout(
        rows=1,
        columns=len(places),
        length_mm=right,
        width_mm=far,
        circle_mm=circle,
        places=tuple(places),
        circle_at_mm=at,
    )
