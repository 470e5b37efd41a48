"""What is stirred into a casting material: fillers, metal powders, colours; and which suits what."""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.casting.filled_cast import USUAL_MOST_VOLUMES, check_filler
from ufrin.errors import Refused
from ufrin.language import Text

ADDITION_KINDS: Mapping[str, str] = {
    "filler": Text("Mineral filler"),
    "light-filler": Text("Light filler"),
    "metal": Text("Metal powder"),
    "dry-pigment": Text("Dry pigment"),
    "resin-colour": Text("Colour carried in resin"),
    "water-colour": Text("Water-based colour"),
}
POWDERS = frozenset({"filler", "light-filler", "metal"})
COLOURS = frozenset(ADDITION_KINDS) - POWDERS
# water makes isocyanates foam, and clumps in every resin; common practice
TAKES_WATER = frozenset({"plaster"})
TAKES_RESIN_COLOUR = frozenset(
    {
        *("polyurethane-resin", "clear-polyurethane", "epoxy-resin", "polyester-resin", "rigid-foam", "soft-foam"),
        "polyurethane-rubber",
    }
)


@dataclass(frozen=True, slots=True, kw_only=True)
class Addition:
    """What is stirred into a casting material. What its label does not state is None.

    Parameters
    ----------
    name, kind, colour : str
        Its name, one of ``ADDITION_KINDS``, and its colour.
    bulk_sg, true_sg : float or None
        Of a powder: as it lies in the scoop, and of its grains.
    most_volumes : float or None
        The most scoops to 1 of each part.
    dry_min, dry_c : float or None
        How it is dried before it goes in.
    pack_g, pack_price : float or None
        What a pack weighs and costs.
    """

    name: str
    kind: str = "filler"
    colour: str = ""
    bulk_sg: float | None = None
    true_sg: float | None = None
    most_volumes: float | None = None
    dry_min: float | None = None
    dry_c: float | None = None
    pack_g: float | None = None
    pack_price: float | None = None

    def __post_init__(self) -> None:
        if self.kind not in ADDITION_KINDS:
            raise Refused("kind", Text("That is not one of the choices. Choose again."))
        for name in ("bulk_sg", "true_sg", "most_volumes", "dry_min", "pack_g"):
            value = getattr(self, name)
            if value is not None and not value > 0:
                raise Refused(name, Text("This must be more than 0. Leave the field empty if the label does not say."))
        if self.kind in POWDERS:
            if self.bulk_sg is None or self.true_sg is None:
                raise Refused(
                    "bulk_sg" if self.bulk_sg is None else "true_sg",
                    Text(
                        "A powder's bulk density and that of its grains are both needed, for a scoop of it is "
                        "partly air. Weigh a level scoop of known volume for the first; the second is on its "
                        "data sheet."
                    ),
                )
            check_filler(self.bulk_sg, self.true_sg, field="bulk_sg")

    @property
    def most_scoops(self) -> float:
        """The most scoops to 1 of each part, or what is usual."""
        return self.most_volumes if self.most_volumes is not None else USUAL_MOST_VOLUMES

    @property
    def price_per_g(self) -> float | None:
        """Of a gram, by the pack."""
        return self.pack_price / self.pack_g if self.pack_price is not None and self.pack_g else None

    def suits(self, resin_kind: str) -> bool:
        """Return whether it goes into a casting material.

        Parameters
        ----------
        resin_kind : str
            One of the kinds of casting materials.

        Returns
        -------
        bool
            Water-based colour goes into plaster alone, and colour carried in resin into resins (common practice).
        """
        if self.kind == "water-colour":
            return resin_kind in TAKES_WATER
        return self.kind != "resin-colour" or resin_kind in TAKES_RESIN_COLOUR
