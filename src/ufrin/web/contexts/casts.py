"""What the templates of the Casts station receive: cups in words, what the Shelf offers, the drawing."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import partial
from typing import Any

from ufrin.actions import Stored
from ufrin.actions.bench.sequence import cast_from_s
from ufrin.actions.casts.shots import NOT_READY
from ufrin.actions.job.open_job import OpenJob
from ufrin.core.casting.additions import COLOURS, POWDERS
from ufrin.core.casting.cast_cups import CastIngredient
from ufrin.core.casting.cast_kinds import CAST_KINDS, EXPLAINED
from ufrin.core.casting.cast_size import master_for, size_after
from ufrin.core.casting.resins import FOAMS, ONE_PART, POURED_AS, SIFTED
from ufrin.core.degassing.schools import SCHOOLS
from ufrin.core.job.casts_station import CastsAnswer, held_form
from ufrin.core.job.preparation import begin_in_min
from ufrin.core.pairing.cautions import DEFERS, UsedInJob, cautions
from ufrin.core.shelf.scales import mass_decimals
from ufrin.devices import clock
from ufrin.language import Joined, Text
from ufrin.web.contexts.checks import shown_stops
from ufrin.web.drawings.cast_fill import cast_fill
from ufrin.web.drawings.svg_marks import Drawing
from ufrin.web.frame.wording_in_units import UnitFormatter

# the order in which the answer shows what goes in; the cups show the order of the work
SHOWN = ("A", "B", "filler", "colour", "foam A", "foam B")


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownSize:
    """A length of the master, what comes out of the mould, and how large a master would give the first."""

    master_mm: float
    cast_mm: float
    wanted_master_mm: float


def _decimals(answer: CastsAnswer, step_g: float) -> int:
    # of grams, as the scale shows them
    if answer.plan is None:
        return 0
    weighed = (one.g for one in answer.plan.totals.values() if one.key in {"A", "B"} and one.drops is None)
    return mass_decimals(step_g, min(weighed))


def casts_headline(answer: CastsAnswer | None, say: UnitFormatter, step_g: float) -> str:
    """Return the headline figure of the Casts station; empty where there is none yet."""
    if answer is None or answer.plan is None:
        return ""
    decimals = _decimals(answer, step_g)
    parts = [one for one in answer.plan.totals.values() if one.key in {"A", "B"}]
    return Joined(
        (
            Text("{drops} drops", drops=one.drops) if one.drops is not None else say.plain(one.g, "mass", decimals)
            for one in sorted(parts, key=lambda part: part.key)
        ),
        " + ",
    )


def amount_words(one: CastIngredient, say: UnitFormatter, decimals: int, *, by_volume: bool) -> str:
    """Return how much of a thing goes in: by weight, by volume where that is chosen, in scoops, or in drops."""
    if one.drops is not None:
        return Text("{drops} drops", drops=one.drops)
    if by_volume and one.ml is not None:
        return say.figure(one.ml, "volume")
    return say.figure(one.g, "mass", decimals if one.key in {"A", "B"} else mass_decimals(10.0**-decimals, one.g))


def casts_context(opened: OpenJob, say: UnitFormatter) -> dict[str, Any]:
    """Return what the templates of the Casts station receive in addition."""
    answer, inputs = opened.casts, opened.job.casts
    if answer is None:
        return {}

    def offered(kept: Sequence[Stored[Any]], chosen: int | None) -> list[tuple[int, str]]:
        return [
            (one.id, one.thing.name + (" (retired)" if one.retired_at else ""))
            for one in kept
            if not one.retired_at or one.id == chosen
        ]

    resin = answer.picks.resin
    step_g = opened.plan.rubber_settled.scale_step_g
    by_volume = answer.settled.basis == "volume" and bool(resin and resin.by_volume)
    used = frozenset({POURED_AS.get(resin.kind, resin.kind)}) if resin else frozenset()
    return {
        "casts": answer,
        "cast": answer.plan,
        "totals": sorted(answer.plan.totals.values(), key=lambda one: SHOWN.index(one.key)) if answer.plan else (),
        "resins": offered(opened.resins, inputs.resin_id),
        "foams": offered([one for one in opened.resins if one.thing.kind in FOAMS], inputs.foam_id),
        "powders": offered([one for one in opened.additions if one.thing.kind in POWDERS], inputs.filler_id),
        "colours": offered([one for one in opened.additions if one.thing.kind in COLOURS], inputs.cast_colour_id),
        "cast_kinds": CAST_KINDS,
        "open_cast": opened.open_cast,
        "scales": [(kept.id, kept.thing.name) for kept in opened.scales if not kept.retired_at],
        **_ready(opened),
        "is_early": opened.stage(clock.now()) in NOT_READY,
        "stops": [one for one in shown_stops(opened.cast_stops, say) if one["can_be_signed"]],
        "sign_at": "casts",
        "errors": {},
        "typed": {"who": ""},
        "order_words": _order_words(answer),
        "explained": EXPLAINED.get(answer.settled.cast_kind, ""),
        "by_volume": by_volume,
        "amount_words": partial(amount_words, say=say, decimals=_decimals(answer, step_g), by_volume=by_volume),
        "cast_drawing": _drawing(opened, answer, say),
        "sizes": _sizes(opened, answer),
        "cautions": cautions(UsedInJob(pour=used)) if used else (),
        "defers": DEFERS,
    }


def _order_words(answer: CastsAnswer) -> str:
    # why the parts go in as they do
    resin = answer.picks.resin
    if resin is None or resin.kind in ONE_PART:
        return ""
    if resin.kind in SIFTED:
        return Text("The powder is sprinkled into the water, never the other way round. With it the clock begins.")
    if answer.plan and any(one.drops is not None for one in answer.plan.totals.values()):
        return Text("A is weighed first, and the drops are counted into it. With them the clock begins.")
    metal = Text("; half of the metal goes into each part") if answer.settled.cast_kind == "cold-cast" else ""
    return Text(
        "Part B goes first, with the colour in it; powder goes into liquid, never the other "
        "way round{metal}. A comes last, and with it the clock begins.",
        metal=metal,
    )


def _ready(opened: OpenJob) -> dict[str, Any]:
    # the preparation dated from now, by what is still to do of it
    now = clock.now()
    states = opened.cast_steps(now)
    ready_s = max(now.wall_s + 60 * begin_in_min(states), cast_from_s(opened, now))
    return {
        "ready": [(ready_s - 60 * one.step.before_min, one) for one in states],
        "ready_at": ready_s,
        "waits_for_mould": ready_s > now.wall_s + 60 * begin_in_min(states) + 1,
        "air_words": SCHOOLS.get(opened.job.checks.cast_air or "", ""),
    }


def _drawing(opened: OpenJob, answer: CastsAnswer, say: UnitFormatter) -> Drawing | None:
    form = opened.plan.master.form
    if form is None or answer.plan is None:
        return None
    return cast_fill(answer.plan, held_form(form, opened.plan), say.plain)


def _sizes(opened: OpenJob, answer: CastsAnswer) -> ShownSize | None:
    size, resin = opened.plan.master.size_mm, answer.picks.resin
    if size is None or resin is None or (resin.shrinkage_pct is None and not answer.settled.rubber_shrink_pct):
        return None
    chain = [answer.settled.rubber_shrink_pct, resin.shrinkage_pct or 0.0]
    longest_mm = max(size)
    return ShownSize(
        master_mm=longest_mm, cast_mm=size_after(longest_mm, chain), wanted_master_mm=master_for(longest_mm, chain)
    )
