"""Bubbles, and the five schools of getting air out of a liquid.

May import ``inputs``, ``measures`` and ``wording`` of ``core``.
"""
