"""What is copied: its displacement, its form as it stands, attitudes and stand-ins.

May import ``measures``, ``wording``, ``mesh`` and ``materials`` of ``core``.
"""
