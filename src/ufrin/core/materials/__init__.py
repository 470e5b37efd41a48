"""Kinds of materials that meet in a mould, and the tables of boards and densities.

Imports ``data_files`` of ``core`` alone.
"""
