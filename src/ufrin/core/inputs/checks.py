"""What is filled in at the Checks station, and the same with every default settled."""

from dataclasses import dataclass

from ufrin.core.inputs.usual import USUAL, settle

_USUAL = USUAL["checks"]


@dataclass(frozen=True, slots=True, kw_only=True)
class SettledChecks:
    """The Checks station with every default in place; None only where there is no default either."""

    between_board: str | None = None
    between_walls: str | None = None
    between_bed: str | None = None
    between_halves: str | None = None
    between_cast: str | None = None
    cast_material: str | None = None
    cast_finish: str | None = None
    insert: str | None = None
    air: str | None = None
    drop_mm: float = _USUAL["drop_mm"]
    vibrate_min: float = _USUAL["vibrate_min"]
    vacuum_kpa: float = _USUAL["vacuum_kpa"]
    vacuum_gauge_kpa: float | None = None
    vacuum_min: float = _USUAL["vacuum_min"]
    pot_kpa: float = _USUAL["pot_kpa"]
    cast_air: str | None = None
    cast_kpa: float = _USUAL["cast_kpa"]


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckInputs:
    """What a maker filled in at the Checks station; None is "as advised" or "as the shop does it"."""

    between_board: str | None = None
    between_walls: str | None = None
    between_bed: str | None = None
    between_halves: str | None = None
    between_cast: str | None = None
    cast_material: str | None = None
    cast_finish: str | None = None
    insert: str | None = None
    air: str | None = None
    drop_mm: float | None = None
    vibrate_min: float | None = None
    vacuum_kpa: float | None = None
    vacuum_gauge_kpa: float | None = None
    vacuum_min: float | None = None
    pot_kpa: float | None = None
    cast_air: str | None = None
    cast_kpa: float | None = None

    def settled(self) -> SettledChecks:
        """Return the same with every default in place."""
        return settle(self, SettledChecks)
