"""Shares as they are typed: of layers in a height, of colours in a volume."""

from ufrin.errors import Refused
from ufrin.language import Text


def read_shares(field_name: str, text: str) -> tuple[float, ...]:
    """Read a list of shares such as "30, 40, 30".

    Parameters
    ----------
    field_name : str
        That a refusal is about.
    text : str
        Numbers, separated by commas, semicolons or spaces.

    Returns
    -------
    tuple of float
        At least one.

    Raises
    ------
    Refused
        For anything that is not a list of numbers above 0, or more than 20 of them.

    Examples
    --------
    >>> read_shares("layers", "30, 40;30")
    (30.0, 40.0, 30.0)
    """
    words = text.replace(",", " ").replace(";", " ").split()
    try:
        shares = tuple(float(word) for word in words)
    except ValueError:
        shares = ()
    if not 1 <= len(shares) <= 20 or not all(0 < share <= 1e6 for share in shares):
        raise Refused(field_name, Text("Type shares such as 30, 40, 30: numbers above 0, from the first to the last."))
    return shares
