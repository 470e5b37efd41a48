"""What is kept: PostgreSQL, plain SQL.

One module and one ``.sql`` file of named queries for each thing kept; ``migrations/`` is the only source of the schema.
May import ``core``, ``errors`` and ``settings``. Functions take an open connection; the transaction belongs to whoever
calls.
"""
