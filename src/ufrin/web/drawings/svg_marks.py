"""SVG marks: the few shapes and texts that workshop drawings are made of.

Each substance has one class, with one colour and one hatch in ``static/drawing.css`` and here; the hatch identifies
it too, never colour alone.
"""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from markupsafe import escape

TEXT_PX = 12.5
LINE_PX = 15.0  # least distance between two lines of text
WIDE_PX = 0.62 * TEXT_PX  # the average width of a character, on the safe side, for figures and lower case

# substance -> strokes of its hatch in a tile of 8 x 8
HATCHES: dict[str, tuple[int, str]] = {
    "rubber": (8, "M-2,2 l4,-4 M0,8 l8,-8 M6,10 l4,-4"),
    "bed": (7, "M1.5,1.5 h0.01 M5,5 h0.01"),
    "board": (9, "M0,2.5 h6 M3,7 h6"),
    "master": (10, "M0,5 h10 M5,0 v10"),
    "cast": (9, "M0,0 l9,9 M-1,8 l2,2 M8,-1 l2,2"),
    "second-cast": (9, "M9,0 l-9,9 M1,-1 l-2,2 M10,8 l-2,2 M4.5,4.5 h0.01"),
    "foam": (9, "M3,2 a1.6,1.6 0 1 0 0.01,0 M7.4,6 a1,1 0 1 0 0.01,0"),
    "air": (7, "M3.5,2.2 a1.3,1.3 0 1 0 0.01,0"),
}


def patterns(prefix: str) -> str:
    """Define the hatches for one drawing.

    Parameters
    ----------
    prefix : str
        Keeps the ids of several drawings in one page apart.

    Returns
    -------
    str
        A ``defs`` element.
    """
    made = [
        f'<pattern id="{prefix}-{name}" width="{size}" height="{size}" patternUnits="userSpaceOnUse">'
        f'<rect width="{size}" height="{size}" class="d-{name}-ground"/><path d="{path}" '
        f'class="d-{name}-hatch"/></pattern>'
        for name, (size, path) in HATCHES.items()
    ]
    return f"<defs>{''.join(made)}</defs>"


def area(prefix: str, substance: str, x: float, y: float, width: float, height: float) -> str:
    """Draw a rectangle of a substance; nothing where there is no height or width."""
    if width <= 0 or height <= 0:
        return ""
    return (
        f'<rect x="{x:.2f}" y="{y:.2f}" width="{width:.2f}" height="{height:.2f}" fill="url(#{prefix}-{substance})" '
        'class="d-edge"/>'
    )


def path(prefix: str, substance: str, rings: Sequence[Sequence[tuple[float, float]]], kind: str = "d-edge") -> str:
    """Draw an area of a substance by its rings; a ring inside another is a hole."""
    label = " ".join("M" + " L".join(f"{x:.1f},{y:.1f}" for x, y in ring) + " z" for ring in rings if len(ring) > 2)
    return f'<path d="{label}" fill="url(#{prefix}-{substance})" fill-rule="evenodd" class="{kind}"/>' if label else ""


def strokes(lines: Sequence[Sequence[tuple[float, float]]], kind: str) -> str:
    """Draw broken lines, all in one mark."""
    label = "".join("M" + " ".join(f"{x:.1f},{y:.1f}" for x, y in line) for line in lines)
    return f'<path d="{label}" class="{kind}"/>' if label else ""


def disc(prefix: str, substance: str, x: float, y: float, radius: float, kind: str = "d-edge") -> str:
    """Draw a disc of a substance."""
    return f'<circle cx="{x:.2f}" cy="{y:.2f}" r="{radius:.2f}" fill="url(#{prefix}-{substance})" class="{kind}"/>'


def line(x1: float, y1: float, x2: float, y2: float, kind: str = "d-thin") -> str:
    """Draw a straight line."""
    return f'<line x1="{x1:.2f}" y1="{y1:.2f}" x2="{x2:.2f}" y2="{y2:.2f}" class="{kind}"/>'


def text(x: float, y: float, label: str, anchor: str = "start", kind: str = "d-text") -> str:
    """Write text centred at a height."""
    return (
        f'<text x="{x:.2f}" y="{y + TEXT_PX * 0.35:.2f}" text-anchor="{anchor}" font-size="{TEXT_PX}" '
        f'class="{kind}">{escape(label)}</text>'
    )


def width_px(label: str) -> float:
    """Estimate the width of a text, on the safe side."""
    return len(str(label)) * WIDE_PX


def horizontal_dimension(x1: float, x2: float, y: float, label: str, from_y: float) -> str:
    """Draw a horizontal dimension: extension lines from a height, ticks, and its text under the line."""
    middle = max((x1 + x2) / 2, width_px(label) / 2 + 2)  # a long text over a short step stays on the sheet
    return _dimension(x1, x2, y, from_y) + text(middle, y + LINE_PX * 0.75, label, "middle")


def short_horizontal_dimension(x1: float, x2: float, y: float, label: str, from_y: float) -> str:
    """Draw a horizontal dimension too short for its text, which is right of it."""
    return _dimension(x1, x2, y, from_y) + text(x2 + 7, y, label)


def _dimension(x1: float, x2: float, y: float, from_y: float) -> str:
    return "".join(line(x, from_y, x, y + 3) + line(x - 3, y + 3, x + 3, y - 3, "d-tick") for x in (x1, x2)) + line(
        x1, y, x2, y
    )


