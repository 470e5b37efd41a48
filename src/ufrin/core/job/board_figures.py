"""What a list shows of a job: kept with it when it is saved, so that nothing is worked out when the list is read."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass, fields
from typing import Any

from ufrin.core.inputs.stations import State, Station
from ufrin.core.job.job_plan import Plan
from ufrin.core.job.mould_style import BOXLESS
from ufrin.core.job.pour_targets import Half
from ufrin.core.job.sign_off import open_stops


@dataclass(frozen=True, slots=True, kw_only=True)
class BoardFigures:
    """What a list shows of a job.

    Parameters
    ----------
    box_ml : float or None
        Rubber in the box; None without a box.
    is_net : bool
        Whether the master's displacement is taken off it.
    has_jacket, is_boxless : bool
        What stands in the place of a box, or that the kind of mould has none.
    rubber : str
        Its name; empty while none is chosen.
    parts_g : (float, float) or None
        A and B of all pours; None while they are not known.
    mass_decimals : int
        That the job's scale can show, in g.
    total_g : float or None
        Everything that is mixed; None while it is not known, and where a whole kit is taken whatever is needed.
    halves : tuple of str
        Of the pours that are planned, in the order of the work.
    is_stopped : bool
        Whether a stop is neither settled nor signed off.
    states : mapping of station to state
        Of every station.
    """

    box_ml: float | None
    is_net: bool
    has_jacket: bool
    is_boxless: bool
    rubber: str
    parts_g: tuple[float, float] | None
    mass_decimals: int
    total_g: float | None
    halves: tuple[Half, ...]
    is_stopped: bool
    states: Mapping[Station, State]

    @property
    def takes_one_pour(self) -> bool:
        """Whether its mould is poured in one go and nothing stops it: a skin and a pad take their rubber by and by."""
        return len(self.halves) == 1 and not (self.is_boxless or self.has_jacket or self.is_stopped)

    def to_plain(self) -> dict[str, Any]:
        """Return it as plain values to be kept.

        Returns
        -------
        dict
            As ``from_plain`` takes it.
        """
        return asdict(self)

    @classmethod
    def from_plain(cls, plain: Mapping[str, Any]) -> "BoardFigures | None":
        """Do the inverse of ``to_plain``.

        Parameters
        ----------
        plain : mapping
            As kept.

        Returns
        -------
        BoardFigures or None
            None where another version kept it, with other figures.
        """
        if set(plain) != {one.name for one in fields(cls)}:
            return None
        parts = plain["parts_g"]
        return cls(**{**plain, "parts_g": tuple(parts) if parts else None, "halves": tuple(plain["halves"])})


def board_figures(plan: Plan, rubber: str) -> BoardFigures:
    """Return what a list shows of a job.

    Parameters
    ----------
    plan : Plan
        The job worked out.
    rubber : str
        The name of the one that is chosen, or "".

    Returns
    -------
    BoardFigures
        To be kept with it.
    """
    made = plan.rubber
    a_g, b_g = (sum(one.g for one in made.ingredients if one.role == role) if made else 0.0 for role in ("A", "B"))
    return BoardFigures(
        box_ml=plan.box.net_ml if plan.box else None,
        is_net=plan.master.measured is not None,
        has_jacket=plan.jacket is not None,
        is_boxless=plan.style in BOXLESS,
        rubber=rubber,
        parts_g=(a_g, b_g) if made else None,
        mass_decimals=made.mass_decimals if made else 0,
        total_g=made.total_g if made and not made.whole_kit else None,
        halves=tuple(pour.half for pour in plan.pours),
        is_stopped=bool(open_stops(plan.stops)),
        states=dict(plan.states),
    )
