"""What every page is built on: links, forms, the template environment, errors, the request guard.

Imports nothing of ``web``.
"""
