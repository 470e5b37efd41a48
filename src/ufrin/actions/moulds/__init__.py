"""Actions on moulds: their cards and lives, signs and care, and the orders that are cast in them.

May import ``shop``, ``shelf``, ``job``, ``bench`` and ``casts`` of ``actions``.
"""
