"""Long work, done by workers beside the server: each task calls one action. May import ``actions`` and ``errors``."""
