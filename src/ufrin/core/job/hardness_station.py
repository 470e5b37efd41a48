"""The hardness of a job's rubber: what suits the mould, the dose or blend for it, and the side effects of thinner."""

from dataclasses import dataclass

from ufrin.core.box.mould_box import Box
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.rubber import RubberInputs, SettledRubber
from ufrin.core.job.shelf_picks import ShelfPicks, base_hardness, curve_of
from ufrin.core.rubber.blends import blend_range_mpa, share_for
from ufrin.core.rubber.hardness_wanted import Wanted, hardness_wanted
from ufrin.core.rubber.shore import Hardness
from ufrin.core.rubber.thinner_curve import MOST_PARTS, Curve, Thinned
from ufrin.core.rubber.thinner_side_effects import SideEffects, side_effects
from ufrin.errors import Refused


@dataclass(frozen=True, slots=True, kw_only=True)
class HardnessAnswer:
    """The hardness of a job worked out.

    Parameters
    ----------
    wanted : Wanted
        What suits the mould.
    curve : Curve or None
        Of hardness against thinner, where the tin states a hardness.
    base, target : Hardness or None
        Without thinner; and as the maker wants it.
    now, solved : Thinned or None
        With the thinner that was filled in; and with the dose for the target.
    solved_parts : float or None
        That dose as the tin counts thinner.
    share_pct : float or None
        Of the second rubber in a blend that comes to the target.
    blended_mpa : (float, float) or None
        The range in which the blend may lie.
    effects : SideEffects or None
        Of the dose that is shown.
    refused : Refused or None
        Why the target is out of reach.
    """

    wanted: Wanted
    curve: Curve | None
    base: Hardness | None
    target: Hardness | None
    now: Thinned | None
    solved: Thinned | None
    solved_parts: float | None
    share_pct: float | None
    blended_mpa: tuple[float, float] | None
    effects: SideEffects | None
    refused: Refused | None

    @property
    def shown(self) -> Thinned | None:
        """The dose for the target where there is one, else the thinner that was filled in."""
        return self.solved or self.now


def answer_hardness(
    size_mm: tuple[float, float, float] | None,
    box_inputs: BoxInputs,
    made_box: Box | None,
    inputs: RubberInputs,
    shelf: ShelfPicks,
) -> HardnessAnswer:
    """Work out the hardness of a job.

    Parameters
    ----------
    size_mm : (float, float, float) or None
        Of the master, where it is known.
    box_inputs, made_box : BoxInputs, Box or None
        As filled in, and worked out.
    inputs : RubberInputs
        With the target, and what suits the mould.
    shelf : ShelfPicks
        The rubbers and the thinner.

    Returns
    -------
    HardnessAnswer
        A target that is out of reach is refused in it.
    """
    settled, rubber = inputs.settled(), shelf.rubber
    curve = curve_of(shelf, settled)
    target, solved, share_pct, refused = _solved(curve, settled, shelf)
    now = curve.at(min(rubber.parts_of_both(settled.thinner_parts), MOST_PARTS)) if curve and rubber else None
    shown, readings = solved or now, _readings(shelf)
    return HardnessAnswer(
        wanted=_wanted(size_mm, box_inputs, made_box, settled),
        curve=curve,
        base=base_hardness(shelf, settled),
        target=target,
        now=now,
        solved=solved,
        solved_parts=rubber.parts_as_told(solved.parts_per_100) if solved and rubber else None,
        share_pct=share_pct,
        blended_mpa=blend_range_mpa(*readings, settled.blend_pct / 100) if readings else None,
        effects=_effects(shelf, settled, shown),
        refused=refused,
    )


def _wanted(
    size_mm: tuple[float, float, float] | None, box_inputs: BoxInputs, made_box: Box | None, settled: SettledRubber
) -> Wanted:
    box = box_inputs.settled()
    return hardness_wanted(
        undercut=settled.undercut,
        detail=settled.detail,
        height_to_width=size_mm[2] / min(size_mm[:2]) if size_mm else None,
        wall_mm=min(box.side_mm, box.over_mm) if made_box else None,
        longest_mm=max(made_box.inside_mm) if made_box else None,
        shots=int(settled.shots_wanted) if settled.shots_wanted else None,
    )


def _solved(
    curve: Curve | None, settled: SettledRubber, shelf: ShelfPicks
) -> tuple[Hardness | None, Thinned | None, float | None, Refused | None]:
    # the target, the dose for it, the share of a second rubber for it, and why one of them can't be
    if settled.target_shore is None:
        return None, None, None, None
    target, solved, share_pct, refused = None, None, None, None
    try:
        target = Hardness(scale=settled.target_scale, shore=settled.target_shore)
        solved = curve.dose_for(target) if curve else None
    except Refused as why:
        refused = why
    readings = _readings(shelf)
    if target and readings:
        try:
            share_pct = 100 * share_for(*readings, target)
        except Refused as why:
            refused = refused or why
    return target, solved, share_pct, refused


def _readings(shelf: ShelfPicks) -> tuple[Hardness, Hardness] | None:
    own, other = shelf.rubber.reading if shelf.rubber else None, shelf.blend.reading if shelf.blend else None
    return (own, other) if own and other else None


def _effects(shelf: ShelfPicks, settled: SettledRubber, shown: Thinned | None) -> SideEffects | None:
    try:
        mixed = shelf.as_mixed(settled.blend_pct)
    except Refused:  # said at the Rubber station
        mixed = shelf.rubber
    if mixed is None or shown is None:
        return None
    thinner = shelf.thinner
    return side_effects(
        mixed,
        shown.parts_per_100,
        thinner_mpa_s=thinner.viscosity_mpa_s if thinner else None,
        thinner_sg=thinner.sg_or_usual if thinner else None,
    )
