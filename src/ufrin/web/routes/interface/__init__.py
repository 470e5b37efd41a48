"""Routes of the open JSON interface.

May import ``frame``, ``drawings`` and ``contexts`` of ``web``.
"""
