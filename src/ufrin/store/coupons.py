"""Test coupons as they are kept: a dose, a gauge and its readings."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import cast

from ufrin.core.rubber.coupons import Coupon
from ufrin.core.rubber.shore import ShoreScale
from ufrin.core.rubber.thinner_curve import CouponPoint
from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("coupons")
MOST_LISTED = 200


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredCoupon:
    """A coupon with its number, its rubber and thinner, its dose, and since when it is excluded."""

    id: int
    rubber_id: int
    thinner_id: int | None
    parts: float
    coupon: Coupon
    logged_at: datetime
    withdrawn_at: datetime | None

    @property
    def point(self) -> CouponPoint:
        """The point of the curve that it gives."""
        return CouponPoint(parts_per_100=self.parts, hardness=self.coupon.hardness)


def of(connection: Connection, rubbers: Sequence[int]) -> list[StoredCoupon]:
    """Read the coupons of some rubbers."""
    if not rubbers:
        return []
    kept = []
    for row in connection.execute(_SQL["of"], {"rubbers": list(rubbers), "limit": MOST_LISTED}).fetchall():
        sizes = {key: row[key] for key in ("thickness_mm", "edge_mm", "apart_mm")}
        coupon = Coupon(scale=cast(ShoreScale, row["scale"]), readings=tuple(row["readings"]), **sizes)
        same = {key: row[key] for key in ("id", "rubber_id", "thinner_id", "parts", "logged_at", "withdrawn_at")}
        kept.append(StoredCoupon(coupon=coupon, **same))
    return kept


def log(connection: Connection, coupon: Coupon, *, rubber_id: int, thinner_id: int | None, parts: float) -> None:
    """Keep a coupon."""
    values = {
        "rubber_id": rubber_id,
        "thinner_id": thinner_id,
        "parts": parts,
        "scale": coupon.scale,
        "readings": list(coupon.readings),
    }
    sizes = {key: getattr(coupon, key) for key in ("thickness_mm", "edge_mm", "apart_mm")}
    connection.execute(_SQL["log"], {**values, **sizes})


def withdraw(connection: Connection, rubber_id: int, number: int, *, withdrawn: bool) -> None:
    """Exclude a coupon, or include it again.

    Raises Missing when there is none.
    """
    if (
        connection.execute(_SQL["withdraw"], {"id": number, "rubber_id": rubber_id, "withdrawn": withdrawn}).fetchone()
        is None
    ):
        raise Missing(Text("this coupon"))
