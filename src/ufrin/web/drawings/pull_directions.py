"""Searched pull directions, drawn on the two halves of a sphere."""

from collections.abc import Sequence

from ufrin.language import Text
from ufrin.web.drawings.svg_marks import sheet, text


def sphere_of(
    scored: Sequence[tuple[tuple[float, float, float], float]], chosen: tuple[float, float, float] | None
) -> str:
    """Draw the searched directions.

    Two discs are the upper and the lower half of the sphere; each direction is a dot, darker the more is locked.

    Parameters
    ----------
    scored : sequence of ((x, y, z), share)
        Directions, and the rubber locked along each as fractions of the worst.
    chosen : (x, y, z) or None
        The one that counts.

    Returns
    -------
    str
        SVG (Lambert's equal-area projection).
    """
    radius, made = 62.0, []
    middles = ((radius + 4, radius + 18), (3 * radius + 24, radius + 18))
    for (x, y), show_quantity in zip(middles, (Text("pulled upwards"), Text("pulled downwards")), strict=True):
        made.append(f'<circle cx="{x}" cy="{y}" r="{radius}" class="d-disc"/>' + text(x, 7, show_quantity, "middle"))

    def at(way: tuple[float, float, float]) -> tuple[float, float]:
        upper = way[2] >= 0
        x, y = middles[0 if upper else 1]
        out = radius * (1 - abs(way[2])) ** 0.5
        flat = max((way[0] ** 2 + way[1] ** 2) ** 0.5, 1e-9)
        return x + out * way[0] / flat, y - out * way[1] / flat

    for way, share in sorted(scored, key=lambda pair: -pair[1]):
        x, y = at(way)
        step = min(4, int(share**0.5 * 5))
        made.append(f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{4.4 - 0.5 * step:.1f}" class="d-way d-way-{step}"/>')
    if chosen is not None:
        x, y = at(chosen)
        made.append(f'<circle cx="{x:.1f}" cy="{y:.1f}" r="7" class="d-chosen"/>')
    return sheet(
        4 * radius + 28, 2 * radius + 22, Text("Directions compared; open dots lock nothing"), "".join(made)
    ).svg
