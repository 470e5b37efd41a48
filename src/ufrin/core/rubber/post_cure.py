"""Post-cure: the heat that finishes a new mould of a family that wants it, before anything is cast in it."""

from dataclasses import dataclass

from ufrin.core.data_files import read_data

_FIGURES = read_data("rubber", "families")


@dataclass(frozen=True, slots=True, kw_only=True)
class PostCure:
    """How hot, and for how long."""

    temp_c: float
    hold_min: float


def post_cure_of(family: str) -> PostCure | None:
    """Return the post-cure of a family.

    Parameters
    ----------
    family : str
        Of the rubber.

    Returns
    -------
    PostCure or None
        None for a family that wants none.
    """
    own = _FIGURES.get(family, {})
    if "post_cure_c" not in own:
        return None
    return PostCure(temp_c=float(own["post_cure_c"]["value"]), hold_min=float(own["post_cure_min"]["value"]))
