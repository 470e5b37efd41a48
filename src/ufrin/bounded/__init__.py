"""Work in child processes of bounded memory, time and output, so that no file can take the server down.

Imports ``errors`` alone; what is done there is handed over as a function of ``core``.
"""
