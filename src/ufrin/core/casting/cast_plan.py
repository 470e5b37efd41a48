"""The plan of a shot: for every kind of cast, which cups are mixed, in which order, and what a piece takes."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from math import ceil

from ufrin.core.casting.cast_amount import poured_ml
from ufrin.core.casting.cast_cups import FACE_CUP, FOAM_CUP, SHOT_PARTS, CastCup, CastPicks, CupMaker
from ufrin.core.casting.cast_kinds import SHELLS
from ufrin.core.casting.layered_cast import SetIn, cast_layers
from ufrin.core.casting.planned_cast import CastCavity, CastPlan, PricedWay
from ufrin.core.casting.resins import Resin
from ufrin.core.casting.rotated_cast import mass_by_known_piece
from ufrin.core.casting.shares import read_shares
from ufrin.core.casting.shell_cast import START_SHARE, foam_back, shell_coats, shell_mass_g
from ufrin.core.inputs.casts import SettledCasts
from ufrin.errors import Refused
from ufrin.language import Counted, Text

EXACT = 1e-9


def plan_cast(settled: SettledCasts, cavity: CastCavity, picks: CastPicks) -> CastPlan:
    """Work out a shot.

    Parameters
    ----------
    settled : SettledCasts
        The Casts station.
    cavity : CastCavity
        Of the mould.
    picks : CastPicks
        From the Shelf, with a resin.

    Returns
    -------
    CastPlan
        Its cups in the order of the work: powder goes into liquid, part B first; colour always into B; of metal
        powder, half into each part (common practice).

    Raises
    ------
    Refused
        For what can't be: no resin, a shell without a surface, a filler that is missing, foam without room.
    """
    if picks.resin is None:
        raise Refused("resin_id", Text("Which casting material? Choose one from the Shelf."))
    filled = int(settled.cavities) if settled.cavities else cavity.count
    if not 1 <= filled <= cavity.count:
        raise Refused(
            "cavities",
            Counted(
                "This mould has a single cavity, so a shot fills {n}.",
                "This mould has {n} cavities, so a shot fills 1 to {n} of them.",
                n=cavity.count,
            ),
        )
    return _Shot(settled, cavity, picks, picks.resin, filled).worked_out()


class _Shot:
    # one shot while it is worked out
    def __init__(self, settled: SettledCasts, cavity: CastCavity, picks: CastPicks, resin: Resin, filled: int) -> None:
        self.settled, self.cavity, self.picks, self.resin, self.filled = settled, cavity, picks, resin, filled
        self.maker = CupMaker(settled, picks, resin)

    def worked_out(self) -> CastPlan:
        kind = self.settled.cast_kind
        make: Mapping[str, Callable[[], CastPlan]] = {
            "solid": self._solid,
            "filled": self._with_powder,
            "cold-cast": self._with_powder,
            "shell": self._shell,
            "foam-back": self._foam_back,
            "rotated": self._rotated,
            "layers": self._layers,
            "squeeze": self._squeezed,
            "marbled": self._marbled,
            "colours": self._in_colours,
        }
        if kind not in make:
            raise Refused("cast_kind", Text("That is not one of the kinds of casts. Choose again."))
        worked_out = make[kind]()
        made = self._as_wanted(worked_out)
        # the ways are compared as they are worked out, for the maker's own amount would be set against calculated ones
        return replace(made, cups=tuple(map(self._that_fits, made.cups)), ways=self._ways(worked_out))

    def _that_fits(self, cup: CastCup) -> CastCup:
        if not self.settled.cup_ml:
            return cup
        return replace(cup, mixes=max(1, ceil(cup.volume_ml / self.settled.cup_ml - EXACT)))

    def _as_wanted(self, made: CastPlan) -> CastPlan:
        # a maker who knows better says how much is mixed; every cup keeps its share of it
        said_g = {"foam": self.settled.foam_each_g, "face": self.settled.face_each_g}
        times = {
            part: each_g * self.filled / sum(cup.total_g for cup in made.cups if cup.part == part)
            for part in {cup.part for cup in made.cups}
            if (each_g := said_g.get(part, self.settled.each_g))
        }
        if not times:
            return made
        cups = tuple(cup.times(times.get(cup.part, 1.0)) for cup in made.cups)
        cost = self.maker.cost(cups) if made.part_fills_g else _times(made.shot_cost, times.get("", 1.0))
        return replace(
            made,
            cups=cups,
            shot_g=sum(cup.total_g for cup in cups),
            shot_cost=cost,
            piece_cost=cost / self.filled if cost is not None else None,
        )

    # --- volumes

    @property
    def _poured_ml(self) -> float:
        return poured_ml(
            cavity_ml=self.cavity.volume_ml,
            sprue_ml=self.cavity.sprue_ml,
            overfill_pct=self.settled.overfill_pct,
            count=self.filled,
        )

    @property
    def _area_cm2(self) -> float:
        if not self.cavity.area_cm2:
            raise Refused(
                "area_cm2",
                Text("How large is the surface of the cavity? A mesh tells it; without one, measure and type it."),
            )
        return self.cavity.area_cm2

    # --- kinds

    def _solid(self) -> CastPlan:
        return self._plan(
            [self.maker.cup(Text("the cast"), self._poured_ml)], self.cavity.volume_ml * self.maker.mix.sg
        )

    def _squeezed(self) -> CastPlan:
        more = 1 + self.settled.squeeze_pct / 100
        cup = self.maker.cup(Text("the cast"), self.cavity.volume_ml * self.filled * more)
        return self._plan([cup], self.cavity.volume_ml * self.maker.mix.sg)

    def _with_powder(self) -> CastPlan:
        is_metal = self.settled.cast_kind == "cold-cast"
        if not (is_metal and self.settled.face_mm > 0):
            cup = self.maker.powder_cup(Text("the cast"), self._poured_ml)
            return self._plan([cup], self._per_piece(cup))
        face_ml = self._area_cm2 * self.settled.face_mm / 10 * self.filled
        back_ml = self._poured_ml - face_ml
        if not back_ml > 0:
            raise Refused(
                "face_mm", Text("A face coat so thick fills the whole cavity. Make it thinner, or leave it at 0.")
            )
        face = replace(self.maker.powder_cup(FACE_CUP, face_ml), part="face")
        back = replace(self.maker.cup(SHOT_PARTS["backing"], back_ml), part="backing")
        piece_g = self._per_piece(face, back)
        face_g = face.total_g / self.maker.spare / self.filled
        return replace(
            self._plan([face, back], piece_g), part_fills_g={"face": face_g, "backing": max(0.0, piece_g - face_g)}
        )

    def _shell(self) -> CastPlan:
        if not self.cavity.area_cm2:
            start_ml = START_SHARE * self.cavity.volume_ml * self.filled
            return self._plan(
                [self.maker.cup(Text("the first trial"), start_ml)], start_ml / self.filled * self.maker.mix.sg
            )
        coats = shell_coats(self.settled.thickness_mm, self.settled.coat_mm)
        cups, shell_g = self._coats(coats.number), self._shell_g(coats.reached_mm)
        self._check_room(shell_g)
        return replace(self._plan(cups, shell_g), thickness_mm=coats.reached_mm)

    def _foam_back(self) -> CastPlan:
        shell = self._shell()
        foam = self.picks.foam
        if foam is None or not foam.rises:
            raise Refused("foam_id", Text("Which foam goes behind the shell? Choose one from the Shelf."))
        mix = foam.mix_by("weight")
        back = foam_back(
            cavity_ml=self.cavity.volume_ml,
            shell_g=shell.piece_g,
            shell_sg=self.maker.mix.sg,
            expansion=foam.rises,
            foam_liquid_sg=mix.sg,
        )
        cup = self.maker.cup(FOAM_CUP, back.foam_mix_g / mix.sg * self.filled, of=(foam, mix))
        cups = [*(replace(one, part="shell") for one in shell.cups), replace(cup, part="foam")]
        made = self._plan(cups, shell.piece_g + back.foam_mix_g)
        fills_g = {"shell": shell.piece_g, "foam": back.foam_mix_g}
        return replace(made, thickness_mm=shell.thickness_mm, part_fills_g=fills_g)

    def _rotated(self) -> CastPlan:
        coats = shell_coats(self.settled.thickness_mm, self.settled.coat_mm)
        if self.settled.known_g and self.settled.known_cm2:
            target_g = mass_by_known_piece(self.settled.known_g, self.settled.known_cm2, self._area_cm2)
        else:
            target_g = self._shell_g(self.settled.thickness_mm)
        self._check_room(target_g)
        each_ml = target_g / self.maker.mix.sg / coats.number * self.filled
        cups = [self.maker.cup(_coat(index, coats.number), each_ml) for index in range(coats.number)]
        thickness_mm = target_g / self.maker.mix.sg / self._area_cm2 * 10
        return replace(self._plan(cups, target_g), thickness_mm=thickness_mm, target_g=target_g)

    def _layers(self) -> CastPlan:
        shares = read_shares("layers", self.settled.layers)
        height_mm, volume_ml = self.cavity.height_mm or 1.0, self.cavity.volume_ml
        below = self.cavity.below_ml or (lambda up: volume_ml * up / height_mm)
        set_in = None
        if self.settled.set_in_ml:
            set_in = SetIn(
                volume_ml=self.settled.set_in_ml,
                mass_g=self.settled.set_in_g or 0.0,
                after_layer=int(self.settled.set_in_after),
            )
        layers = cast_layers(height_mm, shares, below, set_in)
        more = 1 + self.settled.overfill_pct / 100
        cups = []
        for layer in layers:
            extra_ml = self.cavity.sprue_ml if layer.number == len(layers) else 0.0
            cups.append(
                self.maker.cup(
                    Text("layer {number}", number=layer.number), (layer.volume_ml + extra_ml) * more * self.filled
                )
            )
        piece_g = sum(layer.volume_ml for layer in layers) * self.maker.mix.sg + (set_in.mass_g if set_in else 0.0)
        return replace(self._plan(cups, piece_g), layers=layers, set_in=set_in)

    def _marbled(self) -> CastPlan:
        # one mix: what has another colour is taken off it, so that all of it sets at once
        shares = read_shares("colour_shares", self.settled.colour_shares)
        made = self._plan(
            [self.maker.cup(Text("the cast"), self._poured_ml)], self.cavity.volume_ml * self.maker.mix.sg
        )
        taken = tuple(share / sum(shares) for share in shares[1:])
        colour = self.picks.colour
        if colour is None:
            return replace(made, taken_shares=taken)
        made = replace(made, taken_shares=taken, taken_colour_pct=self.settled.colour_pct)
        if made.shot_cost is None or colour.price_per_g is None:
            return made
        cost = made.shot_cost + sum(one.colour_g for one in made.taken_off) * colour.price_per_g
        return replace(made, shot_cost=cost, piece_cost=cost / self.filled)

    def _in_colours(self) -> CastPlan:
        shares = read_shares("colour_shares", self.settled.colour_shares)
        whole = sum(shares)
        cups = [
            self.maker.cup(
                Text("colour {number} ({share:.0f} %)", number=number, share=100 * share / whole),
                self._poured_ml * share / whole,
            )
            for number, share in enumerate(shares, 1)
        ]
        return self._plan(cups, self.cavity.volume_ml * self.maker.mix.sg)

    # --- parts of them

    def _shell_g(self, thickness_mm: float) -> float:
        return shell_mass_g(self._area_cm2, thickness_mm, self.maker.mix.sg)

    def _check_room(self, shell_g: float) -> None:
        if shell_g / self.maker.mix.sg >= self.cavity.volume_ml:
            raise Refused(
                "thickness_mm",
                Text(
                    "A shell so thick takes [{shell_g:.1f} volume], and the cavity holds [{volume_ml:.1f} "
                    "volume]. Make it thinner, or cast it solid.",
                    shell_g=shell_g / self.maker.mix.sg,
                    volume_ml=self.cavity.volume_ml,
                ),
            )

    def _coats(self, number: int) -> list[CastCup]:
        each_ml = self._area_cm2 * self.settled.coat_mm / 10 * self.filled
        return [self.maker.cup(_coat(index, number), each_ml) for index in range(number)]

    def _per_piece(self, *cups: CastCup) -> float:
        # by the cavity alone, without gate; both the weight and the volume of the cups have the spare in them
        return sum(cup.total_g for cup in cups) / sum(cup.volume_ml for cup in cups) * self.cavity.volume_ml

    def _plan(self, cups: Sequence[CastCup], piece_g: float) -> CastPlan:
        shot_cost = self.maker.cost(cups)
        pieces = self.settled.pieces
        return CastPlan(
            kind=self.settled.cast_kind,
            cavity=self.cavity,
            filled=self.filled,
            cups=tuple(cups),
            shot_g=sum(cup.total_g for cup in cups),
            piece_g=piece_g,
            shots=ceil(pieces / self.filled - EXACT) if pieces else 1,
            shot_cost=shot_cost,
            piece_cost=shot_cost / self.filled if shot_cost is not None else None,
        )

    # --- the same piece in other ways

    def _ways(self, made: CastPlan) -> tuple[PricedWay, ...]:
        compared = (
            ("solid", Text("Solid")),
            ("filled", Text("With filler")),
            ("shell", Text("Hollow shell")),
            ("foam-back", Text("Foam-backed")),
        )
        ways = []
        for kind, label in compared:
            one: CastPlan | None = made
            if kind != made.kind:
                other = _Shot(replace(self.settled, cast_kind=kind), self.cavity, self.picks, self.resin, self.filled)
                one = other.alone()
            if one is not None:
                ways.append(PricedWay(label=label, piece_g=one.piece_g, cost=one.piece_cost))
        return tuple(ways)

    def alone(self) -> CastPlan | None:
        """Return the plan, or None where this kind can't be made of what was chosen."""
        kind = self.settled.cast_kind
        if kind in SHELLS and not self.cavity.area_cm2:
            return None
        try:
            return {
                "solid": self._solid,
                "filled": self._with_powder,
                "shell": self._shell,
                "foam-back": self._foam_back,
            }[kind]()
        except Refused:
            return None


def _times(cost: float | None, times: float) -> float | None:
    return None if cost is None else cost * times


def _coat(index: int, number: int) -> str:
    return Text("coat {index} of {number}", index=index + 1, number=number)
