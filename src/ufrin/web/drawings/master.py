"""The master in plan, front and side, to one scale, with its size."""

from collections.abc import Callable

from ufrin.core.master.master_form import Form
from ufrin.core.mesh.line_work import ViewKey
from ufrin.language import Text
from ufrin.web.drawings.box_scene import View
from ufrin.web.drawings.master_lines import draw
from ufrin.web.drawings.svg_marks import (
    Drawing,
    horizontal_dimension,
    patterns,
    sheet,
    strokes,
    vertical_dimension,
    width_px,
)

ROW_PX, HIGHEST_PX, LEFT_PX, TOP_PX = 400.0, 200.0, 36.0, 6.0
TITLES: dict[ViewKey, str] = {"front": Text("Front"), "side": Text("Side"), "plan": Text("Top")}


def master_views(
    form: Form, show_quantity: Callable[[float, str], str], *, cut_mm: float | None = None
) -> tuple[View, ...]:
    """Draw a master by its form.

    Parameters
    ----------
    form : Form
        As it stands.
    show_quantity : callable of (value, kind) to str
        Shows a quantity in the workshop's units.
    cut_mm : float or None, optional
        Height of a plane that cuts a part off.

    Returns
    -------
    tuple of View
        Front, side and plan.
    """
    length, width, height = form.size_mm
    px = min(ROW_PX / (length + width), HIGHEST_PX / max(height, width))
    return tuple(
        View(key=f"master-{key}", title=title, drawing=_view(form, key, px, show_quantity, cut_mm))
        for key, title in TITLES.items()
    )


def _view(
    form: Form, key: ViewKey, px: float, show_quantity: Callable[[float, str], str], cut_mm: float | None
) -> Drawing:
    length, width, height = form.size_mm
    wide = (width if key == "side" else length) * px
    high = (width if key == "plan" else height) * px
    # a text longer than a short side stays on the sheet
    words, upright = show_quantity(wide / px, "length"), show_quantity(high / px, "length")
    top = TOP_PX + max(0.0, width_px(upright) / 2 + 2 - high / 2 - TOP_PX)
    left = LEFT_PX + max(0.0, width_px(words) / 2 + 4 - wide / 2 - LEFT_PX)
    middle, foot = left + wide / 2, top + high
    low = -width / 2 if key == "plan" else 0.0
    drawn = draw(key, form.seen(key), lambda x, y: (middle + x * px, foot - (y - low) * px))
    cut = (
        []
        if cut_mm is None or key == "plan"
        else [[(left - 6, foot - cut_mm * px), (left + wide + 6, foot - cut_mm * px)]]
    )
    below = max(foot, width_px(upright) + 4)
    made = (
        patterns(key)
        + drawn
        + strokes(cut, "d-slit")
        + vertical_dimension(left - 14, top, foot, upright, left - 3)
        + horizontal_dimension(left, left + wide, below + 12, words, below + 3)
    )
    return sheet(
        max(left + wide, middle + width_px(words) / 2) + 8,
        below + 40,
        Text("{key} view of the master: {words} by {upright}", key=TITLES[key], words=words, upright=upright),
        made,
    )
