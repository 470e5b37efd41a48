"""Practice: a weigh-up at a simulated scale and clock, in which mishaps are planted, and what came of them.

May import rubber, clocks and weighing: a practice is worked through by the very rules of the bench.
"""
