"""Lots: the tins on the Shelf, what is left in each, and whether it is enough and still good."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Literal

from ufrin.core.shelf.scales import mass_decimals
from ufrin.core.wording.findings import Amount, Finding
from ufrin.errors import Refused
from ufrin.language import Text

Part = Literal["A", "B", "all"]
PARTS: Mapping[str, str] = {"A": Text("Part A"), "B": Text("Part B"), "all": Text("All of it")}
SOON_DAYS = 30
LONGEST_CODE = 60


@dataclass(frozen=True, slots=True, kw_only=True)
class Lot:
    """One tin, or several of one lot.

    Parameters
    ----------
    code : str
        As printed on it.
    part : "A", "B" or "all"
        What is in it; "all" for a material without parts.
    left_g, got_g : float
        What is in it now, and what was in it when it came.
    days_left : int or None
        Until its use-by; negative when it is past, None when there is none.
    price : float or None
        Paid for it.
    """

    code: str
    part: Part = "all"
    left_g: float = 0.0
    got_g: float = 0.0
    days_left: int | None = None
    price: float | None = None

    def __post_init__(self) -> None:
        if not 0 < len(self.code) <= LONGEST_CODE:
            raise Refused(
                "code",
                Text(
                    "A lot has a code of 1 to {longest_code} characters; it is printed on the tin. A date "
                    "will do where there is none.",
                    longest_code=LONGEST_CODE,
                ),
            )
        if self.part not in PARTS:
            raise Refused("part", Text("A lot is of part A, of part B, or of all."))
        if not 0 <= self.left_g <= 1e7 or not 0 < self.got_g <= 1e7:
            raise Refused("got_g", Text("A tin holds more than nothing when it comes, and never less than nothing."))

    @property
    def is_expired(self) -> bool:
        """Whether its use-by is past."""
        return self.days_left is not None and self.days_left < 0


def stock_findings(
    name: str, lots: Sequence[Lot], needed_g: Mapping[str, float], *, unseen_g: float = 0.0
) -> tuple[Finding, ...]:
    """Return whether the lots of a thing are enough for a pour, and still good.

    Parameters
    ----------
    name : str
        Of the rubber, thinner and so on.
    lots : sequence of Lot
        Its lots; without any, stock is not counted and there are no findings.
    needed_g : mapping of part to g
        What the pour takes.
    unseen_g : float
        A shortage that no scale of the shop shows is none.

    Returns
    -------
    tuple of Finding
        ``stock-low`` for each part that is short, ``lot-expired`` and ``lot-expires`` where tins that would be
        needed are old.
    """
    if not lots:
        return ()
    found = []
    for part, grams in needed_g.items():
        of_part = [lot for lot in lots if lot.part in {part, "all"} and lot.left_g > 0]
        good_g = sum(lot.left_g for lot in of_part if not lot.is_expired)
        what: str = name if part == "all" else Text("{name}, part {part}", name=name, part=part)
        if good_g < grams * (1 - 1e-9) - unseen_g:
            # with as many decimals as it takes to tell the two apart
            apart = mass_decimals(1.0, max(grams - good_g, 1e-3) * 10)
            facts: dict[str, Amount | str] = {
                "what": what,
                "needed": Amount(grams, "mass", apart),
                "left": Amount(good_g, "mass", apart),
            }
            found.append(Finding(code="stock-low", facts=facts, field="rubber_id"))
        for lot in of_part:
            if lot.is_expired:
                found.append(
                    Finding(
                        code="lot-expired",
                        facts={"what": what, "lot": lot.code, "days": str(-(lot.days_left or 0))},
                        field="rubber_id",
                    )
                )
    soon = [lot for lot in lots if lot.days_left is not None and 0 <= lot.days_left <= SOON_DAYS and lot.left_g > 0]
    if soon:
        first = min(soon, key=lambda lot: lot.days_left or 0)
        found.append(
            Finding(
                code="lot-expires",
                facts={"what": name, "lot": first.code, "days": str(first.days_left)},
                field="rubber_id",
            )
        )
    return tuple(found)


_REASONS: tuple[str, ...] = (
    Text("counted as it came"),
    Text("counted again"),
    Text("counted again, by a file"),
    Text("the shot was taken back"),
)
_REASONS_FOR: Mapping[str, Callable[[str], str]] = {
    "poured: ": lambda job: Text("poured: {job_name}", job_name=job),
    "corrected: ": lambda text: Text("corrected: {text}", text=text),
    "cast: ": lambda job: Text("cast: {name}", name=job),
}


def reason_as_kept(kept: str) -> str:
    """Return why something was taken out of a tin, as it was kept in English, so that any language can show it.

    Parameters
    ----------
    kept : str
        As it was written.

    Returns
    -------
    str
        A text; a reason of no known form as it is.
    """
    for begins, made in _REASONS_FOR.items():
        if kept.startswith(begins):
            return made(kept.removeprefix(begins))
    return next((reason for reason in _REASONS if reason == kept), kept)
