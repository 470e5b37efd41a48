"""Bubbles, and the five schools of getting air out of a liquid.

May import ``measures`` and ``wording`` of ``core``.
"""
