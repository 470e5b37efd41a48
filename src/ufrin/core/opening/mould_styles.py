"""Styles: which kind of mould suits a master, with the reasons, and the rubber each would take. Common practice throughout."""

from collections.abc import Mapping
from dataclasses import dataclass

STYLES: Mapping[str, str] = {
    "open": "Open block",
    "slit": "Block with a slit",
    "two-part": "Two parts over a clay bed",
    "squeeze": "Squeeze mould",
    "skin": "Skin and jacket",
    "press": "Putty pressed on",
    "tray": "Tray, cast flat",
}
SHORT: Mapping[str, str] = {
    "open": "open block",
    "slit": "slit block",
    "two-part": "two parts",
    "squeeze": "squeeze mould",
    "skin": "skin and jacket",
    "press": "putty pressed",
    "tray": "tray",
}
WHAT: Mapping[str, str] = {
    "open": "rubber poured over the master on its board; it comes out through the foot",
    "slit": "an open block, cut part of the way up so that the head passes the neck",
    "two-part": "half bedded in clay, poured, turned over, poured again",
    "squeeze": "two thin halves, filled, pressed together with the cast between",
    "skin": "coats brushed on, and a rigid jacket that holds them",
    "press": "a kneaded pad pressed over the master",
    "tray": "built upside down and filled to the top, so that its underside is flat",
}
ONE_PIECE = ("open", "slit", "skin", "press", "tray")
PARTED = ("two-part", "squeeze")
SKIN_MM, SQUEEZE_MM, PAD_SIDE_MM, PAD_OVER_MM = 6.0, 10.0, 12.0, 10.0
LARGE_ML, TALL, MANY = 1500.0, 2.5, 25
LITTLE_LOCKED = 0.004  # of the master's volume: what soft rubber forgives without a thought
MUCH_LOCKED = 0.08


@dataclass(frozen=True, slots=True, kw_only=True)
class MasterFeatures:
    """What the adviser goes by.

    Parameters
    ----------
    flat_back : bool
        Whether it stands on a flat that need not be copied.
    stretch : float
        That a block must give, as a fraction; after a checklist, a guess.
    allowed : float or None
        That the rubber gives; None while none is chosen.
    locked_share, best_locked_share : float
        Rubber locked as it stands, and along the best pull known, in shares of the master's volume.
    hole_through : bool
        Whether rubber would close on itself through it.
    thin_part : bool
        Whether something may break off.
    height_to_width : float
        Of the master.
    size_mm : (float, float, float)
        Its outside.
    volume_ml, area_cm2 : float
        Its displacement and surface.
    count : int
        Masters in the box.
    shots : int or None
        Casts wanted.
    side_mm, over_mm : float
        Clearances of the box.
    is_judged : bool
        Whether these come from a checklist and not from a shape.
    """

    flat_back: bool
    stretch: float
    allowed: float | None
    locked_share: float
    best_locked_share: float
    hole_through: bool
    thin_part: bool
    height_to_width: float
    size_mm: tuple[float, float, float]
    volume_ml: float
    area_cm2: float
    count: int = 1
    shots: int | None = None
    side_mm: float = 12.0
    over_mm: float = 12.0
    is_judged: bool = False


@dataclass(frozen=True, slots=True, kw_only=True)
class StyleAdvice:
    """One style: how well it suits, why, what speaks against it, and the rubber it takes."""

    style: str
    score: float
    reasons: tuple[str, ...]
    against: tuple[str, ...]
    rubber_ml: float

    @property
    def suits(self) -> bool:
        """Whether it would be recommended at all."""
        return self.score >= 0


def advise(of: MasterFeatures) -> tuple[StyleAdvice, ...]:
    """Rank the styles for a master.

    Parameters
    ----------
    of : MasterFeatures
        From its shape, or from a checklist.

    Returns
    -------
    tuple of StyleAdvice
        Best first.
    """
    rubber = _rubber_ml(of)
    plain = rubber["open"]
    found = []
    for style in STYLES:
        score, reasons, against = _weigh(style, of)
        if rubber[style] < 0.6 * plain:
            score += 0.6
            reasons.append(f"It takes [{rubber[style]:.0f} volume] of rubber where a block takes [{plain:.0f} volume].")
        found.append(
            StyleAdvice(
                style=style, score=score, reasons=tuple(reasons), against=tuple(against), rubber_ml=rubber[style]
            )
        )
    return tuple(sorted(found, key=lambda one: -one.score))


