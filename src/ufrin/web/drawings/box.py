"""The box in plan, front and side: one thing, one scale, with its dimensions, fill line and lift."""

from collections.abc import Callable
from dataclasses import dataclass

from ufrin.core.boxes import Box, Outline
from ufrin.web.drawings.ink import LINE_PX, across, area, beside, chain, disc, line, patterns, sheet, short_across, text, width_px

ROW_PX, WIDEST_PX, HIGHEST_PX = 440.0, 250.0, 170.0  # front and side in a row, one view, and its height
TOP_PX, BOARD_PX = 10.0, 9.0
LEFT_PX = {"front": 40.0, "side": 12.0, "plan": 40.0}
LEAST_NUMBER_PX = 18.0

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
    svg: str


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
        View(key="front", title="Front", svg=front),
        View(key="side", title="Side", svg=side),
        View(key="plan", title="Plan", svg=_plan(scene, said)),
    )


def _upright(scene: BoxScene, said: Said, key: str, inside_mm: float, size_mm: float, number: int) -> str:
    px, box, front = scene.px_per_mm, scene.box, key == "front"
    wall = max(3.0, scene.wall_mm * px)
    edge = LEFT_PX[key]
    left, right = edge + wall, edge + wall + inside_mm * px
    foot = TOP_PX + LINE_PX + box.rim_mm * px
    fill, rim, bed = foot - box.fill_mm * px, foot - box.rim_mm * px, foot - scene.bed_mm * px
    base_mm = scene.bed_mm - scene.sunk_mm + scene.under_mm
    top, base = foot - (base_mm + scene.height_mm) * px, foot - base_mm * px
    made = [patterns(key), area(key, "board", edge - 8, foot, right - left + 2 * wall + 16, BOARD_PX)]
    made.append(area(key, "rubber", left, fill, right - left, bed - fill) + area(key, "bed", left, bed, right - left, foot - bed))
    spots = scene.spots_mm(size_mm, number, inside_mm)
    made += [area(key, "master", left + spot * px, top, size_mm * px, base - top) for spot in spots]
    made += [area(key, "board", x, rim, wall, foot - rim) for x in (left - wall, right)]
    made.append(_fill_line(left, right, fill, f"fill {said(box.fill_mm, 'length')}", rim))
    if front and scene.lift:
        made.append(_lift(left + (spots[0] + size_mm / 2) * px, top, base))
    across_px = right + wall + 8
    shorts = [(left, left + spots[0] * px, f"side {said(spots[0], 'length')}")]
    if scene.box.columns > 1:
        # the gap stands above the side, whose extension lines then pass left of every word
        shorts.insert(0, (left + (spots[0] + size_mm) * px, left + (spots[0] + size_mm + scene.gap_mm) * px, f"gap {said(scene.gap_mm, 'length')}"))
    y = foot + BOARD_PX + 12 + len(shorts) * (LINE_PX + 3)  # the same in front and side, so that both stand on one line
    if front:
        made.append(beside(edge - 16, rim, foot, f"wall {said(box.rim_mm, 'length')}", edge - 2))
        for step, (x1, x2, words) in enumerate(shorts):
            made.append(short_across(x1, x2, foot + BOARD_PX + 12 + step * (LINE_PX + 3), words, foot + BOARD_PX + 1))
            across_px = max(across_px, x2 + 9 + width_px(words))
    inside = f"inside {said(inside_mm, 'length')}"
    # its extension lines begin under the texts above them, so that no line crosses a word
    made.append(across(left, right, y, inside, y - 8))
    height = y + 26
    across_px = max(across_px, (left + right) / 2 + width_px(inside) / 2 + 2, width_px(inside) + 4)
    if front:
        steps = [
            (fill, top, f"over {said(scene.over_mm, 'length')}"),
            (top, min(base, bed), f"master {said(scene.height_mm - scene.sunk_mm, 'length')}"),
            (base, bed, f"under {said(scene.under_mm, 'length')}"),
            (bed, foot, f"bed {said(scene.bed_mm, 'length')}"),
        ]
        x = right + wall + 16
        made.append(chain(x, steps, right + wall + 2, TOP_PX + LINE_PX, max(foot + BOARD_PX, TOP_PX + LINE_PX * 5)))
        across_px = max(across_px, x + 14 + max(width_px(words) for _, _, words in steps))
    label = f"{key.capitalize()} view of the box: inside {said(inside_mm, 'length')}, fill line at {said(box.fill_mm, 'length')}"
    return sheet(across_px, height, label + (f", {scene.lift}" if front and scene.lift else ""), "".join(made))


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


def _plan(scene: BoxScene, said: Said) -> str:
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
