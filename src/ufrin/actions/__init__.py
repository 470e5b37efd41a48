"""What a maker does: each action loads, calls the core and saves, in one transaction.

May import ``store``, ``core`` and ``errors``.
"""

from ufrin.store.connection import Database
from ufrin.store.moulds import MouldDetails
from ufrin.store.shelf import (
    ADDITIONS,
    ADDITIVES,
    CONTAINERS,
    CUPS,
    PRODUCTS,
    RESINS,
    RUBBERS,
    SCALES,
    THERMOMETERS,
    ShelfTable,
    Stored,
    Thing,
)
from ufrin.store.workshop_settings import Workshop

__all__ = [
    "ADDITIONS",
    "ADDITIVES",
    "CONTAINERS",
    "CUPS",
    "PRODUCTS",
    "RESINS",
    "RUBBERS",
    "SCALES",
    "THERMOMETERS",
    "Database",
    "MouldDetails",
    "Stored",
    "ShelfTable",
    "Thing",
    "Workshop",
    "Stored",
]
