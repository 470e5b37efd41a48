"""How a mould opens and where the air goes: pull, parting surface, clay bed, keys, slit, gate, vents, mould style.

May import ``measures``, ``wording``, ``mesh`` and ``master`` of ``core``.
"""
