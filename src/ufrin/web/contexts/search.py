"""What the search page shows: hits in the workshop, words of the trade, quick sums, and pages by what is done there."""

from collections.abc import Sequence
from dataclasses import dataclass

from ufrin.actions.shop.search import Hit
from ufrin.core.quick_sums.all_sums import SUMS
from ufrin.core.wording.glossary import listed_words
from ufrin.language import Text
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
    FoundPage(
        title=Text("Units and currency"), what=Text("metric or US, ounces, inches; Settings"), link=Links.settings
    ),
    FoundPage(
        title=Text("The workshop's own ways"),
        what=Text("air, release, room temperature, scale; Settings"),
        link=Links.settings,
    ),
    FoundPage(title=Text("Backups"), what=Text("back up the record book, restore, nightly"), link=Links.safekeeping),
    FoundPage(
        title=Text("Import and export"), what=Text("jobs and moulds of another workshop, zip"), link=Links.bring_in
    ),
    FoundPage(title=Text("People"), what=Text("accounts, owner, maker, reader, invite"), link=Links.accounts),
    FoundPage(title=Text("My password"), what=Text("change it, sign out everywhere"), link=Links.me),
    FoundPage(title=Text("Tablets and scripts"), what=Text("join a device by its code, QR"), link=Links.devices),
    FoundPage(title=Text("Who did what"), what=Text("log of changes, history"), link=Links.changes),
    FoundPage(title=Text("Plan"), what=Text("schedule, calendar, today's list"), link=Links.plan),
    FoundPage(
        title=Text("People and equipment"),
        what=Text("working hours, days off, oven, chamber, pot"),
        link=Links.shop_people,
    ),
    FoundPage(title=Text("Orders"), what=Text("pieces wanted by a date"), link=Links.orders),
    FoundPage(title=Text("Moulds"), what=Text("cards, shots, life, retire"), link=Links.moulds),
    FoundPage(title=Text("Clocks"), what=Text("timers, pot life, demould"), link=Links.all_clocks),
    FoundPage(
        title=Text("Practice"), what=Text("train a weigh-up, mishaps, simulated scale, levels"), link=Links.practices
    ),
    FoundPage(
        title=Text("Shelf"), what=Text("rubbers, thinners, casting materials, cups, scales, stock"), link=Links.shelf
    ),
    FoundPage(title=Text("Lots"), what=Text("tins, use-by dates, what is left"), link=Links.lots),
    FoundPage(title=Text("Spare"), what=Text("allowance learnt from past pours"), link=Links.allowance),
    FoundPage(
        title=Text("Pairings"), what=Text("does it set, does it stick, release, inhibition"), link=Links.pairings
    ),
    FoundPage(title=Text("Words"), what=Text("glossary, terms of the trade"), link=Links.words),
    FoundPage(title=Text("JSON interface"), what=Text("API for scripts"), link=Links.api_docs),
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
        Text("Words of the trade"): [
            FoundPage(title=word.term, what=word.text, link=Links.word(word.anchor))
            for word in listed_words()
            if all(part in f"{word.term} {word.spelt}".casefold() for part in wanted)
        ],
        Text("Quick sums"): [
            FoundPage(title=one.title, what=one.what, link=Links.sum(one.key)) for one in SUMS.values()
        ],
        Text("Pages"): list(PAGES),
    }
    for heading in (Text("Quick sums"), Text("Pages")):
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
