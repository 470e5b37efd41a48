"""Post-cure: the heat that finishes a new mould, where its tin or its maker asks for it."""

from dataclasses import dataclass

from ufrin.errors import Refused
from ufrin.language import Text

LOWEST_C, HIGHEST_C = 20.0, 300.0


@dataclass(frozen=True, slots=True, kw_only=True)
class PostCure:
    """How hot, and for how long."""

    temp_c: float
    hold_min: float


def post_cure(temp_c: float | None, hold_min: float | None) -> PostCure | None:
    """Return a post-cure as it was filled in.

    Parameters
    ----------
    temp_c, hold_min : float or None
        How hot, and for how long.

    Returns
    -------
    PostCure or None
        None where neither was filled in.

    Raises
    ------
    Refused
        For one without the other, and for heat that no mould is cured at.
    """
    if temp_c is None and hold_min is None:
        return None
    if temp_c is None or hold_min is None:
        missing = "post_cure_c" if temp_c is None else "post_cure_min"
        raise Refused(missing, Text("A post-cure has two figures: how hot, and for how long."))
    if not LOWEST_C <= temp_c <= HIGHEST_C:
        raise Refused(
            "post_cure_c",
            Text("A post-cure between [20 temperature] and [300 temperature] is believable; the tin has its own."),
        )
    return PostCure(temp_c=temp_c, hold_min=hold_min)
