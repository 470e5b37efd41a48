"""Kinds of materials that meet in a mould, and the tables of boards and densities.

Imports nothing of ``core``.
"""
