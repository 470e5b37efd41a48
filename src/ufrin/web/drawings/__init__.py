"""Drawings: core results turned into SVG text. Pure: no request, no template, tested without a browser."""
