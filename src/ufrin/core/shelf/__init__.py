"""Things that stand in the workshop: lots, cups, containers, scales.

May import ``inputs``, ``measures``, ``wording`` and ``materials`` of ``core``.
"""
