"""Orders: a run of casts is planned on a mould, kept with its progress, and compared with other ways to make it."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date

from ufrin.actions.bench.pours import lots_for
from ufrin.actions.casts.places import cast_places
from ufrin.actions.job.open_job import OpenJob
from ufrin.actions.moulds.cards import MouldCard, card_of
from ufrin.core.casting.cast_bench import CAST_ROLES
from ufrin.core.money.making import Making
from ufrin.core.moulds.retirement import Due
from ufrin.core.moulds.run_needs import RunNeed, together
from ufrin.core.moulds.run_plan import RunPlan, RunWish, plan_run, what_would_do
from ufrin.core.wording.one_line import one_line
from ufrin.errors import Refused
from ufrin.language import Text
from ufrin.store import lots, orders
from ufrin.store.connection import Connection, Database
from ufrin.store.orders import StoredOrder

HANDS_MIN = 15.0  # mixing, pouring, opening and closing a mould for each shot; common practice
USUAL_DEMOULD_MIN = 60.0
USUAL_HOURS = 6.0
MOULD_DAYS = 2.0  # from pouring a mould to casting in it; common practice
FEWEST_SHOTS = 5  # before the share of flawed pieces means anything
COMPARED = (1, 2, 3, 4)
CAVITIES = (1, 2, 4, 6, 8)


@dataclass(frozen=True, slots=True, kw_only=True)
class OrderPlan:
    """A run planned on a mould.

    Parameters
    ----------
    card : MouldCard
        Of the mould.
    run : RunPlan
        As it is wished.
    better : RunPlan or None
        The smallest change that meets a date that is not met.
    compared, by_cavities : tuple of RunPlan
        With other numbers of moulds side by side; and with new moulds of other numbers of cavities.
    needs : tuple of RunNeed
        What it takes of the Shelf, new moulds included.
    making : Making or None
        What it costs; None without prices.
    """

    card: MouldCard
    run: RunPlan
    better: RunPlan | None
    compared: tuple[RunPlan, ...]
    by_cavities: tuple[RunPlan, ...]
    needs: tuple[RunNeed, ...]
    making: Making | None


@dataclass(frozen=True, slots=True, kw_only=True)
class OrderAtWork:
    """An order with the plan of what is still to go; no plan where it is done, or can't be planned.

    ``chance_alone`` is the chance that the mould makes all that is to go by itself; ``dues`` is what it is due for.
    """

    order: StoredOrder
    run: RunPlan | None
    chance_alone: float = 0.0
    refused: str = ""
    dues: tuple[Due, ...] = ()

    @property
    def successor_day(self) -> int | None:
        """By when the next mould is poured; None where none is needed, or there is none that it would follow."""
        return self.run.first_new_day if self.run and self.run.has_moulds else None


def usual_wish(card: MouldCard) -> RunWish:
    """Return what is usual for a run on a mould, before anybody says otherwise."""
    casts = card.opened.casts
    demould_min = (casts.picks.demould_min(casts.settled.cast_kind) if casts else None) or USUAL_DEMOULD_MIN
    cast, good = (sum(values) for values in ([one.shots for one in card.cavities], [one.good for one in card.cavities]))
    flawed = round(100 * (1 - good / cast)) if cast >= FEWEST_SHOTS else 0
    pieces = card.opened.job.casts.settled().pieces
    return RunWish(
        pieces=int(pieces or 20),
        start_day=card.workshop.today.toordinal(),
        cavities=card.opened.cavities,
        cycle_min=demould_min + HANDS_MIN,
        hours_a_day=USUAL_HOURS,
        days=card.working_days,
        flawed_pct=float(min(80, flawed)),
        mould_days=MOULD_DAYS,
    )


def plan(database: Database, number: int, wish: RunWish) -> OrderPlan:
    """Plan a run on a mould."""
    with database.reading() as connection:
        card = card_of(connection, number)
        return _planned(connection, card, wish)


def made_by(card: MouldCard) -> tuple[tuple[float, ...], ...]:
    """Return what each cavity in use of a mould has made; nothing where it can't be cast in any more."""
    before = card.mould.details.shots_before
    in_use = tuple(float(one.shots + before) for one in card.cavities if not one.retired)
    return (in_use,) if in_use and card.mould.retired_at is None else ()