def _rubber_ml(of: MasterFeatures) -> Mapping[str, float]:
    length, width, height = of.size_mm
    block = max(0.0, (length + 2 * of.side_mm) * (width + 2 * of.side_mm) * (height + of.over_mm) / 1000 - of.volume_ml)
    both = block + (length + 2 * of.side_mm) * (width + 2 * of.side_mm) * of.over_mm / 1000
    pad = (length + 2 * PAD_SIDE_MM) * (width + 2 * PAD_SIDE_MM) * (height + PAD_OVER_MM) / 1000 - of.volume_ml
    return {
        "open": block,
        "slit": block,
        "two-part": both,
        "squeeze": of.area_cm2 * SQUEEZE_MM / 10 * 1.3,
        "skin": of.area_cm2 * SKIN_MM / 10,
        "press": max(0.0, pad),
        "tray": block,
    }


def _weigh(style: str, of: MasterFeatures) -> tuple[float, list[str], list[str]]:
    return {
        "open": _open,
        "slit": _slit,
        "two-part": _two_part,
        "squeeze": _squeeze,
        "skin": _skin,
        "press": _press,
        "tray": _tray,
    }[style](of)


def _passes(of: MasterFeatures) -> bool:
    return of.stretch <= (of.allowed if of.allowed is not None else 1.0)


def _gives(of: MasterFeatures) -> str:
    return f"{of.allowed * 100:.0f} %" if of.allowed is not None else "about 100 %, as soft rubbers do"


def _open(of: MasterFeatures) -> tuple[float, list[str], list[str]]:
    score, reasons, against = 1.0, [], []
    if of.flat_back:
        score += 2
        reasons.append("It stands on a flat: that face needs no rubber, and the cast is poured in there.")
    else:
        score -= 2.5
        against.append("It has no flat to stand on, so some of it would not be copied.")
    if _passes(of):
        score += 1
        reasons.append(
            f"It leaves the mould with a stretch of {of.stretch * 100:.0f} %; the rubber gives {_gives(of)}."
        )
    else:
        score -= 3
        against.append(
            f"It would have to stretch {of.stretch * 100:.0f} %; the rubber gives {_gives(of)}. A slit helps."
        )
    if of.locked_share > MUCH_LOCKED or of.hole_through:
        score -= 2
        against.append("Rubber is locked round it and must be torn or bent out of the way at every cast.")
    elif of.locked_share > LITTLE_LOCKED:
        score -= 0.4
        reasons.append("A little rubber is locked; a soft one bends out of it.")
    if of.thin_part:
        score -= 0.8
        against.append("Thin parts break as a deep block is pulled off.")
    return score, reasons, against


def _slit(of: MasterFeatures) -> tuple[float, list[str], list[str]]:
    score, reasons, against = 0.8, [], []
    if not _passes(of):
        score += 2.2
        reasons.append(
            f"A block would have to stretch {of.stretch * 100:.0f} %, more than the {_gives(of)} that the "
            "rubber gives: the slit lets the head pass."
        )
    else:
        against.append("Nothing needs a slit here.")
        score -= 1.5
    if not of.flat_back:
        score -= 1.2
        against.append("It has no flat to stand on; stand it on a sprue, which becomes the gate.")
    if of.hole_through:
        score -= 1.5
        against.append("Rubber that closes through a hole must be cut there too.")
    if of.thin_part:
        score += 0.5
        reasons.append("A mould that is opened like a book frees thin parts.")
    if of.height_to_width > TALL:
        score += 0.6
        reasons.append(f"It is {of.height_to_width:.1f} times as high as wide: a slit saves rolling it off.")
    return score, reasons, against


def _two_part(of: MasterFeatures) -> tuple[float, list[str], list[str]]:
    score, reasons, against = 0.6, [], []
    if not of.flat_back:
        score += 2.4
        reasons.append("All round it is to be copied, and two halves reach everywhere.")
    else:
        score -= 0.8
        against.append("Its flat back asks for no second half.")
    if of.best_locked_share <= LITTLE_LOCKED:
        score += 1
        reasons.append("Along the best pull nothing, or next to nothing, is locked.")
    elif of.best_locked_share > MUCH_LOCKED:
        score -= 1
        against.append(
            "Even along the best pull a good deal of rubber is locked; it must be soft, or the mould has three parts."
        )
    if of.hole_through:
        score += 0.8
        reasons.append("The hole through it is met half way from both sides.")
    if of.count > 1:
        score -= 0.6
        against.append("A clay bed for several masters is long work.")
    if of.volume_ml > LARGE_ML:
        score -= 2
        against.append("At this size two solid halves take a great deal of rubber and are heavy to turn.")
    against.append("Two pours, and a seam to trim.")
    return score, reasons, against


