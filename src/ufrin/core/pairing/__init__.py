"""What happens where two things meet: verdicts, releases and sealers between them, preparation steps, cautions.

May import ``measures``, ``wording``, ``inputs`` and ``materials`` of ``core``.
"""
