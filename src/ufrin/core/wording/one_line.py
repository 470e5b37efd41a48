"""Plain text: what somebody typed, on one line and without signs that can't be printed."""


def one_line(text: str) -> str:
    """Take idle spaces and signs that can't be printed out of what was typed.

    Parameters
    ----------
    text : str
        As typed.

    Returns
    -------
    str
        On one line.

    Examples
    --------
    >>> one_line("  a   moth in it ")
    'a moth in it'
    """
    return " ".join("".join(sign if sign.isprintable() else " " for sign in text).split())
