"""Findings: what is wrong or worth knowing, why, and what to do. Each code's level and sentence are declared once, here."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from typing import Literal

from ufrin.core.measures.quantities import Units, say_amounts, show

Level = Literal["stop", "warn", "note"]


@dataclass(frozen=True, slots=True)
class Amount:
    """A quantity inside a finding, shown in the workshop's units when the sentence is built."""

    value: float
    kind: str
    decimals: int | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class Finding:
    """One finding.

    Parameters
    ----------
    code : str
        One of ``SENTENCES``.
    facts : mapping
        What the sentence needs, by name.
    field : str
        The input it is about; empty when it is about none.
    """

    code: str
    facts: Mapping[str, Amount | str] = field(default_factory=dict)
    field: str = ""

    @property
    def level(self) -> Level:
        """How bad it is: stop, warn or note."""
        return SENTENCES[self.code][0]

    def text(self, units: Units = "metric") -> str:
        """Build the sentence.

        Parameters
        ----------
        units : "metric" or "us"
            The workshop's unit system.

        Returns
        -------
        str
            What, why and what to do.
        """
        said = {
            name: show(fact.value, fact.kind, units, fact.decimals) if isinstance(fact, Amount) else fact
            for name, fact in self.facts.items()
        }
        sentence = say_amounts(SENTENCES[self.code][1].format(**said), units)
        return sentence[:1].upper() + sentence[1:]


_ORDER: Mapping[Level, int] = {"stop": 0, "warn": 1, "note": 2}


def worst_first(findings: Iterable[Finding]) -> tuple[Finding, ...]:
    """Sort findings: stops, then warnings, then notes.

    Parameters
    ----------
    findings : iterable of Finding
        In any order.

    Returns
    -------
    tuple of Finding
        The same, worst first.
    """
    return tuple(sorted(findings, key=lambda finding: _ORDER[finding.level]))


