"""Pages and the open interface: routes read a form, call an action and render.

May import ``actions``, ``core`` and ``errors``.
"""
