"""A pour that ran short: what is missing, what is weighed now, what the lots hold, and how it bonds."""

from dataclasses import dataclass

from ufrin.actions.bench.pours import lots_for
from ufrin.actions.job.open_job import opened_at
from ufrin.core.box.shortfall import missing_ml
from ufrin.core.clocks.moment import Moment
from ufrin.core.weighing.bench_state import BenchState
from ufrin.core.weighing.top_up import Bonding, bonding, check_short, scrap_g, top_up_batch
from ufrin.core.weighing.weigh_plan import Ingredient
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store import pours, workshop_settings
from ufrin.store.connection import Database
from ufrin.store.pours import StoredPour
from ufrin.store.workshop_settings import Workshop


@dataclass(frozen=True, slots=True, kw_only=True)
class TopUp:
    """What a top-up takes; ``held`` is whether the lots hold each part, None where none are on the Shelf."""

    volume_ml: float
    batch: tuple[Ingredient, ...]
    held: tuple[bool | None, ...]
    bonding: Bonding
    scrap_g: float


@dataclass(frozen=True, slots=True, kw_only=True)
class ShortPour:
    """A pour that ran short; ``can_level`` is whether its box tells what a level means."""

    pour: StoredPour
    state: BenchState
    workshop: Workshop
    can_level: bool
    top_up: TopUp | None


def look(
    database: Database, number: int, now: Moment, *, below_mm: float | None = None, volume_ml: float | None = None
) -> ShortPour:
    """Work out what makes up for a shortfall, from the level that was reached or from what is missing.

    Raises Refused when it can't be missing.
    """
    with database.reading() as connection:
        kept = pours.look(connection, number)
        opened = opened_at(connection, kept.job_id, "rubber")
        state, plan = kept.state, opened.plan
        can_level = kept.plan.how == "poured" and plan.box is not None and plan.box_plan is not None
        if below_mm is not None:
            if plan.box is None or plan.box_plan is None or not can_level:
                raise Refused("below_mm", Text("This mould has no box with a fill line. Type what is missing instead."))
            is_turned = kept.plan.half == "second"
            volume_ml = missing_ml(plan.box_plan, plan.box, below_mm, is_turned=is_turned)
            # beyond the parting surface lies the other half
            volume_ml = min(volume_ml, kept.plan.need_ml)
        top_up = None
        if volume_ml is not None:
            check_short(volume_ml)
            batch = top_up_batch(kept.plan, volume_ml)
            tins = [lots_for(connection, one) for one in batch]
            held = tuple(
                sum(tin.lot.left_g for tin in of_one) >= one.g if of_one else None
                for one, of_one in zip(batch, tins, strict=True)
            )
            top_up = TopUp(
                volume_ml=volume_ml,
                batch=batch,
                held=held,
                bonding=_bonding(state, now),
                scrap_g=scrap_g(volume_ml, kept.plan.sg),
            )
        return ShortPour(
            pour=kept, state=state, workshop=workshop_settings.load(connection), can_level=can_level, top_up=top_up
        )


def _bonding(state: BenchState, now: Moment) -> Bonding:
    demould = state.clocks.of_kind("demould", now)
    return bonding(
        state.plan.family,
        elapsed_min=demould.elapsed_s / 60 if demould else None,
        demould_min=demould.end_s / 60 if demould else None,
    )
