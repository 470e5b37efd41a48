"""Quantities, their units and conversions, volumes of plain bodies, the density of water.

Imports ``data_files`` of ``core`` alone.
"""
