"""Devices: what Ufrin hears from outside itself: scales and the machine's clock; and a simulated scale to stand in.

May import ``core`` and ``errors``.
"""
