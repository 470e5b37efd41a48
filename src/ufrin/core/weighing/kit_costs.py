"""The kits and packs that a job opens, and what it takes from them costs."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil

from ufrin.errors import Refused
from ufrin.language import Text


@dataclass(frozen=True, slots=True, kw_only=True)
class PackUse:
    """What a job takes of one thing that is sold in kits or packs.

    Parameters
    ----------
    name : str
        As on the Shelf.
    used_g : float
        By all pours together.
    pack_g, price : float or None
        Of a kit or pack.
    is_rubber : bool
        Whether it is a rubber, both parts together.
    """

    name: str
    used_g: float
    pack_g: float | None
    price: float | None = None
    is_rubber: bool = True

    def __post_init__(self) -> None:
        if self.pack_g is not None and not self.pack_g > 0:
            raise Refused("kit_g", Text("A kit must weigh something."))

    @property
    def packs(self) -> int | None:
        """How many must be opened; None where nobody knows what one holds."""
        return None if self.pack_g is None else max(1, ceil(self.used_g / self.pack_g * (1 - 1e-9)))

    @property
    def cost(self) -> float | None:
        """Of what is used, in proportion to the pack; None without a price."""
        return None if self.pack_g is None or self.price is None else self.used_g * self.price / self.pack_g


@dataclass(frozen=True, slots=True, kw_only=True)
class KitUse:
    """The kits and packs of a job, rubbers first."""

    packs: tuple[PackUse, ...]

    @property
    def cost(self) -> float | None:
        """Of everything that has a price; None while a rubber has none."""
        if any(one.is_rubber and one.cost is None for one in self.packs):
            return None
        return sum(one.cost or 0.0 for one in self.packs)

    @property
    def unpriced(self) -> tuple[str, ...]:
        """Names of the things whose cost is not counted, as their pack or price is not known."""
        return tuple(one.name for one in self.packs if one.cost is None)


def kit_use(packs: Sequence[PackUse]) -> KitUse:
    """Gather the kits and packs of a job.

    Parameters
    ----------
    packs : sequence of PackUse
        In any order.

    Returns
    -------
    KitUse
        Without those of which nothing is used.
    """
    used = [one for one in packs if one.used_g > 0]
    return KitUse(packs=tuple(sorted(used, key=lambda one: not one.is_rubber)))
