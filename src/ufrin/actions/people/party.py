"""Whoever makes a request: somebody with an account, a tablet at the bench, a script, or nobody that is known."""

from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from typing import Literal, get_args

from ufrin.language import Text
from ufrin.store.connection import doer

Who = Literal["owner", "maker", "reader", "bench", "script", "nobody"]
Right = Literal["anybody", "see", "see bench", "weigh", "change", "run shop"]
RIGHTS: tuple[Right, ...] = get_args(Right)
WHO: tuple[Who, ...] = get_args(Who)

MAY: dict[Right, frozenset[Who]] = {
    "anybody": frozenset(WHO),
    "see": frozenset({"owner", "maker", "reader", "script"}),
    "see bench": frozenset({"owner", "maker", "reader", "bench"}),
    "weigh": frozenset({"owner", "maker", "bench"}),
    "change": frozenset({"owner", "maker"}),
    "run shop": frozenset({"owner"}),
}


@dataclass(frozen=True, slots=True, kw_only=True)
class Party:
    """Who makes a request.

    Parameters
    ----------
    who : str
        What kind of party it is: a role, a tablet at the bench, a script, or nobody.
    name : str
        Of the person or the device; empty where nobody signs in.
    account_id, device_id : int or None
        Its account, or the device.
    stands : str
        Who stands at the bench, of a tablet there.
    token_hash : bytes
        Of its session or its device.
    """

    who: Who
    name: str = ""
    account_id: int | None = None
    device_id: int | None = None
    stands: str = ""
    token_hash: bytes = b""

    def may(self, right: Right) -> bool:
        """Return whether it may do something."""
        return self.who in MAY[right]

    @property
    def person(self) -> str:
        """The name of whoever is at work, where it is known."""
        return self.name if self.account_id else self.stands

    @property
    def doer(self) -> str:
        """As it is kept with each change."""
        return Text("{stands} at {name}", stands=self.stands, name=self.name) if self.stands else self.name


NOBODY = Party(who="nobody")
# where nobody signs in, on loopback alone, whoever is at this machine may do everything
ALONE = Party(who="owner")


@contextmanager
def at_work(party: Party) -> Iterator[None]:
    """Keep a party's name with every change that is made meanwhile."""
    before = doer.set(party.doer)
    try:
        yield
    finally:
        doer.reset(before)
