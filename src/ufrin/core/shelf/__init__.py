"""Things that stand in the workshop: lots, cups, containers, scales.

May import ``measures`` and ``wording`` of ``core``.
"""
