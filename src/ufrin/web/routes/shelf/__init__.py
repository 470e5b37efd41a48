"""Routes of the Shelf.

May import ``frame``, ``drawings`` and ``contexts`` of ``web``.
"""
