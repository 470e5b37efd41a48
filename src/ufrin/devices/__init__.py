"""Devices: scales and the machine's clock, and a simulated scale to stand in.

May import ``core`` and ``errors``.
"""
