"""The method of a pour: how the rubber is mixed, freed of air and brought to the master, as steps at the bench."""

from dataclasses import dataclass
from typing import Literal

from ufrin.core.inputs.usual import USUAL

How = Literal["poured", "brushed", "putty", "cast"]
StepKey = Literal[
    "lay-ready",
    "melt",
    "soak",
    "take-off",
    "turn",
    "stir-a",
    "shake-b",
    "lids-apart",
    "bring-together",
    "scrape",
    "second-cup",
    "rest",
    "degas-rise",
    "degas-hold",
    "vibrate",
    "pressure-on",
    "press-flat",
]
_USUAL = USUAL["bench"]
# a rubber with a shorter pot life has no time for a second cup and a rest
FAST_POT_LIFE_MIN = _USUAL["fast_pot_life_min"]
# a putty that leaves less time to press once it is kneaded is warned of before its tin is opened
LEAST_PRESS_MIN = _USUAL["least_press_min"]


@dataclass(frozen=True, slots=True, kw_only=True)
class MethodStep:
    """A step besides weighing: its key, and how long it takes at least; 0 where it is done when it is done."""

    key: StepKey
    least_min: float = 0.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Method:
    """How a pour is worked.

    Parameters
    ----------
    how : str
        Poured, brushed on, or kneaded and pressed on; or cast in a mould.
    basis : "weight" or "volume"
        Whether the parts are weighed, or measured by the marks of cups.
    takes_kit : bool
        Whether all the A that is left is taken, and B follows.
    air : str
        The school of getting the air out; empty for what is not poured.
    least_mix_min, most_mix_min : float, float or None
        As the tin states, or as the job plans.
    degas_min : float
        Until the mix has risen and fallen.
    vessel_ml : float or None
        That the mix needs while it rises, in the largest batch.
    vibrate_min, pot_kpa, drop_mm : float
        Of a vibrating table, a pressure pot (gauge), and a thin stream.
    drops_per_ml : float or None
        Of part B, where it is counted in drops.
    melts : bool
        Whether it has one part and is melted, such as wax.
    is_rotated : bool
        Whether the mould is turned by hand after each cup.
    sifts : bool
        Whether a powder is sprinkled into water, such as plaster.
    takes_off : bool
        Whether a part of each mix is taken off and coloured.
    """

    how: How = "poured"
    basis: Literal["weight", "volume"] = "weight"
    takes_kit: bool = False
    air: str = ""
    least_mix_min: float = 3.0
    most_mix_min: float | None = None
    degas_min: float = 0.0
    vessel_ml: float | None = None
    vibrate_min: float = 0.0
    pot_kpa: float = 0.0
    drop_mm: float = 0.0
    drops_per_ml: float | None = None
    melts: bool = False
    is_rotated: bool = False
    sifts: bool = False
    takes_off: bool = False

    @property
    def before(self) -> tuple[MethodStep, ...]:
        """What is done once, before the first cup."""
        if self.how == "putty":
            return (MethodStep(key="lids-apart"),)
        if self.melts or self.sifts:
            return (MethodStep(key="lay-ready"),)
        if self.how == "cast":
            return (MethodStep(key="lay-ready"), MethodStep(key="stir-a"), MethodStep(key="shake-b"))
        return (MethodStep(key="stir-a"), MethodStep(key="shake-b"))

    @property
    def before_mix(self) -> tuple[MethodStep, ...]:
        """What is done once all parts of a cup are weighed: lumps are brought together, wax melts, plaster soaks."""
        if self.melts:
            return (MethodStep(key="melt"),)
        if self.sifts:
            return (MethodStep(key="soak", least_min=_USUAL["soak_min"]),)
        return (MethodStep(key="bring-together"),) if self.how == "putty" else ()

    @property
    def meets_at(self) -> StepKey | None:
        """The step at which A first meets B; None where they meet in the cup, when B is poured."""
        return "bring-together" if self.how == "putty" else None

    def after_mix(self, pot_life_min: float | None) -> tuple[MethodStep, ...]:
        """Return what is done with each mixed cup before it is poured.

        Parameters
        ----------
        pot_life_min : float or None
            In the room as it is.

        Returns
        -------
        tuple of MethodStep
            Scraped, stirred again in a second cup, then degassed or left to rest (common practice).
        """
        if self.how == "putty" or self.melts or self.sifts:
            return ()
        is_fast = pot_life_min is not None and pot_life_min < FAST_POT_LIFE_MIN
        steps = [MethodStep(key="scrape")]
        if not is_fast:
            steps.append(MethodStep(key="second-cup", least_min=_USUAL["second_cup_min"]))
        if self.air == "vacuum":
            steps += [
                MethodStep(key="degas-rise", least_min=self.degas_min),
                MethodStep(key="degas-hold", least_min=_USUAL["after_fall_min"]),
            ]
        elif self.air == "clear" and not is_fast:
            steps.append(MethodStep(key="rest", least_min=_USUAL["rest_min"]))
        if self.takes_off:
            steps.append(MethodStep(key="take-off"))
        return tuple(steps)

    @property
    def after_cup(self) -> tuple[MethodStep, ...]:
        """What is done with the mould once a cup is in it."""
        return (MethodStep(key="turn"),) if self.is_rotated else ()

    @property
    def after_pour(self) -> tuple[MethodStep, ...]:
        """What is done with the mould once all that is poured is in it."""
        if self.how == "putty":
            return (MethodStep(key="press-flat"),)
        if self.how in {"poured", "cast"} and self.air == "vibrate":
            return (MethodStep(key="vibrate", least_min=self.vibrate_min),)
        if self.how in {"poured", "cast"} and self.air == "pressure":
            return (MethodStep(key="pressure-on"),)
        return ()
