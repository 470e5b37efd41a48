"""The layout of an upright view on its sheet, and what such views share.

They share the liquid that a slider raises, pockets of air, and numbers beside the drawing.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ufrin.core.mesh.cell_rings import rings_of
from ufrin.core.mesh.line_work import ViewKey
from ufrin.core.opening.trapped_air import Air, Pocket
from ufrin.language import Text
from ufrin.web.drawings.svg_marks import Drawing, line, spread, text

TAG_PX = 9.0
LEFT_PX, TOP_PX = 26.0, 34.0
ROW_PX, WIDEST_PX, HIGHEST_PX = 470.0, 290.0, 230.0
TITLES: dict[ViewKey, str] = {"front": Text("Front"), "side": Text("Side"), "plan": Text("Top")}
Ring = Sequence[tuple[float, float]]


@dataclass(frozen=True, slots=True, kw_only=True)
class ViewPlacement:
    """The placement of a view on its sheet."""

    key: str
    px: float
    left: float
    foot: float
    low: tuple[float, float]

    def to_px(self, x: float, y: float) -> tuple[float, float]:
        """From mm to the sheet."""
        return self.left + (x - self.low[0]) * self.px, self.foot - (y - self.low[1]) * self.px

    def rings(self, rings: Sequence[Ring]) -> list[list[tuple[float, float]]]:
        """Rings on the sheet."""
        return [[self.to_px(x, y) for x, y in ring] for ring in rings]


def unhatched(rings: Sequence[Ring]) -> str:
    """Return rings as one bare area; a ring inside another is a hole."""
    label = " ".join("M" + " L".join(f"{x:.1f},{y:.1f}" for x, y in ring) + " z" for ring in rings if len(ring) > 2)
    return f'<path d="{label}" fill-rule="evenodd"/>' if label else ""


def liquid(
    on: ViewPlacement, rings: Sequence[Ring], substance: str, span: tuple[float, float], levels: tuple[float, float]
) -> str:
    """Draw liquid that fills rings between two heights: full, and a slider moves its top where there is script."""
    x, top = on.to_px(span[0], levels[1])
    right, foot = on.to_px(span[1], levels[0])
    clip = f'<clipPath id="{on.key}-room">{unhatched(on.rings(rings))}</clipPath>'
    return (
        f'{clip}<g clip-path="url(#{on.key}-room)"><rect class="d-liquid" data-top="{top:.1f}" '
        f'data-foot="{foot:.1f}" x="{x - 1:.1f}" y="{top:.1f}" '
        f'width="{right - x + 2:.1f}" height="{foot - top + 1:.1f}" '
        f'fill="url(#{on.key}-{substance})"/></g>{_edge(on.rings(rings))}'
    )


def _edge(rings: Sequence[Ring]) -> str:
    return f'<g class="d-outline">{unhatched(rings)}</g>'


def drawn_pockets(air: Air | None) -> tuple[Pocket, ...]:
    """Return the pockets that are drawn: those that matter, two dozen at most."""
    return tuple(pocket for pocket in air.pockets if pocket.matters)[:24] if air else ()


def projected(
    air: Air | None, pocket: Pocket, view: ViewKey, shift: tuple[float, float]
) -> tuple[tuple[Ring, ...], tuple[float, float]]:
    """Return a pocket's outline in an upright view, and where its peak lies, both shifted."""
    if air is None:
        return (), (0.0, 0.0)
    own, begin = air.cells(pocket)
    low, cell = air.room.low_mm, air.room.cell_mm
    axis = 0 if view == "front" else 1
    mask = np.asarray(own.any(axis=2 if view == "front" else 1)).T
    corner = np.array([low[axis] + begin[1 + axis] * cell + shift[0], low[2] + begin[0] * cell + shift[1]])
    return rings_of(mask, corner, cell), (pocket.peak_mm[axis] + shift[0], pocket.peak_mm[2] + shift[1])


def origin_mark(on: ViewPlacement) -> str:
    """Draw where points are measured from: a cross at the origin of a view."""
    x, y = on.to_px(0.0, 0.0)
    return f'<path d="M{x - 6:.1f},{y:.1f} h12 M{x:.1f},{y - 6:.1f} v12" class="d-origin"/>'


def number_column(
    tags: Sequence[tuple[tuple[float, float], str]], x: float, top: float, foot: float
) -> tuple[str, float]:
    """Draw numbers in a column right of the drawing, each connected to its pocket, and return how far right it goes."""
    if not tags:
        return "", x
    made = []
    for ((at_x, at_y), label), y in zip(
        tags, spread([at[1] for at, _ in tags], 2 * TAG_PX + 3, top + TAG_PX, max(foot, top + TAG_PX)), strict=True
    ):
        made.append(line(at_x, at_y, x - TAG_PX, y, "d-leader") + tag(x, y, label))
    return "".join(made), x + TAG_PX + 6


def tag(x: float, y: float, label: str, kind: str = "d-tag") -> str:
    """Draw a number in a circle."""
    return f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{TAG_PX}" class="{kind}"/>' + text(x, y, label, "middle")


def with_scale(drawing: Drawing, on: ViewPlacement, view: str) -> Drawing:
    """Return the drawing with its scale and origin, for what can be dragged on it."""
    attributes = (
        f'data-view="{view}" data-px="{on.px:.5f}" data-left="{on.left:.2f}" data-foot="{on.foot:.2f}" '
        f'data-across="{on.low[0]:.3f}" data-up="{on.low[1]:.3f}" '
    )
    return Drawing(
        svg=drawing.svg.replace("<svg ", f"<svg {attributes}", 1),
        width_px=drawing.width_px,
        height_px=drawing.height_px,
    )
