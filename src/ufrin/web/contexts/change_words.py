"""Who did what, in words: each kind of row that is kept has its name and, where there is one, its page."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import datetime

from ufrin.actions.people.change_log import OF_JOBS, ChangePage
from ufrin.web.frame.links import Links

# of a job, with its number first
_OF_JOB = {
    "jobs": ("job", "master"),
    "done_steps": ("a step of the preparation of", "pour"),
    "sign_offs": ("a stop signed off, of", "pour"),
    "faults": ("what went wrong with", "faults"),
    "sheets": ("the printed sheet of", "sheet"),
    "shared_sheets": ("a share of the sheet of", "sheet"),
    "retired_cavities": ("a cavity of", "casts"),
    "trials": ("a comparison of two ways in", "casts"),
}
_OF_MOULD = {"moulds": "", "mould_signs": "a sign of wear of ", "mould_cares": "the care of "}
ON_SHELF = {
    "rubbers": "rubber",
    "additives": "additive",
    "resins": "casting material",
    "additions": "filler or colour",
    "products": "release or sealer",
    "cups": "cup",
    "containers": "container",
    "scales": "scale",
    "thermometers": "thermometer",
}
_OTHERS: dict[str, tuple[str, str]] = {
    "lots": ("lot {}", Links.lots),
    "coupons": ("a test coupon of rubber {}", Links.shelf),
    "own_rules": ("test of a pairing {}", Links.pairings),
    "shots": ("shot {}", ""),
    "orders": ("order {}", Links.orders),
    "people": ("{} on the plan", Links.shop_people),
    "days_off": ("days off {}", Links.shop_people),
    "equipment": ("equipment {}", Links.shop_people),
    "other_work": ("other work {}", Links.shop_people),
    "placed_steps": ("the time of a step of the plan", Links.plan),
    "shop_hours": ("the working hours", Links.shop_people),
    "workshop": ("the settings", Links.settings),
    "accounts": ("the account of {}", Links.accounts),
    "devices": ("device {}", Links.devices),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownChange:
    """A line of who did what."""

    at: datetime
    doer: str
    how: str
    what: str
    link: str


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
        name = jobs.get(job_id, f"job {first}")
        words, page = (f"{rest.capitalize()} of", rest) if thing == "stations" else _OF_JOB[thing]
        return f"{words} {name}".strip(), Links.job(job_id, page) if job_id in jobs else ""
    if thing in _OF_MOULD:
        return f"{_OF_MOULD[thing]}mould {first}", Links.mould(int(first))
    if thing in ON_SHELF:
        return f"{ON_SHELF[thing]} {number}", Links.things(thing)
    if thing == "pours":
        return f"pour {number}", Links.pour(int(number), "record")
    words, link = _OTHERS.get(thing, (f"{thing} {{}}", ""))
    return words.format(number), link


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
