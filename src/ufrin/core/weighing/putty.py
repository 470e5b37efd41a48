"""Putty: kneaded rubber in lumps, for the pad that is pressed round a master."""

from dataclasses import dataclass
from math import ceil, pi

from ufrin.errors import Refused
from ufrin.language import Text

KNEADED_AT_ONCE_ML = 120.0  # the amount that two hands knead evenly in a minute (common practice)
KNEAD_MIN, PRESS_MIN, SET_MIN, CAST_AFTER_MIN = 1.0, 5.0, 10.0, 60.0  # common practice
MOST_LUMPS = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class Pad:
    """The pad that a master is pressed into.

    Parameters
    ----------
    length_mm, width_mm : float
        Of the pressed pad.
    thickness_mm : float
        From its underside to its top.
    displaced_ml : float
        What the master takes up in it.
    """

    length_mm: float
    width_mm: float
    thickness_mm: float
    displaced_ml: float = 0.0

    @property
    def need_ml(self) -> float:
        """The putty that it takes.

        Raises
        ------
        Refused
            For a pad without volume, or one that the master fills.
        """
        for size in (self.length_mm, self.width_mm, self.thickness_mm):
            if not 0 < size <= 10_000:
                raise Refused("pad_mm", Text("A pad's size must be more than nothing and at most 10 m."))
        need = self.length_mm * self.width_mm * self.thickness_mm / 1000 - self.displaced_ml
        if not need > 0:
            raise Refused(
                "pad_mm", Text("The pad leaves no room for putty beside the master. Make it thicker or wider.")
            )
        return need


@dataclass(frozen=True, slots=True, kw_only=True)
class Lumps:
    """Equal lumps of A and of B, and the number of each; one of A and one of B are kneaded together.

    ``a_ball_mm`` and ``b_ball_mm`` are the diameters they have when rolled to balls.
    """

    number: int
    a_g: float
    b_g: float
    a_ball_mm: float | None
    b_ball_mm: float | None


def lumps(a_g: float, b_g: float, sg: float, *, sg_a: float | None = None, sg_b: float | None = None) -> Lumps:
    """Divide putty into lumps that hands can knead in time.

    Parameters
    ----------
    a_g, b_g : float
        In all.
    sg : float
        Of the mix.
    sg_a, sg_b : float or None
        Of the parts; the mix's where not known.

    Returns
    -------
    Lumps
        The fewest pairs of which each can be kneaded at once.

    Raises
    ------
    Refused
        When there are too many to knead by hand.
    """
    number = max(1, ceil((a_g + b_g) / sg / KNEADED_AT_ONCE_ML * (1 - 1e-9)))
    if number > MOST_LUMPS:
        raise Refused(
            "rubber_id",
            Text(
                "That would be {number} lumps to knead by hand. Pour a liquid rubber for a mould of this size.",
                number=number,
            ),
        )
    a, b = a_g / number, b_g / number
    return Lumps(
        number=number, a_g=a, b_g=b, a_ball_mm=_ball_mm(a / (sg_a or sg)), b_ball_mm=_ball_mm(b / (sg_b or sg))
    )


def _ball_mm(volume_ml: float) -> float:
    return float((6 * volume_ml * 1000 / pi) ** (1 / 3))
