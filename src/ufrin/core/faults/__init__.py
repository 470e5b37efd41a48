"""The fault finder: causes of a symptom, and the evidence for them in the record of a job.

May import ``measures``, ``wording``, ``inputs``, ``materials``, ``rubber``, ``pairing``, ``weighing`` and ``job``
of ``core``.
"""
