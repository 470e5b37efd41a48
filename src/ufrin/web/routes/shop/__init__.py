"""Routes of the Board, the settings, pairings, faults, glossary and health.

May import ``frame``, ``drawings`` and ``contexts`` of ``web``.
"""
