"""Boxes round masters: walls, fill line, clearances, cut list, hold-down, bed, and the comparison of boxes.

May import ``inputs``, ``measures``, ``wording``, ``mesh``, ``shelf``, ``master`` and ``opening`` of ``core``.
"""
