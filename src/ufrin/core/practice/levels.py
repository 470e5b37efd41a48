"""The levels of practice, and the mishaps that are planted in it."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal, get_args

from ufrin.core.weighing.weigh_plan import Role
from ufrin.language import Text

LevelKey = Literal["first", "second", "third"]
MishapKind = Literal["too-much", "wrong-part", "pot-life", "drift"]
MISHAPS: tuple[MishapKind, ...] = get_args(MishapKind)

# the figures of a practice are our own choice: quick enough to be fun, slow enough that a hand can follow
SPEED = 6.0  # the clock of a practice runs so many times as fast, so that nobody waits for minutes of stirring
STEP_G = 0.1
SPILT_SHARE = 0.09  # of what was asked for, that slides out of the tin at least, once it is put upright


@dataclass(frozen=True, slots=True, kw_only=True)
class Level:
    """A level of practice.

    Parameters
    ----------
    key : str
        First, second or third.
    label : str
        As it is shown.
    mishaps : int
        How many are planted.
    is_told : bool
        Whether the maker is told which kind to look out for.
    far_s, little_s : float
        How long the whole of a part would take to run out of a tin that is tipped far, or a little.
    drift_g_per_s : float
        By how much the reading of a scale that drifts creeps, in each second.
    leaves_time : bool
        Whether somebody who is called away comes back in time to mix and pour.
    """

    key: LevelKey
    label: str
    mishaps: int
    is_told: bool
    far_s: float
    little_s: float
    drift_g_per_s: float
    leaves_time: bool


LEVELS: Mapping[LevelKey, Level] = {
    one.key: one
    for one in (
        Level(
            key="first",
            label=Text("First level"),
            mishaps=1,
            is_told=True,
            far_s=9.0,
            little_s=60.0,
            drift_g_per_s=0.5,
            leaves_time=True,
        ),
        Level(
            key="second",
            label=Text("Second level"),
            mishaps=2,
            is_told=False,
            far_s=7.0,
            little_s=45.0,
            drift_g_per_s=0.3,
            leaves_time=True,
        ),
        Level(
            key="third",
            label=Text("Third level"),
            mishaps=4,
            is_told=False,
            far_s=5.0,
            little_s=30.0,
            drift_g_per_s=0.2,
            leaves_time=False,
        ),
    )
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Mishap:
    """A mishap that is planted.

    Parameters
    ----------
    kind : str
        Which.
    part : "A" or "B"
        At which it happens; at a pot life that runs out, the part that starts it.
    """

    kind: MishapKind
    part: Role


def planted(level: Level, seed: int, mastered: Mapping[MishapKind, int] | None = None) -> tuple[Mishap, ...]:
    """Choose the mishaps of a practice.

    Parameters
    ----------
    level : Level
        Says how many.
    seed : int
        Of the practice; the same seed gives the same mishaps.
    mastered : mapping of kind to int, optional
        How often this maker has mastered each kind: the rarest come first.

    Returns
    -------
    tuple of Mishap
        Of different kinds.
    """
    turned = MISHAPS[seed % len(MISHAPS) :] + MISHAPS[: seed % len(MISHAPS)]
    chosen = sorted(turned, key=lambda kind: (mastered or {}).get(kind, 0))[: level.mishaps]
    odd = bool(seed // len(MISHAPS) % 2)
    parts: Mapping[MishapKind, Role] = {
        # too much B asks for more A, too much A only makes a larger batch: both are met in turn
        "too-much": "A" if odd and level.key != "third" else "B",
        "wrong-part": "B" if odd else "A",
        "pot-life": "B",
        # from the first tin on, so that there is time to see it
        "drift": "A",
    }
    return tuple(Mishap(kind=kind, part=parts[kind]) for kind in MISHAPS if kind in chosen)
