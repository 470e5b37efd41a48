"""What every page stands in: links, forms, the template environment, errors, the request guard.

Imports nothing of ``web``.
"""
