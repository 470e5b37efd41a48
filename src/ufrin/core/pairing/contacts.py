"""Contacts: every pair of things that meet in a job, with what lies between them, and the outcome."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Literal

from ufrin.core.inputs.stations import Station
from ufrin.core.materials.kinds import NOTHING_BETWEEN, POURS, PUT_ON, surface_words
from ufrin.core.pairing.rules import LEVELS, OwnRule, Ruling, judge_layers
from ufrin.core.wording.findings import Amount, Finding
from ufrin.language import Joined, Text

Phase = Literal["first", "second", "cast"]
PHASES: dict[Phase, str] = {
    "first": Text("before the rubber is poured"),
    "second": Text("before the second half is poured"),
    "cast": Text("before the first cast"),
}
_CODES = {
    "will-not-set": "touch-will-not-set",
    "bonds": "touch-bonds",
    "harms-mould": "touch-harms",
    "may-not-set": "touch-may-not-set",
    "release": "touch-release",
    "seal": "touch-seal",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Contact:
    """Two things that meet.

    Parameters
    ----------
    key : str
        "master", "master-2", "board", "walls", "bed", "halves", "filler", "jacket", "cast" or "insert".
    pour, touches : str
        Kinds; empty where they were not filled in.
    pour_name, touches_name : str
        What they are called in this job: "the rubber", "the walls".
    layers : tuple of str
        What lies between, from the surface up, as filled in.
    is_known : bool
        Whether the maker filled it in; otherwise the advised layers are assumed.
    field : str
        The input for what lies between, or for the material where that is missing.
    station : str
        Of that field.
    phase : str
        When it is put on.
    is_held : bool
        Whether the two are meant to bond.
    rubber : str
        Name of the rubber, for tests of that rubber alone.
    may_be_advised : bool
        Whether the advised layers may be assumed; what lies on a master is a fact.
    of_job : int
        Number of the other job whose master it is.
    bed_at : str
        The station where the bed is filled in.
    """

    key: str
    pour: str
    touches: str
    pour_name: str
    touches_name: str
    layers: tuple[str, ...] = ()
    is_known: bool = False
    field: str = ""
    station: Station = "checks"
    phase: Phase = "first"
    is_held: bool = False
    rubber: str = ""
    may_be_advised: bool = True
    of_job: int = 0
    bed_at: Station = "box"


@dataclass(frozen=True, slots=True, kw_only=True)
class JudgedContact:
    """Two things that meet, judged.

    Parameters
    ----------
    contact : Contact
        With the layers that are assumed.
    bare, ruling : Ruling
        With nothing between, and as it is.
    is_advised : bool
        Whether the layers are advised and not the maker's.
    """

    contact: Contact
    bare: Ruling
    ruling: Ruling
    is_advised: bool

    @property
    def case(self) -> tuple[str, str, str]:
        """The kinds that are poured and touched, and the last layer between."""
        return self.contact.pour, self.contact.touches, self.layers[-1] if self.layers else NOTHING_BETWEEN

    @property
    def layers(self) -> tuple[str, ...]:
        """What lies between, without "nothing"."""
        return tuple(layer for layer in self.contact.layers if layer != NOTHING_BETWEEN)

    @property
    def between_words(self) -> str:
        """What lies between, in words."""
        return Joined((PUT_ON[layer].label for layer in self.layers), Text(", then ")) or Text("nothing")

    @property
    def touches_kind(self) -> str:
        """What is touched, in words."""
        return surface_words(self.contact.touches)

    @property
    def pour_kind(self) -> str:
        """What is poured, in words."""
        return POURS.get(self.contact.pour, Text("not known yet"))

    def finding(self) -> Finding | None:
        """Return the finding of this contact.

        Returns
        -------
        Finding or None
            None where it is fine, and for old rubber that does not bond, which is a finding of the Box station.
        """
        field = self.contact.field if self.contact.station == "checks" else ""
        if not self.contact.touches and self.contact.pour:
            facts: dict[str, Amount | str] = {"pour": self.contact.pour_name, "touches": self.contact.touches_name}
            return Finding(code="touch-not-said", facts=facts, field=field)
        if not self.contact.pour or not self.contact.touches:
            return None
        if not self.ruling.known:
            code = "touch-not-known"
        elif LEVELS[self.ruling.verdict] is None or (
            self.contact.key == "filler" and self.ruling.verdict == "harms-mould"
        ):
            return None
        else:
            code = _CODES[self.ruling.verdict]
        facts = {
            "pour": self.contact.pour_name,
            "touches": self.contact.touches_name,
            "kind": self.touches_kind,
            "why": self.ruling.why,
            "remedy": self.ruling.remedy.text if self.ruling.remedy else Text("Test a spot first."),
        }
        return Finding(code=code, facts=facts, field=field)


NOT_SAID = Text("Its material is not known yet, so this can't be judged.")


def judged(contact: Contact, own: Sequence[OwnRule] = (), *, always_release: bool = False) -> JudgedContact:
    """Judge a contact. Where the maker filled in no layers between, the advised ones are assumed.

    Parameters
    ----------
    contact : Contact
        The two.
    own : sequence of OwnRule, optional
        The shop's own tests.
    always_release : bool, optional
        Whether this shop puts a release in its moulds even where none is needed.

    Returns
    -------
    JudgedContact
        With verdict, reason and remedy.
    """
    if not contact.pour or not contact.touches:
        nobody = Ruling(verdict="may-not-set", why=NOT_SAID, known=False)
        return JudgedContact(contact=contact, bare=nobody, ruling=nobody, is_advised=False)
    bare = _meant(judge_layers(contact.pour, contact.touches, (), own, contact.rubber), contact)
    layers = contact.layers
    is_advised = False
    if not contact.is_known and contact.may_be_advised:
        remedy = bare.remedy
        layers = remedy.between if remedy and bare.verdict != "fine" else ()
        if always_release and bare.verdict == "fine" and contact.key == "cast":
            layers = ("silicone-free-release",)
        is_advised = True
    ruling = _meant(judge_layers(contact.pour, contact.touches, layers, own, contact.rubber), contact)
    return JudgedContact(contact=replace(contact, layers=layers), bare=bare, ruling=ruling, is_advised=is_advised)


def _meant(ruling: Ruling, contact: Contact) -> Ruling:
    # an insert, or old rubber in new, is meant to bond: a release that is right elsewhere is the fault here
    if not contact.is_held or ruling.own:
        return ruling
    if contact.key == "filler" and ruling.verdict in {"fine", "release"}:
        return Ruling(
            verdict="harms-mould",
            why=Text(
                "Old rubber of another family does not bond to the new: the mould would fall apart round the pieces."
            ),
        )
    if ruling.verdict in {"bonds", "release"}:
        return Ruling(
            verdict="fine", why=Text("It takes hold, as it is meant to. Clean it, and roughen what is smooth.")
        )
    if ruling.verdict == "fine" and contact.key == "insert":
        return Ruling(
            verdict="fine",
            why=Text("It does not take hold by itself: give the insert a groove or a hole that the cast locks into."),
        )
    return ruling


def remedy_of(pair: JudgedContact) -> tuple[Station, dict[str, object]] | None:
    """Return the change to the job that the remedy of a contact makes.

    Parameters
    ----------
    pair : JudgedContact
        As it is now.

    Returns
    -------
    (Station, changes) or None
        None where it is fine, or where one click can't do it.
    """
    remedy = pair.ruling.remedy or pair.bare.remedy
    if remedy is None or (pair.ruling.verdict == "fine" and pair.ruling.known):
        return None
    key = pair.contact.key
    if key == "master" and remedy.between:
        sealers = [layer for layer in remedy.between if PUT_ON[layer].seals]
        over = [layer for layer in remedy.between if not PUT_ON[layer].seals]
        return "master", {**({"sealer": sealers[0]} if sealers else {}), **({"release": over[0]} if over else {})}
    if key == "bed" and remedy.touches:
        return pair.contact.bed_at, {"bed_material": remedy.touches}
    if remedy.between and pair.contact.field.startswith("between_"):
        # the advice for the bare surface may be two layers, which no single choice offers
        return "checks", {
            pair.contact.field: None if pair.bare.remedy == remedy or len(remedy.between) > 1 else remedy.between[0]
        }
    return None


@dataclass(frozen=True, slots=True, kw_only=True)
class Surface:
    """A master as others touch it: its name, kind, layers, whether they are known, and the job that it belongs to."""

    name: str
    kind: str
    layers: tuple[str, ...] = ()
    is_known: bool = False
    of_job: int = 0


@dataclass(frozen=True, slots=True, kw_only=True)
class PartsThatMeet:
    """All that meets in a job, as filled in; empty where it is absent or was not filled in.

    Parameters
    ----------
    rubber, rubber_name : str
        Kind, and name on the Shelf.
    masters : tuple of Surface
        The job's own first.
    board, walls, bed, filler, cast, insert : str
        Kinds.
    walls_name : str
        What they are called.
    jacket : str
        What a jacket is made of.
    bed_station : str
        Where the bed is filled in.
    has_board, has_walls, has_bed, is_parted, has_jacket : bool
        Whether rubber meets the board and walls, whether there is a bed, a second half, a jacket over a skin.
    between : mapping of what to kind
        The layers that the maker filled in; None where nothing was filled in.
    """

    rubber: str
    rubber_name: str
    masters: tuple[Surface, ...]
    board: str
    walls: str
    bed: str = ""
    filler: str = ""
    cast: str = ""
    insert: str = ""
    jacket: str = "plaster"
    bed_station: Station = "box"
    walls_name: str = Text("the walls")
    has_board: bool = True
    has_walls: bool = True
    has_bed: bool = False
    is_parted: bool = False
    has_jacket: bool = False
    between: Mapping[str, str | None] = field(default_factory=dict)


def contacts_of(parts: PartsThatMeet) -> tuple[Contact, ...]:
    """List every contact of a job.

    Parameters
    ----------
    parts : PartsThatMeet
        Of the job.

    Returns
    -------
    tuple of Contact
        In the order of the work; the cast last.
    """
    on = Contact(
        key="", pour=parts.rubber, pour_name=Text("the rubber"), touches="", touches_name="", rubber=parts.rubber_name
    )
    found = [_on_master(on, number, master) for number, master in enumerate(parts.masters, 1)]
    if parts.has_board:
        found.append(_with(parts, replace(on, key="board", touches=parts.board, touches_name=Text("the board"))))
    if parts.has_walls:
        found.append(_with(parts, replace(on, key="walls", touches=parts.walls, touches_name=parts.walls_name)))
    if parts.has_bed:
        bed = _with(
            parts, replace(on, key="bed", touches=parts.bed, touches_name=Text("the bed"), bed_at=parts.bed_station)
        )
        found.append(bed if parts.bed else replace(bed, field="bed_material", station=parts.bed_station))
    if parts.filler:
        found.append(
            replace(
                on,
                key="filler",
                touches=parts.filler,
                touches_name=Text("the old rubber laid in"),
                is_held=True,
                is_known=True,
                field="filler_family",
                station="box",
            )
        )
    if parts.is_parted:
        found.append(
            _with(
                parts,
                replace(on, key="halves", touches=parts.rubber, touches_name=Text("the first half"), phase="second"),
            )
        )
    if parts.has_jacket:
        found.append(
            replace(
                on,
                key="jacket",
                pour=parts.jacket,
                pour_name=Text("the jacket"),
                touches=parts.rubber,
                touches_name=Text("the skin"),
                phase="second",
            )
        )
    cast = replace(on, pour=parts.cast, pour_name=Text("the cast"), phase="cast")
    in_mould = _with(parts, replace(cast, key="cast", touches=parts.rubber, touches_name=Text("the mould")))
    found.append(in_mould if parts.cast else replace(in_mould, field="cast_material"))
    if parts.insert:
        found.append(
            replace(
                cast,
                key="insert",
                touches=parts.insert,
                touches_name=Text("the insert"),
                is_held=True,
                is_known=True,
                field="insert" if parts.cast else "cast_material",
            )
        )
    return tuple(found)


def _on_master(on: Contact, number: int, master: Surface) -> Contact:
    return replace(
        on,
        key="master" if number == 1 else f"master-{number}",
        touches=master.kind,
        layers=master.layers,
        is_known=master.is_known,
        touches_name=Text("the master") if number == 1 else Text("the master of “{name}”", name=master.name),
        field="sealer" if master.kind else "material",
        station="master",
        may_be_advised=False,
        of_job=master.of_job,
    )


def _with(parts: PartsThatMeet, contact: Contact) -> Contact:
    layer = parts.between.get(contact.key)
    return replace(
        contact, layers=(layer,) if layer else (), is_known=layer is not None, field=f"between_{contact.key}"
    )
