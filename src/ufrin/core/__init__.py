"""The rules of the trade as computation: pure.

Units are mm, ml, g, min, degC, kPa and mPa s; every name carries its own. Nothing in here reads a clock, a file of
the user's, a database or a web page. The core may import ``ufrin.errors`` and nothing else of Ufrin. Its packages
follow the subjects of the trade in one order, which ``tests/test_architecture.py`` holds; the figures and sentences
in their ``data`` folders are read once, by ``data_files``.
"""
