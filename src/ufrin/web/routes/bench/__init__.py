"""Routes of the bench and of the record of pours.

May import ``frame``, ``drawings`` and ``contexts`` of ``web``.
"""
