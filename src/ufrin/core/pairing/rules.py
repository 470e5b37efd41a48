"""Pairing rules: what happens where a poured material touches a surface. Rules are data; a shop's own tests come first.

The shipped rules are common practice without a source, in ``data/pairings.toml``. The narrowest rule about a case
decides it.
"""

import re
from calendar import monthrange
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Literal, get_args

from ufrin.core.data_files import read_data
from ufrin.core.materials.kinds import (
    ANY,
    BETWEENS,
    LONGEST_OWN,
    NOTHING_BETWEEN,
    POURS,
    SEALED,
    SOMETHING_ELSE,
    SURFACES,
    members,
)
from ufrin.core.wording.findings import Level
from ufrin.errors import Refused
from ufrin.language import Text

Verdict = Literal["fine", "release", "seal", "may-not-set", "will-not-set", "bonds", "harms-mould"]
VERDICTS: tuple[Verdict, ...] = get_args(Verdict)
VERDICT_WORDS: Mapping[Verdict, str] = {
    "fine": Text("fine"),
    "release": Text("release needed"),
    "seal": Text("seal first"),
    "may-not-set": Text("may not set"),
    "will-not-set": Text("will not set"),
    "bonds": Text("bonds for good"),
    "harms-mould": Text("damages the mould"),
}
LEVELS: Mapping[Verdict, Level | None] = {
    "fine": None,
    "release": "warn",
    "seal": "warn",
    "may-not-set": "warn",
    "will-not-set": "stop",
    "bonds": "stop",
    "harms-mould": "stop",
}
NOT_KNOWN = Text(
    "What happens here is not known. Test a spot: mix a spoonful, put it on a hidden place, and wait the whole cure."
)
WORST: Mapping[Verdict, int] = {
    "fine": 0,
    "release": 1,
    "seal": 2,
    "may-not-set": 3,
    "harms-mould": 4,
    "bonds": 5,
    "will-not-set": 6,
}


def is_day(text: str) -> bool:
    """Return whether a text is a day of the calendar, in a plausible year.

    Parameters
    ----------
    text : str
        Such as "2026-11-03".

    Returns
    -------
    bool
        False for the 30th of February.

    Examples
    --------
    >>> is_day("2028-02-29"), is_day("2026-02-29")
    (True, False)
    """
    found = re.fullmatch(r"((?:19|20|21)[0-9]{2})-([0-9]{2})-([0-9]{2})", text)
    if not found:
        return False
    year, month, day = map(int, found.groups())
    return 1 <= month <= 12 and 1 <= day <= monthrange(year, month)[1]


@dataclass(frozen=True, slots=True, kw_only=True)
class Remedy:
    """A remedy: a sentence, and what is put between, one after the other, or what is used instead."""

    key: str
    text: str
    between: tuple[str, ...] = ()
    touches: str = ""
    pour: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class Rule:
    """A shipped rule: for each of these pours on each of these surfaces with each of these between, a verdict."""

    pour: frozenset[str]
    touches: frozenset[str]
    between: frozenset[str]
    verdict: Verdict
    why: str
    remedy: str = ""

    @property
    def cases(self) -> int:
        """The number of cases that it covers: the fewer, the narrower it is."""
        return len(self.pour) * len(self.touches) * len(self.between)

    def speaks_of(self, pour: str, touches: str, between: str) -> bool:
        """Return whether it covers a case.

        Parameters
        ----------
        pour, touches, between : str
            Kinds.

        Returns
        -------
        bool
            True where it lists all three.
        """
        return pour in self.pour and touches in self.touches and between in self.between


