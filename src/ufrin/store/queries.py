"""Named queries: each ``.sql`` file of this package holds several.

Each is under a line ``-- name: what_it_is`` and a line on what it is for.
"""

import re
from importlib.resources import files

_HEAD = re.compile(r"^-- name: (\w+)$", re.MULTILINE)


def holding(text: str) -> str:
    """Return the pattern of what holds a text, whose own signs stand for themselves; every text for an empty one."""
    return f"%{escaped(text)}%" if text else "%"


def escaped(text: str) -> str:
    """Return a text as part of a pattern, in which its signs stand for themselves."""
    return text.replace("\\", "\\\\").replace("%", "\\%").replace("_", "\\_")


def named_queries(aggregate: str) -> dict[str, str]:
    """Read the named queries of one file."""
    text = files("ufrin.store").joinpath(f"{aggregate}.sql").read_text("utf-8")
    pieces = _HEAD.split(text)[1:]
    return dict(zip(pieces[::2], (sql.strip() for sql in pieces[1::2]), strict=True))
