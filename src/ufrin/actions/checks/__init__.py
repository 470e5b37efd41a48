"""Actions of checking: stops signed off, remedies taken, faults noted.

May import ``shop``, ``shelf``, ``job`` and ``bench`` of ``actions``.
"""
