"""People and devices: who signs in, what each may do, and the tablets at the bench.

May import ``store``, ``core`` and ``errors``.
"""
