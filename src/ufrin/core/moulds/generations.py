"""Generations: master, mould, cast, mould again; sizes shrink along the chain, and each passes its finish on."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ufrin.core.casting.cast_size import size_after
from ufrin.language import Text

LinkKind = Literal["master", "mould", "cast"]
FINISHES = {"": Text("as it was"), "gloss": Text("gloss"), "satin": Text("semi-gloss"), "matt": Text("matt")}


@dataclass(frozen=True, slots=True, kw_only=True)
class ChainLink:
    """One link: what it is, by how much each length shrank in making it, and its finish where that was changed."""

    kind: LinkKind
    name: str
    shrink_pct: float = 0.0
    finish: str = ""


@dataclass(frozen=True, slots=True, kw_only=True)
class ShownLink:
    """A link with its size and its finish, the link that the finish comes from, and the generation it belongs to."""

    link: ChainLink
    size_mm: float | None
    finish: str
    finish_from: str
    generation: int


def chain(links: Sequence[ChainLink], first_mm: float | None) -> tuple[ShownLink, ...]:
    """Follow a chain from its first master.

    Parameters
    ----------
    links : sequence of ChainLink
        In the order in which they were made.
    first_mm : float or None
        A length of the first master; None where it is not known.

    Returns
    -------
    tuple of ShownLink
        Each length shrinks with every link (common practice: shrinkages multiply); a finish is passed on until it is
        changed. A mould is one generation on from what it was made of.
    """
    found: list[ShownLink] = []
    finish, finish_from, generation = "", "", 0
    shrinks: list[float] = []
    for link in links:
        shrinks.append(link.shrink_pct)
        if link.finish:
            finish, finish_from = link.finish, link.name
        generation += link.kind == "mould"
        found.append(
            ShownLink(
                link=link,
                size_mm=None if first_mm is None else size_after(first_mm, shrinks),
                finish=finish,
                finish_from=finish_from,
                generation=generation,
            )
        )
    return tuple(found)