def _squeeze(of: MasterFeatures) -> tuple[float, list[str], list[str]]:
    score, reasons, against = -0.5, [], ["The cast comes out a little different each time it is pressed."]
    if not of.flat_back and of.best_locked_share <= LITTLE_LOCKED:
        score += 1
        reasons.append("Two halves part freely, so a stiff cast may be pressed between them without a gate or vent.")
    if of.volume_ml > LARGE_ML:
        score -= 1.5
        against.append("At this size nobody presses it shut evenly.")
    if of.thin_part:
        score -= 1
        against.append("Thin parts fill badly when pressed.")
    return score, reasons, against


def _skin(of: MasterFeatures) -> tuple[float, list[str], list[str]]:
    score, reasons, against = -0.2, [], ["Coats take a day and a jacket another."]
    if of.volume_ml > LARGE_ML:
        score += 2.2
        reasons.append("It is large: a skin saves most of the rubber, and the jacket holds it in shape.")
    elif of.volume_ml < 200:
        score -= 1.5
        against.append("It is small: a block is done sooner for little more rubber.")
    if not _passes(of):
        score += 0.6
        reasons.append("A thin skin is peeled off undercuts that a block holds fast.")
    if of.height_to_width > TALL and of.volume_ml > 200:
        score += 0.5
        reasons.append("It is tall, and a skin rolls off like a sock.")
    return score, reasons, against


def _press(of: MasterFeatures) -> tuple[float, list[str], list[str]]:
    length, width, height = of.size_mm
    score, reasons, against = -0.8, [], ["Putty sets in minutes and does not reach into deep undercuts."]
    if of.flat_back and height < 0.5 * min(length, width):
        score += 1.8
        reasons.append("It is a low relief on a flat back: a pad takes it without a box.")
    if height > 40 or of.volume_ml > 150:
        score -= 1.5
        against.append("It is too large to press into before the putty sets.")
    if not of.flat_back:
        score -= 1
        against.append("A pad copies one side only.")
    if of.locked_share > LITTLE_LOCKED:
        score -= 0.6
        against.append("Undercuts stay unfilled.")
    return score, reasons, against


def _tray(of: MasterFeatures) -> tuple[float, list[str], list[str]]:
    length, width, height = of.size_mm
    score, reasons, against = 0.2, [], []
    if of.flat_back and height < 0.5 * min(length, width):
        score += 2.1
        reasons.append("It is low and flat: a tray lies level while it is cast in, and its casts have one thickness.")
    else:
        score -= 1.8
        against.append("It is not a flat thing that is cast lying down.")
    if of.count > 1:
        score += 1.6
        reasons.append(f"{of.count} of them are cast at once, level in one tray.")
    if of.shots is not None and of.shots > MANY:
        score += 0.4
    if of.locked_share > LITTLE_LOCKED:
        score -= 0.8
        against.append("Undercuts hold the cast in a tray that can't be bent much.")
    return score, reasons, against


@dataclass(frozen=True, slots=True, kw_only=True)
class FeatureChecklist:
    """What a maker says of a master that has no shape here."""

    flat_back: bool
    chin: bool
    hook: bool
    hole_through: bool
    thin_part: bool
    tall_part: bool

    @property
    def stretch(self) -> float:
        """A guess at the stretch: none, what a chin asks for, or what a hook does."""
        return 1.5 if self.hook else 0.6 if self.chin else 0.15

    @property
    def locked_share(self) -> float:
        """A guess at the rubber locked."""
        return 0.15 if self.hook or self.hole_through else 0.02 if self.chin else 0.0


def places_of_air(said: FeatureChecklist) -> tuple[str, ...]:
    """Say where air will stay, as far as anyone can judge without a shape.

    Parameters
    ----------
    said : FeatureChecklist
        What the maker says.

    Returns
    -------
    tuple of str
        Sentences.
    """
    found = []
    if said.chin:
        found.append("Under the chin: tilt the box so that the chin looks up, or brush a first coat in there.")
    if said.hook:
        found.append("In the bend of the hook: a vent from its highest point, and fill from below.")
    if said.hole_through:
        found.append(
            "At the top of the hole: turn the master so that the hole stands open upwards, or lay in a skin first."
        )
    if said.thin_part:
        found.append("At the end of the thin part, in the cast: a vent as thin as a bristle at its tip.")
    if said.tall_part:
        found.append("At the top of the tall part, in the cast, when the mould stands the other way up.")
    return tuple(found)
