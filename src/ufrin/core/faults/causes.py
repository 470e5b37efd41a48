"""The causes of a symptom, ranked by the record of the job; how to tell them apart, and what to do.

All of it is common practice; how often a cause leads to a symptom, and how much a line of the record weighs, is our
own estimate.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ufrin.core.data_files import read_data
from ufrin.errors import Refused
from ufrin.language import Text

FOR, STRONG, AGAINST = 3.0, 8.0, 0.35
OTHER, LONGEST_NOTE = "other", 400


@dataclass(frozen=True, slots=True, kw_only=True)
class Cause:
    """A cause that may lead to a symptom.

    Parameters
    ----------
    key, text : str
        Its name in records, and a sentence that describes it.
    symptoms : mapping of symptom to weight
        How often it leads to each symptom, before the record is considered.
    looks_at : tuple of str
        Evidence that speaks for or against it.
    test, now, next : str
        How to tell it from the others, what to do now, and what to do next time.
    """

    key: str
    text: str
    symptoms: Mapping[str, float]
    looks_at: tuple[str, ...]
    test: str
    now: str
    next: str


@dataclass(frozen=True, slots=True, kw_only=True)
class Evidence:
    """A line of the record.

    Parameters
    ----------
    key : str
        What it is about.
    factor : float
        More than 1 speaks for a cause that depends on it, less than 1 against.
    text : str
        For people, with amounts as ``say_amounts`` reads them.
    """

    key: str
    factor: float
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class RankedCause:
    """A cause as it ranks in this job: its share of all, and the evidence for and against it."""

    cause: Cause
    share: float
    evidence: tuple[Evidence, ...]


def _read() -> tuple[Mapping[str, str], Mapping[str, Cause]]:
    table = read_data("faults", "faults")
    causes = {
        key: Cause(
            key=key,
            text=row["text"],
            symptoms=row["symptoms"],
            looks_at=tuple(row["looks_at"]),
            test=row["test"],
            now=row["now"],
            next=row["next"],
        )
        for key, row in table["causes"].items()
    }
    return table["symptoms"], causes


SYMPTOMS, CAUSES = _read()


def ranked_causes(symptom: str, evidence: Sequence[Evidence], known: Sequence[str] = ()) -> tuple[RankedCause, ...]:
    """Rank the possible causes of a symptom.

    Parameters
    ----------
    symptom : str
        One of ``SYMPTOMS``.
    evidence : sequence of Evidence
        The lines of the record; of several lines about the same thing the worst counts.
    known : sequence of str, optional
        Causes that the same symptom had earlier with the same pairing, in this shop.

    Returns
    -------
    tuple of RankedCause
        The likeliest first; shares add up to 1.

    Raises
    ------
    Refused
        For an unknown symptom.
    """
    if symptom not in SYMPTOMS:
        raise Refused("symptom", Text("What does it look like? Choose from the list what comes nearest."))
    # of several lines about the same thing, such as five batches, only the worst counts: four good ones
    # do not excuse it
    worst = {one.key: one for one in sorted(evidence, key=lambda one: one.factor)}.values()
    scored = []
    for cause in CAUSES.values():
        weight = cause.symptoms.get(symptom, 0.0)
        if not weight:
            continue
        seen = [one for one in worst if one.key in cause.looks_at]
        if cause.key in known:
            seen.append(
                Evidence(key="known", factor=FOR, text=Text("It was this before, with the same pairing, in this shop."))
            )
        for one in seen:
            weight *= one.factor
        scored.append((weight, cause, tuple(sorted(seen, key=lambda one: -one.factor))))
    whole = sum(weight for weight, _, _ in scored)
    scored.sort(key=lambda row: -row[0])
    return tuple(RankedCause(cause=cause, share=weight / whole, evidence=seen) for weight, cause, seen in scored)


def check_outcome(symptom: str, cause: str, note: str) -> None:
    """Refuse an outcome that is incomplete.

    Parameters
    ----------
    symptom, cause : str
        Keys; the cause may be "other".
    note : str
        In the maker's words.

    Raises
    ------
    Refused
        Which names what is missing.
    """
    if symptom not in SYMPTOMS:
        raise Refused("symptom", Text("What did it look like? Choose from the list what comes nearest."))
    if cause != OTHER and cause not in CAUSES:
        raise Refused("cause", Text("What was it? Choose from the list, or “something else” and say what."))
    if cause == OTHER and not note.strip():
        raise Refused("note", Text("What was it? Describe it in a few words."))
    if len(note) > LONGEST_NOTE:
        raise Refused(
            "note",
            Text(
                "That is {length} characters; {longest} is the most. Shorten it.",
                length=len(note),
                longest=LONGEST_NOTE,
            ),
        )
