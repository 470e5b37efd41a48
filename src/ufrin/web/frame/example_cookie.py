"""Which job is explained as the example of the first hour in this browser."""

from fastapi import Request

from ufrin.web.frame.forms import whole_number

COOKIE = "ufrin_example"


def example_in(request: Request) -> int | None:
    """Return the number of the job that is explained as the example.

    Parameters
    ----------
    request : Request
        As received.

    Returns
    -------
    int or None
        None where no example was begun, or it was left.
    """
    return whole_number(request.cookies.get(COOKIE, ""), most_digits=9)
