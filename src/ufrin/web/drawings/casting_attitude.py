"""The mould as it is held for casting, drawn: cavity, gate, vents, and the air that the cast leaves."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
import shapely

from ufrin.core.job.opening_station import Opening
from ufrin.core.master.form_cache import kept_by_form
from ufrin.core.master.master_form import Form
from ufrin.core.mesh.cell_rings import polygon_rings
from ufrin.core.mesh.line_work import LineWork, ViewKey, outline
from ufrin.core.mesh.triangles import Floats
from ufrin.core.opening.gates_and_vents import Riser
from ufrin.language import Text
from ufrin.web.drawings.box_scene import View
from ufrin.web.drawings.svg_marks import Drawing, horizontal_dimension, line, path, patterns, sheet, spread, strokes
from ufrin.web.drawings.view_layout import (
    HIGHEST_PX,
    LEFT_PX,
    ROW_PX,
    TAG_PX,
    TITLES,
    TOP_PX,
    WIDEST_PX,
    ViewPlacement,
    drawn_pockets,
    liquid,
    number_column,
    origin_mark,
    projected,
    tag,
    unhatched,
    with_scale,
)

QuantityText = Callable[[float, str], str]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class CastScene:
    """What the views of the mould as it is held for casting show.

    It has the opening, the form, and the corners of the box as it is held.
    """

    opening: Opening
    form: Form
    corners_mm: Floats


def cast_views(scene: CastScene, show_quantity: QuantityText) -> tuple[View, ...]:
    """Draw the mould as it is held while it is cast in.

    Parameters
    ----------
    scene : CastScene
        What to show.
    show_quantity : callable of (value, kind) to str
        Shows a quantity in the workshop's units.

    Returns
    -------
    tuple of View
        Front and side, to one scale; empty while there is no cavity.
    """
    if scene.opening.cast is None or scene.opening.cavity is None:
        return ()
    spans = np.ptp(scene.corners_mm, axis=0)
    px = min(ROW_PX / (spans[0] + spans[1]), WIDEST_PX / max(spans[0], spans[1]), HIGHEST_PX / spans[2])
    return tuple(
        View(key=f"cast-{view}", title=TITLES[view], drawing=_held(scene, view, float(px), show_quantity))
        for view in ("front", "side")
    )


def _held(scene: CastScene, view: ViewKey, px: float, show_quantity: QuantityText) -> Drawing:
    opening, axis = scene.opening, 0 if view == "front" else 1
    cast, key = opening.cast, f"cast-{view}"
    if cast is None:
        return sheet(1, 1, "", "")
    corners = scene.corners_mm[:, [axis, 2]]
    low, high = corners.min(axis=0), corners.max(axis=0)
    on = ViewPlacement(
        key=key, px=px, left=LEFT_PX, foot=TOP_PX + 14 + (high[1] - low[1]) * px, low=(float(low[0]), float(low[1]))
    )
    hull = shapely.convex_hull(shapely.multipoints(corners))
    seen = _line_work_held(scene.form, view, tuple(scene.opening.cast_turn.ravel().tolist()))
    z = [v for ring in seen.rings for _, v in ring]
    span = (float(low[0]), float(high[0]))
    right = on.to_px(float(high[0]), 0)[0]
    made = [patterns(key), path(key, "rubber", on.rings(polygon_rings(hull)))]
    made.append(f'<g class="d-empty">{unhatched(on.rings(seen.rings))}</g>')
    made.append(liquid(on, seen.rings, "cast", span, (min(z), max(z))))
    made.append(strokes(on.rings(seen.lines), "d-inner"))
    tags = []
    for number, pocket in enumerate(drawn_pockets(cast.air), 1):
        rings, peak = projected(cast.air, pocket, view, (0.0, 0.0))
        made.append(path(key, "air", on.rings(rings), "d-air-edge"))
        tags.append((on.to_px(*peak), chr(96 + number) if number <= 26 else str(number)))
    holes = [("gate", number, riser) for number, riser in enumerate(cast.gates, 1)] + [
        ("vent", number, riser) for number, riser in enumerate(cast.vents, 1)
    ]
    made += [*_risers(on, holes, axis, hull), origin_mark(on)]
    marks, widest = number_column(tags, right + 20, TOP_PX, on.foot)
    made.append(marks)
    across_mm = float(high[0] - low[0])
    made.append(horizontal_dimension(on.left, right, on.foot + 12, show_quantity(across_mm, "length"), on.foot + 2))
    label = Text(
        "{view} view of the mould as it is held for casting: {gates} gates, {vents} vents, {tags} pockets",
        view=TITLES[view],
        gates=len(cast.gates),
        vents=len(cast.vents),
        tags=len(tags),
    )
    return with_scale(sheet(max(right + 14, widest), on.foot + 40, label, "".join(made)), on, view)


@kept_by_form(48)
def _line_work_held(form: Form, view: ViewKey, turn: tuple[float, ...]) -> LineWork:
    return outline(form.drawn.moved(np.array(turn).reshape(3, 3)), view)


def _risers(on: ViewPlacement, holes: Sequence[tuple[str, int, Riser]], axis: int, hull: shapely.Geometry) -> list[str]:
    # each leads from the cavity out of the mould; its name is in a row over the drawing
    made, ends = [], []
    for _, _, riser in holes:
        at = (riser.at_mm[axis], riser.at_mm[2])
        way = riser.way or (0.0, 0.0, 1.0)
        out = shapely.LineString([at, (at[0] + way[axis] * 1e4, at[1] + way[2] * 1e4)]).intersection(hull)
        points = shapely.get_coordinates(out)
        far = points[np.argmax(np.linalg.norm(points - np.array(at), axis=1))] if len(points) else np.array(at)
        ends.append((on.to_px(*at), on.to_px(float(far[0]), float(far[1]))))
    placed = spread([end[1][0] for end in ends], 2 * TAG_PX + 4, TAG_PX + 2, 1e4) if ends else []
    for (kind, number, _), ((x, y), (far_x, far_y)), tag_x in zip(holes, ends, placed, strict=True):
        tag_y = TAG_PX + 3
        bore = "d-gate" if kind == "gate" else "d-vent"
        made.append(
            f"{line(x, y, far_x, far_y, bore)}{line(far_x, far_y, tag_x, tag_y + TAG_PX, 'd-leader')}"
            f'<g class="d-holds" data-place="{kind}" data-number="{number}"><circle cx="{x:.1f}" cy="{y:.1f}" '
            f'r="{TAG_PX * 0.6:.1f}" class="d-hole"/>'
            f"{tag(tag_x, tag_y, 'G' if kind == 'gate' else str(number), 'd-tag')}</g>"
        )
    return made
