"""Rubbers as their tins describe them: hardness, thinner, blends, test coupons, cure by temperature.

May import ``data_files``, ``inputs``, ``measures`` and ``wording`` of ``core``.
"""
