"""Safekeeping: backups, room on the disk, and what goes out to another machine and comes in from one.

May import ``store``, ``core`` and ``errors``.
"""
