"""Quantities, money, findings and sentences of a page in the workshop's units."""

from dataclasses import dataclass

from markupsafe import Markup, escape

from ufrin.core.inputs.stations import State, Station
from ufrin.core.inputs.term import Term
from ufrin.core.job.job_plan import Plan
from ufrin.core.job.job_state import Stage
from ufrin.core.job.mould_style import BOXLESS
from ufrin.core.job.rubber_station import RubberPlan
from ufrin.core.job.sign_off import open_stops
from ufrin.core.measures.display import field_text, figure, say_amounts, show
from ufrin.core.measures.quantity_kinds import Units
from ufrin.core.opening.mould_styles import SHORT
from ufrin.core.pairing.preparation_steps import begin_min
from ufrin.core.pairing.releases import Product
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.shore import ShoreScale, reading
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.containers import Container
from ufrin.core.shelf.cups import Cup
from ufrin.core.shelf.scales import Scale
from ufrin.core.wording.findings import Finding
from ufrin.errors import Refused

STATE_WORDS: dict[State, str] = {"empty": "to do", "ready": "ready", "warning": "warning", "stop": "stop"}
STATION_WORDS: dict[Station, str] = {
    "master": "Master",
    "opening": "Opening",
    "box": "Box",
    "rubber": "Rubber",
    "checks": "Checks",
}


@dataclass(frozen=True, slots=True)
class UnitFormatter:
    """Formats quantities in one unit system. Templates know it as ``say``."""

    units: Units
    currency: str = ""

    def plain(self, value: float, kind: str, decimals: int | None = None) -> str:
        """Return a quantity as text.

        Parameters
        ----------
        value : float
            In the base unit of the kind.
        kind : str
            One of ``KINDS``.
        decimals : int, optional
            Instead of the kind's.

        Returns
        -------
        str
            Number and unit.
        """
        return show(value, kind, self.units, decimals)

    def number(self, value: float, kind: str, decimals: int | None = None) -> str:
        """Return the number alone, for a column whose head has the unit.

        Parameters
        ----------
        value : float
            In the base unit of the kind.
        kind : str
            One of ``KINDS``.
        decimals : int, optional
            Instead of the kind's.

        Returns
        -------
        str
            Without unit.
        """
        return figure(value, kind, self.units, decimals)[0]

    def figure(self, value: float, kind: str, decimals: int | None = None) -> Markup:
        """Return a quantity as a figure whose unit is set smaller; a change of it is marked on the page for a moment.

        Parameters
        ----------
        value : float
            In the base unit of the kind.
        kind : str
            One of ``KINDS``.
        decimals : int, optional
            Instead of the kind's.

        Returns
        -------
        Markup
            HTML.
        """
        number, unit = figure(value, kind, self.units, decimals)
        return Markup('<span class="figure">{}<span class="unit">\u00a0{}</span></span>').format(number, unit)

    def money(self, value: float) -> str:
        """Return an amount of money.

        Parameters
        ----------
        value : float
            In the workshop's currency.

        Returns
        -------
        str
            With its sign behind.
        """
        return f"{value:.2f}\u00a0{self.currency}".strip()

    def finding(self, found: Finding) -> Markup:
        """Return a finding.

        Parameters
        ----------
        found : Finding
            Its code and facts.

        Returns
        -------
        Markup
            Escaped.
        """
        return escape(found.text(self.units))

    def refusal(self, refused: Refused) -> str:
        """Return a refusal as a sentence.

        Parameters
        ----------
        refused : Refused
            As raised.

        Returns
        -------
        str
            With its amounts in the workshop's units.
        """
        return say_amounts(str(refused), self.units)

    def help(self, term: Term) -> str:
        """Return the sentence under a field.

        Parameters
        ----------
        term : Term
            The input.

        Returns
        -------
        str
            With its amounts in the workshop's units.
        """
        return say_amounts(term.help, self.units)

    def signed(self, value: float, kind: str) -> str:
        """Return a distance to either side, for a field that may be typed over.

        Parameters
        ----------
        value : float
            In the base unit of the kind.
        kind : str
            One of ``KINDS``.

        Returns
        -------
        str
            A minus sign before it where it is negative.
        """
        near = round(value, 1)
        return ("-" if near < 0 else "") + field_text(abs(near), kind, self.units)

    def amounts(self, sentence: str) -> str:
        """Return a sentence of the core with its amounts in the workshop's units.

        Parameters
        ----------
        sentence : str
            With amounts as ``say_amounts`` reads them.

        Returns
        -------
        str
            To be shown.
        """
        return say_amounts(sentence, self.units)

    def hardness(self, modulus_mpa: float) -> str:
        """Return a hardness on the scales that read it well.

        Parameters
        ----------
        modulus_mpa : float
            Young's modulus.

        Returns
        -------
        str
            Such as "A 12, 60 on 00"; one scale where the other is not reliable.
        """
        readings: list[str] = []
        scales: tuple[ShoreScale, ...] = ("A", "00", "D")
        for scale in scales:
            shore = reading(modulus_mpa, scale)
            if shore is not None and 10 <= shore <= 90:
                readings.append(f"{scale} {shore:.0f}" if not readings else f"{shore:.0f} on {scale}")
        return ", ".join(readings[:2]) or "too soft for any gauge"

    def thing(self, thing: Rubber | Additive | Cup | Container | Scale | Product) -> str:
        """Return the name of a thing of the Shelf in a list to choose from.

        Parameters
        ----------
        thing : Rubber, Additive, Cup, Container or Scale
            With a name.

        Returns
        -------
        str
            With what distinguishes it from the others.
        """
        if isinstance(thing, Rubber) and thing.hardness is not None:
            return f"{thing.name}, {thing.hardness_scale}{thing.hardness:g}"
        if isinstance(thing, Cup):
            return f"{thing.name}, {self.plain(thing.holds_ml, 'volume')}"
        return str(thing.name)

    def span(self, low: float, high: float, kind: str) -> str:
        """Return a range of a quantity; one figure where both ends read alike.

        Parameters
        ----------
        low, high : float
            In the base unit of the kind.
        kind : str
            One of ``KINDS``.

        Returns
        -------
        str
            Such as "0.56 to 0.69 mm".
        """
        ends = self.plain(low, kind), self.plain(high, kind)
        return ends[0] if ends[0] == ends[1] else f"{self.number(low, kind)} to {ends[1]}"

    def clock(self, seconds: float) -> str:
        """Return a time as a clock counts it.

        Parameters
        ----------
        seconds : float
            Negative when it is past.

        Returns
        -------
        str
            Such as 4:05, or 1:02:30.
        """
        whole = round(abs(seconds))
        hours, rest = divmod(whole, 3600)
        clock_text = f"{hours}:{rest // 60:02d}:{rest % 60:02d}" if hours else f"{rest // 60}:{rest % 60:02d}"
        return f"−{clock_text}" if seconds < 0 and whole else clock_text

    def grams(self, rubber: RubberPlan) -> int:
        """Return how many decimals the scale of a job can show of its weights.

        Parameters
        ----------
        rubber : RubberPlan
            Whose smallest part must still have two digits that count.

        Returns
        -------
        int
            Decimals in the workshop's unit.
        """
        step = rubber.settled.scale_step_g
        decimals = 0 if step >= 1 else 1 if step >= 0.1 else 2
        smallest = min(one.g for pour in rubber.pours for one in pour.batches[0] if one.role in {"A", "B"})
        if smallest < 10 * step:
            decimals += 1
        return decimals + 2 if self.units == "us" else decimals


