"""The rules of the trade as computation: pure.

Units are mm, ml, g, min, degC, kPa, mPa s; every name carries its own. No clock, file, database or web page in here; it
may import ``ufrin.errors`` and nothing else of Ufrin. The figures in ``data/`` are read once, by ``figures``.
"""
