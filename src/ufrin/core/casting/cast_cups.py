"""The cups of a shot: what goes into each, in which order, and what it costs."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from ufrin.core.casting.additions import Addition
from ufrin.core.casting.cast_amount import CastMix
from ufrin.core.casting.cast_kinds import SHELLS
from ufrin.core.casting.filled_cast import counted_in_scoops, filled_cast
from ufrin.core.casting.resins import Resin
from ufrin.core.inputs.casts import SettledCasts
from ufrin.core.rubber.cure_times import time_at
from ufrin.core.weighing.coats import RecoatWindow, recoat_window
from ufrin.errors import Refused
from ufrin.language import Text

DROPS_PER_ML = 20.0  # common practice
FACE_CUP, FOAM_CUP = Text("the face coat"), Text("the foam")
# what a shot is made of where its cups are not all of one mix; each is weighed, logged and learnt by itself
SHOT_PARTS: Mapping[str, str] = {
    "shell": Text("the shell"),
    "foam": FOAM_CUP,
    "face": FACE_CUP,
    "backing": Text("the backing"),
}
OWN_COLOUR = Text("its own colour")
METAL_SCOOPS = 1.0  # equal volumes of A, B and powder


@dataclass(frozen=True, slots=True, kw_only=True)
class CastPicks:
    """What a shot takes from the Shelf."""

    resin: Resin | None = None
    foam: Resin | None = None
    filler: Addition | None = None
    colour: Addition | None = None

    def of_part(self, part: str) -> Resin | None:
        """Return the material of a part of the shot.

        Parameters
        ----------
        part : str
            One of ``SHOT_PARTS``.

        Returns
        -------
        Resin or None
            Its foam, or the casting material.
        """
        return self.foam if part == "foam" else self.resin

    def demould_min(self, kind: str) -> float | None:
        """Return when a cast may be taken out: what sets last decides.

        Parameters
        ----------
        kind : str
            Of the cast.

        Returns
        -------
        float or None
            In min at 23 degC; None where no tin tells.
        """
        poured = (self.resin, self.foam) if kind == "foam-back" else (self.resin,)
        return max((one.demould_min for one in poured if one and one.demould_min), default=None)


@dataclass(frozen=True, slots=True, kw_only=True)
class CastIngredient:
    """One thing that goes into a cup: mass in g, volume of a liquid, scoop of a powder, or drops."""

    key: str
    name: str
    g: float
    ml: float | None = None
    scoop_ml: float | None = None
    drops: int | None = None

    def times(self, times: float) -> "CastIngredient":
        """Return more or less of it.

        Parameters
        ----------
        times : float
            As much.

        Returns
        -------
        CastIngredient
            Drops stay whole, and their mass follows their number.
        """
        drops = None if self.drops is None else round(self.drops * times)
        if drops and self.drops:
            times = drops / self.drops
        return replace(
            self,
            g=self.g * times,
            ml=self.ml * times if self.ml is not None else None,
            scoop_ml=self.scoop_ml * times if self.scoop_ml is not None else None,
            drops=drops,
        )


@dataclass(frozen=True, slots=True, kw_only=True)
class CastCup:
    """One cup that is mixed.

    Parameters
    ----------
    what : str
        "the cast", "the face coat", "coat 2 of 4", "layer 1", "the foam", "colour 2 (20 %)".
    volume_ml : float
        That it fills, of foam before it rises.
    ingredients : tuple of CastIngredient
        In the order in which they go in.
    recoat : RecoatWindow or None
        When the next cup goes on, counted from the first contact of A and B in this one.
    mixes : int
        Equal mixes that it is divided into, so that each fits the cup at hand.
    part : str
        The part of the shot that it makes, as ``SHOT_PARTS`` has it; empty where the whole shot is of one mix.
    """

    what: str
    volume_ml: float
    ingredients: tuple[CastIngredient, ...]
    recoat: RecoatWindow | None = None
    mixes: int = 1
    part: str = ""

    @property
    def total_g(self) -> float:
        """All that is in it."""
        return sum(one.g for one in self.ingredients)

    def times(self, times: float) -> "CastCup":
        """Return a larger or smaller cup of the same.

        Parameters
        ----------
        times : float
            As large.

        Returns
        -------
        CastCup
            With every ingredient in proportion.
        """
        return replace(
            self, volume_ml=self.volume_ml * times, ingredients=tuple(one.times(times) for one in self.ingredients)
        )


def usual_scoops(kind: str, filler: Addition) -> float:
    """Return how much powder goes to 1 of A and 1 of B where nobody said otherwise.

    Parameters
    ----------
    kind : str
        Of the cast.
    filler : Addition
        The powder.

    Returns
    -------
    float
        Equal volumes for a cold cast, or as much as its label allows.
    """
    return METAL_SCOOPS if kind == "cold-cast" else filler.most_scoops


class CupMaker:
    """Fills the cups of a shot with what goes in.

    Parameters
    ----------
    settled : SettledCasts
        The Casts station.
    picks : CastPicks
        From the Shelf.
    resin : Resin
        The casting material.
    """

    def __init__(self, settled: SettledCasts, picks: CastPicks, resin: Resin) -> None:
        self.settled, self.picks, self.resin = settled, picks, resin
        self.mix = resin.mix_by(settled.basis)
        self.spare = 1 + settled.spare_pct / 100

    def cup(self, what: str, volume_ml: float, *, of: tuple[Resin, CastMix] | None = None) -> CastCup:
        """Fill a cup without powder.

        Parameters
        ----------
        what : str
            It is for.
        volume_ml : float
            That is poured of it; the spare comes on top.
        of : (Resin, CastMix), optional
            Another material than the cast's own, such as a foam.

        Returns
        -------
        CastCup
            Part B first, with the colour in it; of a catalyst in drops, it is the other way round: A is weighed, and
            the drops are counted into it.
        """
        resin, mix = of or (self.resin, self.mix)
        mass_g = volume_ml * mix.sg * self.spare
        prefix = "foam " if of else ""
        liquids = self._liquids(resin, mix, mass_g, prefix)
        colour = self._colour(volume_ml * self.spare) if not of else ()
        # colour always into the part that goes first
        counts_drops = any(one.drops is not None for one in liquids)
        first, *then = liquids if counts_drops else sorted(liquids, key=lambda one: one.key.endswith("A"))
        ingredients = (first, *colour, *then)
        return CastCup(what=what, volume_ml=volume_ml * self.spare, ingredients=ingredients, recoat=self._recoat(resin))

    def powder_cup(self, what: str, volume_ml: float) -> CastCup:
        """Fill a cup with powder in it.

        Parameters
        ----------
        what : str
            It is for.
        volume_ml : float
            That is poured of it; the spare comes on top.

        Returns
        -------
        CastCup
            Powder goes into part B, or half of it into each part for a cold cast.

        Raises
        ------
        Refused
            Without a powder, or without the SG of both parts.
        """
        filler, resin = self.picks.filler, self.resin
        if filler is None or filler.bulk_sg is None or filler.true_sg is None:
            raise Refused("filler_id", Text("Which filler or metal powder goes in? Choose one from the Shelf."))
        if self.mix.ratio is None or resin.sg_a is None or resin.sg_b is None:
            raise Refused(
                "resin_id",
                Text(
                    "Powder is counted in scoops beside A and B, so the specific gravities of both parts "
                    "of {name} are needed. Fill them in on the Shelf.",
                    name=resin.name,
                ),
            )
        scoops = self.settled.scoops
        if scoops is None:
            scoops = usual_scoops(self.settled.cast_kind, filler)
        sg_parts = {"A": resin.sg_a, "B": resin.sg_b}
        shares = {name: part.g for name, part in (self.mix.parts(1.0) or {}).items()}
        made = filled_cast(
            volume_ml * self.spare,
            parts_by_volume=counted_in_scoops(shares, sg_parts, scoops),
            sg_parts=sg_parts,
            bulk_sg=filler.bulk_sg,
            true_sg=filler.true_sg,
        )
        a = CastIngredient(key="A", name=_called(resin, "A"), g=made.a_g, ml=made.a_ml)
        b = CastIngredient(key="B", name=_called(resin, "B"), g=made.b_g, ml=made.b_ml)
        halves = 2 if self.settled.cast_kind == "cold-cast" else 1
        powder = CastIngredient(
            key="filler", name=filler.name, g=made.filler_g / halves, scoop_ml=made.scoop_ml / halves
        )
        colour = self._colour(made.volume_ml)
        order = (b, *colour, powder, a, powder) if halves == 2 else (b, *colour, powder, a)  # noqa: PLR2004 - both parts
        return CastCup(what=what, volume_ml=made.volume_ml, ingredients=order, recoat=self._recoat(resin))

    def _liquids(self, resin: Resin, mix: CastMix, mass_g: float, prefix: str) -> list[CastIngredient]:
        parts = mix.parts(mass_g)
        if parts is not None:
            return [
                CastIngredient(key=f"{prefix}{key}", name=_called(resin, key), g=part.g, ml=part.ml)
                for key, part in parts.items()
            ]
        a = CastIngredient(key=f"{prefix}A", name=_called(resin, "A"), g=mass_g, ml=mass_g / mix.sg)
        if not resin.drops_per_100_g:
            return [a]
        drops = round(mass_g / 100 * resin.drops_per_100_g)
        drop_g = (resin.sg_b or 1.0) / DROPS_PER_ML
        return [a, CastIngredient(key=f"{prefix}B", name=_called(resin, "B"), g=drops * drop_g, drops=drops)]

    def _colour(self, volume_ml: float) -> tuple[CastIngredient, ...]:
        colour, kind = self.picks.colour, self.settled.cast_kind
        # of several colours each cup has its own, which need not be on the Shelf; a marbled mix is coloured in part
        named = colour.name if colour else OWN_COLOUR if kind == "colours" else ""
        if not named or not self.settled.colour_pct or kind == "marbled":
            return ()
        g = volume_ml * self.settled.colour_pct / 100 * self.mix.sg
        return (CastIngredient(key="colour", name=named, g=g),)

    def _recoat(self, resin: Resin) -> RecoatWindow | None:
        if self.settled.cast_kind not in SHELLS | {"layers", "cold-cast"}:
            return None
        pot, demould = (
            time_at(minutes, self.settled.room_c) if minutes else None
            for minutes in (resin.pot_life_min, resin.handling_min or resin.demould_min)
        )
        return recoat_window(pot, demould)

    def cost(self, cups: Sequence[CastCup]) -> float | None:
        """Add up what cups cost by the prices on the Shelf.

        Parameters
        ----------
        cups : sequence of CastCup
            Of one shot.

        Returns
        -------
        float or None
            None where a price is missing; a colour without one counts nothing.
        """
        prices = {
            **dict.fromkeys(("A", "B"), self.resin.price_per_g),
            **dict.fromkeys(("foam A", "foam B"), self.picks.foam.price_per_g if self.picks.foam else None),
            "filler": self.picks.filler.price_per_g if self.picks.filler else None,
            "colour": self.picks.colour.price_per_g if self.picks.colour else None,
        }
        total = 0.0
        for one in (one for cup in cups for one in cup.ingredients):
            price = prices[one.key]
            if price is None:
                if one.key in {"A", "B", "foam A", "foam B", "filler"}:
                    return None
                continue
            total += one.g * price
        return total


def _called(resin: Resin, key: str) -> str:
    name, colour = (resin.a_name, resin.a_colour) if key == "A" else (resin.b_name, resin.b_colour)
    return f"{name}, {colour}" if colour else name
