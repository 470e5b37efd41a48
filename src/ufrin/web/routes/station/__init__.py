"""Routes of the stations of a job.

May import ``frame``, ``drawings`` and ``contexts`` of ``web``.
"""