@dataclass(frozen=True, slots=True, kw_only=True)
class JobState:
    """The state of a job, in words for the Board."""

    level: State
    words: str


_STAGE_WORDS: dict[Stage, JobState] = {
    "pouring": JobState(level="warning", words="Being weighed"),
    "curing": JobState(level="ready", words="Curing"),
    "demould due": JobState(level="warning", words="Demould"),
    "mould ready": JobState(level="ready", words="Mould ready"),
    "put away": JobState(level="empty", words="Put away"),
}


def job_state(plan: Plan, stage: Stage) -> JobState:
    """Return the state of a job: what it has come to, what stops it, what is to be done next, or that it is ready.

    Parameters
    ----------
    plan : Plan
        The job worked out.
    stage : str
        What it has come to.

    Returns
    -------
    JobState
        Level and words.
    """
    if stage in _STAGE_WORDS:
        return _STAGE_WORDS[stage]
    for station, state in plan.states.items():
        if state == "stop":
            return JobState(level="stop", words=f"Stop: see {STATION_WORDS[station]}")
    if plan.states["master"] == "empty":
        return JobState(level="empty", words="Measure the master")
    if plan.rubber is None:
        return JobState(level="empty", words="Choose a rubber")
    if "warning" in plan.states.values():
        return JobState(level="warning", words="Ready, with a warning")
    return JobState(level="ready", words="Ready to pour")


def headlines(plan: Plan, say: UnitFormatter) -> dict[Station, str]:
    """Return each station's headline figure.

    Parameters
    ----------
    plan : Plan
        The job worked out.
    say : UnitFormatter
        In the workshop's units.

    Returns
    -------
    dict of Station to str
        Empty where there is none yet.
    """
    shown: dict[Station, str] = {"master": "", "opening": "", "box": "", "rubber": "", "checks": ""}
    if plan.master.measured:
        shown["master"] = say.plain(plan.master.measured.volume_ml, "volume", 1)
    if plan.opening:
        shown["opening"] = SHORT[plan.opening.style] + ("" if plan.opening.is_chosen else ", advised")
    if plan.box:
        shown["box"] = f"{say.plain(plan.box.net_ml, 'volume')} {'net' if plan.master.measured else 'gross'}"
    elif plan.jacket:
        shown["box"] = "jacket, no box"
    elif plan.style in BOXLESS:
        shown["box"] = "no box"
    if plan.rubber:
        decimals, totals = say.grams(plan.rubber), plan.rubber.ingredients
        both = (sum(one.g for one in totals if one.role == role) for role in ("A", "B"))
        shown["rubber"] = " + ".join(say.number(grams, "mass", decimals) for grams in both)
        shown["rubber"] += f" {say.plain(0, 'mass').split()[1]}"
    if plan.checks:
        begins = begin_min(plan.checks.steps).get("first")
        waiting = sum(stop.station == "checks" for stop in open_stops(plan.stops))
        shown["checks"] = (
            f"{waiting} {'stop' if waiting == 1 else 'stops'}"
            if waiting
            else f"begin {say.plain(begins, 'time')} before"
            if begins
            else "nothing to prepare"
        )
    return shown
