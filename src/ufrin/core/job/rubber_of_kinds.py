"""Each kind of mould with its own box and the rubber that it would take in a job, whichever of them is chosen."""

from collections.abc import Mapping

from ufrin.core.box.mould_box import Box
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.rubber import SettledRubber
from ufrin.core.job.box_station import inputs_for_style
from ufrin.core.job.boxed import Boxed, boxed
from ufrin.core.job.halves import Halves
from ufrin.core.job.master_station import MasterAnswer
from ufrin.core.job.mould_style import BOXLESS
from ufrin.core.job.pour_targets import WhatIsFilled, targets_of
from ufrin.core.master.master_form import Master
from ufrin.core.measures.plain_volumes import block_side_cm2
from ufrin.core.opening.mould_features import coated_cm2
from ufrin.core.opening.mould_styles import STYLES
from ufrin.core.shelf.containers import Container
from ufrin.errors import Refused


def boxes_of_kinds(
    masters: tuple[Master, ...],
    typed: BoxInputs,
    *,
    rubber_sg: float | None,
    container: Container | None,
    size_pm_mm: float,
) -> dict[str, Boxed]:
    """Work out the box of a job for each kind of mould.

    Parameters
    ----------
    masters : tuple of Master
        The job's own first.
    typed : BoxInputs
        As filled in.
    rubber_sg : float or None
        Of the rubber as it is mixed.
    container : Container or None
        The one chosen.
    size_pm_mm : float
        How far the masters' sizes may be off.

    Returns
    -------
    dict of style to Boxed
        Several kinds stand in the same box, which is worked out once.
    """
    made: dict[tuple[bool, BoxInputs], Boxed] = {}
    found = {}
    for style in STYLES:
        inputs = inputs_for_style(typed, style)
        alike = style in BOXLESS, inputs
        if alike not in made:
            made[alike] = boxed(masters, style, inputs, rubber_sg=rubber_sg, container=container, size_pm_mm=size_pm_mm)
        found[style] = made[alike]
    return found


def planned_ml(
    boxes: Mapping[str, Boxed], own: Master, measured: MasterAnswer, settled: SettledRubber
) -> dict[str, float]:
    """Return the rubber that each kind of mould would take.

    Parameters
    ----------
    boxes : mapping of style to Boxed
        Of the job.
    own : Master
        Of the job.
    measured : MasterAnswer
        Worked out.
    settled : SettledRubber
        The Rubber station.

    Returns
    -------
    dict of style to ml
        As the plan has it once that kind is chosen; without those that can't be worked out.
    """
    found = {}
    for style, in_box in boxes.items():
        try:
            # both halves of a mould in two parts take together what its box does
            targets = targets_of(what_is_filled(style, own, in_box.box, None, measured), settled)
        except Refused:
            continue
        if targets:
            found[style] = sum(target.need_ml for target in targets)
    return found


def what_is_filled(
    style: str, own: Master | None, made_box: Box | None, halves: Halves | None, measured: MasterAnswer
) -> WhatIsFilled:
    """Return what the pours of a kind of mould are worked out from.

    Parameters
    ----------
    style : str
        One of ``STYLES``; empty while none is known.
    own : Master or None
        Of the job.
    made_box, halves : Box or None, Halves or None
        Worked out, where that kind has them.
    measured : MasterAnswer
        Worked out.

    Returns
    -------
    WhatIsFilled
        With the surface that is coated, for a skin.
    """
    form, size = measured.form, measured.size_mm
    coated = None
    if style == "skin" and size is not None:
        coated = coated_cm2(form) if form else block_side_cm2(*size)
    return WhatIsFilled(
        style=style,
        count=own.count if own else 1,
        box=made_box,
        halves=halves,
        size_mm=size if own else None,
        coated_cm2=coated,
        displaced_ml=measured.measured.volume_ml if measured.measured else None,
    )
