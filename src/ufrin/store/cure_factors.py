"""Cure factors as they are kept: how long each rubber takes here, as a share of its tin's time."""

from collections.abc import Mapping, Sequence

from ufrin.core.clocks.cure_factor import TIN, CureFactor
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("cure_factors")


def some(connection: Connection, rubber_ids: Sequence[int]) -> Mapping[int, CureFactor]:
    """Read what was learnt of some rubbers; of those that are missing nothing was."""
    rows = connection.execute(_SQL["some"], {"rubber_ids": list(rubber_ids)}).fetchall()
    return {
        row["rubber_id"]: CureFactor(log_mean=row["log_mean"], log_sd=row["log_sd"], pours=row["pours"]) for row in rows
    }


def of(connection: Connection, rubber_id: int) -> CureFactor:
    """Read what was learnt of a rubber; the tin's own figure where nothing was."""
    return some(connection, [rubber_id]).get(rubber_id, TIN)


def keep(connection: Connection, rubber_id: int, factor: CureFactor) -> None:
    """Keep what was learnt of a rubber."""
    values = {"log_mean": factor.log_mean, "log_sd": factor.log_sd, "pours": factor.pours}
    connection.execute(_SQL["keep"], {"rubber_id": rubber_id, **values})
