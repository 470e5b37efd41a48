"""The box in plan, front and side: one thing, one scale, with its dimensions, fill line and lift."""

from collections.abc import Callable
from dataclasses import dataclass

from ufrin.core.boxes import Box, Outline
from ufrin.web.drawings.ink import LINE_PX, Drawing, across, area, beside, chain, disc, line, patterns, sheet, short_across, text, width_px

ROW_PX, WIDEST_PX, HIGHEST_PX = 440.0, 250.0, 170.0  # front and side in a row, one view, and its height
TOP_PX, BOARD_PX = 10.0, 9.0
LEFT_PX = {"front": 40.0, "side": 12.0, "plan": 40.0}
LEAST_NUMBER_PX, LEAST_STEP_PX, ROW_GAP_PX = 18.0, 0.01, LINE_PX + 3

Said = Callable[[float, str], str]


@dataclass(frozen=True, slots=True, kw_only=True)
class BoxScene:
    """What the three views show.

    Parameters
    ----------
    box : Box
        As worked out.
    length_mm, width_mm, height_mm : float
        Of one master.
    outline : "rectangle" or "round"
        Of the master in plan.
    count : int
        Masters in the box.
    side_mm, over_mm, under_mm, gap_mm, bed_mm, sunk_mm, wall_mm : float
        Clearances, bed and walls.
    lift : str
        What lifts the master, said; empty when nothing does.
    """

    box: Box
    length_mm: float
    width_mm: float
    height_mm: float
    outline: Outline
    count: int
    side_mm: float
    over_mm: float
    under_mm: float
    gap_mm: float
    bed_mm: float
    sunk_mm: float
    wall_mm: float
    lift: str = ""

    @property
    def inside_mm(self) -> tuple[float, float]:
        """Inside length and width; the diameter twice for a round box."""
        if self.box.diameter_mm is not None:
            return self.box.diameter_mm, self.box.diameter_mm
        return self.box.length_mm or 0.0, self.box.width_mm or 0.0

    @property
    def px_per_mm(self) -> float:
        """One scale for all three views."""
        length, width = (inside + 2 * self.wall_mm for inside in self.inside_mm)
        return min(ROW_PX / (length + width), WIDEST_PX / length, HIGHEST_PX / max(self.box.rim_mm, width))

    def spots_mm(self, size_mm: float, number: int, inside_mm: float) -> list[float]:
        """Give where the masters of a row begin, from the inside of the wall: the gang stands in the middle."""
        run = number * size_mm + (number - 1) * self.gap_mm
        return [(inside_mm - run) / 2 + step * (size_mm + self.gap_mm) for step in range(number)]


@dataclass(frozen=True, slots=True, kw_only=True)
class View:
    """One view: its key, its title, and the drawing."""

    key: str
    title: str
    drawing: Drawing

    @property
    def svg(self) -> str:
        """The drawing alone, at its natural size."""
        return self.drawing.svg


def views(scene: BoxScene, said: Said) -> tuple[View, ...]:
    """Draw the box.

    Parameters
    ----------
    scene : BoxScene
        What to show.
    said : callable of (value, kind) to str
        Says a quantity in the workshop's units.

    Returns
    -------
    tuple of View
        Front, side and plan.
    """
    front = _upright(scene, said, "front", scene.inside_mm[0], scene.length_mm, scene.box.columns)
    side = _upright(scene, said, "side", scene.inside_mm[1], scene.width_mm, scene.box.rows)
    return (
        View(key="front", title="Front", drawing=front),
        View(key="side", title="Side", drawing=side),
        View(key="plan", title="Plan", drawing=_plan(scene, said)),
    )


@dataclass(frozen=True, slots=True, kw_only=True)
class _Frame:
    """Where an upright view stands on its sheet, in px; heights count downwards."""

    key: str
    inside_mm: float
    size_mm: float
    spots_mm: list[float]
    edge: float
    left: float
    right: float
    wall: float
    rim: float
    fill: float
    top: float
    base: float
    bed: float
    foot: float


