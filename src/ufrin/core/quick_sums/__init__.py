"""Quick sums: the calculators without a job, and rules that are checked against published values.

``all_sums`` lists them; ``quick_sum`` is what each one is. May import every subject of ``core``, but not ``job``.
"""
