"""What was worked out from forms, kept by the value of the form and of the other arguments, the newest of each kind."""

from collections.abc import Callable, Hashable
from functools import wraps
from threading import Lock
from typing import Concatenate, ParamSpec, TypeVar

from cachetools import LRUCache

from ufrin.core.master.master_form import Form

Arguments = ParamSpec("Arguments")
Result = TypeVar("Result")
OfForm = Callable[Concatenate[Form, Arguments], Result]


def kept_by_form(most: int) -> Callable[[OfForm[Arguments, Result]], OfForm[Arguments, Result]]:
    """Keep the newest results of a function of a form, so that every page of a job finds them again.

    Parameters
    ----------
    most : int
        Results to keep.

    Returns
    -------
    decorator
        The other arguments must be hashable; a refusal is not kept.
    """

    def decorate(function: OfForm[Arguments, Result]) -> OfForm[Arguments, Result]:
        results: LRUCache[Hashable, Result] = LRUCache(most)
        lock = Lock()

        @wraps(function)
        def found(form: Form, /, *args: Arguments.args, **kwargs: Arguments.kwargs) -> Result:
            key = (form.key, args, tuple(sorted(kwargs.items())))
            with lock:
                if key in results:
                    return results[key]
            result = function(form, *args, **kwargs)
            with lock:
                results[key] = result
            return result

        return found

    return decorate