SENTENCES: Mapping[str, tuple[Level, str]] = {
    # Master
    "ways-disagree": (
        "warn",
        "{first} gives {first_ml} and {second} gives {second_ml}: {apart} apart, while their errors together explain {allowed}. "
        "One of them is wrong, and the rubber with it. Look for bubbles on the master, a wet thread or a "
        "misread mark, and measure again.",
    ),
    "no-displacement": (
        "warn",
        "The displacement is not known, so the rubber is worked out for an empty box and comes out too much. "
        "Measure it one way on the Master station: a jug of water is enough.",
    ),
    "more-than-outside": (
        "stop",
        "The displacement, {volume}, is more than the block the size would fill, {outside}. A master can't "
        "be bigger than its outside: check both.",
    ),
    "density-unlikely": (
        "warn",
        "Weight over displacement gives {density}, heavier than lead. Solid gold would weigh like that; "
        "check the weight, its unit and the displacement.",
    ),
    "density-impossible": (
        "stop",
        "Weight over displacement gives {density}, and nothing on earth is heavier than [22.6 density]. "
        "Check the weight, its unit and the displacement.",
    ),
    "density-off-table": (
        "warn",
        "{density} is outside what {material} usually weighs, {low} to {high}. Check the figure, or pick "
        "the material it really is.",
    ),
    # Opening
    "judged-not-simulated": (
        "note",
        "There is no mesh and no stand-in, so this is a judgement from the checklist and not a simulation. "
        "A stand-in on the Master station is enough to see pockets, seam and stretch.",
    ),
    "style-unlikely": (
        "warn",
        "{style} does not suit this master: {why} {better} suits it better. Keep it if you know why.",
    ),
    "stretch-over": (
        "warn",
        "It would have to stretch {needed} to let go, and the rubber gives {allowed} again and again. Slit it {slit} up from the mouth, "
        "choose a softer rubber, or part it in two.",
    ),
    "stretch-unknown": (
        "note",
        "It has to stretch {needed} to let go. The elongation at break of the rubber, on the Shelf, tells "
        "whether it does.",
    ),
    "pull-locked": (
        "warn",
        "{volume} of rubber is locked between parts of the master along this pull: a rigid half would not come off, a soft one must bend. "
        "Look at the other directions.",
    ),
    "air-under": (
        "warn",
        "{volume} of air stays in {pockets} as the rubber rises. Brush a first coat in there, or turn the master over.",
    ),
    "air-under-tilt": (
        "warn",
        "{volume} of air stays in {pockets} as the rubber rises level. Tilt the box by {tilt} with its {side} lowest while you pour, which leaves "
        "{left}; level it before the rubber thickens.",
    ),
    "air-closed": (
        "warn",
        "{volume} is shut off all round: no liquid gets in there, and no air out. Where the real master is "
        "solid, count it in.",
    ),
    "air-crumbs": (
        "note",
        "{pockets} of at most {volume} are too small for a vent: half fill the mould, tilt it all ways, "
        "poke with a bristle, then fill up.",
    ),
    "air-cast": (
        "warn",
        "{volume} of air stays in the cast, in {pockets}. Place a vent at each number, or hold the mould another way.",
    ),
    "vent-on-show": (
        "warn",
        "{name} lies on the show face, where its stub must be dressed off. Move it if the pocket reaches further.",
    ),
    "vent-blocked": (
        "warn",
        "From {name} no straight way leads out of the mould without running through the cast again. Cut a "
        "bent one, or move it.",
    ),
    "seam-on-show": (
        "warn",
        "{length} of the seam runs across the show face. Another pull, or more slack, may take it away.",
    ),
    "seam-steep": (
        "warn",
        "The parting surface climbs at {slope} {x} {across} and {y} {deep} of the middle: clay stands badly "
        "there. Build a step in it by hand.",
    ),
    "seam-film": (
        "note",
        "The slack of the seam lets a film of {volume} reach under the master. Less slack, less film, a rougher seam.",
    ),
    "keys-too-few": (
        "warn",
        "There is room for {keys} keys only, and three are needed for halves to sit. Give the box more "
        "side, or smaller keys.",
    ),
    "key-at-edge": ("warn", "Key {key} lies too near the wall. Move it in, or make the keys smaller."),
    "key-in-the-way": ("warn", "Key {key} is nearer than {clear} to the master, a gate or a vent. Move it."),
    "key-on-slope": ("warn", "Key {key} stands on a slope and would lock. Move it to level ground."),
    "keys-touch": ("warn", "Two keys run into each other. Move one, or make them smaller."),
    "keys-alike": (
        "stop",
        "Turned by {turn}° the halves go together wrongly: keys of the same size lie alike. Move one key.",
    ),
    "walls-slant": (
        "note",
        "The halves are worked out for upright walls as wide as at the fill line; those of this container "
        "lean, so the lower half takes less.",
    ),
    "half-bed": (
        "warn",
        "A bed of clay or plaster is counted on the Box station besides. Take it out there: the bed of a "
        "mould in two halves is worked out here.",
    ),
    "wall-too-thin": (
        "warn",
        "Some of it is about {thin} thin, less than what the analysis can tell apart. Air there is not "
        "seen; {cells} cells along its longest side would do.",
    ),
    "cells-raised": ("note", "Some walls are thin: {cells} cells were taken along its longest side, and not {asked}."),
    "mesh-thinned": (
        "note",
        "The model is very fine: air, seam and pulls were worked out on a copy with fewer triangles.",
    ),
    "rays-lost": (
        "note",
        "{rays} rays found a gap in the surface and were left out. The figures are good to about that share.",
    ),
    # A master's mesh
    "mesh-flipped": (
        "note",
        "Some faces were wound inside out, as exports often leave them. They were turned over; the volume "
        "counts them right.",
    ),
    "mesh-cavity": (
        "warn",
        "It has a closed hollow of {hollow} inside. In water or rubber nothing gets in there: if the real master is solid, or its hollow is shut, "
        "the displacement is that much more. Fill the hollow in the model if so.",
    ),
    "mesh-united": ("note", "Its {bodies} bodies overlap. They were united first, so that no volume is counted twice."),
    "mesh-crosses": (
        "warn",
        "Its surface crosses itself, so its volume was found by filling small cells, good to about {error}. "
        "Mend the model for a sharper figure.",
    ),
    "mesh-capped": (
        "warn",
        "It is not closed: {edges} edges have nothing beyond them. The holes were closed flat, and a filling by small cells agrees within {error}. "
        "Look whether a part is missing.",
    ),
    "mesh-open": (
        "warn",
        "It is not closed: {edges} edges have nothing beyond them. Its volume was found by filling small cells, good to about {error}. "
        "Close the model, or check it against water.",
    ),
    "mesh-unit": (
        "note",
        "The file says that it is drawn in {says}, and {taken} was taken. If it comes out the wrong size, "
        "choose the other.",
    ),
    # Box
    "too-tight": (
        "stop",
        "{height} above its bottom it leaves {clearance} beside the master and {side} is wanted. The mould "
        "would tear there. {cure}",
    ),
    "overflows": (
        "stop",
        "The fill line stands at {fill} and the wall ends at {height}. The rubber would run over: take a "
        "higher container or less cover.",
    ),
    "wall-bows": (
        "warn",
        "The {length} wall would bow out {bow} at the top, and {limit} is the most that keeps the "
        "clearances. Brace it every {brace}, or take stiffer or thicker boards.",
    ),
    "other-not-ready": (
        "stop",
        "The master of “{name}” is not in the box yet: its size is missing or its figures contradict each "
        "other. Settle that job first.",
    ),
    "filler-too-much": (
        "stop",
        "{filler} of old rubber does not fit without coming nearer to the master than the side clearance: "
        "there is room for {room}. Lay in less.",
    ),
    "filler-will-not-bond": (
        "stop",
        "Old {filler} does not bond to new {rubber}: the mould would fall apart round the pieces. Use scrap "
        "of the same family, cut afresh and clean.",
    ),
    "standin": ("note", "The drawing shows a stand-in, not the master's own form: sizes are right, shape is not."),
    "low-freeboard": ("note", "Only {left} of wall stands above the fill line. Pour slowly, or make the wall higher."),
    "floats": (
        "warn",
        "If rubber creeps under it, the master is lifted with {lift} and will float up. Screw, glue or tape "
        "it to the board, or seal its base all round.",
    ),
    "weight-unknown": (
        "note",
        "Whether the master floats is not known: its weight is missing. Weigh it on the Master station.",
    ),
    "thin-cover": (
        "warn",
        "{over} of rubber over the highest point tears when the mould is opened. [12 length] or more is usual.",
    ),
    "thin-side": (
        "warn",
        "{side} of rubber beside the master tears easily. [10 length] to [13 length] is usual for a small piece.",
    ),
    # Rubber
    "scale-too-coarse": (
        "warn",
        "A scale that reads in steps of {step} can put the ratio off by {worst}, and this rubber stands {tolerance}. "
        "Mix at least {least} at once, or use a scale with steps of {finer} or finer.",
    ),
    "pigment-high": (
        "warn",
        "{pigment} of pigment is more than the usual 2 %. It can soften the rubber or hold up its cure: use "
        "less, or a stronger pigment.",
    ),
    "thinner-high": (
        "warn",
        "{parts} parts of thinner per 100 is more than the usual 10 to 20: tear strength drops and the "
        "demould time stretches. Pour a small test first.",
    ),
    "thinner-beyond-data": (
        "stop",
        "{parts} parts of thinner per 100 is beyond 50, where nobody has figures: expect a mould that "
        "bleeds oil or never firms up. Choose a softer rubber.",
    ),
    "ratios-disagree": (
        "warn",
        "The ratio by volume comes to {by_volume} of B per 100 of A by weight, and the ratio by weight says {by_weight}. One of them, or a part's SG, "
        "is off: read the tin again. Weights are used until then.",
    ),
    "no-volume-ratio": (
        "stop",
        "This rubber's tin gives no ratio by volume with the SG of both parts. Weigh it, or add them on the Shelf.",
    ),
    "marks-too-coarse": (
        "warn",
        "Cups marked every {mark} can put the ratio off by {worst}, and this rubber stands {tolerance}. "
        "Weigh it, or use finer or narrower cups.",
    ),
    "pot-life-short": (
        "warn",
        "{batches} batches of {batch} each take longer than the pot life of {pot_life}. Mix and pour each "
        "one before the next is started, or use a bigger cup.",
    ),
    "pot-life-over": (
        "warn",
        "Mixing, degassing and pouring a batch takes {batch}, and in this room the rubber stays liquid for {pot_life}. "
        "Mix less at once, cool the room and the parts, or take a slower rubber.",
    ),
    "whole-kit-short": (
        "warn",
        "All of the A that is left is not enough: {short} are missing for this job. Open another kit, or "
        "save rubber with old scrap or a closer box.",
    ),
    "additive-not-for-it": (
        "stop",
        "{name} is meant for {family}, and this is a {rubber}: it may never set. Take one that goes with "
        "it, or correct the Shelf.",
    ),
    "stock-low": (
        "warn",
        "The Shelf has {left} of {what} that is still good, and this pour takes {needed}. Order it, or "
        "weigh what is really left and correct the Shelf.",
    ),
    "lot-expired": (
        "warn",
        "Lot {lot} of {what} is {days} days past its use-by. Old rubber may set slowly or not at all: mix a "
        "spoonful and wait before you trust it.",
    ),
    "lot-expires": (
        "note",
        "Lot {lot} of {what} is good for {days} more days. Use it first, before a fresh one is opened.",
    ),
    # Checks
    "touch-will-not-set": ("stop", "{pour} will not set on {touches} ({kind}). {why} {remedy}"),
    "touch-bonds": ("stop", "{pour} bonds to {touches} ({kind}) for good. {why} {remedy}"),
    "touch-harms": ("stop", "{pour} on {touches} ({kind}) does damage. {why} {remedy}"),
    "touch-may-not-set": ("warn", "{pour} may not set on {touches} ({kind}). {why} {remedy}"),
    "touch-not-known": ("warn", "What {pour} does on {touches} ({kind}) is not known. {why} {remedy}"),
    "touch-not-said": (
        "warn",
        "What {touches} is made of was not said, so nobody can tell whether {pour} sets on it and lets go "
        "of it. Say it; until then, test a spot.",
    ),
    "touch-release": ("warn", "{pour} on {touches} ({kind}) needs a release. {why} {remedy}"),
    "touch-seal": ("warn", "{touches} ({kind}) must be sealed before {pour} comes on it. {why} {remedy}"),
    "own-tests-differ": (
        "warn",
        "This shop's own tests differ about {pour} on {touches}: on {newer_day} “{newer}”, on {older_day} “{older}”. The newer one is counted on. "
        "Withdraw the one that no longer holds, or test once more.",
    ),
    "warts": (
        "warn",
        "The cast goes under {pressure} and the mould was poured without getting its air out: its bubbles shrink to {left} of their volume, its face "
        "sinks in over each, and the cast grows warts there. Degas the mould's rubber, let it set under the "
        "same pressure, or cast without.",
    ),
    "vacuum-vessel": (
        "warn",
        "Under vacuum the mix rises to about {vessel}, and the cup holds {cup}. It would climb over: take a "
        "taller vessel, or smaller batches.",
    ),
    "vacuum-impossible": (
        "warn",
        "{pressure} can't be read as a vacuum: the air itself has [101.325 pressure]. Type what the chamber still holds, or what its gauge shows below the air; "
        "until then [3 pressure] is counted on.",
    ),
    "vacuum-not-timed": (
        "note",
        "Getting the air out in a vacuum takes about {time}, and no time is counted for it, so the pot life looks longer than it is. "
        "Type it on the Rubber station: degassing takes.",
    ),
    "air-not-known": (
        "note",
        "{what} was not said, so nobody can tell which bubbles leave it. It is on the rubber's data sheet: "
        "type it on the Shelf.",
    ),
    "finish-differs": ("warn", "The cast comes out {cast}, and it is to be {wanted}. {cure}"),
    "paint-spoilt": (
        "stop",
        "The cast is to be painted, and {what} is put in the mould: what is left of it on the cast lets "
        "paint crawl. Put in none, or dust with talc.",
    ),
    "paint-wash": (
        "note",
        "The cast is to be painted, and {what} is put in the mould: wash every cast before paint. Talc "
        "leaves nothing that hurts it.",
    ),
    # Hardness
    "scale-end": (
        "note",
        "{reading} lies at the end of its scale, where a gauge reads badly. Read it on the scale {other} "
        "for a figure to count on.",
    ),
    "measure-on": (
        "note",
        "So soft, the scale {scale} says little: under 20 or over 90 a gauge reads badly. Measure the "
        "result on the scale {other}.",
    ),
    "points-disagree": (
        "warn",
        "The test points do not fall evenly with the dose: at least one of them is off. Look at the "
        "coupons, and cast the odd one again.",
    ),
    "beyond-points": (
        "warn",
        "The last test point is at {last} parts per 100; beyond it the curve is a guess. Cast a coupon at "
        "this dose before you trust it.",
    ),
    "model-only": (
        "note",
        "Nobody has tested this rubber with this thinner, so the figure comes from a model that is known to "
        "be off for filled rubbers. Cast a coupon first.",
    ),
    "coupon-off-scale": (
        "warn",
        "{reading} lies off the good part of the scale, 20 to 90. Read the puck again with the gauge "
        "{other}, and log that instead.",
    ),
    "coupon-off-all": (
        "note",
        "{reading} lies at the very end of what can be measured: no gauge here reads it well. Keep it as a "
        "hint, not as a figure.",
    ),
    "coupon-thin": (
        "warn",
        "The puck is only {thickness} thick: the gauge feels the table through it and reads too hard. [6 "
        "length] is the least; stack two if you must.",
    ),
    "coupon-edge": (
        "warn",
        "Readings within [12 length] of the edge or [6 length] of each other read too soft. Read it again, "
        "well apart and near the middle.",
    ),
    "coupon-few": (
        "note",
        "{readings} readings are few: five are the custom, so that one slip of the hand does not count. "
        "Take the rest from the same puck.",
    ),
    "retired": ("note", "{name} is retired on the Shelf. Check that there is still enough of it, or choose another."),
    "kit-short": (
        "note",
        "This takes more than one kit: {kits} of {kit} each. Have all of it on the table before you mix.",
    ),
}
