"""Actions on a job: open it, change its stations, take in its mesh, move what opens the mould, compare boxes.

May import ``shop`` and ``shelf`` of ``actions``.
"""
