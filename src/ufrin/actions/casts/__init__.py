"""Casts: shots are logged, repeated and taken back, cavities retired, two ways tried side by side."""
