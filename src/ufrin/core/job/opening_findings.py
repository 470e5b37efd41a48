"""The findings of the Opening station."""

from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.job.halves import Halves
from ufrin.core.job.opening_station import Opening
from ufrin.core.mesh.cells import MOST_CELLS
from ufrin.core.opening.mould_styles import LITTLE_LOCKED, ONE_PIECE, STYLES
from ufrin.core.opening.parting_surface import STEEP_DEG
from ufrin.core.opening.split_line import seam_mm
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.language import Text

LEAST_SEAM_MM = 3.0
UNLIKELY = 2.0  # how far the chosen style's score is behind the best
SLACK_FILM_SHARE = 0.002
COMPASS = (
    "right",
    Text("back right"),
    "back",
    Text("back left"),
    "left",
    Text("front left"),
    "front",
    Text("front right"),
)


def compass(degrees: float) -> str:
    """Return a direction in plan, in words.

    Parameters
    ----------
    degrees : float
        From the right, counter-clockwise seen from above.

    Returns
    -------
    str
        One of eight.

    Examples
    --------
    >>> compass(88)
    'back'
    """
    return COMPASS[round(degrees / 45) % 8]


def findings_of(
    made: Opening, inputs: OpeningInputs, halves: Halves | None = None, *, slants: bool = False, bed_mm: float = 0.0
) -> tuple[Finding, ...]:
    """Return the findings of the Opening station.

    Parameters
    ----------
    made : Opening
        Worked out.
    inputs : OpeningInputs
        As filled in.
    halves : Halves or None, optional
        Of a mould in two parts.
    slants : bool, optional
        Whether the walls of the box lean.
    bed_mm : float, optional
        A bed of an even height that was filled in at the Box station.

    Returns
    -------
    tuple of Finding
        Worst first.
    """
    found = [
        *_style(made, inputs),
        *_one_piece(made),
        *_neck(made),
        *_parted(made, slants),
        *_halves(halves, bed_mm),
        *made.key_findings,
        *_rubber_air(made),
        *_cast_air(made, inputs),
    ]
    if made.checklist is not None:
        found.append(Finding(code="judged-not-simulated", field="flat_back"))
    if made.thin_mm is not None:
        cells = str(min(9999, int(1.3 * made.size_mm / made.thin_mm) + 1)) if made.thin_mm > 0 else str(MOST_CELLS)
        found.append(Finding(code="wall-too-thin", facts={"thin": Amount(made.thin_mm, "length", 2), "cells": cells}))
    if made.is_thinned:
        found.append(Finding(code="mesh-thinned"))
    return worst_first(found)


def _style(made: Opening, inputs: OpeningInputs) -> list[Finding]:
    if not inputs.style or not made.advice:
        return []
    best, own = made.advice[0], next(one for one in made.advice if one.style == made.style)
    if best.score - own.score < UNLIKELY or not own.against:
        return []
    facts = {"style": STYLES[own.style], "why": own.against[0], "better": STYLES[best.style]}
    return [Finding(code="style-unlikely", facts=facts, field="style")]


def _one_piece(made: Opening) -> list[Finding]:
    if made.stretch is None or made.is_parted or made.style not in {"open", "slit", "tray"}:
        return []
    needed = Amount(made.stretch.needed * 100, "stretch", 0)
    if made.allowed is None:
        return [Finding(code="stretch-unknown", facts={"needed": needed})] if made.stretch.needed > 0.05 else []
    if made.stretch.needed <= made.allowed or made.style == "slit":
        return []
    facts = {
        "needed": needed,
        "allowed": Amount(made.allowed * 100, "stretch", 0),
        "slit": Amount(made.stretch.slit_mm(made.allowed), "length", 0),
    }
    return [Finding(code="stretch-over", facts=facts, field="style")]


def _neck(made: Opening) -> list[Finding]:
    neck = made.neck
    if neck is None or made.style not in ONE_PIECE:
        return []
    facts = {
        "height": Amount(neck.height_mm, "length", 0),
        "across": Amount(neck.across_mm, "length", 1),
        "above": Amount(neck.above_ml, "volume", 0),
    }
    return [Finding(code="thin-neck", facts=facts, field="style")]


