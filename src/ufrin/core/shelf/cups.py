"""Cups: the level of each part in one, and the strip at true size that is stuck on it."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import hypot

from ufrin.core.measures.plain_volumes import cup_level_mm, frustum_ml
from ufrin.errors import Refused
from ufrin.language import Text


@dataclass(frozen=True, slots=True, kw_only=True)
class Cup:
    """A cup to mix in, by its inside.

    Parameters
    ----------
    name : str
        What it is called.
    bottom_mm, height_mm : float
        Diameter at the bottom, and height.
    top_mm : float or None
        Diameter at the rim; None for a straight one.
    mark_ml : float or None
        The distance of its printed marks, where it has any.
    """

    name: str
    bottom_mm: float | None = None
    top_mm: float | None = None
    height_mm: float | None = None
    mark_ml: float | None = None

    def __post_init__(self) -> None:
        for name in ("bottom_mm", "height_mm"):
            size = getattr(self, name)
            if size is None or not 0 < size <= 2000:
                raise Refused(name, Text("This size is needed, measured inside: more than nothing, and at most 2 m."))
        if self.top_mm is not None and not 0 < self.top_mm <= 2000:
            raise Refused("top_mm", Text("A rim of nothing can't be. Leave it empty for a straight cup."))

    @property
    def ends_mm(self) -> tuple[float, float, float]:
        """Diameters at the bottom and at the rim, and the height."""
        bottom, height = self.bottom_mm or 0.0, self.height_mm or 0.0
        return bottom, self.top_mm or bottom, height

    @property
    def holds_ml(self) -> float:
        """What it holds to the rim."""
        return frustum_ml(*self.ends_mm)

    def level_mm(self, volume_ml: float) -> float:
        """Return the height of a volume in it.

        Parameters
        ----------
        volume_ml : float
            From 0 to what it holds.

        Returns
        -------
        float
            Above its bottom, straight up.
        """
        return cup_level_mm(*self.ends_mm, volume_ml) if volume_ml > 0 else 0.0

    def along_wall_mm(self, level_mm: float) -> float:
        """Return the distance along the slanting wall up to a level, which a strip on the cup has to show.

        Parameters
        ----------
        level_mm : float
            Straight up.

        Returns
        -------
        float
            In mm; the wall's thickness is left out.
        """
        bottom, top, height = self.ends_mm
        return level_mm * hypot(1.0, (top - bottom) / 2 / height)


@dataclass(frozen=True, slots=True, kw_only=True)
class Mark:
    """A mark on the strip: fill to here with this part.

    ``level_mm`` is straight up inside, ``wall_mm`` along the wall; ``upto_ml`` is all that is in the cup by then.
    """

    part: str
    level_mm: float
    wall_mm: float
    upto_ml: float


def marks(cup: Cup, parts_ml: Mapping[str, float]) -> tuple[Mark, ...]:
    """Mark a cup for parts that are poured in one after the other.

    Parameters
    ----------
    cup : Cup
        Straight or tapered.
    parts_ml : mapping of part name to ml
        In the order of pouring.

    Returns
    -------
    tuple of Mark
        A, then A and B, and so on.

    Raises
    ------
    Refused
        When they don't fit the cup.
    """
    together, made = 0.0, []
    for part, volume_ml in parts_ml.items():
        together += volume_ml
        if together > cup.holds_ml * (1 + 1e-9):
            raise Refused(
                "cup_id",
                Text(
                    "{name} holds [{holds_ml:.1f} volume], and a batch is [{parts_ml:.1f} volume]. Take a "
                    "bigger cup, or more batches.",
                    name=cup.name,
                    holds_ml=cup.holds_ml,
                    parts_ml=sum(parts_ml.values()),
                ),
            )
        level = cup.level_mm(min(together, cup.holds_ml))
        made.append(Mark(part=part, level_mm=level, wall_mm=cup.along_wall_mm(level), upto_ml=together))
    return tuple(made)
