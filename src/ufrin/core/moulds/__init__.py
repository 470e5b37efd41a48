"""Moulds: how long they last, what a run of casts takes of them, and the generations that come of each other.

May import ``data_files``, ``inputs``, ``wording``, ``measures``, ``casting`` and ``rubber`` of ``core``.
"""