def _frame(scene: BoxScene, key: str, inside_mm: float, size_mm: float, number: int) -> _Frame:
    px, edge = scene.px_per_mm, LEFT_PX[key]
    wall = max(3.0, scene.wall_mm * px)
    foot = TOP_PX + LINE_PX + scene.box.rim_mm * px
    base_mm = scene.bed_mm - scene.sunk_mm + scene.under_mm
    return _Frame(
        key=key, inside_mm=inside_mm, size_mm=size_mm, spots_mm=scene.spots_mm(size_mm, number, inside_mm), edge=edge, wall=wall,
        left=edge + wall, right=edge + wall + inside_mm * px, foot=foot, rim=foot - scene.box.rim_mm * px, fill=foot - scene.box.fill_mm * px,
        bed=foot - scene.bed_mm * px, base=foot - base_mm * px, top=foot - (base_mm + scene.height_mm) * px,
    )  # fmt: skip


def _upright(scene: BoxScene, said: Said, key: str, inside_mm: float, size_mm: float, number: int) -> Drawing:
    at, front = _frame(scene, key, inside_mm, size_mm, number), key == "front"
    filled, walled, inside = (
        f"{word} {said(size, 'length')}" for word, size in (("fill", scene.box.fill_mm), ("wall", scene.box.rim_mm), ("inside", inside_mm))
    )
    made = [patterns(key), _body(scene, at), _fill_line(at.left, at.right, at.fill, filled, at.rim)]
    widest = [at.right + at.wall + 8, at.left + 8 + width_px(filled), (at.left + at.right + width_px(inside)) / 2 + 2, width_px(inside) + 4]
    steps, shorts = _steps(scene, at, said), _shorts(scene, at, said)
    # under the board, and under the chain of heights where that runs lower than a low box; the same in front and side
    y = max(at.foot + BOARD_PX + 12, TOP_PX + LINE_PX * (len(steps) + 1))
    if front:
        if scene.lift:
            made.append(_lift(at.left + (at.spots_mm[0] + size_mm / 2) * scene.px_per_mm, at.top, at.base))
        made.append(beside(at.edge - 16, at.rim, at.foot, walled, at.edge - 2))
        made.append(chain(at.right + at.wall + 16, steps, at.right + at.wall + 2, TOP_PX + LINE_PX, at.foot))
        made += [short_across(x1, x2, y + row * ROW_GAP_PX, words, at.foot + BOARD_PX + 1) for row, (x1, x2, words) in enumerate(shorts)]
        widest += [at.right + at.wall + 30 + width_px(words) for _, _, words in steps] + [x2 + 9 + width_px(words) for _, x2, words in shorts]
    # below the turned text at the wall too, which may be longer than a low wall; its extension lines begin under the texts above
    y = max(y + len(shorts) * ROW_GAP_PX, width_px(walled) + 4)
    made.append(across(at.left, at.right, y, inside, y - 8))
    label = f"{key.capitalize()} view of the box: {inside}, fill line at {said(scene.box.fill_mm, 'length')}"
    return sheet(max(widest), y + 26, label + (f", {scene.lift}" if front and scene.lift else ""), "".join(made))


def _body(scene: BoxScene, at: _Frame) -> str:
    made = [area(at.key, "board", at.edge - 8, at.foot, at.right - at.left + 2 * at.wall + 16, BOARD_PX)]
    made += [area(at.key, "rubber", at.left, at.fill, at.right - at.left, at.bed - at.fill)]
    made += [area(at.key, "bed", at.left, at.bed, at.right - at.left, at.foot - at.bed)]
    px = scene.px_per_mm
    made += [area(at.key, "master", at.left + spot * px, at.top, at.size_mm * px, at.base - at.top) for spot in at.spots_mm]
    made += [area(at.key, "board", x, at.rim, at.wall, at.foot - at.rim) for x in (at.left - at.wall, at.right)]
    return "".join(made)


def _steps(scene: BoxScene, at: _Frame, said: Said) -> list[tuple[float, float, str]]:
    """Heights from the fill line down: top, foot and text of each that is not nothing."""
    steps = [
        (at.fill, at.top, "over", scene.over_mm),
        (at.top, min(at.base, at.bed), "master", scene.height_mm - scene.sunk_mm),
        (at.base, at.bed, "under", scene.under_mm),
        (at.bed, at.foot, "bed", scene.bed_mm),
    ]
    return [(top, foot, f"{word} {said(size, 'length')}") for top, foot, word, size in steps if foot - top > LEAST_STEP_PX]


