"""Rules of the calculators without a job that no station uses; they are checked against published values.

May import ``measures`` and ``rubber`` of ``core``. No page shows them yet.
"""
