"""Kinds of materials: what may be poured, what it may touch, and what may lie between.

They are read once from ``data/kinds.toml`` and ``data/betweens.toml``.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from ufrin.core.data_files import read_data
from ufrin.language import Text

ANY = "any"


@dataclass(frozen=True, slots=True, kw_only=True)
class StepOf:
    """One step of applying a layer: what is done, how long it takes, how long it dries, and the shop's own product."""

    do: str
    work_min: float
    dry_min: float
    product: str = ""

    def done_to(self, what: str) -> str:
        """Return what is done.

        Parameters
        ----------
        what : str
            To which it is done.

        Returns
        -------
        str
            With the product's name, where the shop has one.
        """
        done = Text(self.do, what=what)
        return Text("{done} ({product})", done=done, product=self.product) if self.product else done


@dataclass(frozen=True, slots=True, kw_only=True)
class Between:
    """What may lie between a surface and what is poured on it.

    Parameters
    ----------
    key, label : str
        Its name in records and on screen.
    seals : bool
        Whether it closes pores.
    how, renew, paint : str
        How it is applied, how often, and what it does to paint on the cast.
    finish : str
        That it leaves on a cast: "shiny", "satin" or "matt".
    steps : tuple of StepOf
        In their order.
    """

    key: str
    label: str
    seals: bool = False
    how: str = ""
    renew: str = ""
    finish: str = ""
    paint: str = ""
    steps: tuple[StepOf, ...] = ()


_KINDS = read_data("materials", "kinds")
POURS: Mapping[str, str] = _KINDS["pours"]
SURFACES: Mapping[str, str] = _KINDS["surfaces"]
BETWEENS: Mapping[str, str] = _KINDS["between"]
GROUPS: Mapping[str, tuple[str, ...]] = {name: tuple(members) for name, members in _KINDS["groups"].items()}
SEALED = "sealed"
SOMETHING_ELSE = "something-else"  # a surface that no shipped rule mentions, on purpose
LONGEST_OWN = 60  # characters of a name that a shop gives to a surface of its own
NOTHING_BETWEEN = "none"


def _betweens() -> Mapping[str, Between]:
    rows = read_data("materials", "betweens")
    found = {NOTHING_BETWEEN: Between(key=NOTHING_BETWEEN, label=BETWEENS[NOTHING_BETWEEN])}
    for key, label in BETWEENS.items():
        if key != NOTHING_BETWEEN:
            row = rows[key]
            steps = tuple(StepOf(**step) for step in row["steps"])
            found[key] = Between(
                key=key,
                label=label,
                steps=steps,
                **{name: row[name] for name in ("seals", "how", "renew", "finish", "paint")},
            )
    return found


PUT_ON: Mapping[str, Between] = _betweens()


def members(names: Iterable[str], known: Mapping[str, str]) -> frozenset[str]:
    """Expand a list of kinds and groups.

    Parameters
    ----------
    names : iterable of str
        Kinds, groups, or "any".
    known : mapping of kind to label
        POURS, SURFACES or BETWEENS.

    Returns
    -------
    frozenset of str
        Kinds alone.

    Raises
    ------
    KeyError
        For a name that is neither.

    Examples
    --------
    >>> sorted(members(["silicones", "wax"], POURS))
    ['addition-silicone', 'condensation-silicone', 'wax']
    """
    found: set[str] = set()
    for name in names:
        if name == ANY:
            found |= set(known)
        elif name in known:
            found.add(name)
        else:
            spelt = GROUPS[name]
            if not set(spelt) <= set(known):
                raise KeyError(name)
            found |= set(spelt)
    return frozenset(found)


def surface_words(kind: str) -> str:
    """Return a surface in words.

    Parameters
    ----------
    kind : str
        One of ``SURFACES``, a name of the shop's own, or empty.

    Returns
    -------
    str
        For people.

    Examples
    --------
    >>> surface_words("bare-wood"), surface_words("grey print resin"), surface_words("")
    ('bare wood', 'grey print resin', 'not known yet')
    """
    others: Mapping[str, str] = {"": Text("not known yet"), SOMETHING_ELSE: Text("something else")}
    return SURFACES.get(kind) or others.get(kind, kind)


BED_MATERIALS: Mapping[str, str] = {
    "": Text("not known yet"),
    **{key: SURFACES[key] for key in ("sulphur-free-clay", "sulphur-clay", "plaster", "wax", "foam")},
}
