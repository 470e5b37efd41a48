"""Quantities, money, findings and sentences of a page in the workshop's units."""

from dataclasses import dataclass

from markupsafe import Markup, escape

from ufrin.core.inputs.stations import State, Station
from ufrin.core.inputs.term import Term
from ufrin.core.measures.display import field_text, figure, more_places, say_amounts, show
from ufrin.core.measures.quantity_kinds import Units
from ufrin.core.pairing.releases import Product
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.shore import ShoreScale, reading
from ufrin.core.rubber.tins import Rubber
from ufrin.core.shelf.containers import Container
from ufrin.core.shelf.cups import Cup
from ufrin.core.shelf.scales import Scale
from ufrin.core.shelf.thermometers import Thermometer
from ufrin.core.wording.findings import Finding
from ufrin.errors import Refused
from ufrin.language import Joined, Text, Written

STATE_WORDS: dict[State, str] = {
    "empty": Text("to do"),
    "ready": Text("ready"),
    "warning": Text("warning"),
    "stop": Text("stop"),
}
# keys of the core that are words themselves, where a page shows them
SPOKEN: dict[str, str] = {
    "first": Text("first"),
    "second": Text("second"),
    "front": Text("front"),
    "back": Text("back"),
    "left": Text("left"),
    "right": Text("right"),
    "strip": Text("strip"),
    "board": Text("board"),
    "plaster": Text("plaster"),
    "water": Text("water"),
    "thinner": Text("thinner"),
    "thickener": Text("thickener"),
    "pigment": Text("pigment"),
    "filler": Text("filler"),
    "colour": Text("colour"),
    "above": Text("above"),
    "below": Text("below"),
    "to pour": Text("to pour"),
    "weighing": Text("weighing"),
    "curing": Text("curing"),
    "cured": Text("cured"),
    "new": Text("new"),
    "in use": Text("in use"),
    "near its end": Text("near its end"),
    "retired": Text("retired"),
}
STATION_WORDS: dict[Station, str] = {
    "master": Text("Master"),
    "opening": Text("Opening"),
    "box": Text("Box"),
    "rubber": Text("Rubber"),
    "checks": Text("Checks"),
    "casts": Text("Casts"),
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
            Of the metric unit, instead of the kind's.

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
            Of the metric unit, instead of the kind's.

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
            Of the metric unit, instead of the kind's.

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
        return Written(f"{value:.2f}\u00a0{self.currency}".strip())

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
                readings.append(
                    f"{scale} {shore:.0f}" if not readings else Text("{shore:.0f} on {scale}", shore=shore, scale=scale)
                )
        return Joined(readings[:2]) or Text("too soft for any gauge")

    def thing(self, thing: Rubber | Additive | Cup | Container | Scale | Product | Thermometer) -> str:
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
        return ends[0] if ends[0] == ends[1] else Text("{low} to {high}", low=self.number(low, kind), high=ends[1])

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

    def places(self, kind: str, decimals: int) -> int:
        """Return how many decimals of the workshop's unit are shown, for scripts that show a quantity themselves.

        Parameters
        ----------
        kind : str
            One of ``KINDS``.
        decimals : int
            Of the metric unit.

        Returns
        -------
        int
            More for ounces.
        """
        return decimals + more_places(kind, self.units)
