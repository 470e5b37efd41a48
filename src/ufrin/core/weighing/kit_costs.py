"""The cost of a pour, from the kits that it uses."""

from dataclasses import dataclass
from math import ceil

from ufrin.errors import Refused


@dataclass(frozen=True, slots=True, kw_only=True)
class KitUse:
    """The kits that a pour uses.

    Parameters
    ----------
    cost : float or None
        In the workshop's currency; None without a price.
    kits : int
        Kits that must be opened.
    """

    cost: float | None
    kits: int


def kit_use(*, rubber_g: float, kit_g: float, kit_price: float | None) -> KitUse:
    """Work out the cost of the rubber poured, in proportion to the kit, and how many kits it takes.

    Parameters
    ----------
    rubber_g, kit_g : float
        A + B of the pour and of a kit.
    kit_price : float or None
        Of a kit.

    Returns
    -------
    KitUse
        Cost and kits.

    Raises
    ------
    Refused
        For a kit without weight.
    """
    if not kit_g > 0:
        raise Refused("kit_g", "A kit must weigh something.")
    return KitUse(
        cost=None if kit_price is None else rubber_g * kit_price / kit_g,
        kits=max(1, ceil(rubber_g / kit_g * (1 - 1e-9))),
    )
