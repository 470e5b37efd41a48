"""Triangle meshes: files, volume, sections, rays, cells and line work. Knows nothing of moulds.

May import ``measures`` and ``wording`` of ``core``.
"""
