"""One step of the preparation, with its working and drying time."""

from dataclasses import dataclass
from hashlib import sha256

from ufrin.core.pairing.contacts import Phase
from ufrin.language import english


@dataclass(frozen=True, slots=True, kw_only=True)
class PrepStep:
    """One step of the preparation.

    Parameters
    ----------
    phase : str
        Before which pour.
    do : str
        What is done, on what.
    before_min : float
        The latest time to begin, before that pour.
    work_min, dry_min : float
        The time that it takes.
    pairs : tuple of str
        Keys of the contacts that it is for.
    """

    phase: Phase
    do: str
    before_min: float
    work_min: float
    dry_min: float
    pairs: tuple[str, ...]

    @property
    def key(self) -> str:
        """What it is ticked off by: its pour, what is done, and what it is for."""
        # in English: whoever ticks it off may read another language than whoever looks
        return sha256(f"{self.phase}|{english(self.do)}|{'+'.join(self.pairs)}".encode()).hexdigest()[:16]