def vertical_dimension(x: float, y1: float, y2: float, label: str, from_x: float) -> str:
    """Draw a vertical dimension left of the drawing, with its text turned along the line."""
    middle = turned_foot(y1, y2, label) - width_px(label) / 2
    ticks = "".join(line(from_x, y, x - 3, y) + line(x - 3, y + 3, x + 3, y - 3, "d-tick") for y in (y1, y2))
    turned = text(0, 0, label, "middle")
    return (
        ticks
        + line(x, y1, x, y2)
        + f'<g transform="translate({x - LINE_PX * 0.65:.2f} {middle:.2f}) rotate(-90)">{turned}</g>'
    )


def turned_foot(y1: float, y2: float, label: str) -> float:
    """Return where the turned text of a vertical dimension ends: a long one beside a short step stays on the sheet."""
    return max((y1 + y2) / 2 + width_px(label) / 2, width_px(label) + 2)


def dimension_chain(x: float, steps: Sequence[tuple[float, float, str]], from_x: float, low: float, high: float) -> str:
    """Draw a chain of vertical dimensions right of the drawing.

    Texts that would touch are moved apart and led back to their step.

    Parameters
    ----------
    x : float
        Of the chain.
    steps : sequence of (y of the top, y of the foot, text)
        From the highest down.
    from_x : float
        Where the extension lines begin.
    low, high : float
        Between which the texts must stay.

    Returns
    -------
    str
        SVG.
    """
    middles = [(top + foot) / 2 for top, foot, _ in steps]
    placed = spread(middles, LINE_PX, low, high)
    made = []
    for y in sorted({edge for top, foot, _ in steps for edge in (top, foot)}):
        made.append(line(from_x, y, x + 3, y) + line(x - 3, y + 3, x + 3, y - 3, "d-tick"))
    for (top, foot, label), middle, at in zip(steps, middles, placed, strict=True):
        made.append(line(x, top, x, foot))
        made.append(line(x + 2, middle, x + 9, at) + text(x + 12, at, label))
    return "".join(made)


def spread(wanted: Iterable[float], gap: float, low: float, high: float) -> list[float]:
    """Move points apart as little as possible until no two are nearer than a gap, in their order and within limits.

    Parameters
    ----------
    wanted : iterable of float
        Where they would be.
    gap : float
        Least distance.
    low, high : float
        The limits; kept as long as the points fit between them.

    Returns
    -------
    list of float
        In the order given.

    Examples
    --------
    >>> spread([10, 11], 10, 0, 100)
    [5.5, 15.5]
    """
    wanted = list(wanted)
    order = sorted(range(len(wanted)), key=lambda index: wanted[index])
    # clusters of neighbours that touch move as one, about the mean of their wanted places
    clusters: list[list[int]] = []
    for index in order:
        clusters.append([index])
        while len(clusters) > 1 and _end(clusters[-2], wanted, gap, low, high) + gap > _start(
            clusters[-1], wanted, gap, low, high
        ):
            last = clusters.pop()
            clusters[-1] += last
    placed = [0.0] * len(wanted)
    for cluster in clusters:
        start = _start(cluster, wanted, gap, low, high)
        for step, index in enumerate(cluster):
            placed[index] = start + step * gap
    return placed


def _start(cluster: Sequence[int], wanted: Sequence[float], gap: float, low: float, high: float) -> float:
    half = gap * (len(cluster) - 1) / 2
    middle = sum(wanted[index] for index in cluster) / len(cluster)
    return max(low, min(middle - half, high - 2 * half))


def _end(cluster: Sequence[int], wanted: Sequence[float], gap: float, low: float, high: float) -> float:
    return _start(cluster, wanted, gap, low, high) + gap * (len(cluster) - 1)


def nice_step(most: float) -> float:
    """Return the step of an axis from 0 on, so that it has at most eight.

    Examples
    --------
    >>> nice_step(80), nice_step(801)
    (10.0, 200.0)
    """
    for step in (1, 2, 5, 10, 20, 25, 50, 100, 200, 250, 500, 1000, 2000, 5000, 10_000, 20_000, 50_000):
        if most / step <= 8:
            return float(step)
    return most / 5


@dataclass(frozen=True, slots=True, kw_only=True)
class Drawing:
    """A drawing: its SVG and its natural size."""

    svg: str
    width_px: float
    height_px: float


def sheet(width: float, height: float, label: str, content: str) -> Drawing:
    """Finish a drawing.

    Parameters
    ----------
    width, height : float
        In px.
    label : str
        What it shows, for those who can't see it.
    content : str
        SVG.

    Returns
    -------
    Drawing
        An ``svg`` element at its natural size.
    """
    svg = (
        f'<svg xmlns="http://www.w3.org/2000/svg" class="drawing" role="img" aria-label="{escape(label)}" '
        f'width="{width:.0f}" height="{height:.0f}" viewBox="0 0 {width:.0f} {height:.0f}">{content}</svg>'
    )
    return Drawing(svg=svg, width_px=round(width), height_px=round(height))


def in_a_row(drawings: Sequence[tuple[str, Drawing]], label: str) -> Drawing:
    """Set drawings side by side with their titles, as one that can only be scaled as a whole.

    Parameters
    ----------
    drawings : sequence of (str, Drawing)
        Title and drawing.
    label : str
        What it shows, for those who can't see it.

    Returns
    -------
    Drawing
        All of them.
    """
    made, x = [], 0.0
    for title, drawing in drawings:
        made.append(text(x, LINE_PX / 2, title, kind="d-text d-title"))
        made.append(drawing.svg.replace("<svg ", f'<svg x="{x:.0f}" y="{LINE_PX + 4:.0f}" ', 1))
        x += max(drawing.width_px, width_px(title)) + 24
    return sheet(x - 24, LINE_PX + 4 + max(drawing.height_px for _, drawing in drawings), label, "".join(made))