def _planned(connection: Connection, card: MouldCard, wish: RunWish) -> OrderPlan:
    made, sure, seed = made_by(card), card.workshop.confidence_pct, card.mould.id
    run = plan_run(wish, card.life.model, made, chance_pct=sure, seed=seed)
    compared = [
        run if at_once == wish.moulds_at_once else _or_none(replace(wish, moulds_at_once=at_once), card, made)
        for at_once in COMPARED
    ]
    return OrderPlan(
        card=card,
        run=run,
        better=what_would_do(run, card.life.model, made, chance_pct=sure, seed=seed),
        compared=tuple(one for one in compared if one is not None),
        by_cavities=tuple(
            one for cavities in CAVITIES if (one := _or_none(replace(wish, cavities=cavities), card, ())) is not None
        ),
        needs=_needs(connection, card.opened, run),
        making=card.costs.of_run(run.moulds, run.wish.gross_pieces, run.wish.pieces) if card.costs else None,
    )


def _or_none(wish: RunWish, card: MouldCard, made: Sequence[Sequence[float]]) -> RunPlan | None:
    try:
        return plan_run(wish, card.life.model, made, chance_pct=card.workshop.confidence_pct, seed=card.mould.id)
    except Refused:
        return None


def _needs(connection: Connection, opened: OpenJob, run: RunPlan) -> tuple[RunNeed, ...]:
    found: list[RunNeed] = []
    made, inputs = opened.casts.plan if opened.casts else None, opened.job.casts
    if made is not None:
        shots = run.wish.gross_pieces / max(1, made.filled)
        places = cast_places(inputs)
        for key, one in made.totals.items():
            kept = lots.at_place(connection, places[key], CAST_ROLES[key])
            have_g = sum(tin.lot.left_g for tin in kept)
            found.append(RunNeed(name=one.name, needed_g=one.g * shots, have_g=have_g))
    if run.moulds:
        for part_of in (one for pour in opened.plan.pours for batch in pour.batches for one in batch):
            have_g = sum(tin.lot.left_g for tin in lots_for(connection, part_of))
            found.append(
                RunNeed(
                    name=Text("{called}, for new moulds", called=part_of.called),
                    needed_g=part_of.g * run.moulds,
                    have_g=have_g,
                )
            )
    return together(found)


def keep(database: Database, number: int, name: str, wish: RunWish) -> int:
    """Keep a run as an order.

    Raises Refused without a name.
    """
    plain = one_line(name)[:120]
    if not plain:
        raise Refused("name", Text("What is the order called? Who it is for, or what the pieces are."))
    with database.transaction() as connection:
        card = card_of(connection, number)
        return orders.add(
            connection,
            {
                "job_id": card.mould.job_id,
                "name": plain,
                "pieces": wish.pieces,
                "start_on": date.fromordinal(wish.start_day),
                "due_on": date.fromordinal(wish.due_day) if wish.due_day else None,
                "moulds_at_once": wish.moulds_at_once,
                "cycle_min": wish.cycle_min,
                "hours_a_day": wish.hours_a_day,
                "flawed_pct": wish.flawed_pct,
            },
        )


def at_work(database: Database, *, with_closed: bool = False) -> list[OrderAtWork]:
    """Show the orders with the plan of what is still to go."""
    with database.reading() as connection:
        kept = orders.listed(connection, with_closed=with_closed)
        cards = {number: card_of(connection, number) for number in {one.mould_id for one in kept if not one.closed_at}}
    return [_at_work(one, cards.get(one.mould_id)) for one in kept]


def of_card(database: Database, card: MouldCard) -> list[OrderAtWork]:
    """Show the open orders of one mould."""
    with database.reading() as connection:
        kept = orders.listed(connection, job_id=card.mould.job_id)
    return [_at_work(one, card) for one in kept]


def _at_work(order: StoredOrder, card: MouldCard | None) -> OrderAtWork:
    if card is None or not order.to_go or order.closed_at:
        return OrderAtWork(order=order, run=None)
    today = card.workshop.today.toordinal()
    start = max(order.start_on.toordinal(), today)
    due = order.due_on.toordinal() if order.due_on else None
    wish = RunWish(
        pieces=order.to_go,
        start_day=start,
        due_day=max(due, start) if due else None,
        cavities=card.opened.cavities,
        moulds_at_once=order.moulds_at_once,
        cycle_min=order.cycle_min,
        hours_a_day=order.hours_a_day,
        days=card.working_days,
        flawed_pct=order.flawed_pct,
        mould_days=MOULD_DAYS,
    )
    sure = card.workshop.confidence_pct
    try:
        run = plan_run(wish, card.life.model, made_by(card), chance_pct=sure, seed=card.mould.id)
        if due and due < start:
            run = replace(run, late_days=run.ends_day - due)
    except Refused as refused:
        return OrderAtWork(order=order, run=None, refused=str(refused))
    alone = card.life.left.chance(wish.gross_pieces)
    return OrderAtWork(order=order, run=run, chance_alone=alone, dues=card.dues)


def close(database: Database, number: int) -> None:
    """Close an order: it is done, or called off."""
    with database.transaction() as connection:
        orders.close(connection, number)
