"""Actions on the schedule: the steps of everything at work, the people and things that do it, and the plan of them.

May import ``shop``, ``shelf``, ``job``, ``bench``, ``checks``, ``casts`` and ``moulds`` of ``actions``.
"""
