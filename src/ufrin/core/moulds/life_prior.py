"""The life to expect of a mould before this shop's own moulds tell: by its rubber, its cast, its detail and release."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from ufrin.core.data_files import read_data
from ufrin.language import Text

_LIFE: Mapping[str, Mapping[str, Any]] = read_data("moulds", "life")
USUAL_CASTS = float(_LIFE["usual"]["casts"])
PRIOR_SHAPE, PRIOR_WORTH = float(_LIFE["prior"]["shape"]), int(_LIFE["prior"]["worth"])
DETAILS: Mapping[str, str] = {key: one["label"] for key, one in _LIFE["detail"].items()}
RIGID = frozenset({"polyurethane-resin", "epoxy-resin", "polyester-resin", "plaster", "plastic-sheet", "metal"})
SLOW_POT_LIFE_MIN = 20.0  # a resin that stays liquid so long cures cool; common practice
SOFT_SHORE_A, STIFF_SHORE_A = 10.0, 35.0  # common practice


@dataclass(frozen=True, slots=True, kw_only=True)
class LifeFactor:
    """What makes a mould last longer or shorter: how many times, and why."""

    times: float
    why: str


@dataclass(frozen=True, slots=True, kw_only=True)
class LifePrior:
    """The life to expect of a cavity: its median in casts, and what it follows from."""

    median_casts: float
    factors: tuple[LifeFactor, ...]


def life_prior(
    *,
    mould_family: str = "",
    cast_kind: str = "",
    pot_life_min: float | None = None,
    detail: str = "usual",
    is_released: bool = False,
    shore_a: float | None = None,
) -> LifePrior:
    """Return the life to expect of a cavity.

    Parameters
    ----------
    mould_family, cast_kind : str, optional
        What the mould is of, and what is cast in it; empty where nobody knows.
    pot_life_min : float or None, optional
        Of the cast: a slow resin cures cool.
    detail : str, optional
        One of ``DETAILS``.
    is_released : bool, optional
        Whether a release goes on before every cast.
    shore_a : float or None, optional
        Hardness of the rubber.

    Returns
    -------
    LifePrior
        25 casts times the factors (common practice).

    Examples
    --------
    >>> life_prior(detail="easy").median_casts, life_prior(cast_kind="polyester-resin").median_casts
    (60.0, 15.0)
    """
    is_rigid = mould_family in RIGID
    is_slow = pot_life_min is not None and pot_life_min >= SLOW_POT_LIFE_MIN
    rows = [_LIFE["mould"].get("rigid" if is_rigid else mould_family), _LIFE["detail"].get(detail)]
    if is_slow and cast_kind in {"polyurethane-resin", "epoxy-resin"}:
        rows.append(_LIFE["cast"]["slow"])
    else:
        rows.append(_LIFE["cast"].get(cast_kind))
    if is_released:
        rows.append(_LIFE["release"]["yes"])
    if shore_a is not None and not is_rigid:
        rows += [_LIFE["hardness"]["soft"]] * (shore_a < SOFT_SHORE_A)
        rows += [_LIFE["hardness"]["stiff"]] * (shore_a > STIFF_SHORE_A)
    factors = tuple(
        LifeFactor(times=float(row["times"]), why=Text(row["reason"])) for row in rows if row and row["times"] != 1
    )
    median = USUAL_CASTS
    for one in factors:
        median *= one.times
    return LifePrior(median_casts=median, factors=factors)
