"""Actions on the Shelf: things, lots, coupons, CSV files.

May import ``shop`` of ``actions``.
"""
