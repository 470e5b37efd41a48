"""A term: one input that a maker can fill in, with its label, kind, help and default.

Forms, the job sheet and messages take their words from terms, which stand beside the subject that they describe.
"""

from collections.abc import Mapping
from dataclasses import dataclass, replace

from ufrin.core.inputs.usual import Settled, defaults_of
from ufrin.language import Text


@dataclass(frozen=True, slots=True, kw_only=True)
class Term:
    """One input.

    Parameters
    ----------
    label : str
        As it stands beside the field.
    kind : str
        A kind of quantity, or "text", "date", "choice", "flag", "reference", "direction", "profile"; "hidden" is never
        taken from a form.
    help : str
        A sentence under the field, with amounts as ``say_amounts`` reads them; empty when the label says it.
    default : float, str or None
        The value that counts, marked as a default, while the maker has not filled in anything else.
    choices : mapping of value to label
        For "choice".
    longest : int
        Characters of a "text".
    positive : bool
        Whether the quantity must be more than 0.
    default_is : str
        How the default is marked: as a default, as worked out from other figures, or as the shop's.
    """

    label: str
    kind: str
    help: str = ""
    default: float | str | None = None
    choices: Mapping[str, str] | None = None
    longest: int = 120
    positive: bool = False
    default_is: str = Text("default")


def quantity(label: str, kind: str, note: str = "", default: float | None = None) -> Term:
    """Return the term of a quantity that may be 0.

    Parameters
    ----------
    label, kind, note : str
        Its label, its kind of quantity, and the sentence under the field.
    default : float or None, optional
        In the base unit of its kind.

    Returns
    -------
    Term
        For a form.
    """
    return Term(label=label, kind=kind, help=note, default=default)


def positive_quantity(label: str, kind: str, note: str = "", default: float | None = None) -> Term:
    """Return the term of a quantity that must be more than 0.

    Parameters
    ----------
    label, kind, note : str
        Its label, its kind of quantity, and the sentence under the field.
    default : float or None, optional
        In the base unit of its kind.

    Returns
    -------
    Term
        For a form.
    """
    return Term(label=label, kind=kind, help=note, default=default, positive=True)


def with_defaults(terms: Mapping[str, Term], kind: type[Settled]) -> Mapping[str, Term]:
    """Give the terms of a station the defaults of its settled inputs.

    Parameters
    ----------
    terms : mapping of key to Term
        Of that station.
    kind : type
        The settled inputs of that station.

    Returns
    -------
    mapping of key to Term
        In the same order.
    """
    defaults = defaults_of(kind)
    return {key: replace(term, default=defaults.get(key)) for key, term in terms.items()}
