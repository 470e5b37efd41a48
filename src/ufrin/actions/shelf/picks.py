"""What jobs point to on the Shelf, gathered for a page of them at once, with what past pours teach."""

from collections.abc import Mapping, Sequence

from ufrin.core.casting.cast_cups import CastPicks
from ufrin.core.clocks.cure_factor import TIN
from ufrin.core.inputs.casts import CastInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.shelf_picks import ShelfPicks, Stocked
from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.whole_kit import Waiting
from ufrin.store import coupons, cure_factors, lots, pours, workshop_settings
from ufrin.store.connection import Connection
from ufrin.store.coupons import StoredCoupon
from ufrin.store.jobs import Job
from ufrin.store.lots import StoredLot
from ufrin.store.shelf import ADDITIONS, ADDITIVES, CUPS, RESINS, RUBBERS, Stored
from ufrin.store.workshop_settings import Workshop


def gather(
    connection: Connection,
    listed: Sequence[Job],
    settings: Workshop | None = None,
    on_shelf: Sequence[Stored[Rubber]] = (),
) -> Mapping[int, ShelfPicks]:
    """Gather what the Rubber stations of some jobs point to."""
    rubber_inputs = [job.rubber for job in listed]
    rubber_ids = sorted(_named(rubber_inputs, "rubber_id", "blend_id"))
    settings = settings or workshop_settings.load(connection)
    past = pours.past_over_pct(connection)
    if not rubber_ids:
        return {job.id: ShelfPicks(past_over_pct=past, confidence_pct=settings.confidence_pct) for job in listed}
    additive_ids = sorted(_named(rubber_inputs, "thinner_id", "thickener_id", "pigment_id"))
    rubbers = {kept.id: kept for kept in on_shelf} or RUBBERS.some(connection, rubber_ids)
    additives = ADDITIVES.some(connection, additive_ids)
    cups = CUPS.some(connection, _named(rubber_inputs, "cup_id"))
    stocked = lots.of(connection, rubbers=rubber_ids, additives=additive_ids)
    tested = coupons.of(connection, rubber_ids)
    learnt = cure_factors.some(connection, rubber_ids)
    gathered = {}
    for job in listed:
        inputs = job.rubber
        rubber, blend = rubbers.get(inputs.rubber_id or 0), rubbers.get(inputs.blend_id or 0)
        thinner, thickener, pigment = (
            additives.get(number or 0) for number in (inputs.thinner_id, inputs.thickener_id, inputs.pigment_id)
        )
        cup = cups.get(inputs.cup_id or 0)
        gathered[job.id] = ShelfPicks(
            rubber=rubber.thing if rubber else None,
            retired=bool(rubber and rubber.retired_at),
            blend=blend.thing if blend else None,
            thinner=thinner.thing if thinner else None,
            thickener=thickener.thing if thickener else None,
            pigment=pigment.thing if pigment else None,
            cup=cup.thing if cup else None,
            points=tuple(one.point for one in tested if counts(one, inputs.rubber_id, inputs.thinner_id)),
            stock=_stock(inputs, stocked),
            past_over_pct=past,
            cure_factor=learnt.get(inputs.rubber_id or 0, TIN),
            confidence_pct=settings.confidence_pct,
        )
    return gathered


def _named(rubber_inputs: Sequence[RubberInputs], *fields: str) -> set[int]:
    return {number for inputs in rubber_inputs for number in (getattr(inputs, field) for field in fields) if number}


def counts(one: StoredCoupon, rubber_id: int | None, thinner_id: int | None) -> bool:
    """Return whether a coupon is a point of the curve of a rubber with a thinner."""
    if one.withdrawn_at or one.rubber_id != rubber_id:
        return False
    return one.thinner_id is None or thinner_id is None or one.thinner_id == thinner_id


def _stock(inputs: RubberInputs, stocked: Sequence[StoredLot]) -> dict[str, Stocked]:
    places = {
        "A": ("rubber", inputs.rubber_id),
        "B": ("rubber", inputs.rubber_id),
        "A2": ("rubber", inputs.blend_id),
        "B2": ("rubber", inputs.blend_id),
    }
    places |= {key: ("additive", getattr(inputs, f"{key}_id")) for key in ("thinner", "thickener", "pigment")}
    return {
        key: Stocked(
            shelf=f"{kind}:{number}", lots=tuple(one.lot for one in stocked if getattr(one, f"{kind}_id") == number)
        )
        for key, (kind, number) in places.items()
        if number
    }


def waiting(needs: Sequence[tuple[int, str, float]]) -> tuple[Waiting, ...]:
    """Name the jobs that wait for a rubber."""
    return tuple(Waiting(job_id=number, name=name, need_g=grams) for number, name, grams in needs)


def cast_picks(connection: Connection, inputs: CastInputs) -> CastPicks:
    """Gather what the Casts station of a job points to."""
    resins = RESINS.some(connection, {one for one in (inputs.resin_id, inputs.foam_id) if one})
    additions = ADDITIONS.some(connection, {one for one in (inputs.filler_id, inputs.cast_colour_id) if one})
    resin, foam = (resins.get(number or 0) for number in (inputs.resin_id, inputs.foam_id))
    filler, colour = (additions.get(number or 0) for number in (inputs.filler_id, inputs.cast_colour_id))
    return CastPicks(
        resin=resin.thing if resin else None,
        foam=foam.thing if foam else None,
        filler=filler.thing if filler else None,
        colour=colour.thing if colour else None,
    )
