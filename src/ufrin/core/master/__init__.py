"""What is copied: its displacement, its form as it stands, attitudes and stand-ins.

May import ``inputs``, ``measures``, ``wording``, ``materials`` and ``mesh`` of ``core``.
"""
