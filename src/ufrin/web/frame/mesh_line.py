"""The line of mesh calls: they wait long for a child process, so they have threads of their own beside the pages'."""

from collections.abc import Callable
from functools import partial
from typing import ParamSpec, TypeVar

from anyio import CapacityLimiter, to_thread
from fastapi import Request

Arguments = ParamSpec("Arguments")
Answer = TypeVar("Answer")
AT_ONCE = 6  # two that work and four that wait for a place; whoever comes after them waits without a thread


def mesh_line() -> CapacityLimiter:
    """Return a new line, for one application."""
    return CapacityLimiter(AT_ONCE)


async def in_line(
    request: Request, call: Callable[Arguments, Answer], *args: Arguments.args, **kwargs: Arguments.kwargs
) -> Answer:
    """Make a call in a thread of the line.

    Parameters
    ----------
    request : Request
        As received.
    call : function
        What is to be done.
    *args : object
        For it.
    **kwargs : object
        The same.

    Returns
    -------
    Answer
        Of the call.
    """
    return await to_thread.run_sync(partial(call, *args, **kwargs), limiter=request.app.state.mesh_line)
