"""Ufrin: plans, weighs, times and records mould making.

Rooms and the direction of imports: web -> actions, devices, core; actions -> store, core; store -> core; all may use
``errors`` and ``settings``. ``tests/test_architecture.py`` holds the arrows.
"""

__version__ = "0.1.0"
