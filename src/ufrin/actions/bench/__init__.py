"""Actions at the bench: a pour begun, weighed, corrected and finished.

May import ``shop``, ``shelf`` and ``job`` of ``actions``.
"""
