"""What a maker does: each action loads, calls the core and saves, in one transaction. May import ``store``, ``core`` and ``errors``."""
