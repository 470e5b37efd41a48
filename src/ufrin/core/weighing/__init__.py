"""Amounts to weigh: mixes, batches, putty, coats, drops, whole kits, the learnt allowance, and the state of the bench.

May import ``data_files``, ``inputs``, ``measures``, ``wording``, ``shelf``, ``rubber`` and ``clocks`` of ``core``.
"""
