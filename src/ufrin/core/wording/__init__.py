"""Sentences that a maker reads: findings with their facts, the glossary, text on one line.

May import ``data_files`` and ``measures`` of ``core``.
"""
