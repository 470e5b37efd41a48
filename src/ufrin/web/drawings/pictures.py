"""Pictures: small line drawings of what is chosen by eye, such as a kind of mould or a way to measure a master."""

import tomllib
from collections.abc import Mapping
from importlib.resources import files

from markupsafe import Markup

from ufrin.web.drawings.svg_marks import HATCHES, patterns

PREFIX = "picture"
WIDTH, HEIGHT = 120, 80

PICTURES: Mapping[str, Mapping[str, list[tuple[str, str]]]] = tomllib.loads(
    files("ufrin.web.drawings").joinpath("data/pictures.toml").read_text()
)


def picture(group: str, key: str) -> Markup:
    """Draw a picture; the words beside it say the same, so that it is hidden from screen readers.

    Parameters
    ----------
    group : str
        "kinds", "ways", "symptoms" or "cuts".
    key : str
        Of what is chosen.

    Returns
    -------
    Markup
        An SVG element, which needs ``picture_hatches`` once in its page.
    """
    return Markup(  # noqa: S704 - the marks ship with the application
        f'<svg class="picture" viewBox="0 0 {WIDTH} {HEIGHT}" aria-hidden="true">'
        + "".join(_mark(kind, lines) for kind, lines in PICTURES[group][key])
        + "</svg>"
    )


def picture_hatches() -> Markup:
    """Define the hatches of all pictures in a page."""
    return Markup(f'<svg class="hatches" width="0" height="0" aria-hidden="true">{patterns(PREFIX)}</svg>')  # noqa: S704


def _mark(kind: str, lines: str) -> str:
    if kind in HATCHES:
        return f'<path d="{lines}" fill="url(#{PREFIX}-{kind})" class="d-edge"/>'
    return f'<path d="{lines}" class="{kind}"/>'