@dataclass(frozen=True, slots=True, kw_only=True)
class OwnRule:
    """A test of the shop's own, with its date. It takes precedence over shipped rules.

    Parameters
    ----------
    pour, touches, between : str
        Kinds; what it touches may have a name of the shop's own.
    verdict : str
        Its outcome.
    why : str
        In the shop's own words.
    tried_on : str
        When, such as "2026-11-03".
    rubber : str
        The only rubber of the Shelf that it holds for; empty for all of its kind.
    id : int
        In the database; 0 while it is not kept.
    """

    pour: str
    touches: str
    between: str
    verdict: str
    why: str
    tried_on: str
    rubber: str = ""
    id: int = 0

    def __post_init__(self) -> None:
        for field, value, known in (("pour", self.pour, POURS), ("between", self.between, BETWEENS)):
            if value not in known:
                raise Refused(
                    field, Text("“{value}” is not a kind that Ufrin knows. Choose one of the list.", value=value[:40])
                )
        if not self.touches.strip() or self.touches == SOMETHING_ELSE or len(self.touches) > LONGEST_OWN:
            raise Refused(
                "touches",
                Text(
                    "What did it touch? Choose it, or give it a name of up to {longest_own} characters.",
                    longest_own=LONGEST_OWN,
                ),
            )
        if self.verdict not in VERDICTS:
            raise Refused("verdict", Text("That is not a verdict. Choose one of the list."))
        if not self.why.strip() or len(self.why) > 400:
            raise Refused("why", Text("Say in up to 400 characters what was seen: the rule is read long after."))
        if not is_day(self.tried_on):
            raise Refused("tried_on", Text("When was it tried? Type a date such as 2026-11-03."))

    @property
    def found(self) -> Verdict:
        """Its verdict."""
        return next(known for known in VERDICTS if known == self.verdict)

    @property
    def case(self) -> tuple[str, str, str, str]:
        """The case that it is about."""
        return self.pour, self.touches.casefold(), self.between, self.rubber.casefold()


@dataclass(frozen=True, slots=True, kw_only=True)
class Ruling:
    """The judgement of a case.

    Parameters
    ----------
    verdict : str
        One of ``VERDICTS``.
    why : str
        The reason.
    remedy : Remedy or None
        What mends it; None where nothing needs to be mended, or nothing is known.
    own : OwnRule or None
        The shop's own test, where it decided.
    against : OwnRule or None
        An older test of the shop with another outcome.
    known : bool
        Whether anything is known about the case.
    """

    verdict: Verdict
    why: str
    remedy: Remedy | None = None
    own: OwnRule | None = None
    against: OwnRule | None = None
    known: bool = True

    @property
    def text(self) -> str:
        """The verdict in words; for an unknown case, the advice to test a spot."""
        return VERDICT_WORDS[self.verdict] if self.known else Text("not known: test a spot")


def _read_remedies() -> Mapping[str, Remedy]:
    table = read_data("pairing", "remedies")["remedies"]
    return {
        key: Remedy(
            key=key,
            text=row["text"],
            between=tuple(row.get("between", ())),
            touches=row.get("touches", ""),
            pour=row.get("pour", ""),
        )
        for key, row in table.items()
    }


def _read_rules() -> tuple[Rule, ...]:
    table = read_data("pairing", "pairings")
    return tuple(
        Rule(
            pour=members(row["pour"], POURS),
            touches=members(row["touches"], SURFACES),
            between=members(row["between"], BETWEENS),
            verdict=row["verdict"],
            why=row["why"],
            remedy=row.get("remedy", ""),
        )
        for row in table["rules"]
    )


REMEDIES: Mapping[str, Remedy] = _read_remedies()
RULES: tuple[Rule, ...] = _read_rules()


@lru_cache(maxsize=8192)
def shipped(pour: str, touches: str, between: str) -> Rule | None:
    """Find the shipped rule for a case: the narrowest that covers it.

    Parameters
    ----------
    pour, touches, between : str
        Kinds.

    Returns
    -------
    Rule or None
        None where no rule covers it.
    """
    return min(
        (rule for rule in RULES if rule.speaks_of(pour, touches, between)), key=lambda rule: rule.cases, default=None
    )


