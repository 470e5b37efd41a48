"""The usual cautions for the materials of a job.

They are no substitute for the safety data sheet, local rules or a competent person.
"""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.data_files import read_data
from ufrin.core.materials.kinds import BETWEENS, POURS, SURFACES
from ufrin.language import Text

DEFERS = Text(
    "The usual cautions, from common practice. The maker's safety data sheet, local rules "
    "and a competent person come before anything said here."
)
DEEDS: Mapping[str, str] = {
    "vacuum": Text("the vacuum"),
    "pressure": Text("the pressure pot"),
    "slit": Text("cutting the slit"),
    "thinner": Text("the thinner"),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Caution:
    """One caution: its topic, what in the job calls for it, and what to do."""

    topic: str
    because: tuple[str, ...]
    text: str


@dataclass(frozen=True, slots=True, kw_only=True)
class UsedInJob:
    """What a job uses: the kinds that are poured, touched and put between, and activities of ``DEEDS``."""

    pour: frozenset[str] = frozenset()
    touches: frozenset[str] = frozenset()
    between: frozenset[str] = frozenset()
    deed: frozenset[str] = frozenset()


KNOWN: Mapping[str, Mapping[str, str]] = {"pour": POURS, "touches": SURFACES, "between": BETWEENS, "deed": DEEDS}


@dataclass(frozen=True, slots=True, kw_only=True)
class Topic:
    """One caution as the file has it: what calls for it, by column of ``KNOWN``."""

    topic: str
    text: str
    always: bool
    wants: Mapping[str, tuple[str, ...]]


def _read() -> tuple[Topic, ...]:
    table = read_data("pairing", "protection")
    return tuple(
        Topic(
            topic=row["topic"],
            text=row["text"],
            always=row.get("always", False),
            wants={name: tuple(row.get(name, ())) for name in KNOWN},
        )
        for row in table["topics"]
    )


TOPICS: tuple[Topic, ...] = _read()


def cautions(used: UsedInJob) -> tuple[Caution, ...]:
    """Return the cautions for a job.

    Parameters
    ----------
    used : UsedInJob
        Materials and activities of the job.

    Returns
    -------
    tuple of Caution
        Those that always apply, and those that this job calls for, in the order of the file.
    """
    found = []
    for one in TOPICS:
        because = [known[key] for name, known in KNOWN.items() for key in one.wants[name] if key in getattr(used, name)]
        if because or one.always:
            found.append(Caution(topic=one.topic, because=tuple(dict.fromkeys(because)), text=one.text))
    return tuple(found)
