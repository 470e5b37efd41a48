"""The findings of the Box station."""

from collections.abc import Iterator
from dataclasses import replace

from ufrin.core.box.hold_down import lift_gf
from ufrin.core.box.mould_box import box
from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.usual import USUAL
from ufrin.core.job.boxed import Boxed
from ufrin.core.job.halves import Halves
from ufrin.core.rubber.tins import FAMILIES, Rubber
from ufrin.core.wording.findings import Amount, Finding, worst_first
from ufrin.errors import Refused
from ufrin.language import Text


def box_findings(
    in_box: Boxed, halves: Halves | None, inputs: BoxInputs, rubber: Rubber | None, not_ready: tuple[str, ...]
) -> tuple[Finding, ...]:
    """Return the findings of the Box station.

    Parameters
    ----------
    in_box : Boxed
        Worked out.
    halves : Halves or None
        Of a mould in two parts.
    inputs : BoxInputs
        As filled in.
    rubber : Rubber or None
        The one chosen.
    not_ready : tuple of str
        Jobs whose masters should share the box and can't yet.

    Returns
    -------
    tuple of Finding
        Worst first; none while there is no box.
    """
    absent = [Finding(code="other-not-ready", facts={"name": name}, field="other_id") for name in not_ready]
    made, bow = in_box.box, in_box.bow
    if made is None:
        return tuple(absent)
    found = list(made.findings)
    if halves is not None:  # it lies in its bed, and does not stand on the board
        found = [finding for finding in found if finding.code not in {"floats", "weight-unknown"}]
        found += _lifted_out_of_bed(in_box, halves)
    found += _tall_in_gang(in_box)
    return worst_first([*found, *(bow.findings() if bow else ()), *_filler_bond(inputs, rubber), *absent])


def _tall_in_gang(in_box: Boxed) -> Iterator[Finding]:
    # a tall kind lifts the fill line for all: what two boxes would take instead
    plan, made = in_box.plan, in_box.box
    if plan is None or made is None or plan.container is not None or len({one.height_mm for one in plan.masters}) < 2:
        return
    tall = max(plan.masters, key=lambda one: one.height_mm)
    rest = tuple(one for one in plan.masters if one is not tall)
    try:
        both_ml = sum(
            box(replace(plan, masters=masters, rows=None, columns=None, filler_ml=0.0)).net_ml
            for masters in ((tall,), rest)
        )
    except Refused:  # one of them alone would not stand in such a bed
        return
    saved_ml = made.net_ml + plan.filler_ml - both_ml
    if saved_ml > USUAL["packing"]["two_boxes_share"] * made.net_ml:
        facts: dict[str, Amount | str] = {
            "name": f"“{tall.name}”" if tall.name else Text("this job"),
            "height": Amount(tall.height_mm, "length"),
            "others": Amount(max(one.height_mm for one in rest), "length"),
            "saved": Amount(saved_ml, "volume", 0),
        }
        yield Finding(code="tall-in-gang", facts=facts, field="other_id")


def _lifted_out_of_bed(in_box: Boxed, halves: Halves) -> Iterator[Finding]:
    # only what the first pour reaches lifts, should rubber creep between master and bed
    if in_box.plan is None or in_box.plan.rubber_sg is None:
        return
    whole_ml = halves.first_displaced_ml + halves.second_displaced_ml
    share = halves.first_displaced_ml / whole_ml if whole_ml else 0.0
    lifts = [
        lift_gf(displaced_ml=share * master.volume_ml, mass_g=master.mass_g, sg=in_box.plan.rubber_sg)
        for master in in_box.masters
        if master.volume_ml is not None and master.mass_g is not None
    ]
    if lifts and max(lifts) > 0:
        yield Finding(code="lifted-out-of-bed", facts={"lift": Amount(max(lifts), "mass", 0)}, field="bed_material")


def _filler_bond(inputs: BoxInputs, rubber: Rubber | None) -> Iterator[Finding]:
    if not inputs.filler_ml or rubber is None or inputs.filler_family in {None, "", rubber.family}:
        return
    facts = {"filler": FAMILIES[inputs.filler_family or ""].lower(), "rubber": FAMILIES[rubber.family].lower()}
    yield Finding(code="filler-will-not-bond", facts=facts, field="filler_family")
