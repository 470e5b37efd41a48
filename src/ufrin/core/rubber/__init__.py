"""Rubbers as their tins describe them: hardness, thinner, blends, test coupons, pot life and cure by temperature.

May import ``measures`` and ``wording`` of ``core``.
"""
