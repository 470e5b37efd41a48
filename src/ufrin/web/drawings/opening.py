"""How a mould opens, drawn in its box.

The drawing has the halves or the slit, keys, the clay bed in contour lines, and the air that the rubber leaves.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from math import ceil, floor

import numpy as np
import shapely
from contourpy import contour_generator

from ufrin.core.job.opening_station import Opening
from ufrin.core.master.master_form import Form
from ufrin.core.mesh.cell_rings import Ring, polygon_rings
from ufrin.core.mesh.line_work import ViewKey
from ufrin.core.mesh.triangles import Floats
from ufrin.core.opening.slit import TOWARDS
from ufrin.core.opening.split_line import Seam
from ufrin.language import Text
from ufrin.web.drawings.box_scene import View
from ufrin.web.drawings.master_lines import draw, shifted
from ufrin.web.drawings.svg_marks import (
    LINE_PX,
    Drawing,
    horizontal_dimension,
    line,
    path,
    patterns,
    sheet,
    spread,
    strokes,
    text,
    width_px,
)
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
    unhatched,
    with_scale,
)

CONTOURS = 7
QuantityText = Callable[[float, str], str]


@dataclass(frozen=True, slots=True, kw_only=True, eq=False)
class MouldScene:
    """What the views of the mould in its box show.

    Parameters
    ----------
    opening : Opening
        Worked out.
    form : Form
        The master's, as it stands.
    places : tuple of (Form, x, y, turned)
        Every master in the box, where it stands in plan.
    inside : Polygon
        The box in plan.
    foot_mm, fill_mm, floor_mm : float
        The masters' feet, the fill line and the lowest rubber over the board.
    locked : mapping of view to rings
        Rubber that the first master locks along the pull, as it stands, about the middle of its foot.
    """

    opening: Opening
    form: Form
    places: tuple[tuple[Form, float, float, bool], ...]
    inside: shapely.Polygon
    foot_mm: float
    fill_mm: float
    floor_mm: float = 0.0
    locked: Mapping[str, tuple[Ring, ...]] = field(default_factory=dict)

    @property
    def high_mm(self) -> float:
        """From the lowest rubber to the fill line."""
        return self.fill_mm - self.floor_mm


def mould_views(scene: MouldScene, show_quantity: QuantityText) -> tuple[View, ...]:
    """Draw the mould in its box.

    Parameters
    ----------
    scene : MouldScene
        What to show.
    show_quantity : callable of (value, kind) to str
        Shows a quantity in the workshop's units.

    Returns
    -------
    tuple of View
        Front, side and plan, to one scale.
    """
    west, south, east, north = scene.inside.bounds
    px = min(
        ROW_PX / (east - west + north - south),
        WIDEST_PX / (east - west),
        HIGHEST_PX / max(scene.high_mm, north - south),
    )
    return (
        View(key="mould-front", title=Text("Front"), drawing=_upright(scene, show_quantity, "front", px, (west, east))),
        View(key="mould-side", title=Text("Side"), drawing=_upright(scene, show_quantity, "side", px, (south, north))),
        View(key="mould-plan", title=Text("Top"), drawing=_plan(scene, show_quantity, px)),
    )


def _upright(
    scene: MouldScene, show_quantity: QuantityText, view: ViewKey, px: float, span: tuple[float, float]
) -> Drawing:
    key, opening = f"mould-{view}", scene.opening
    on = ViewPlacement(key=key, px=px, left=LEFT_PX, foot=TOP_PX + scene.high_mm * px, low=(span[0], scene.floor_mm))
    right = on.to_px(span[1], 0)[0]
    whole = [(span[0], scene.floor_mm), (span[1], scene.floor_mm), (span[1], scene.fill_mm), (span[0], scene.fill_mm)]
    made = [
        patterns(key),
        f'<g class="d-empty">{unhatched(on.rings([whole]))}</g>',
        liquid(on, [whole], "rubber", span, (scene.floor_mm, scene.fill_mm)),
    ]
    if opening.parting_surface is not None:
        made.append(path(key, "bed", on.rings([_under_surface(scene, view, span)])))
    for form, x, y, turned in scene.places:
        at = x if view == "front" else y
        made.append(draw(key, form.seen(view, turned=turned), shifted(on.to_px, at, scene.foot_mm)))
    made.append(_locked(scene, view, on))
    pockets = drawn_pockets(opening.under) if opening.parting_surface is None else ()
    if opening.parting_surface is not None:
        made += [_seam(on, seam, view) for seam in opening.parting_surface.seams]
        made += [_dome(on, view, key_.x_mm, key_.y_mm, key_.diameter_mm, opening) for key_ in opening.keys]
    elif opening.slit is not None and (opening.slit.side in {"front", "back"}) == (view == "front"):
        wave = opening.slit.wave(min(4.0, 0.04 * scene.fill_mm))
        made.append(strokes([[on.to_px(_first_place(scene, view) + x, scene.foot_mm + z) for x, z in wave]], "d-slit"))
    tags = []
    for number, pocket in enumerate(pockets, 1):
        rings, peak = projected(opening.under, pocket, view, (_first_place(scene, view), scene.foot_mm))
        made.append(path(key, "air", on.rings(rings), "d-air-edge"))
        tags.append((on.to_px(*peak), str(number)))
    marks, widest = number_column(tags, right + 20, TOP_PX, on.foot)
    made.append(marks)
    filled = Text("fill {fill_mm}", fill_mm=show_quantity(scene.fill_mm, "length"))
    x, y = on.to_px(span[0], scene.fill_mm)
    made.append(line(x, y, right, y, "d-fill") + text(x, y - LINE_PX * 0.7, filled, kind="d-text d-strong"))
    made.append(
        horizontal_dimension(
            x, right, on.foot + 12, Text("inside {span}", span=show_quantity(span[1] - span[0], "length")), on.foot + 2
        )
    )
    label = Text("{view} view of the mould in its box", view=TITLES[view])
    return sheet(max(right + 12, widest, x + width_px(filled) + 4), on.foot + 40, label, "".join(made))


def _locked(scene: MouldScene, view: ViewKey, on: ViewPlacement) -> str:
    rings = [ring for ring in scene.locked.get(view, ()) if len(ring) > 2]
    show_quantity = " ".join(
        "M"
        + " L".join(
            "{:.1f},{:.1f}".format(*on.to_px(x + _first_place(scene, view), z + scene.foot_mm)) for x, z in ring
        )
        + " z"
        for ring in rings
    )
    return f'<path d="{show_quantity}" fill-rule="evenodd" class="d-locked"/>' if show_quantity else ""


def _under_surface(scene: MouldScene, view: ViewKey, span: tuple[float, float]) -> list[tuple[float, float]]:
    # the clay bed cut through the middle of the box
    parted = scene.opening.parting_surface
    if parted is None:
        return []
    middle = scene.inside.centroid
    along = np.linspace(span[0], span[1], 90)
    where = (
        np.column_stack([along, np.full(90, middle.y)])
        if view == "front"
        else np.column_stack([np.full(90, middle.x), along])
    )
    heights = np.clip(parted.at(where), parted.floor_mm, parted.top_mm)
    return [
        (span[0], scene.floor_mm),
        *((float(a), float(h)) for a, h in zip(along, heights, strict=True)),
        (span[1], scene.floor_mm),
    ]


def _first_place(scene: MouldScene, view: ViewKey) -> float:
    _, x, y, _ = scene.places[0]
    return x if view == "front" else y


def _seam(on: ViewPlacement, seam: Seam, view: ViewKey) -> str:
    axis, facing = (0, seam.outward[:, 1] < 0) if view == "front" else (1, seam.outward[:, 0] > 0)
    points = np.column_stack([seam.points_mm[:, axis], seam.points_mm[:, 2]])
    made = []
    for seen, kind in ((facing, "d-seam"), (~facing, "d-seam d-behind")):
        runs, run = [], []
        for index in range(len(points) + 1):
            here = index % len(points)
            if seen[here] and index < len(points):
                run.append(on.to_px(*points[here]))
            elif run:
                runs.append(run)
                run = []
        runs += [run] if run else []
        made.append(strokes([one[:: max(1, len(one) // 120)] + one[-1:] for one in runs if len(one) > 1], kind))
    return "".join(reversed(made))


def _dome(on: ViewPlacement, view: ViewKey, x: float, y: float, diameter: float, opening: Opening) -> str:
    if opening.parting_surface is None:
        return ""
    height = float(opening.parting_surface.at(np.array([[x, y]]))[0])
    middle, level = on.to_px(x if view == "front" else y, height)
    radius = diameter / 2 * on.px
    return (
        f'<path d="M{middle - radius:.1f},{level:.1f} a{radius:.1f},{radius:.1f} 0 0 1 {2 * radius:.1f},0 z" '
        'class="d-key"/>'
    )


def _plan(scene: MouldScene, show_quantity: QuantityText, px: float) -> Drawing:
    key, opening = "mould-plan", scene.opening
    west, south, east, north = scene.inside.bounds
    on = ViewPlacement(key=key, px=px, left=LEFT_PX, foot=14 + (north - south) * px, low=(west, south))
    right, top = on.to_px(east, north)
    made = [
        patterns(key),
        path(key, "bed" if opening.parting_surface is not None else "rubber", on.rings(polygon_rings(scene.inside))),
    ]
    levels = _contours(scene, on, show_quantity) if opening.parting_surface is not None else ("", ())
    made.append(levels[0])
    for form, x, y, turned in scene.places:
        made.append(draw(key, form.seen("plan", turned=turned), shifted(on.to_px, x, y)))
    if opening.parting_surface is not None:
        made += [
            strokes([[on.to_px(x, y) for x, y, _ in np.vstack([seam.points_mm, seam.points_mm[:1]])[::2]]], "d-seam")
            for seam in opening.parting_surface.seams
        ]
        made.append(origin_mark(on))
        for number, one in enumerate(opening.keys, 1):
            x, y = on.to_px(one.x_mm, one.y_mm)
            radius = max(one.diameter_mm / 2 * px, TAG_PX)
            made.append(
                f'<g class="d-holds" data-place="key" data-number="{number}"><circle cx="{x:.1f}" cy="{y:.1f}" '
                f'r="{radius:.1f}" class="d-key"/>'
                f"{text(x, y, str(number), 'middle')}</g>"
            )
    elif opening.slit is not None:
        made.append(_slit_in_plan(scene, on))
    if opening.shown is not None and float(np.hypot(*opening.shown[:2])) > 0.3:
        made.append(_eye(on, scene, opening.shown))
    widest = right + 12
    if levels[1]:
        marks, widest = _beside_words(levels[1], right + 16, top, on.foot)
        made.append(marks)
    made.append(horizontal_dimension(on.left, right, on.foot + 12, show_quantity(east - west, "length"), on.foot + 2))
    drawing = sheet(
        widest,
        on.foot + 40,
        Text("Plan of the mould, with the height of the clay bed as contour lines")
        if opening.parting_surface
        else Text("Plan of the mould"),
        "".join(made),
    )
    return with_scale(drawing, on, "plan")


def _contours(
    scene: MouldScene, on: ViewPlacement, show_quantity: QuantityText
) -> tuple[str, tuple[tuple[float, float, str], ...]]:
    parted = scene.opening.parting_surface
    if parted is None:
        return "", ()
    inside = parted.inside
    heights = np.where(inside, parted.height_mm, np.nan)
    low, high = float(np.nanmin(heights)), float(np.nanmax(heights))
    step = _round_step((high - low) / CONTOURS)
    nx, ny = heights.shape
    xs, ys = (parted.low_mm[axis] + (np.arange(size) + 0.5) * parted.cell_mm for axis, size in ((0, nx), (1, ny)))
    if high - low < 0.4:
        x, y = on.to_px(scene.inside.bounds[2], scene.inside.bounds[3])
        return "", ((x, y + 8, Text("clay level at {low}", low=show_quantity(low - parted.floor_mm, "length"))),)
    lines = contour_generator(x=xs, y=ys, z=np.ma.masked_invalid(heights.T))
    made, words = [], []
    for level in np.arange(ceil(low / step), floor(high / step) + 1) * step:
        runs = [np.asarray(run, dtype=float) for run in lines.lines(float(level)) or () if len(run) > 3]
        made.append(strokes([[on.to_px(float(x), float(y)) for x, y in run[::2]] for run in runs], "d-contour"))
        ends = [on.to_px(float(run[index][0]), float(run[index][1])) for run in runs for index in (0, -1)]
        if ends:  # the label is where the line leaves the box nearest to the right
            x, y = max(ends)
            words.append((x, y, show_quantity(float(level) - parted.floor_mm, "length")))
    return "".join(made), tuple(words)


def _round_step(step: float) -> float:
    for one in (0.5, 1, 2, 5, 10, 20, 50, 100):
        if step <= one:
            return one
    return 200.0


def _beside_words(words: Sequence[tuple[float, float, str]], x: float, top: float, foot: float) -> tuple[str, float]:
    made, widest = [], x
    for (at_x, at_y, show_quantity), y in zip(
        words, spread([at for _, at, _ in words], LINE_PX, top + 4, max(foot, top + 4)), strict=True
    ):
        made.append(line(at_x, at_y, x - 3, y, "d-leader") + text(x, y, show_quantity))
        widest = max(widest, x + width_px(show_quantity) + 4)
    return "".join(made), widest


def _slit_in_plan(scene: MouldScene, on: ViewPlacement) -> str:
    slit = scene.opening.slit
    if slit is None:
        return ""
    _, x, y, _ = scene.places[0]
    dx, dy = TOWARDS[slit.side]
    reach = 2 * max(scene.inside.bounds[2] - scene.inside.bounds[0], scene.inside.bounds[3] - scene.inside.bounds[1])
    way = shapely.LineString([(x, y), (x + dx * reach, y + dy * reach)])
    cut = way.intersection(scene.inside).difference(shapely.affinity.translate(scene.form.shadow, x, y))
    return strokes(
        [
            [on.to_px(px, py) for px, py in part.coords]
            for part in shapely.get_parts(cut)
            if part.geom_type == "LineString"
        ],
        "d-slit",
    )


def _eye(on: ViewPlacement, scene: MouldScene, shown: Floats) -> str:
    # an arrow from the side that the show face looks to
    middle = scene.inside.centroid
    way = shown[:2] / float(np.hypot(*shown[:2]))
    edge = shapely.LineString([(middle.x, middle.y), (middle.x + way[0] * 1e4, middle.y + way[1] * 1e4)]).intersection(
        scene.inside.exterior
    )
    if edge.is_empty:
        return ""
    tip = np.array([shapely.get_coordinates(edge)[0]])[0]
    x, y = on.to_px(*tip)
    dx, dy = float(way[0]), -float(way[1])
    return (
        f'<path d="M{x + 12 * dx - 5 * dy:.1f},{y + 12 * dy + 5 * dx:.1f} L{x + 2 * dx:.1f},{y + 2 * dy:.1f} '
        f"L{x + 12 * dx + 5 * dy:.1f},{y + 12 * dy - 5 * dx:.1f} "
        'z" class="d-show"/>'
    )
