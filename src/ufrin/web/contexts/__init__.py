"""What the templates of a subject receive, gathered from an opened job.

May import ``frame`` and ``drawings`` of ``web``.
"""
