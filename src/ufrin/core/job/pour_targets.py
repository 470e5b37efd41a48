"""What the pours of a job fill: a box, the halves of a mould in two parts, a skin brushed on, or a pad pressed on."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ufrin.core.box.mould_box import Box
from ufrin.core.inputs.rubber import SettledRubber
from ufrin.core.inputs.usual import USUAL
from ufrin.core.job.halves import Halves
from ufrin.core.weighing.coats import Coat, coats
from ufrin.core.weighing.method import How
from ufrin.core.weighing.putty import Pad
from ufrin.errors import Refused
from ufrin.language import Text

Half = Literal["", "first", "second"]
HOW_BY_STYLE: dict[str, How] = {"skin": "brushed", "press": "putty"}


@dataclass(frozen=True, slots=True, kw_only=True)
class PourTarget:
    """What one pour fills.

    Parameters
    ----------
    half : "", "first" or "second"
        Of a mould in two parts.
    how : "poured", "brushed" or "putty"
        How the rubber gets to the master.
    need_ml : float
        Before spare and loss on cups.
    share : float
        Of all that the job needs.
    displaced_ml : float
        What the masters take up in it: as much would be mixed in vain, should it be forgotten.
    coats : tuple of Coat
        Of a skin.
    """

    half: Half = ""
    how: How = "poured"
    need_ml: float
    share: float = 1.0
    displaced_ml: float = 0.0
    coats: tuple[Coat, ...] = ()


@dataclass(frozen=True, slots=True, kw_only=True)
class WhatIsFilled:
    """What the pours of a job are worked out from.

    Parameters
    ----------
    style : str
        The kind of mould that counts.
    count : int
        Masters, of the job's own.
    box, halves : Box or None, Halves or None
        Worked out, where that kind of mould has them.
    size_mm, coated_cm2, displaced_ml : (float, float, float) or None, float or None, float or None
        Of one master, where they are known.
    """

    style: str
    count: int = 1
    box: Box | None = None
    halves: Halves | None = None
    size_mm: tuple[float, float, float] | None = None
    coated_cm2: float | None = None
    displaced_ml: float | None = None


def targets_of(filled: WhatIsFilled, settled: SettledRubber) -> tuple[PourTarget, ...]:
    """List what the pours of a job fill, in the order of the work.

    Parameters
    ----------
    filled : WhatIsFilled
        Of the job.
    settled : SettledRubber
        The Rubber station.

    Returns
    -------
    tuple of PourTarget
        Empty while there is nothing to fill; two for a mould in two parts.

    Raises
    ------
    Refused
        When the box or a half has no room for rubber, or the pad or the skin can't be made.
    """
    if HOW_BY_STYLE.get(filled.style) == "brushed":
        return _skin(filled, settled)
    if HOW_BY_STYLE.get(filled.style) == "putty":
        return _pad(filled, settled)
    if filled.box is None:
        return ()
    if not filled.box.net_ml > 0:
        raise Refused("", Text("The box leaves no room for rubber. Look at its clearances first."))
    if filled.halves is None:
        displaced_ml = filled.box.displaced_ml - filled.box.filler_ml
        return (PourTarget(need_ml=filled.box.net_ml, displaced_ml=displaced_ml),)
    return _halves(filled.halves)


def _halves(halves: Halves) -> tuple[PourTarget, ...]:
    if not (halves.first_ml > 0 and halves.second_ml > 0):
        raise Refused(
            "",
            Text(
                "One half takes no rubber: the master lies on the board, or reaches the top. Give the "
                "box rubber under and over it."
            ),
        )
    whole_ml = halves.first_ml + halves.second_ml
    return (
        PourTarget(
            half="first",
            need_ml=halves.first_ml,
            share=halves.first_ml / whole_ml,
            displaced_ml=halves.first_displaced_ml,
        ),
        PourTarget(
            half="second",
            need_ml=halves.second_ml,
            share=halves.second_ml / whole_ml,
            displaced_ml=halves.second_displaced_ml,
        ),
    )


def _skin(filled: WhatIsFilled, settled: SettledRubber) -> tuple[PourTarget, ...]:
    area_cm2 = settled.coat_area_cm2 or (filled.coated_cm2 * filled.count if filled.coated_cm2 else None)
    if not area_cm2:
        if filled.size_mm is None:
            return ()
        raise Refused(
            "coat_area_cm2",
            Text("How large is the surface that is brushed? Type it, or give the master a mesh or a size."),
        )
    planned: Sequence[Coat] = coats(area_cm2=area_cm2, number=settled.coats, coat_mm=settled.coat_mm)
    return (PourTarget(how="brushed", need_ml=sum(coat.volume_ml for coat in planned), coats=tuple(planned)),)


def _pad(filled: WhatIsFilled, settled: SettledRubber) -> tuple[PourTarget, ...]:
    if filled.size_mm is None:
        return ()
    length, width, height = filled.size_mm
    around_mm = 2 * settled.pad_mm
    pad = Pad(
        length_mm=length + around_mm,
        width_mm=width + around_mm,
        thickness_mm=settled.pad_thickness_mm or height + USUAL["putty"]["over_mm"],
        displaced_ml=filled.displaced_ml or 0.0,
    )
    displaced_ml = (filled.displaced_ml or 0.0) * filled.count
    return (PourTarget(how="putty", need_ml=pad.need_ml * filled.count, displaced_ml=displaced_ml),)
