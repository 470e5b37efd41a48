"""How a mould opens and where the air goes: pull, parting surface, clay bed, keys, slit, gate, vents, mould style.

May import ``data_files``, ``inputs``, ``measures``, ``wording``, ``mesh`` and ``master`` of ``core``.
"""
