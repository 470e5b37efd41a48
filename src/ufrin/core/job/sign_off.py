"""The sign-off before the bench: what must be settled, or signed off with a reason, before the tin is opened."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from hashlib import sha256

from ufrin.core.inputs.stations import Station
from ufrin.core.measures.display import say_amounts, show
from ufrin.core.measures.quantity_kinds import Units
from ufrin.core.wording.findings import Amount, Finding
from ufrin.errors import Refused
from ufrin.language import Counted, Text, english

LONGEST_REASON = 400


@dataclass(frozen=True, slots=True, kw_only=True)
class SignOff:
    """A stop that a maker signed off.

    Parameters
    ----------
    about : str
        Key of the stop.
    text : str
        The stop as it was.
    reason, who : str
        Why it is poured all the same, and who signs.
    at_s : float
        When, in seconds since 1970.
    """

    about: str
    text: str
    reason: str
    who: str
    at_s: float


def check_sign_off(reason: str, who: str) -> None:
    """Refuse a sign-off without a reason or a name.

    Parameters
    ----------
    reason, who : str
        Why it may be poured all the same, and who signs.

    Raises
    ------
    Refused
        When one of them is missing or too long.
    """
    if not reason.strip():
        raise Refused("reason", Text("Say why it may be poured all the same: the reason is kept with the job."))
    if len(reason) > LONGEST_REASON:
        raise Refused(
            "reason",
            Text(
                "That is {length} characters; {longest} is the most. Shorten it.",
                length=len(reason),
                longest=LONGEST_REASON,
            ),
        )
    if not who.strip():
        raise Refused("who", Text("Who takes it upon themselves? A name is kept with the reason."))


@dataclass(frozen=True, slots=True, kw_only=True)
class Stop:
    """A stop of a job: its key, its station, what makes it, and who signed it off.

    What can't be worked out has no finding: it can't be signed off, and is settled where it was filled in.
    """

    key: str
    station: Station
    why: Finding | Refused
    signed: SignOff | None = None

    @property
    def finding(self) -> Finding | None:
        """The finding that makes it."""
        return self.why if isinstance(self.why, Finding) else None

    @property
    def text(self) -> str:
        """Its sentence in metric units, in the language in use: plans are kept, and read in another one later."""
        return self.why.text() if isinstance(self.why, Finding) else self.why.why

    def said(self, units: Units) -> str:
        """Return its sentence as a page says it.

        Parameters
        ----------
        units : "metric" or "us"
            The workshop's unit system.

        Returns
        -------
        str
            In the language in use.
        """
        return self.why.text(units) if isinstance(self.why, Finding) else say_amounts(self.why.why, units)


def _key(station: str, finding: Finding) -> str:
    # by its code and facts: a stop whose figures changed is another one, and must be looked at again, while a sentence
    # may be reworded; in English, as whoever signs may read another language than whoever looks
    facts = [f"{name}={english(_fact(fact))}" for name, fact in sorted(finding.facts.items())]
    return sha256("|".join([station, finding.code, *facts]).encode()).hexdigest()[:16]


def _fact(fact: Amount | str) -> str:
    return show(fact.value, fact.kind, "metric", fact.decimals) if isinstance(fact, Amount) else fact


def stops(
    findings: Mapping[Station, Sequence[Finding]],
    refusals: Mapping[Station, Sequence[Refused]],
    signed: Iterable[SignOff] = (),
) -> tuple[Stop, ...]:
    """List the stops of a job.

    Parameters
    ----------
    findings, refusals : mapping of station to what was found
        Of the plan.
    signed : iterable of SignOff, optional
        Sign-offs on record.

    Returns
    -------
    tuple of Stop
        In the order of the stations; those signed off name who did.
    """
    taken = {one.about: one for one in signed}
    found = []
    for station in dict.fromkeys([*refusals, *findings]):
        for refused in refusals.get(station, ()):
            key = sha256("|".join([station, refused.field, refused.why]).encode()).hexdigest()[:16]
            found.append(Stop(key=key, station=station, why=refused))
        for finding in findings.get(station, ()):
            if finding.level == "stop":
                found.append(stop_of(station, finding, taken))
    return tuple(found)


def stop_of(station: Station, finding: Finding, taken: Mapping[str, SignOff]) -> Stop:
    """Return the stop that a finding makes.

    Parameters
    ----------
    station : str
        Whose finding it is.
    finding : Finding
        At the level of a stop.
    taken : mapping of key to SignOff
        Sign-offs on record.

    Returns
    -------
    Stop
        Signed off where its key is on record.
    """
    key = _key(station, finding)
    return Stop(key=key, station=station, why=finding, signed=taken.get(key))


def open_stops(all_stops: Sequence[Stop]) -> tuple[Stop, ...]:
    """Return the stops that nobody signed off.

    Parameters
    ----------
    all_stops : sequence of Stop
        Of a job.

    Returns
    -------
    tuple of Stop
        Nothing may be poured while there are any.
    """
    return tuple(stop for stop in all_stops if stop.signed is None)


def refuse_open_stops(all_stops: Sequence[Stop]) -> None:
    """Refuse to open the bench while a stop is neither settled nor signed off.

    Parameters
    ----------
    all_stops : sequence of Stop
        Of a job.

    Raises
    ------
    Refused
        With how many there are.
    """
    if waiting := len(open_stops(all_stops)):
        raise Refused(
            "stops",
            Counted(
                "One stop is neither settled nor signed off. The bench opens when it is.",
                "{n} stops are neither settled nor signed off. The bench opens when they are.",
                n=waiting,
            ),
        )