def _shorts(scene: BoxScene, at: _Frame, said: Said) -> list[tuple[float, float, str]]:
    """Short widths: the gap above the side, whose extension lines then pass left of every word."""
    px, side = scene.px_per_mm, at.spots_mm[0]
    shorts = [(at.left, at.left + side * px, f"side {said(side, 'length')}")]
    if scene.box.columns > 1:
        begins = at.left + (side + at.size_mm) * px
        shorts.insert(0, (begins, begins + scene.gap_mm * px, f"gap {said(scene.gap_mm, 'length')}"))
    return shorts


def _fill_line(left: float, right: float, y: float, said: str, rim: float) -> str:
    # the level mark: a triangle standing on the line with two strokes under it
    x = left + 12
    mark = f'<path d="M{x - 5:.2f},{y - 8:.2f} h10 l-5,8 z" class="d-level"/>'
    strokes = line(x - 4, y + 3, x + 4, y + 3, "d-fill") + line(x - 2, y + 5.5, x + 2, y + 5.5, "d-fill")
    above = min(rim, y - 8) - LINE_PX * 0.6
    return (
        line(left, y, right, y, "d-fill")
        + mark
        + strokes
        + line(x, y - 8, x, above + LINE_PX * 0.5, "d-thin")
        + text(x - 6, above, said, kind="d-text d-strong")
    )


def _lift(x: float, top: float, base: float) -> str:
    tail, head = base - (base - top) * 0.15, top + (base - top) * 0.15
    return (
        line(x, tail, x, head, "d-lift") + f'<path d="M{x - 6:.2f},{head + 9:.2f} L{x:.2f},{head:.2f} L{x + 6:.2f},{head + 9:.2f}" class="d-lift"/>'
    )


def _plan(scene: BoxScene, said: Said) -> Drawing:
    px, (length_mm, width_mm) = scene.px_per_mm, scene.inside_mm
    wall = max(3.0, scene.wall_mm * px)
    edge = LEFT_PX["plan"]
    left, top = edge + wall, 8.0 + wall
    right, foot = left + length_mm * px, top + width_mm * px
    made = [patterns("plan")]
    if scene.box.diameter_mm is None:
        made += [area("plan", "board", left - wall, top - wall, right - left + 2 * wall, foot - top + 2 * wall)]
        made += [area("plan", "rubber", left, top, right - left, foot - top)]
    else:
        x, y, radius = (left + right) / 2, (top + foot) / 2, (right - left) / 2
        made += [disc("plan", "board", x, y, radius + wall), disc("plan", "rubber", x, y, radius)]
    along = scene.spots_mm(scene.length_mm, scene.box.columns, length_mm)
    down = scene.spots_mm(scene.width_mm, scene.box.rows, width_mm)
    numbered = scene.count > 1 and min(scene.length_mm, scene.width_mm) * px >= LEAST_NUMBER_PX
    for number in range(1, scene.count + 1):
        row, column = divmod(number - 1, scene.box.columns)
        made.append(_from_above(scene, left + along[column] * px, top + down[row] * px, str(number) if numbered else ""))
    made.append(across(left, right, foot + wall + 10, ("Ø " if scene.box.diameter_mm else "") + said(length_mm, "length"), foot + wall + 1))
    if scene.box.diameter_mm is None:
        made.append(beside(edge - 16, top, foot, said(width_mm, "length"), edge - 2))
    label = f"Plan of the box: {scene.count} in {scene.box.rows} by {scene.box.columns}"
    words = width_px(said(length_mm, "length")) + 20
    return sheet(max(right + wall + 8, (left + right + words) / 2), foot + wall + 10 + 26, label, "".join(made))


def _from_above(scene: BoxScene, x: float, y: float, number: str) -> str:
    px = scene.px_per_mm
    length, width = scene.length_mm * px, scene.width_mm * px
    if scene.outline == "round":
        made = disc("plan", "master", x + length / 2, y + width / 2, length / 2)
    else:
        made = area("plan", "master", x, y, length, width)
    if not number:
        return made
    return (
        made
        + f'<circle cx="{x + length / 2:.2f}" cy="{y + width / 2:.2f}" r="8.5" class="d-tag"/>'
        + text(x + length / 2, y + width / 2, number, "middle")
    )
