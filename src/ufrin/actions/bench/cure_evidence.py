"""What the shop's own cures say of a rubber's times, and the pours that say it."""

from dataclasses import dataclass

from ufrin.core.clocks.cure_factor import Bracket, CureFactor
from ufrin.store import cure_factors, pours
from ufrin.store.connection import Database
from ufrin.store.pours import StoredPour


@dataclass(frozen=True, slots=True, kw_only=True)
class CureEvidence:
    """The factor of a rubber, and between which shares of the tin's time each pour set."""

    factor: CureFactor
    pours: tuple[tuple[StoredPour, Bracket], ...]


def of_rubber(database: Database, rubber_id: int) -> CureEvidence:
    """Show what was learnt of a rubber."""
    with database.reading() as connection:
        factor, taught = cure_factors.of(connection, rubber_id), pours.teaching(connection, rubber_id)
    found = [(one, one.state.clocks.found) for one in taught]
    return CureEvidence(factor=factor, pours=tuple(pair for pair in found if pair[1].says_something))
