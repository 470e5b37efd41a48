"""Amounts to weigh: mixes, batches, putty, coats, drops, whole kits, the learnt allowance, and the state of the bench.

May import ``inputs``, ``measures``, ``wording``, ``shelf`` and ``rubber`` of ``core``.
"""
