"""What every job of the shop is checked by, read in one query, since every page of a job needs it."""

from collections.abc import Sequence
from dataclasses import dataclass, fields

from ufrin.core.job.sign_off import SignOff
from ufrin.core.pairing.releases import Product
from ufrin.core.pairing.rules import OwnRule
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("shop_ways")
_OF_PRODUCT = [f.name for f in fields(Product)]


@dataclass(frozen=True, slots=True, kw_only=True)
class ShopRecord:
    """Own tests that count, releases in use, and sign-offs by job."""

    rules: tuple[OwnRule, ...]
    products: tuple[Product, ...]
    signed: dict[int, tuple[SignOff, ...]]


def load(connection: Connection, jobs: Sequence[int]) -> ShopRecord:
    """Read it."""
    row = connection.execute(_SQL["load"], {"jobs": list(jobs)}).fetchone() or {
        "rules": [],
        "products": [],
        "signed": [],
    }
    signed: dict[int, tuple[SignOff, ...]] = {}
    for one in row["signed"]:
        job_id = one.pop("job_id")
        signed[job_id] = (*signed.get(job_id, ()), SignOff(**one))
    return ShopRecord(
        rules=tuple(OwnRule(**rule) for rule in row["rules"]),
        products=tuple(Product(**{name: product[name] for name in _OF_PRODUCT}) for product in row["products"]),
        signed=signed,
    )
