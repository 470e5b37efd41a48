"""What no longer fits a mould that was begun: told while it is not whole, and for what was really changed."""

from dataclasses import replace
from typing import Any

import pytest
from records import ADDITION, PLAN, Hand

from ufrin.core.inputs.box import BoxInputs
from ufrin.core.inputs.master import MasterInputs
from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.inputs.rubber import RubberInputs
from ufrin.core.job.job_plan import JobContext, Plan, plan
from ufrin.core.job.shelf_picks import ShelfPicks
from ufrin.core.job.weighed_pours import WeighedPour, weighed_pours
from ufrin.core.measures.display import say_amounts

MASTER = MasterInputs(length_mm=60, width_mm=40, height_mm=30, known_ml=50)


def planned(weighed: tuple[WeighedPour, ...] = (), *, style: str = "two-part", **changed: Any) -> Plan:  # noqa: ANN401
    rubber = replace(ADDITION, name=changed.pop("rubber", ADDITION.name))
    context = JobContext(shelf=ShelfPicks(rubber=rubber), weighed=weighed)
    return plan(MASTER, BoxInputs(**changed), RubberInputs(), context, OpeningInputs(style=style))


def first_half(made: Plan) -> WeighedPour:
    first = made.pours[0]
    return WeighedPour(half=first.half, rubber=first.rubber.name, style=made.style, need_g=first.need_g)


def told(made: Plan) -> list[str]:
    return [
        say_amounts(str(one.facts["differing"]))
        for one in made.findings["rubber"]
        if one.code == "changed-after-weighing"
    ]


def test_a_job_that_was_not_changed_is_not_told_of() -> None:
    before = planned()
    assert [pour.half for pour in before.pours] == ["first", "second"]
    assert told(planned((first_half(before),))) == []
    assert told(before) == []


@pytest.mark.parametrize(
    ("changed", "says"),
    [
        ({"rubber": "Bosun 40"}, "Tideline 15 was weighed, and Bosun 40 is chosen now"),
        ({"style": "open"}, "it was begun as “two parts over a clay bed”, and is planned as “open block”"),
        ({"side_mm": 20.0}, "was needed when it was weighed"),
    ],
)
def test_what_was_changed_is_told_by_its_name(changed: dict[str, Any], says: str) -> None:
    begun = first_half(planned())
    now = planned((begun,), **changed)
    (sentence,) = told(now)
    assert says in sentence
    assert now.states["rubber"] == "warning"
    if "side_mm" in changed:
        assert sentence.startswith(f"{begun.need_g:.0f} g was needed")
        assert f"{now.pours[0].need_g:.0f} g now" in sentence


def poured(half: str, *, throws_away: bool = False) -> Hand:
    hand = Hand(replace(PLAN, half=half))
    hand.batch(None, None)
    if not throws_away:
        for kind in ("mixed", "poured"):
            hand.write(kind)
        hand.write("leftover", 0.0)
        hand.write("finish")
    return hand


def test_it_counts_until_the_mould_is_whole() -> None:
    in_the_cup, first, second, whole = poured("", throws_away=True), poured("first"), poured("second"), poured("")
    assert [one.half for one in weighed_pours([(1, in_the_cup.state)])] == [""]
    assert [one.half for one in weighed_pours([(1, first.state)])] == ["first"]
    begun_second = poured("second", throws_away=True)
    assert [one.half for one in weighed_pours([(2, begun_second.state), (1, first.state)])] == ["first", "second"]
    # whole: what is changed now is meant for the next one
    assert weighed_pours([(2, second.state), (1, first.state)]) == ()
    assert weighed_pours([(1, whole.state)]) == ()
    assert weighed_pours([]) == ()
