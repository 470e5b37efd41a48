"""Money: what making a number of pieces costs, and from when on it pays.

Imports nothing of ``core``.
"""
