"""PDF: a sheet printed from shipped styles and fonts alone."""

import re
from collections.abc import Sequence
from functools import cache
from pathlib import Path

from markupsafe import escape
from weasyprint import CSS, HTML
from weasyprint.text.fonts import FontConfiguration
from weasyprint.urls import URLFetcher, URLFetcherResponse

from ufrin.core.measures.quantity_kinds import Units
from ufrin.web.frame.pages import static_folder

_VARIABLE = re.compile(r"var\((--[\w-]+)\)")
# type in pt, highest drawing and rows to write in, in mm; tried in order until everything fits on one page
RECORD_SIZES = ((9.0, 48, 7.5),)  # a record runs over as many pages as it needs
SIZES = ((10.0, 62, 8.0), (9.0, 48, 7.5), (8.0, 40, 6.5), (7.5, 30, 6.0), (7.2, 24, 5.2), (7.0, 20, 4.6))


class _OnlyShipped(URLFetcher):  # type: ignore[misc]
    """Fetches shipped files and nothing else, whatever a sheet refers to."""

    def fetch(self, url: str, headers: dict[str, str] | None = None) -> URLFetcherResponse:
        """Fetch one file below ``static/``.

        Raises
        ------
        ValueError
            For any other address.
        """
        path = Path(url.removeprefix("file://")).resolve()
        if not url.startswith("file://") or not path.is_relative_to(Path(static_folder()).resolve()):
            raise ValueError(f"{url} is not shipped with Ufrin")
        return super().fetch(url, headers)


@cache
def drawing_style() -> str:
    """Return the drawings' style with its colours written out: on paper there is no page to inherit them from.

    Returns
    -------
    str
        CSS, in the light colours.
    """
    text = (Path(static_folder()) / "drawing.css").read_text("utf-8")
    ink = dict(re.findall(r"(--[\w-]+):\s*([^;]+);", text.split("@media", maxsplit=1)[0]))
    return _VARIABLE.sub(lambda found: ink[found[1]], text.split("/* marks */", maxsplit=1)[1])


def true_size_pdf(svgs: Sequence[str], title: str, units: Units) -> bytes:
    """Put drawings in millimetres on paper at true size, each on a sheet of its own.

    Parameters
    ----------
    svgs : sequence of str
        Their own widths and heights are in mm.
    title : str
        Of the document.
    units : "metric" or "us"
        A4 or Letter.

    Returns
    -------
    bytes
        The file.
    """
    base, fonts = Path(static_folder()).as_uri() + "/", FontConfiguration()
    fetcher = _OnlyShipped()
    html = HTML(
        string=f'<html lang="en"><head><title>{escape(title)}</title></head><body>{"".join(svgs)}</body></html>',
        base_url=base,
        url_fetcher=fetcher,
    )
    page = CSS(
        string=f"@page {{ size: {'Letter' if units == 'us' else 'A4'}; margin: 12mm }} body {{ margin: 0 }} "
        "body > svg { display: block; break-after: page } body > svg:last-child { break-after: auto }",
        font_config=fonts,
    )
    own = CSS(filename=Path(static_folder()) / "fonts.css", font_config=fonts, url_fetcher=fetcher)
    return bytes(html.render(stylesheets=[own, page], font_config=fonts).write_pdf() or b"")


def pdf(body: str, title: str, units: Units, sizes: Sequence[tuple[float, int, float]] = SIZES) -> bytes:
    """Turn a sheet into PDF.

    Parameters
    ----------
    body : str
        The sheet's HTML.
    title : str
        Of the document.
    units : "metric" or "us"
        A4 or Letter.
    sizes : sequence of (pt, mm, mm), optional
        Of type, drawings and rows to write in: the first that fits on one page is taken, or else the last, which may
        run over several.

    Returns
    -------
    bytes
        The file.
    """
    base, fonts = Path(static_folder()).as_uri() + "/", FontConfiguration()
    drawn = body.replace("</defs>", f"</defs><style>{drawing_style()}</style>")
    styles = [
        CSS(filename=Path(static_folder()) / name, font_config=fonts, url_fetcher=_OnlyShipped())
        for name in ("fonts.css", "paper.css")
    ]
    html = HTML(
        string=f'<html lang="en"><head><title>{escape(title)}</title></head><body>{drawn}</body></html>',
        base_url=base,
        url_fetcher=_OnlyShipped(),
    )
    paper = "Letter" if units == "us" else "A4"
    for type_pt, view_mm, row_mm in sizes:
        page = CSS(
            string=f"@page {{ size: {paper}; margin: 10mm 12mm }} .paper {{ font-size: {type_pt}pt }} "
            f".paper .sheet-views > svg {{ max-height: {view_mm}mm }} .paper .blanks td {{ height: {row_mm}mm }}",
            font_config=fonts,
        )
        laid = html.render(stylesheets=[*styles, page], font_config=fonts)
        if len(laid.pages) == 1:
            break
    return bytes(laid.write_pdf() or b"")
