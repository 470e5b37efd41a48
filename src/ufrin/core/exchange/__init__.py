"""Files that go out of Ufrin and come in again.

May import ``inputs``, ``measures``, ``wording``, ``materials``, ``pairing`` and ``job`` of ``core``.
"""
