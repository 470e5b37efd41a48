"""What a maker does: each action loads, calls the core and saves, in one transaction. May import ``store``, ``core`` and ``errors``."""

from ufrin.store.connection import Database
from ufrin.store.rubbers import KeptRubber
from ufrin.store.workshop import Workshop

__all__ = ["Database", "KeptRubber", "Workshop"]
