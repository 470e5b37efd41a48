"""What happens where two things meet: verdicts, releases and sealers between them, preparation steps, cautions.

May import ``data_files``, ``inputs``, ``measures``, ``wording`` and ``materials`` of ``core``.
"""
