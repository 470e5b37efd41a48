"""The usual figures, which count while a maker has filled in nothing else; each stands once, in ``data/usual.toml``."""

from collections.abc import Mapping
from dataclasses import Field, fields
from typing import Any, ClassVar, Protocol, TypeVar

from ufrin.core.data_files import read_data


class _Dataclass(Protocol):
    __dataclass_fields__: ClassVar[dict[str, Field[Any]]]


Settled = TypeVar("Settled", bound=_Dataclass)

USUAL: Mapping[str, Mapping[str, float]] = {
    station: {key: float(figure["value"]) for key, figure in figures.items()}
    for station, figures in read_data("inputs", "usual").items()
}


def settle(inputs: object, kind: type[Settled]) -> Settled:
    """Put the default in place wherever nothing was filled in.

    Parameters
    ----------
    inputs : dataclass
        What was filled in at a station; None is "not filled in".
    kind : type
        The settled inputs of that station, with fields of the same names; what the station does not ask itself keeps
        its default until the job tells it.

    Returns
    -------
    Settled
        Numbers that count things are whole.
    """
    given = {}
    for one in fields(kind):
        value = getattr(inputs, one.name, None)
        if value is not None:
            given[one.name] = int(value) if one.type in {int, int | None} else value
    return kind(**given)


def defaults_of(kind: type[Settled]) -> dict[str, Any]:
    """Return the default of every settled input that has one.

    Parameters
    ----------
    kind : type
        The settled inputs of a station.

    Returns
    -------
    dict of field to value
        Without those that stay open: None, an empty text, a box that is not ticked.
    """
    return {
        one.name: one.default
        for one in fields(kind)
        if one.default not in {None, "", False} or one.default == 0.0 and one.default is not False
    }
