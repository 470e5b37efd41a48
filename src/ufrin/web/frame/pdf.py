"""PDF: a sheet printed from shipped styles and fonts alone."""

import atexit
import re
from bisect import bisect_left
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache
from itertools import groupby
from pathlib import Path
from threading import Lock

from markupsafe import escape
from weasyprint import CSS, HTML
from weasyprint.document import Document
from weasyprint.text.fonts import FontConfiguration
from weasyprint.urls import URLFetcher, URLFetcherResponse

from ufrin.core.measures.quantity_kinds import Units
from ufrin.language import in_use
from ufrin.web.frame.pages import static_folder

_VARIABLE = re.compile(r"var\((--[\w-]+)\)")
_RULE = re.compile(r"([^{}]+)\{[^}]*\}")
_MARK = re.compile(r"\bd-[\w-]+")
_ENDS = re.compile(r"<svg\b|</svg>")


@dataclass(frozen=True, slots=True, kw_only=True)
class SheetSize:
    """How large a sheet is set: type in pt, the highest drawing and the rows to write in, in mm; on how many pages."""

    type_pt: float
    view_mm: float
    row_mm: float
    pages: int | None = 1


# tried in order until everything fits; what is done after the pour goes on the back before the type gets too small
SIZES = (
    SheetSize(type_pt=10.0, view_mm=62, row_mm=8.0),
    SheetSize(type_pt=8.5, view_mm=44, row_mm=7.0),
    SheetSize(type_pt=7.5, view_mm=30, row_mm=6.0),
    SheetSize(type_pt=8.0, view_mm=40, row_mm=6.5, pages=2),
    SheetSize(type_pt=7.5, view_mm=30, row_mm=6.0, pages=2),
    SheetSize(type_pt=7.0, view_mm=20, row_mm=4.6, pages=2),
)
LIST_SIZES = (SheetSize(type_pt=11.0, view_mm=90, row_mm=8.0, pages=None),)  # as many pages as a list needs
RECORD_SIZES = (SheetSize(type_pt=9.0, view_mm=48, row_mm=7.5, pages=None),)  # as many pages as a record needs


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


@cache
def _rules() -> tuple[tuple[frozenset[str], str], ...]:
    return tuple((frozenset(_MARK.findall(rule[1])), rule[0].strip()) for rule in _RULE.finditer(drawing_style()))


def _with_style(drawing: str) -> str:
    # reading rules takes longer than drawing by them: a drawing is given those of its own marks
    marks = set(_MARK.findall(drawing))
    own = "".join(rule for marks_of_rule, rule in _rules() if marks_of_rule & marks)
    return drawing.replace("</defs>", f"</defs><style>{own}</style>", 1)


def _with_styles(body: str) -> str:
    # views inside a drawing share its style: one of their own would come after it, and override it
    made, begun, depth = [], 0, 0
    for end in _ENDS.finditer(body):
        if depth == 0:
            made.append(body[begun : end.start()])
            begun = end.start()
        depth += -1 if end[0] == "</svg>" else 1
        if depth == 0:
            made.append(_with_style(body[begun : end.end()]))
            begun = end.end()
    return "".join([*made, body[begun:]])


class _Styles:
    """The shipped styles with their fonts, unpacked once for all sheets: that takes longer than a layout."""

    def __init__(self) -> None:
        self.fonts, self.fetcher = FontConfiguration(), _OnlyShipped()
        self.lock = Lock()  # the fonts are one C object, which no two layouts may use at a time
        self._read: dict[str, CSS] = {}

    def read(self, name: str) -> CSS:
        """Return a style of ``static/``."""
        if name not in self._read:
            path = Path(static_folder()) / name
            self._read[name] = CSS(filename=path, font_config=self.fonts, url_fetcher=self.fetcher)
        return self._read[name]


@cache
def _styles() -> _Styles:
    return _Styles()


atexit.register(_styles.cache_clear)  # the fonts can't be released once their library is taken down


def _read(body: str, title: str) -> HTML:
    return HTML(
        string=f'<html lang="{in_use().code}"><head><title>{escape(title)}</title></head><body>{body}</body></html>',
        base_url=Path(static_folder()).as_uri() + "/",
        url_fetcher=_styles().fetcher,
    )


def _laid(html: HTML, page: str, *, styles: Sequence[str] = ("fonts.css", "paper.css")) -> Document:
    # laid out by shipped styles, and by one for its page; under the lock of these
    shipped = _styles()
    sheets = [*(shipped.read(name) for name in styles), CSS(string=page, font_config=shipped.fonts)]
    return html.render(stylesheets=sheets, font_config=shipped.fonts)


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
    page = (
        f"@page {{ size: {'Letter' if units == 'us' else 'A4'}; margin: 12mm }} body {{ margin: 0 }} "
        "body > svg { display: block; break-after: page } body > svg:last-child { break-after: auto }"
    )
    with _styles().lock:
        return bytes(_laid(_read("".join(svgs), title), page, styles=("fonts.css",)).write_pdf() or b"")


def small_pdf(body: str, title: str, size: str) -> bytes:
    """Turn a card or a label into PDF.

    Parameters
    ----------
    body : str
        Its HTML.
    title : str
        Of the document.
    size : str
        Of the paper, such as "A6" or "62mm 29mm".

    Returns
    -------
    bytes
        The file, on one page.
    """
    page = f"@page {{ size: {size}; margin: 0 }} body {{ margin: 0 }}"
    with _styles().lock:
        return bytes(_laid(_read(body, title), page).write_pdf() or b"")


def pdf(body: str, title: str, units: Units, sizes: Sequence[SheetSize] = SIZES) -> bytes:
    """Turn a sheet into PDF.

    Parameters
    ----------
    body : str
        The sheet's HTML.
    title : str
        Of the document.
    units : "metric" or "us"
        A4 or Letter.
    sizes : sequence of SheetSize, optional
        The first that fits on its pages is taken, or else the last, which may run over several.

    Returns
    -------
    bytes
        The file.
    """
    paper = "Letter" if units == "us" else "A4"
    html = _read(_with_styles(body), title)
    with _styles().lock:
        return bytes(_largest(html, paper, sizes).write_pdf() or b"")


def _largest(html: HTML, paper: str, sizes: Sequence[SheetSize]) -> Document:
    # of sizes with as many pages, whatever is smaller than one that fits does fit: few of them are laid out
    tried: dict[SheetSize, Document] = {}

    def fits(size: SheetSize) -> bool:
        tried[size] = _laid(html, _page(size, paper))
        return size.pages is None or len(tried[size].pages) <= size.pages

    for _, of_as_many_pages in groupby(sizes, key=lambda size: size.pages):
        group = list(of_as_many_pages)
        first = bisect_left(group, x=True, key=fits)
        if first < len(group):
            return tried[group[first]]
    return tried[sizes[-1]]


def _page(size: SheetSize, paper: str) -> str:
    return (
        f"@page {{ size: {paper}; margin: 10mm 12mm }} .paper {{ font-size: {size.type_pt}pt }} "
        f".paper .sheet-views > svg {{ max-height: {size.view_mm}mm }} "
        f".paper .blanks td {{ height: {size.row_mm}mm }} "
        + (".paper .after { break-before: page; font-size: 10pt }" if size.pages == 2 else "")  # noqa: PLR2004 - front and back
    )
