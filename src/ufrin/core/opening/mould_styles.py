"""The styles of mould, ranked for a master with the reasons, and the rubber that each would take.

Styles, rules and scores are in ``data/mould_styles.toml``.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Any

from ufrin.core.data_files import read_data
from ufrin.core.inputs.usual import USUAL
from ufrin.core.opening.mould_features import MasterFeatures
from ufrin.core.opening.ranking_costs import Deciding
from ufrin.language import Text

_DATA: dict[str, Any] = read_data("opening", "mould_styles")
_STYLES: dict[str, dict[str, Any]] = _DATA["styles"]
DECIDING: tuple[Deciding, ...] = tuple(
    Deciding(name=one["label"], value=float(one["value"]), unit=one["unit"], reason=one["reason"])
    for one in _DATA["figures"].values()
)
FIGURES: Mapping[str, float] = {name: float(one["value"]) for name, one in _DATA["figures"].items()}

STYLES: Mapping[str, str] = {key: style["label"] for key, style in _STYLES.items()}
SHORT: Mapping[str, str] = {key: style["short"] for key, style in _STYLES.items()}
WHAT: Mapping[str, str] = {key: style["what"] for key, style in _STYLES.items()}
ONE_PIECE = ("open", "slit", "skin", "press", "tray")
PARTED = ("two-part", "squeeze")
LITTLE_LOCKED = FIGURES["little_locked"]

MANY_CASTS = Text("Many casts are wanted of it.")

Condition = Callable[[MasterFeatures], bool]


def _passes(of: MasterFeatures) -> bool:
    return of.stretch <= (of.allowed if of.allowed is not None else 1.0)


def _is_much_locked(of: MasterFeatures) -> bool:
    return of.locked_share > FIGURES["much_locked"] or of.hole_through


def _is_low_relief(of: MasterFeatures) -> bool:
    length, width, height = of.size_mm
    return of.flat_back and height < FIGURES["low_ratio"] * min(length, width)


def _is_tall(of: MasterFeatures) -> bool:
    return of.height_to_width > FIGURES["tall_ratio"]


CONDITIONS: Mapping[str, Condition] = {
    "always": lambda _: True,
    "flat_back": lambda of: of.flat_back,
    "no_flat_back": lambda of: not of.flat_back,
    "passes": _passes,
    "too_tight": lambda of: not _passes(of),
    "much_locked": _is_much_locked,
    "little_locked": lambda of: not _is_much_locked(of) and of.locked_share > LITTLE_LOCKED,
    "locked": lambda of: of.locked_share > LITTLE_LOCKED,
    "best_pull_free": lambda of: of.best_locked_share <= LITTLE_LOCKED,
    "best_pull_locked": lambda of: of.best_locked_share > FIGURES["much_locked"],
    "parts_freely": lambda of: not of.flat_back and of.best_locked_share <= LITTLE_LOCKED,
    "hole_through": lambda of: of.hole_through,
    "thin_part": lambda of: of.thin_part,
    "tall": _is_tall,
    "tall_and_not_small": lambda of: _is_tall(of) and of.volume_ml > FIGURES["small_ml"],
    "several": lambda of: of.count > 1,
    "large": lambda of: of.volume_ml > FIGURES["large_ml"],
    "small": lambda of: of.volume_ml < FIGURES["small_ml"],
    "low_relief": _is_low_relief,
    "no_low_relief": lambda of: not _is_low_relief(of),
    "too_large_to_press": lambda of: of.size_mm[2] > FIGURES["press_height_mm"] or of.volume_ml > FIGURES["press_ml"],
    "putty": lambda of: of.is_putty is True,
    "liquid": lambda of: of.is_putty is False,
    "many_shots": lambda of: of.shots is not None and of.shots > FIGURES["many_shots"],
}


@dataclass(frozen=True, slots=True, kw_only=True)
class StyleAdvice:
    """One style: how well it suits, what speaks for it, what against it, and the rubber that it takes.

    ``scored`` has the base of the style and the score of every rule that holds; they add up to the score.
    """

    style: str
    score: float
    reasons: tuple[str, ...]
    against: tuple[str, ...]
    rubber_ml: float
    scored: tuple[tuple[str, float], ...] = ()

    @property
    def suits(self) -> bool:
        """Whether it would be recommended at all."""
        return self.score >= 0


def advise(of: MasterFeatures, planned_ml: Mapping[str, float] | None = None) -> tuple[StyleAdvice, ...]:
    """Rank the mould styles for a master.

    Parameters
    ----------
    of : MasterFeatures
        From its shape, or from a checklist.
    planned_ml : mapping of style to ml, optional
        The rubber that each would take as the job is planned; for a style that is missing it is estimated.

    Returns
    -------
    tuple of StyleAdvice
        Best first.
    """
    rubber_ml = {**_rubber_ml(of), **(planned_ml or {})}
    block_ml = rubber_ml["open"]
    found = []
    for style in STYLES:
        reasons, against, scored = _scored(style, of)
        if rubber_ml[style] < FIGURES["saving_share"] * block_ml:
            saving = Text(
                "It takes [{style:.0f} volume] of rubber where a block takes [{block_ml:.0f} volume].",
                style=rubber_ml[style],
                block_ml=block_ml,
            )
            reasons.append(saving)
            scored.append((saving, FIGURES["saving_score"]))
        found.append(
            StyleAdvice(
                style=style,
                score=sum(score for _, score in scored),
                reasons=tuple(reasons),
                against=tuple(against),
                rubber_ml=rubber_ml[style],
                scored=tuple(scored),
            )
        )
    return tuple(sorted(found, key=lambda one: -one.score))


def _scored(style: str, of: MasterFeatures) -> tuple[list[str], list[str], list[tuple[str, float]]]:
    words = {
        "stretch": f"{of.stretch * 100:.0f} %",
        "gives": f"{of.allowed * 100:.0f} %" if of.allowed is not None else Text("about 100 %, as soft rubbers do"),
        "height_to_width": f"{of.height_to_width:.1f}",
        "count": str(of.count),
    }
    rules = [rule for rule in _STYLES[style]["rules"] if CONDITIONS[rule["when"]](of)]
    reasons: list[str] = [Text(rule["for"], **words) for rule in rules if "for" in rule]
    against: list[str] = [Text(rule["against"], **words) for rule in rules if "against" in rule]
    scored: list[tuple[str, float]] = [(Text("This kind of mould by itself."), float(_STYLES[style]["base"]))]
    scored += [
        (Text(rule.get("for", rule.get("against", MANY_CASTS)), **words), float(rule["score"]))
        for rule in rules
        if rule["score"]
    ]
    return reasons, against, scored


def _rubber_ml(of: MasterFeatures) -> Mapping[str, float]:
    rubber = USUAL["rubber"]
    block = _block_ml(of, side_mm=of.side_mm, heights_mm=of.over_mm)
    squeeze = USUAL["squeeze"]
    each = {
        "open": block,
        "slit": block,
        "two-part": _block_ml(of, side_mm=of.side_mm, heights_mm=2 * of.over_mm),
        "squeeze": _block_ml(of, side_mm=squeeze["side_mm"], heights_mm=2 * squeeze["over_mm"]),
        "skin": of.coated_cm2 * of.skin_mm / 10,
        "press": _block_ml(of, side_mm=rubber["pad_mm"], heights_mm=USUAL["putty"]["over_mm"]),
        "tray": block,
    }
    return {style: of.count * rubber_ml for style, rubber_ml in each.items()}


def _block_ml(of: MasterFeatures, *, side_mm: float, heights_mm: float) -> float:
    length, width, height = of.size_mm
    return max(0.0, (length + 2 * side_mm) * (width + 2 * side_mm) * (height + heights_mm) / 1000 - of.volume_ml)
