"""The box in plan, front and side: one thing, one scale, with its dimensions, fill line and lift."""

from collections.abc import Callable
from dataclasses import dataclass

from ufrin.core.box.layouts import Place
from ufrin.core.mesh.line_work import ViewKey
from ufrin.language import Text
from ufrin.web.drawings.box_scene import BoxScene, QuantityText, View
from ufrin.web.drawings.master_lines import draw, plain, shifted
from ufrin.web.drawings.svg_marks import (
    LINE_PX,
    Drawing,
    area,
    dimension_chain,
    disc,
    horizontal_dimension,
    line,
    path,
    patterns,
    sheet,
    short_horizontal_dimension,
    text,
    turned_foot,
    vertical_dimension,
    width_px,
)
from ufrin.web.drawings.view_layout import TITLES

TOP_PX, BOARD_PX = 10.0, 9.0
LEFT_PX: dict[ViewKey, float] = {"front": 40.0, "side": 12.0, "plan": 40.0}
LEAST_NUMBER_PX, LEAST_STEP_PX, ROW_GAP_PX = 18.0, 0.01, LINE_PX + 3


def views(scene: BoxScene, show_quantity: QuantityText) -> tuple[View, ...]:
    """Draw the box.

    Parameters
    ----------
    scene : BoxScene
        What to show.
    show_quantity : callable of (value, kind) to str
        Shows a quantity in the workshop's units.

    Returns
    -------
    tuple of View
        Front, side and plan.
    """
    return (
        View(key="front", title=Text("Front"), drawing=_upright(scene, show_quantity, "front")),
        View(key="side", title=Text("Side"), drawing=_upright(scene, show_quantity, "side")),
        View(key="plan", title=Text("Top"), drawing=_plan(scene, show_quantity)),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class _Frame:
    """The layout of an upright view on its sheet, in px; heights count downwards."""

    key: ViewKey
    inside_mm: float
    px: float
    edge: float
    left: float
    right: float
    wall: float
    foot: float

    @property
    def middle(self) -> float:
        """Of the inside."""
        return (self.left + self.right) / 2

    def y(self, height_mm: float) -> float:
        """Return the position of a height above the board."""
        return self.foot - height_mm * self.px


def _frame(scene: BoxScene, key: ViewKey) -> _Frame:
    px, view = scene.px_per_mm, 0 if key == "front" else 1
    edge, inside_mm = LEFT_PX[key] + scene.beyond_mm[view] * px, scene.inside_mm[view]
    wall = max(3.0, scene.wall_mm * px)
    high_mm = max(scene.box.rim_mm, scene.box.fill_mm)
    return _Frame(
        key=key,
        inside_mm=inside_mm,
        px=px,
        edge=edge,
        wall=wall,
        left=edge + wall,
        right=edge + wall + inside_mm * px,
        foot=TOP_PX + LINE_PX + high_mm * px,
    )


def _upright(scene: BoxScene, show_quantity: QuantityText, key: ViewKey) -> Drawing:
    at, front, box = _frame(scene, key), key == "front", scene.box
    across_mm = box.inside_mm[0 if front else 1]
    filled, walled, inside = (show_quantity(size, "length") for size in (box.fill_mm, box.rim_mm, across_mm))
    filled, walled = Text("fill {size}", size=filled), Text("wall {size}", size=walled)
    inside = Text("inside {size}", size=inside)
    half = scene.half_at(box.fill_mm, at.inside_mm) * at.px
    # a level above the rim of a wide pot may begin left of the sheet, or under the height of the wall in front
    filled_x = max(at.middle - half + 6, at.edge - 20 if front else 0.0)
    filled_y = min(at.y(box.rim_mm), at.y(box.fill_mm) - 8) - LINE_PX * 0.6
    made = [
        patterns(key),
        _body(scene, at),
        _fill_line(at.middle - half, at.middle + half, at.y(box.fill_mm), filled, (filled_x, filled_y)),
    ]
    widest = [
        at.right + at.wall + 8 + scene.beyond_mm[0 if front else 1] * at.px,
        filled_x + 2 + width_px(filled),
        at.middle + width_px(inside) / 2 + 2,
        width_px(inside) + 4,
    ]
    steps, shorts = _steps(scene, at, show_quantity), _shorts(scene, at, show_quantity)
    # under the board, and under the chain of heights and the turned text at the wall where those reach lower than a
    # low box; the same in front and side
    wall_foot = turned_foot(at.y(box.rim_mm), at.foot, walled) + 2
    chain_x, chain_low = at.right + at.wall + 16, TOP_PX + LINE_PX
    if filled_x + width_px(filled) > chain_x + 12:  # the label at the fill line reaches over the chain
        chain_low = max(chain_low, filled_y + LINE_PX)
    y = max(at.foot + BOARD_PX + 12, chain_low + LINE_PX * len(steps), wall_foot + LINE_PX / 2 if shorts else 0.0)
    if front:
        if scene.lift:
            made.append(
                _lift(
                    _places(scene, at)[0][0],
                    at.y(scene.plan.foot_mm + scene.plan.masters[0].height_mm),
                    at.y(scene.plan.foot_mm),
                )
            )
        made.append(vertical_dimension(at.edge - 16, at.y(box.rim_mm), at.foot, walled, at.edge - 2))
        made.append(dimension_chain(chain_x, steps, chain_x - 14, chain_low, at.foot))
        made += [
            short_horizontal_dimension(x1, x2, y + row * ROW_GAP_PX, words, at.foot + BOARD_PX + 1)
            for row, (x1, x2, words) in enumerate(shorts)
        ]
        widest += [at.right + at.wall + 30 + width_px(words) for _, _, words in steps] + [
            x2 + 9 + width_px(words) for _, x2, words in shorts
        ]
    y = max(y + len(shorts) * ROW_GAP_PX, wall_foot)  # its extension lines begin under the texts above
    made.append(horizontal_dimension(at.middle - half, at.middle + half, y, inside, y - 8))
    label = Text(
        "{key} view of the box: {inside}, fill line at {fill_mm}",
        key=TITLES[key],
        inside=inside,
        fill_mm=show_quantity(box.fill_mm, "length"),
    )
    return sheet(
        max(widest),
        y + 26,
        Text("{view}, {lift}", view=label, lift=scene.lift) if front and scene.lift else label,
        "".join(made),
    )


def _body(scene: BoxScene, at: _Frame) -> str:
    box, plan = scene.box, scene.plan

    def band(low_mm: float, high_mm: float, out_px: float = 0.0) -> list[tuple[float, float]]:
        low, high = (scene.half_at(height, at.inside_mm) * at.px + out_px for height in (low_mm, high_mm))
        return [
            (at.middle - low, at.y(low_mm)),
            (at.middle + low, at.y(low_mm)),
            (at.middle + high, at.y(high_mm)),
            (at.middle - high, at.y(high_mm)),
        ]

    made = [area(at.key, "board", at.edge - 8, at.foot, at.right - at.left + 2 * at.wall + 16, BOARD_PX)]
    made.append(path(at.key, "board", [band(0, box.rim_mm, at.wall), band(0, box.rim_mm)]))
    made.append(path(at.key, "rubber", [band(plan.bed_mm, min(box.fill_mm, max(box.rim_mm, box.fill_mm)))]))
    for middle, place in sorted(
        _places(scene, at), key=lambda pair: -pair[1].y_mm if at.key == "front" else pair[1].x_mm
    ):
        made.append(_standing(scene, at, middle, place))
    if plan.bed_mm:
        made.append(path(at.key, "bed", [band(0, plan.bed_mm)]))
        # what is sunk in the bed is behind it: its outline is dashed
        made += (
            [_standing(scene, at, middle, place, sunk=True) for middle, place in _places(scene, at)]
            if plan.sunk_mm
            else []
        )
    return "".join(made)


def _places(scene: BoxScene, at: _Frame) -> list[tuple[float, Place]]:
    # the middle of each master in this view; those right behind each other are drawn once
    front = at.key == "front"
    off = scene.middle_mm[0 if front else 1]
    found: dict[tuple[int, bool, float], tuple[float, Place]] = {}
    for place in scene.box.layout.places:
        where = (place.x_mm if front else place.y_mm) - off
        found.setdefault((place.kind, place.turned, round(where, 2)), (at.middle + where * at.px, place))
    return list(found.values())


def _standing(scene: BoxScene, at: _Frame, middle: float, place: Place, *, sunk: bool = False) -> str:
    master, foot_mm = scene.master(place), scene.plan.foot_mm
    line_work = (
        master.form.seen(at.key, turned=place.turned) if master.form else plain(master, at.key, turned=place.turned)
    )

    def to_px(x: float, z: float) -> tuple[float, float]:
        return middle + x * at.px, at.y(foot_mm + z)

    if sunk:
        rings = [[to_px(x, min(z, scene.plan.sunk_mm)) for x, z in ring] for ring in line_work.rings[:1]]
        return "".join(
            f'<path d="M{" L".join(f"{x:.1f},{y:.1f}" for x, y in ring)} z" class="d-hidden"/>' for ring in rings
        )
    made = draw(at.key, line_work, to_px)
    if scene.plan.kind == "tray" and scene.plan.lip_mm:
        xs = [x for ring in line_work.rings for x, _ in ring]
        made = (
            area(
                at.key,
                "master",
                middle + min(xs) * at.px,
                at.y(foot_mm),
                (max(xs) - min(xs)) * at.px,
                scene.plan.lip_mm * at.px,
            )
            + made
        )
    return made


def _steps(scene: BoxScene, at: _Frame, show_quantity: QuantityText) -> list[tuple[float, float, str]]:
    """Heights from the fill line down: top, foot and text of each that is more than 0."""
    plan, top_mm = scene.plan, scene.plan.foot_mm + scene.plan.height_mm
    lip_mm = plan.lip_mm if plan.kind == "tray" else 0.0
    under_mm = lip_mm + plan.under_mm
    over, master, under, bed = (
        show_quantity(size, "length") for size in (plan.over_mm, plan.height_mm - plan.sunk_mm, under_mm, plan.bed_mm)
    )
    steps = [
        (top_mm, scene.box.fill_mm, Text("over {size}", size=over)),
        (max(plan.foot_mm, plan.bed_mm), top_mm, Text("master {size}", size=master)),
        (plan.bed_mm, plan.foot_mm, Text("lip {size}", size=under) if lip_mm else Text("under {size}", size=under)),
        (0.0, plan.bed_mm, Text("bed {size}", size=bed)),
    ]
    return [(at.y(high), at.y(low), words) for low, high, words in steps if (high - low) * at.px > LEAST_STEP_PX]


def _shorts(scene: BoxScene, at: _Frame, show_quantity: QuantityText) -> list[tuple[float, float, str]]:
    """Short widths: the gap above the side, whose extension lines then pass left of every text."""
    px, box = at.px, scene.box
    spans = sorted(
        (middle - _across(scene, place) / 2 * px, middle + _across(scene, place) / 2 * px)
        for middle, place in _places(scene, at)
    )
    wall, edge = at.middle - scene.half_at(scene.plan.foot_mm, at.inside_mm) * px, spans[0][0]
    if scene.tightest is not None:  # in a pot the nearest point of the wall is marked
        clear_mm, height_mm = scene.tightest
        wall = at.middle - scene.half_at(height_mm, at.inside_mm) * px
        edge = wall + clear_mm * px
    shorts: list[tuple[float, float, str]] = []
    if edge - wall > LEAST_STEP_PX:
        shorts.append((wall, edge, Text("side {edge}", edge=show_quantity((edge - wall) / px, "length"))))
    gaps = [
        (left[1], right[0]) for left, right in zip(spans, spans[1:], strict=False) if right[0] - left[1] > LEAST_STEP_PX
    ]
    if gaps and box.columns > 1:
        shorts.insert(0, (*gaps[0], Text("gap {gaps}", gaps=show_quantity((gaps[0][1] - gaps[0][0]) / px, "length"))))
    return shorts


def _across(scene: BoxScene, place: Place) -> float:
    master = scene.master(place)
    return master.width_mm if place.turned else master.length_mm


def _fill_line(left: float, right: float, y: float, label: str, label_at: tuple[float, float]) -> str:
    # the level mark: a triangle on the line with two strokes under it
    x = left + 12
    mark = f'<path d="M{x - 5:.2f},{y - 8:.2f} h10 l-5,8 z" class="d-level"/>'
    strokes = line(x - 4, y + 3, x + 4, y + 3, "d-fill") + line(x - 2, y + 5.5, x + 2, y + 5.5, "d-fill")
    text_x, text_y = label_at
    return (
        line(left, y, right, y, "d-fill")
        + mark
        + strokes
        + line(x, y - 8, x, text_y + LINE_PX * 0.5, "d-thin")
        + text(text_x, text_y, label, kind="d-text d-strong")
    )


def _lift(x: float, top: float, base: float) -> str:
    tail, head = base - (base - top) * 0.15, top + (base - top) * 0.15
    return (
        line(x, tail, x, head, "d-lift")
        + f'<path d="M{x - 6:.2f},{head + 9:.2f} L{x:.2f},{head:.2f} L{x + 6:.2f},{head + 9:.2f}" class="d-lift"/>'
    )


def _plan(scene: BoxScene, show_quantity: QuantityText) -> Drawing:
    px, (length_mm, width_mm), box = scene.px_per_mm, scene.inside_mm, scene.box
    wall = max(3.0, scene.wall_mm * px)
    beyond_x, beyond_y = (beyond * px for beyond in scene.beyond_mm)
    round_mm = box.diameter_mm
    words = ("Ø " if round_mm else "") + show_quantity(round_mm or length_mm, "length")
    # the text of the length is wider than a very narrow box: the upright dimension moves out of its way
    narrow = 0.0 if round_mm else max(0.0, width_px(words) / 2 - wall - length_mm * px / 2 - 6)
    edge = LEFT_PX["plan"] + beyond_x + narrow
    left, top = edge + wall, 8.0 + wall + beyond_y
    right, foot = left + length_mm * px, top + width_mm * px
    middle_x, middle_y = (left + right) / 2, (top + foot) / 2
    off_x, off_y = scene.middle_mm

    def to_px(x: float, y: float) -> tuple[float, float]:
        return middle_x + (x - off_x) * px, middle_y - (y - off_y) * px

    made = [patterns("plan"), _inside(scene, to_px, (left, top, right, foot), wall)]
    numbered = len(box.layout.places) > 1
    for number, place in enumerate(box.layout.places, 1):
        master = scene.master(place)
        outline = (
            master.form.seen("plan", turned=place.turned) if master.form else plain(master, "plan", turned=place.turned)
        )
        made.append(draw("plan", outline, shifted(to_px, place.x_mm, place.y_mm)))
        if numbered and min(master.length_mm, master.width_mm) * px >= LEAST_NUMBER_PX:
            x, y = to_px(place.x_mm, place.y_mm)
            made.append(
                f'<circle cx="{x:.2f}" cy="{y:.2f}" r="8.5" class="d-tag"/>' + text(x, y, str(number), "middle")
            )
    half, below = (round_mm or length_mm) * px / 2, foot + wall + beyond_y
    made.append(horizontal_dimension(middle_x - half, middle_x + half, below + 10, words, foot + wall + 1))
    low = below + 10 + 26
    if round_mm is None:
        made.append(vertical_dimension(edge - 16 - narrow, top, foot, show_quantity(width_mm, "length"), edge - 2))
        low = max(low, turned_foot(top, foot, show_quantity(width_mm, "length")) + 4)
    label = Text("Plan of the box: {places} in it", places=len(box.layout.places))
    return sheet(max(right + wall + beyond_x + 8, middle_x + width_px(words) / 2 + 10), low, label, "".join(made))


def _inside(
    scene: BoxScene,
    to_px: Callable[[float, float], tuple[float, float]],
    frame: tuple[float, float, float, float],
    wall: float,
) -> str:
    left, top, right, foot = frame
    box, pot = scene.box, scene.plan.the_pot
    if box.outline is not None:
        rings = [
            [to_px(x, y) for x, y in shape.exterior.coords]
            for shape in (box.outline.buffer(wall / scene.px_per_mm), box.outline)
        ]
        return path("plan", "board", rings[:1]) + path("plan", "rubber", rings[1:])
    if box.diameter_mm is None:
        return area("plan", "board", left - wall, top - wall, right - left + 2 * wall, foot - top + 2 * wall) + area(
            "plan", "rubber", left, top, right - left, foot - top
        )
    x, y = (left + right) / 2, (top + foot) / 2
    rings_px = disc("plan", "board", x, y, (right - left) / 2 + wall) + disc(
        "plan", "rubber", x, y, box.diameter_mm / 2 * scene.px_per_mm
    )
    if pot:
        rings_px += (
            f'<circle cx="{x:.2f}" cy="{y:.2f}" r="{pot.diameter_mm(0) / 2 * scene.px_per_mm:.2f}" class="d-hidden"/>'
        )
    return rings_px
