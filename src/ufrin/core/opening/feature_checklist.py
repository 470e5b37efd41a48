"""The checklist of features for a master that has no shape here, and where air will stay as far as it tells."""

from dataclasses import dataclass, fields
from typing import Any

from ufrin.core.data_files import read_data
from ufrin.core.opening.ranking_costs import Deciding
from ufrin.language import Text

_DATA: dict[str, dict[str, Any]] = read_data("opening", "feature_checklist")
_REASONS: dict[str, Any] = _DATA.pop("reasons")
_FIGURES = _DATA
_FEATURES = {
    "none": Text("none ticked"),
    "flat_back": Text("flat back"),
    "chin": Text("chin"),
    "hook": Text("hook"),
    "hole_through": Text("hole through"),
    "thin_part": Text("thin part"),
    "tall_part": Text("tall part"),
}
_NAMES = {
    "stretch": Text("stretch"),
    "locked_share": Text("locked share"),
    "best_locked_share": Text("locked share in the best direction"),
    "height_to_width": Text("height to width"),
}
_UNITS = {
    "stretch": Text("of its length"),
    "locked_share": Text("of the master's volume"),
    "best_locked_share": Text("of the master's volume"),
    "height_to_width": Text("times as high as wide"),
}


def _largest(of: "FeatureChecklist", figure: str) -> float:
    ticked = [one.name for one in fields(of) if getattr(of, one.name)]
    return max((float(_FIGURES[name].get(figure, 0.0)) for name in ticked), default=0.0)


@dataclass(frozen=True, slots=True, kw_only=True)
class FeatureChecklist:
    """What a maker ticks of a master that has no shape here."""

    flat_back: bool = False
    chin: bool = False
    hook: bool = False
    hole_through: bool = False
    thin_part: bool = False
    tall_part: bool = False

    @property
    def stretch(self) -> float:
        """A guess at the stretch that a block needs, as a fraction."""
        return _largest(self, "stretch") or float(_FIGURES["none"]["stretch"])

    @property
    def locked_share(self) -> float:
        """A guess at the rubber locked as it stands, as a fraction of the master's volume."""
        return _largest(self, "locked_share")

    @property
    def best_locked_share(self) -> float:
        """A guess at the rubber locked along the best pull."""
        return _largest(self, "best_locked_share")

    @property
    def least_height_to_width(self) -> float:
        """How many times as high as wide it is at least."""
        return _largest(self, "height_to_width")


def places_of_air(checklist: FeatureChecklist) -> tuple[str, ...]:
    """Return where air will stay, as far as anyone can judge without a shape.

    Parameters
    ----------
    checklist : FeatureChecklist
        What the maker ticked.

    Returns
    -------
    tuple of str
        Sentences.
    """
    ticked = [one.name for one in fields(checklist) if getattr(checklist, one.name)]
    return tuple(Text(_FIGURES[name]["air"]) for name in ticked if "air" in _FIGURES[name])


def checklist_figures() -> tuple[Deciding, ...]:
    """Return what each ticked feature is taken to mean, as figures with their reason.

    Returns
    -------
    tuple of Deciding
        Our own judgement, until a shape says more.
    """
    return tuple(
        Deciding(
            name=Text("{feature}: {figure}", feature=_FEATURES[feature], figure=_NAMES[figure]),
            value=float(value),
            unit=_UNITS[figure],
            reason=_REASONS[feature],
        )
        for feature, figures in _FIGURES.items()
        for figure, value in figures.items()
        if figure in _UNITS
    )
