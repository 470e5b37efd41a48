"""The costs by which pulls, gates, vents and ways to hold a mould are ranked, from ``data/ranking_costs.toml``."""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.data_files import read_data


@dataclass(frozen=True, slots=True, kw_only=True)
class Deciding:
    """A figure that decides something: what it is of, its value with its unit, and why it is that."""

    name: str
    value: float
    unit: str
    reason: str


_FIGURES = read_data("opening", "ranking_costs")
DECIDING: Mapping[str, tuple[Deciding, ...]] = {
    subject: tuple(
        Deciding(name=one["label"], value=float(one["value"]), unit=one["unit"], reason=one["reason"])
        for one in figures.values()
    )
    for subject, figures in _FIGURES.items()
}
COSTS: Mapping[str, Mapping[str, float]] = {
    subject: {name: float(one["value"]) for name, one in figures.items()} for subject, figures in _FIGURES.items()
}
