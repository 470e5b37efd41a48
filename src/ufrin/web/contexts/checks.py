"""What the templates of the Checks station receive.

They are the contacts with their remedies, the preparation drawn, air removal, and safety data sheets.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from ufrin.actions.job.open_job import OpenJob
from ufrin.core.faults.causes import CAUSES, OTHER, SYMPTOMS
from ufrin.core.job.preparation import TINS, StepState, begin_in_min
from ufrin.core.job.sign_off import Stop
from ufrin.core.pairing.cautions import DEFERS
from ufrin.core.pairing.contacts import PHASES, JudgedContact, Phase, remedy_of
from ufrin.core.pairing.prep_step import PrepStep
from ufrin.core.pairing.releases import RELEASE_SCHOOLS, Product, ReleaseOffer
from ufrin.core.pairing.rules import LEVELS
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.tins import Rubber
from ufrin.devices import clock
from ufrin.language import DateText, Text
from ufrin.web.drawings.checks import bubbles, preparation
from ufrin.web.frame.links import Links
from ufrin.web.frame.wording_in_units import STATION_WORDS, UnitFormatter

MOST_OFFERS = 6
# what is in the table of contacts is not repeated below it
IN_THE_TABLE = {
    "touch-not-said",
    "touch-will-not-set",
    "touch-bonds",
    "touch-harms",
    "touch-may-not-set",
    "touch-not-known",
    "touch-release",
    "touch-seal",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class ContactRow:
    """A contact in the table: its remedy, its field, and earlier faults with it."""

    pair: JudgedContact
    click: str
    field: str
    field_label: str
    tried: str
    happened: tuple[str, ...]
    release_offers: tuple[ReleaseOffer, ...]

    @property
    def level(self) -> str:
        """Its mark: ready, warning, stop, or empty where it is for later."""
        if not self.pair.contact.pour:
            return "empty"
        level = LEVELS[self.pair.ruling.verdict] if self.pair.ruling.known else "warn"
        return {None: "ready", "note": "ready", "warn": "warning", "stop": "stop"}[level]


@dataclass(frozen=True, slots=True, kw_only=True)
class StepsBeforePour:
    """What is done before one pour, and how far it is."""

    phase: Phase
    words: str
    begin_min: float
    states: tuple[StepState, ...]
    svg: str
    now_s: float

    @property
    def steps(self) -> tuple[PrepStep, ...]:
        """The steps in the order of the work."""
        return tuple(one.step for one in self.states)

    @property
    def is_done(self) -> bool:
        """Whether nothing is left to do or to wait for."""
        return all(one.is_done for one in self.states)

    @property
    def ready_s(self) -> float:
        """The time of the pour, if what is left is begun now: seconds since 1970."""
        return self.now_s + 60 * self.begin_min

    def at_s(self, step: PrepStep) -> float:
        """Return the time of a step, if the first one is begun now: seconds since 1970."""
        return self.ready_s - 60 * step.before_min


def befores(states: Sequence[StepState], say: UnitFormatter, now_s: float) -> list[StepsBeforePour]:
    """Return the preparation, pour by pour.

    Parameters
    ----------
    states : sequence of StepState
        Of the job.
    say : UnitFormatter
        In the workshop's units.
    now_s : float
        Seconds since 1970: when the first step could begin.

    Returns
    -------
    list of StepsBeforePour
        Pours without preparation are left out.
    """
    found = []
    for phase, words in PHASES.items():
        own = tuple(one for one in states if one.step.phase == phase)
        if own:
            timed = [one.step for one in own if one.step.pairs != TINS]
            found.append(
                StepsBeforePour(
                    phase=phase,
                    words=words,
                    begin_min=begin_in_min(own),
                    states=own,
                    svg=preparation([one.step for one in own], say.plain) if timed else "",
                    now_s=now_s,
                )
            )
    return found


def checks_context(opened: OpenJob, say: UnitFormatter) -> dict[str, Any]:
    """Return what the templates of the Checks station receive in addition.

    Parameters
    ----------
    opened : OpenJob
        Worked out.
    say : UnitFormatter
        In the workshop's units.

    Returns
    -------
    dict
        By the names in the templates.
    """
    made = opened.plan.checks
    if made is None:
        return {"checks": None}
    rows = [_row(opened, pair) for pair in made.pairs]
    return {
        "checks": made,
        "rows": rows,
        "befores": befores(opened.step_states(clock.now()), say, clock.now().wall_s),
        "bars": bubbles(made.airing, made.air, say.plain) if made.airing else "",
        "others": tuple(finding for finding in made.findings if finding.code not in IN_THE_TABLE),
        "release_school": RELEASE_SCHOOLS[opened.workshop.release],
        "defers": DEFERS,
        "materials": _materials(opened),
    }


def _row(opened: OpenJob, pair: JudgedContact) -> ContactRow:
    done = remedy_of(pair)
    remedy = pair.ruling.remedy or pair.bare.remedy
    job_id, contact = opened.job.id, pair.contact
    link = "" if contact.station == "checks" else Links.job(contact.of_job or job_id, contact.station)
    made = opened.plan.checks
    return ContactRow(
        pair=pair,
        click=remedy.text if done and remedy else "",
        field=f"{link}#f-{contact.field}" if contact.field else "",
        field_label=Text("To {station}", station=STATION_WORDS[contact.station]) if link else Text("To the field"),
        tried=Links.pairing(contact.pour, contact.touches, pair.layers[-1] if pair.layers else "none", contact.rubber)
        if contact.pour and contact.touches
        else "",
        happened=_happened(opened, pair),
        release_offers=made.release_offers.get(contact.key, ())[:MOST_OFFERS] if made else (),
    )


def _happened(opened: OpenJob, pair: JudgedContact) -> tuple[str, ...]:
    return tuple(
        f"{DateText(one.at.astimezone(opened.workshop.zone))}, {one.job_name}: "
        f"{SYMPTOMS.get(one.symptom, one.symptom)}. "
        + (CAUSES[one.cause].text if one.cause in CAUSES else "" if one.cause != OTHER else Text("Something else."))
        + (f" “{one.note}”" if one.note else "")
        for one in opened.happened
        if pair.case in one.pairs
    )[:3]


def _materials(opened: OpenJob) -> list[tuple[str, str, str, str]]:
    # what of the Shelf is in the job: name, address there, name and address of its sheet
    inputs, shelf = opened.job.rubber, opened.shelf
    named: list[tuple[str, int | None, Rubber | Additive | Product | None]] = [
        ("rubbers", inputs.rubber_id, shelf.rubber),
        ("rubbers", inputs.blend_id, shelf.blend),
        ("additives", inputs.thinner_id, shelf.thinner),
        ("additives", inputs.thickener_id, shelf.thickener),
        ("additives", inputs.pigment_id, shelf.pigment),
    ]
    used = {layer for pair in (opened.plan.checks.pairs if opened.plan.checks else ()) for layer in pair.layers}
    named += [
        ("products", kept.id, kept.thing) for kept in opened.products if kept.thing.kind in used and not kept.retired_at
    ]
    found = []
    for kind, number, thing in named:
        if number and thing:
            sheet = opened.sheets.get((kind, number), "")
            found.append(
                (thing.name, Links.thing(kind, number), sheet, Links.thing(kind, number, "sheet") if sheet else "")
            )
    return found


def shown_stops(stops: Sequence[Stop], say: UnitFormatter) -> list[dict[str, Any]]:
    """Return stops for their sign-off.

    Parameters
    ----------
    stops : sequence of Stop
        Of a job.
    say : UnitFormatter
        In the workshop's units.

    Returns
    -------
    list of dict
        Each with its text, its station, its sign-off, and whether it can be signed off.
    """
    return [
        {
            "key": stop.key,
            "station": stop.station,
            "text": say.finding(stop.finding) if stop.finding else say.amounts(stop.text),
            "signed": stop.signed,
            "field": stop.finding.field if stop.finding else "",
            "can_be_signed": stop.finding is not None,
        }
        for stop in stops
    ]
