"""What the search page shows: hits in the workshop, words of the trade, quick sums, and pages by what is done there."""

from collections.abc import Sequence
from dataclasses import dataclass

from ufrin.actions.shop.search import Hit
from ufrin.core.quick_sums.all_sums import SUMS
from ufrin.core.wording.glossary import WORDS
from ufrin.web.contexts.change_words import ON_SHELF
from ufrin.web.frame.links import Links

MOST_OF_A_KIND = 8


@dataclass(frozen=True, slots=True, kw_only=True)
class FoundPage:
    """A line of the search: what it is called, what it is, and its address."""

    title: str
    what: str
    link: str


# pages that somebody looks for by what is done there
PAGES: tuple[FoundPage, ...] = (
    FoundPage(title="Units and currency", what="metric or US, ounces, inches; Settings", link=Links.settings),
    FoundPage(
        title="The workshop's own ways", what="air, release, room temperature, scale; Settings", link=Links.settings
    ),
    FoundPage(title="Backups", what="back up the record book, restore, nightly", link=Links.safekeeping),
    FoundPage(title="Import and export", what="jobs and moulds of another workshop, zip", link=Links.bring_in),
    FoundPage(title="People", what="accounts, owner, maker, reader, invite", link=Links.accounts),
    FoundPage(title="My password", what="change it, sign out everywhere", link=Links.me),
    FoundPage(title="Tablets and scripts", what="join a device by its code, QR", link=Links.devices),
    FoundPage(title="Who did what", what="log of changes, history", link=Links.changes),
    FoundPage(title="Plan", what="schedule, calendar, today's list", link=Links.plan),
    FoundPage(title="People and equipment", what="working hours, days off, oven, chamber, pot", link=Links.shop_people),
    FoundPage(title="Orders", what="pieces wanted by a date", link=Links.orders),
    FoundPage(title="Moulds", what="cards, shots, life, retire", link=Links.moulds),
    FoundPage(title="Clocks", what="timers, pot life, demould", link=Links.all_clocks),
    FoundPage(title="Shelf", what="rubbers, thinners, casting materials, cups, scales, stock", link=Links.shelf),
    FoundPage(title="Lots", what="tins, use-by dates, what is left", link=Links.lots),
    FoundPage(title="Spare", what="allowance learnt from past pours", link=Links.allowance),
    FoundPage(title="Pairings", what="does it set, does it stick, release, inhibition", link=Links.pairings),
    FoundPage(title="Words", what="glossary, terms of the trade", link=Links.words),
    FoundPage(title="JSON interface", what="API for scripts", link=Links.api_docs),
)


def hits_shown(hits: Sequence[Hit]) -> list[FoundPage]:
    """Return hits in the workshop with their pages."""
    return [FoundPage(title=hit.name, what=_what(hit), link=_link(hit)) for hit in hits]


def other_pages(text: str) -> dict[str, list[FoundPage]]:
    """Return what else holds every word of a text, by heading; empty headings are left out.

    Parameters
    ----------
    text : str
        As typed.

    Returns
    -------
    dict of heading to lines
        Words of the trade, quick sums, pages.
    """
    wanted = text.casefold().split()
    if not wanted:
        return {}
    groups = {
        "Words of the trade": [
            FoundPage(title=word.term, what=word.text, link=Links.word(word.anchor))
            for word in WORDS
            if all(part in f"{word.term} {' '.join(word.spelt)}".casefold() for part in wanted)
        ],
        "Quick sums": [FoundPage(title=one.title, what=one.what, link=Links.sum(one.key)) for one in SUMS.values()],
        "Pages": list(PAGES),
    }
    for heading in ("Quick sums", "Pages"):
        groups[heading] = [
            one for one in groups[heading] if all(part in f"{one.title} {one.what}".casefold() for part in wanted)
        ]
    return {heading: found[:MOST_OF_A_KIND] for heading, found in groups.items() if found}


def _what(hit: Hit) -> str:
    what = ON_SHELF.get(hit.kind, hit.kind)
    return f"{what}, {hit.note}" if hit.note else what


def _link(hit: Hit) -> str:
    if hit.kind == "job":
        return Links.job(hit.id)
    return Links.mould(hit.id) if hit.kind == "mould" else Links.thing(hit.kind, hit.id)
