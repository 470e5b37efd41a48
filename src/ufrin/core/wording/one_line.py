"""Text on one line: what somebody typed, without characters that can't be printed."""


def one_line(text: str) -> str:
    """Remove superfluous spaces and unprintable characters from a typed text.

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
