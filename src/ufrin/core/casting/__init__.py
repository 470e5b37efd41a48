"""Casting: every kind of cast, how much of what it takes, what was learnt from the shots before, and trials.

May import ``inputs``, ``measures``, ``wording``, ``materials``, ``mesh``, ``rubber`` and ``weighing``.
"""
