"""A whole job worked out, station by station, with its sign-off. The only package that sees every subject above it.

May import ``measures``, ``wording``, ``inputs``, ``mesh``, ``materials``, ``shelf``, ``rubber``, ``master``,
``opening``, ``box``, ``degassing``, ``pairing`` and ``weighing`` of ``core``.
"""
