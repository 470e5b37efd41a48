"""Quantities, their units and conversions, volumes of plain bodies, the density of water.

Imports nothing of ``core``.
"""
