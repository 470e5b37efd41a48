"""What a run needs of each material, and what of that must be bought."""

from dataclasses import dataclass


@dataclass(frozen=True, slots=True, kw_only=True)
class RunNeed:
    """A part or a powder: what the run takes, and what is on the Shelf, in g."""

    name: str
    needed_g: float
    have_g: float

    @property
    def buy_g(self) -> float:
        """To be bought; 0 where there is enough."""
        return max(0.0, self.needed_g - self.have_g)


def together(needs: list[RunNeed]) -> tuple[RunNeed, ...]:
    """Add up what is needed of the same thing.

    Parameters
    ----------
    needs : list of RunNeed
        In any order.

    Returns
    -------
    tuple of RunNeed
        Each thing once, in the order in which it is met first; what is on the Shelf counts once.
    """
    found: dict[str, RunNeed] = {}
    for one in needs:
        before = found.get(one.name)
        grams = one.needed_g + (before.needed_g if before else 0.0)
        found[one.name] = RunNeed(name=one.name, needed_g=grams, have_g=one.have_g)
    return tuple(found.values())
