"""A mould that was made before, or elsewhere: how a cast meets it, and what is put into it first."""

from collections.abc import Mapping
from dataclasses import dataclass

from ufrin.core.casting.resins import POURED_AS, Resin
from ufrin.core.inputs.casts import SettledCasts
from ufrin.core.inputs.checks import CheckInputs
from ufrin.core.job.checks_station import ShopWays
from ufrin.core.materials.kinds import POURS, SURFACES
from ufrin.core.pairing.contacts import JudgedContact, PartsThatMeet, contacts_of, judged
from ufrin.core.pairing.prep_step import PrepStep
from ufrin.core.pairing.preparation_steps import steps_for
from ufrin.core.wording.findings import Finding
from ufrin.language import Text

# what a mould may be of: rubbers first, then what rigid moulds are made of
MOULD_OF: Mapping[str, str] = {
    **{
        kind: POURS[kind]
        for kind in (
            *("addition-silicone", "condensation-silicone", "polyurethane-rubber"),
            *("polyurethane-resin", "epoxy-resin", "polyester-resin", "plaster"),
        )
    },
    **{kind: SURFACES[kind] for kind in ("latex", "plastic-sheet", "metal") if kind in SURFACES},
}
MOULD_PARTS: Mapping[str, str] = {"one": Text("in one piece"), "two": Text("in two parts or more")}


@dataclass(frozen=True, slots=True, kw_only=True)
class FinishedMould:
    """How a cast meets a mould that is there already.

    Parameters
    ----------
    pair : JudgedContact
        The cast in the mould.
    steps : tuple of PrepStep
        What is put into it first.
    """

    pair: JudgedContact
    steps: tuple[PrepStep, ...]

    @property
    def finding(self) -> Finding | None:
        """What is wrong with the two, at the field that says what the mould is of; None where they suit each other."""
        found = self.pair.finding()
        return None if found is None else Finding(code=found.code, facts=found.facts, field="mould_family")


def finished_mould(
    settled: SettledCasts, resin: Resin | None, checks: CheckInputs, shop: ShopWays
) -> FinishedMould | None:
    """Judge a cast in a mould that is there already.

    Parameters
    ----------
    settled : SettledCasts
        The Casts station: what the mould is of.
    resin : Resin or None
        What is cast.
    checks : CheckInputs
        What is put between, where a maker chose it.
    shop : ShopWays
        Its own tests, its releases, and whether it always uses one.

    Returns
    -------
    FinishedMould or None
        None before a material is chosen.
    """
    if resin is None:
        return None
    meets = PartsThatMeet(
        rubber=settled.mould_family,
        rubber_name="",
        masters=(),
        board="",
        walls="",
        has_board=False,
        has_walls=False,
        cast=POURED_AS.get(resin.kind, resin.kind),
        between={"cast": checks.between_cast},
    )
    pair = judged(contacts_of(meets)[-1], shop.own_rules, always_release=shop.release == "always")
    return FinishedMould(pair=pair, steps=steps_for((pair,), products=shop.products))
