"""The entries of a pour's record, and the steps and attempts that they make up."""

from dataclasses import dataclass, field
from typing import Literal

from ufrin.core.clocks.moment import Moment
from ufrin.core.weighing.weigh_plan import Ingredient
from ufrin.errors import Refused
from ufrin.language import Text

EntryKind = Literal[
    "start",
    "tare",
    "hold",
    "down",
    "weigh",
    "wrong",
    "discard",
    "mixed",
    "poured",
    "leftover",
    "mould",
    "temperature",
    "correction",
    "note",
    "finish",
    "step",
    "witness",
    "short",
    "mishap",
    "demould",
    "found",
    "photo",
    "retract",
]
StepKind = Literal["do", "cup", "hold", "weigh", "mix", "pour", "mould", "leftover", "finish", "cure", "done"]
Verdict = Literal["under", "within", "over"]
Outcome = Literal["open", "poured", "wrong", "discarded"]


@dataclass(frozen=True, slots=True, kw_only=True)
class RecordEntry:
    """One line of a pour's record; lines are added and never changed.

    Parameters
    ----------
    number : int
        From 1, without gaps.
    at : Moment
        When.
    kind : str
        The kind of entry.
    ingredient : str
        The ingredient of "hold", "weigh" and "wrong".
    net_g, gross_g : float or None
        The net weight, and the reading of the scale.
    scale : str
        The scale's name; empty for a typed figure.
    temp_c : float or None
        Of the room.
    of_number : int or None
        The entry that a correction is about.
    lot_id : int or None
        The tin that it was taken from.
    text : str
        Why, or a note.
    what : str
        Which step was done, what the witness cup said, which mishap, how it came out of the box, or what was found.
    volume_ml : float or None
        That was missing, of "short".
    """

    number: int
    at: Moment
    kind: EntryKind
    ingredient: str = ""
    net_g: float | None = None
    gross_g: float | None = None
    scale: str = ""
    temp_c: float | None = None
    of_number: int | None = None
    lot_id: int | None = None
    text: str = ""
    what: str = ""
    volume_ml: float | None = None


@dataclass(slots=True, kw_only=True)
class StepAttempt:
    """One cup: a batch, or one that had to be set aside.

    ``poured_g`` has the content by ingredient, with corrections; ``contact`` is when A met B, or when what has one part
    was poured; ``is_mould_weighed`` is whether the mould was weighed, or left unweighed, once this cup was in it;
    ``steps_done`` are the steps of the method that were done with it.
    """

    batch: int
    tared: bool = False
    zero_g: float | None = None
    scale: str = ""
    in_hand: str = ""
    poured_g: dict[str, float] = field(default_factory=dict)
    wrong_g: dict[str, float] = field(default_factory=dict)
    contact: Moment | None = None
    mixed: bool = False
    is_mould_weighed: bool = False
    steps_done: list[str] = field(default_factory=list)
    outcome: Outcome = "open"
    leftover_g: float | None = None

    @property
    def total_g(self) -> float:
        """All that is in the cup."""
        return sum(self.poured_g.values()) + sum(self.wrong_g.values())

    def net_g(self, gross_g: float, scale: str) -> float:
        """Return the net weight of a reading: what the scale shows less what it showed when it was tared.

        Parameters
        ----------
        gross_g : float
            The reading of the scale.
        scale : str
            Its name.

        Returns
        -------
        float
            In g.

        Raises
        ------
        Refused
            When this scale was not tared in this cup.
        """
        if self.zero_g is None or self.scale != scale:
            raise Refused(
                "scale",
                Text(
                    "{scale} has not been tared in this cup. Tare it now with what is in the cup, then pour.",
                    scale=scale,
                ),
            )
        return gross_g - self.zero_g


@dataclass(frozen=True, slots=True, kw_only=True)
class Step:
    """What to do next.

    Parameters
    ----------
    kind : str
        Do a step of the method, put a cup on, take a part in hand, weigh it, mix, pour, weigh the mould, weigh
        what is left, finish, wait for the cure; or done.
    ingredient : Ingredient or None
        For "hold" and "weigh".
    target_g, low_g, high_g : float
        What to weigh now, with its band.
    is_mend : bool
        Whether it mends a wrong ratio.
    key : str
        Of a step of the method.
    least_min, most_min : float, float or None
        How long it takes at least, and at most.
    """

    kind: StepKind
    ingredient: Ingredient | None = None
    target_g: float = 0.0
    low_g: float = 0.0
    high_g: float = 0.0
    is_mend: bool = False
    key: str = ""
    least_min: float = 0.0
    most_min: float | None = None

    def verdict(self, net_g: float) -> Verdict:
        """Return whether a weight is under, within or over the band.

        Parameters
        ----------
        net_g : float
            Weighed.

        Returns
        -------
        "under", "within" or "over"
            The ends of the band are within.
        """
        return "under" if net_g < self.low_g - 1e-9 else "over" if net_g > self.high_g + 1e-9 else "within"
