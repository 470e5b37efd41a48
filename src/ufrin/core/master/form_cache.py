"""What was worked out from forms, kept by the value of the form and of the other arguments, the newest of each kind."""

from collections.abc import Callable, Hashable
from threading import Condition
from typing import Concatenate, ParamSpec, TypeVar

from cachetools import LRUCache, cached

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
        def key(form: Form, /, *args: object, **kwargs: object) -> Hashable:
            return form.key, args, tuple(sorted(kwargs.items()))

        # of several who ask for the same at once, one works it out and the others wait
        return cached(LRUCache(most), key=key, condition=Condition())(function)

    return decorate
