"""Routes of what is printed and exported.

May import ``frame``, ``drawings`` and ``contexts`` of ``web``.
"""
