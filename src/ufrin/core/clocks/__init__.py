"""Clocks of a pour: moments, equivalent age, pot life, and what the shop's own cures teach of a rubber.

May import ``measures``, ``wording`` and ``rubber`` of ``core``.
"""
