"""Figures that a workshop settles once, put in place wherever a job says nothing else: its scale, room and spare."""

from dataclasses import replace

from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.rubber import RubberInputs, SettledRubber
from ufrin.core.job.checks_station import ShopWays
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.rubber.tins import Rubber
from ufrin.errors import Refused


def with_shop_scale(master: MasterInputs, shop: ShopWays) -> MasterInputs:
    """Put the shop's scale in place at the Master station.

    Parameters
    ----------
    master : MasterInputs
        As filled in.
    shop : ShopWays
        With the step of its scale.

    Returns
    -------
    MasterInputs
        The same where the job has a scale of its own.
    """
    if master.scale_step_g is not None or shop.scale_step_g is None:
        return master
    return replace(master, scale_step_g=shop.scale_step_g)


def settled_rubber(inputs: RubberInputs, shop: ShopWays, shelf: ShelfPicks) -> SettledRubber:
    """Settle the Rubber station, with the shop's scale and room, and the spare that was learnt.

    Parameters
    ----------
    inputs : RubberInputs
        As filled in.
    shop : ShopWays
        With its scale and room.
    shelf : ShelfPicks
        With what past pours teach now.

    Returns
    -------
    SettledRubber
        The spare is the one that was learnt when the rubber was chosen, wherever the maker typed none.
    """
    settled = inputs.settled()
    if inputs.scale_step_g is None and shop.scale_step_g is not None:
        settled = replace(settled, scale_step_g=shop.scale_step_g)
    if inputs.room_temp_c is None and shop.room_temp_c is not None:
        settled = replace(settled, room_temp_c=shop.room_temp_c)
    if inputs.spare_pct is None:
        learnt = inputs.learnt_spare_pct
        settled = replace(settled, spare_pct=shelf.allowance.spare_pct if learnt is None else learnt)
    return settled


def as_mixed(shelf: ShelfPicks, settled: SettledRubber) -> tuple[Rubber | None, tuple[Refused, ...]]:
    """Return the rubber as it is mixed.

    Parameters
    ----------
    shelf : ShelfPicks
        With the rubber and what it is blended with.
    settled : SettledRubber
        With the share of the second one.

    Returns
    -------
    Rubber or None, tuple of Refused
        The first rubber alone where the two can't be blended, and why.
    """
    try:
        return shelf.as_mixed(settled.blend_pct), ()
    except Refused as refused:
        return shelf.rubber, (refused,)
