"""Who did what, in words: each kind of row that is kept has its name and, where there is one, its page."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from ufrin.actions.people.change_log import OF_JOBS, ChangePage
from ufrin.language import Text
from ufrin.web.frame.links import Links
from ufrin.web.frame.wording_in_units import STATION_WORDS

# of a job, with its number first
_OF_JOB = {
    "jobs": ("job", "master"),
    "done_steps": (Text("a step of the preparation of"), "pour"),
    "sign_offs": (Text("a stop signed off, of"), "pour"),
    "faults": (Text("what went wrong with"), "faults"),
    "sheets": (Text("the printed sheet of"), "sheet"),
    "shared_sheets": (Text("a share of the sheet of"), "sheet"),
    "retired_cavities": (Text("a cavity of"), "casts"),
    "trials": (Text("a comparison of two ways in"), "casts"),
}
_OF_MOULD = {"moulds": "", "mould_signs": Text("a sign of wear of "), "mould_cares": Text("the care of ")}
ON_SHELF = {
    "rubbers": Text("rubber"),
    "additives": Text("additive"),
    "resins": Text("casting material"),
    "additions": Text("filler or colour"),
    "products": Text("release or sealer"),
    "cups": Text("cup"),
    "containers": Text("container"),
    "scales": Text("scale"),
    "thermometers": Text("thermometer"),
}
_OTHERS: dict[str, tuple[str, str]] = {
    "lots": (Text("lot {}"), Links.lots),
    "coupons": (Text("a test coupon of rubber {}"), Links.shelf),
    "own_rules": (Text("test of a pairing {}"), Links.pairings),
    "shots": (Text("shot {}"), ""),
    "orders": (Text("order {}"), Links.orders),
    "people": (Text("{} on the plan"), Links.shop_people),
    "days_off": (Text("days off {}"), Links.shop_people),
    "equipment": (Text("equipment {}"), Links.shop_people),
    "other_work": (Text("other work {}"), Links.shop_people),
    "placed_steps": (Text("the time of a step of the plan"), Links.plan),
    "shop_hours": (Text("the working hours"), Links.shop_people),
    "workshop": (Text("the settings"), Links.settings),
    "accounts": (Text("the account of {}"), Links.accounts),
    "devices": (Text("device {}"), Links.devices),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownChange:
    """A line of who did what."""

    at: datetime
    doer: str
    how: str
    what: str
    link: str


_STATIONS: Mapping[str, str] = {str(key): words for key, words in STATION_WORDS.items()}


def words_of(thing: str, number: str, jobs: Mapping[int, str]) -> tuple[str, str]:
    """Return what a kept row is called, and the address of its page.

    Parameters
    ----------
    thing : str
        Its table.
    number : str
        Its key.
    jobs : mapping of number to name
        What jobs are called.

    Returns
    -------
    tuple of str
        The words; the address is empty where there is no page.
    """
    first, _, rest = number.partition(" ")
    if thing in OF_JOBS:
        job_id = int(first)
        name = jobs.get(job_id, Text("job {number}", number=first))
        words, page = _OF_JOB.get(thing, ("", rest))
        if thing == "stations":
            words = Text("{station} of", station=_STATIONS.get(rest, rest))
        return f"{words} {name}".strip(), Links.job(job_id, page) if job_id in jobs else ""
    if thing in _OF_MOULD:
        return Text("{thing}mould {first}", thing=_OF_MOULD[thing], first=first), Links.mould(int(first))
    if thing in ON_SHELF:
        return f"{ON_SHELF[thing]} {number}", Links.things(thing)
    if thing == "pours":
        return Text("pour {number}", number=number), Links.pour(int(number), "record")
    words, link = _OTHERS.get(thing, (f"{thing} {{}}", ""))
    return str(words).format(number), link


def shown(page: ChangePage) -> list[ShownChange]:
    """Return the lines of a page of who did what.

    Parameters
    ----------
    page : ChangePage
        As it was read.

    Returns
    -------
    list of ShownChange
        The newest first.
    """
    lines = []
    for change in page.listed:
        what, link = words_of(change.thing, change.number, page.jobs)
        lines.append(
            ShownChange(
                at=change.at, doer=change.doer, how=change.how, what=what, link="" if change.how == "deleted" else link
            )
        )
    return lines
