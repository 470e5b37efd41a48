"""Coupons: test pucks logged for a rubber, and taken off its curve."""

from dataclasses import dataclass

from ufrin.actions.shelf.picks import counts
from ufrin.core.inputs.rubber import SettledRubber
from ufrin.core.job.shelf_picks import ShelfPicks, curve_of
from ufrin.core.rubber.additives import Additive
from ufrin.core.rubber.coupons import Coupon
from ufrin.core.rubber.thinner_curve import Curve
from ufrin.core.rubber.tins import Rubber
from ufrin.store import coupons, workshop_settings
from ufrin.store.connection import Database
from ufrin.store.coupons import StoredCoupon
from ufrin.store.shelf import ADDITIVES, RUBBERS, Stored
from ufrin.store.workshop_settings import Workshop


@dataclass(frozen=True, slots=True, kw_only=True)
class TestedRubber:
    """A rubber with its coupons, and the curve they make with one thinner, or with any."""

    rubber: Stored[Rubber]
    thinners: tuple[Stored[Additive], ...]
    thinner_id: int | None
    coupons: tuple[StoredCoupon, ...]
    curve: Curve | None
    workshop: Workshop


def coupons_of(database: Database, rubber_id: int, thinner_id: int | None = None) -> TestedRubber:
    """Show a rubber's coupons."""
    with database.transaction() as connection:
        rubber = RUBBERS.lock(connection, rubber_id)
        thinners = tuple(kept for kept in ADDITIVES.all(connection) if kept.thing.kind == "thinner")
        logged = coupons.of(connection, [rubber_id])
        settings = workshop_settings.load(connection)
    thinner = next((kept.thing for kept in thinners if kept.id == thinner_id), None)
    points = tuple(one.point for one in logged if counts(one, rubber_id, thinner_id))
    curve = curve_of(ShelfPicks(rubber=rubber.thing, thinner=thinner, points=points), SettledRubber())
    return TestedRubber(
        rubber=rubber,
        thinners=thinners,
        thinner_id=thinner_id if thinner else None,
        coupons=tuple(logged),
        curve=curve,
        workshop=settings,
    )


def log(database: Database, rubber_id: int, coupon: Coupon, *, thinner_id: int | None, parts: float) -> None:
    """Log a coupon."""
    with database.transaction() as connection:
        RUBBERS.lock(connection, rubber_id)
        if thinner_id is not None:
            ADDITIVES.lock(connection, thinner_id)
        coupons.log(connection, coupon, rubber_id=rubber_id, thinner_id=thinner_id, parts=parts)


def withdraw(database: Database, rubber_id: int, coupon_id: int, *, withdrawn: bool) -> None:
    """Exclude a coupon, or include it again."""
    with database.transaction() as connection:
        coupons.withdraw(connection, rubber_id, coupon_id, withdrawn=withdrawn)
