"""Actions on what the whole shop shares: settings, own pairing tests, safety data sheets.

Imports nothing of ``actions``.
"""