def judge(
    pour: str, touches: str, between: str = NOTHING_BETWEEN, own: Sequence[OwnRule] = (), rubber: str = ""
) -> Ruling:
    """Judge a case. An unknown kind is never fine.

    Parameters
    ----------
    pour, touches, between : str
        Kinds.
    own : sequence of OwnRule, optional
        The shop's own tests; the newest about this very rubber decides, then the newest about its kind.
    rubber : str, optional
        Name of the rubber, where it is one of the Shelf's.

    Returns
    -------
    Ruling
        Verdict, reason and remedy.

    Examples
    --------
    >>> judge("addition-silicone", "sulphur-clay").verdict
    'will-not-set'
    >>> judge("addition-silicone", "moon dust").text
    'not known: test a spot'
    """
    tests = [
        one
        for one in own
        if one.case[:3] == (pour, touches.casefold(), between) and one.rubber.casefold() in {"", rubber.casefold()}
    ]
    tests.sort(key=lambda one: (bool(one.rubber), one.tried_on, one.id), reverse=True)
    if tests:
        newest = tests[0]
        verdict = newest.found
        against = next((one for one in tests[1:] if one.verdict != newest.verdict), None)
        rule = shipped(pour, touches, between)
        remedy = REMEDIES.get(rule.remedy) if rule and verdict != "fine" else None
        return Ruling(verdict=verdict, why=newest.why, remedy=remedy, own=newest, against=against)
    rule = shipped(pour, touches, between)
    if rule is None:
        return Ruling(verdict="may-not-set", why=NOT_KNOWN, known=False)
    return Ruling(verdict=rule.verdict, why=rule.why, remedy=REMEDIES.get(rule.remedy))


def judge_layers(
    pour: str, touches: str, layers: Sequence[str], own: Sequence[OwnRule] = (), rubber: str = ""
) -> Ruling:
    """Judge a surface with several layers on it, such as a clear coat with a release over it.

    Where the first layer closes the surface and works, the layers over it are judged on a sealed surface.

    Parameters
    ----------
    pour, touches : str
        Kinds.
    layers : sequence of str
        What lies between, from the surface up.
    own, rubber : optional
        As for ``judge``.

    Returns
    -------
    Ruling
        Of all layers together.
    """
    first, *over = [layer for layer in layers if layer != NOTHING_BETWEEN] or [NOTHING_BETWEEN]
    ruling = judge(pour, touches, first, own, rubber)
    if not over or ruling.verdict not in {"fine", "release"}:
        return ruling
    upper = judge(pour, SEALED, over[-1], own, rubber)
    return upper if WORST[upper.verdict] <= WORST[ruling.verdict] else ruling


def contradictions(own: Sequence[OwnRule]) -> tuple[tuple[OwnRule, OwnRule], ...]:
    """Find tests of a shop with different outcomes for the same case.

    Parameters
    ----------
    own : sequence of OwnRule
        In any order.

    Returns
    -------
    tuple of (newer, older)
        The newer one counts.
    """
    newest: dict[tuple[str, str, str, str], OwnRule] = {}
    found = []
    for one in sorted(own, key=lambda rule: (rule.tried_on, rule.id), reverse=True):
        kept = newest.setdefault(one.case, one)
        if kept.verdict != one.verdict:
            found.append((kept, one))
    return tuple(found)


def check_kinds(pour: str, touches: str, between: str) -> None:
    """Refuse names that are not kinds.

    Parameters
    ----------
    pour, touches, between : str
        As requested.

    Raises
    ------
    Refused
        Which lists the known kinds.
    """
    for field, value, known in (("pour", pour, POURS), ("touches", touches, SURFACES), ("between", between, BETWEENS)):
        if value not in known or value == ANY:
            raise Refused(
                field,
                Text(
                    "“{value}” is not a kind that Ufrin knows. It knows: {known}.",
                    value=value[:40],
                    known=", ".join(known),
                ),
            )