def _parted(made: Opening, slants: bool) -> list[Finding]:
    parted = made.parting_surface
    if parted is None:
        return []
    found = []
    if parted.locked_ml > LITTLE_LOCKED * parted.master_ml:
        found.append(Finding(code="pull-locked", facts={"volume": Amount(parted.locked_ml, "volume", 1)}))
    slope, (x, y) = parted.steepest()
    if slope > STEEP_DEG:
        found.append(
            Finding(
                code="seam-steep",
                facts={
                    "slope": f"{slope:.0f}°",
                    "x": Amount(abs(x), "length", 0),
                    "across": Text("right") if x >= 0 else Text("left"),
                    "y": Amount(abs(y), "length", 0),
                    "deep": Text("to the back") if y >= 0 else Text("to the front"),
                },
                field="slack_mm",
            )
        )
    shown = seam_mm(parted.seams, made.shown) if made.shown is not None else 0.0
    if shown > LEAST_SEAM_MM:
        found.append(Finding(code="seam-on-show", facts={"length": Amount(shown, "length", 0)}, field="show"))
    if parted.film_ml > SLACK_FILM_SHARE * parted.master_ml:
        found.append(Finding(code="seam-film", facts={"volume": Amount(parted.film_ml, "volume", 2)}, field="slack_mm"))
    if parted.lost:
        found.append(Finding(code="rays-lost", facts={"rays": str(parted.lost)}))
    if slants:
        found.append(Finding(code="walls-slant"))
    return found


def _halves(halves: Halves | None, bed_mm: float) -> list[Finding]:
    found = []
    if halves is not None and halves.is_judged:
        found.append(Finding(code="halves-judged"))
    if halves is not None and bed_mm:
        found.append(Finding(code="half-bed", facts={"bed": Amount(bed_mm, "length")}))
    return found


def _pockets(number: int) -> str:
    return Text("1 pocket") if number == 1 else Text("{number} pockets", number=number)


def _rubber_air(made: Opening) -> list[Finding]:
    if made.under is None or made.style in {"press", "skin"}:
        return []  # a skin is brushed into every corner, and a putty is pressed in
    if made.is_parted:
        return _air_of_halves(made)
    found = []
    matter = [pocket for pocket in made.under.pockets if pocket.matters]
    if made.under.closed_ml and len(matter) == 1 and made.under.closed_ml >= 0.98 * matter[0].ml:
        return [Finding(code="air-closed", facts={"volume": Amount(made.under.closed_ml, "volume", 1)})]
    if matter:
        volume = Amount(sum(pocket.ml for pocket in matter), "volume", 2)
        if made.tilt is None:
            found.append(Finding(code="air-under", facts={"volume": volume, "pockets": _pockets(len(matter))}))
        else:
            facts: dict[str, Amount | str] = {
                "volume": volume,
                "pockets": _pockets(len(matter)),
                "tilt": f"{made.tilt.degrees:.0f}°",
                "side": compass(made.tilt.towards_deg),
                "left": Amount(made.tilt.tilted_ml, "volume", 2) if made.tilt.tilted_ml >= 0.02 else Text("none"),
            }
            found.append(Finding(code="air-under-tilt", facts=facts, field="tilt_limit_deg"))
    return found


def _air_of_halves(made: Opening) -> list[Finding]:
    found = []
    for half, air in zip((Text("first"), Text("second")), made.halves_air or (), strict=False):
        matter = [pocket for pocket in air.pockets if pocket.matters]
        if matter:
            facts: dict[str, Amount | str] = {
                "half": half,
                "volume": Amount(sum(pocket.ml for pocket in matter), "volume", 2),
                "pockets": _pockets(len(matter)),
            }
            found.append(Finding(code="air-half", facts=facts))
    return found


def _cast_air(made: Opening, inputs: OpeningInputs) -> list[Finding]:
    cast = made.cast
    if cast is None or made.style in {"squeeze", "press"}:
        return []
    worth = inputs.settled().worth_ml
    large = [pocket for pocket in cast.left if pocket.ml >= worth]
    small = [pocket for pocket in cast.left if pocket.ml < worth]
    found = []
    if large:
        volume = Amount(sum(pocket.ml for pocket in large), "volume", 2)
        found.append(
            Finding(code="air-cast", facts={"volume": volume, "pockets": _pockets(len(large))}, field="cast_up")
        )
    if small:
        most = Amount(max(pocket.ml for pocket in small), "volume", 2)
        found.append(
            Finding(code="air-crumbs", facts={"pockets": _pockets(len(small)), "volume": most}, field="worth_ml")
        )
    names = [
        (Text("The gate") if len(cast.gates) == 1 else Text("Gate {number}", number=number), riser)
        for number, riser in enumerate(cast.gates, 1)
    ]
    names += [(Text("Vent {number}", number=number), riser) for number, riser in enumerate(cast.vents, 1)]
    found += [
        Finding(code="vent-on-show", facts={"name": name}, field="show") for name, riser in names if riser.on_show
    ]
    found += [Finding(code="vent-blocked", facts={"name": name}) for name, riser in names if riser.way is None]
    return found
