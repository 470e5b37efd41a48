"""What the Opening station tells, by hand: each figure that it measured, where it is told, and where nothing is."""

from types import SimpleNamespace as Of
from typing import Any

import pytest

from ufrin.core.inputs.opening import OpeningInputs
from ufrin.core.job.opening_findings import COMPASS, compass, findings_of
from ufrin.core.mesh.cells import MOST_CELLS
from ufrin.core.opening.mould_styles import STYLES
from ufrin.core.wording.findings import Amount, Finding

NOTHING = {
    **dict.fromkeys(("stretch", "allowed", "neck", "parting_surface", "under", "tilt", "cast", "halves_air", "shown")),
    "checklist": None,
    "thin_mm": None,
    "is_thinned": False,
    "is_parted": False,
    "size_mm": 60.0,
    "style": "open",
    "advice": (),
    "key_findings": (),
}


def told(inputs: OpeningInputs | None = None, of: Any = None, **measured: object) -> dict[str, Finding]:  # noqa: ANN401
    made: Any = Of(**{**NOTHING, **measured})
    found = findings_of(made, inputs or OpeningInputs(), **(of or {}))
    return {one.code: one for one in found}


def facts(found: dict[str, Finding], code: str) -> tuple[str | None, dict[str, object]]:
    return found[code].field, dict(found[code].facts)


def test_nothing_measured_tells_nothing() -> None:
    assert told() == {}


def test_a_kind_far_behind_the_best_is_named_with_why() -> None:
    def advice(behind: float, *against: str) -> dict[str, Finding]:
        best, own = Of(style="two-part", score=5.0, against=()), Of(style="open", score=5.0 - behind, against=against)
        return told(OpeningInputs(style="open"), advice=(best, own))

    field, found = facts(advice(2.0, "It locks.", "It tears."), "style-unlikely")
    assert field == "style"
    assert found == {"why": "It locks.", "style": STYLES["open"], "better": STYLES["two-part"]}
    assert advice(1.9, "It locks.") == {}
    assert advice(2.0) == {}
    assert told(advice=(Of(style="two-part", score=9.0, against=()), Of(style="open", score=0.0, against=("x",)))) == {}


def test_stretch_beside_what_the_rubber_allows() -> None:
    stretch = Of(needed=0.8, slit_mm=lambda allowed: 100 * allowed)
    assert facts(told(stretch=stretch, allowed=0.5), "stretch-over") == (
        "style",
        {"needed": Amount(80, "stretch", 0), "allowed": Amount(50, "stretch", 0), "slit": Amount(50, "length", 0)},
    )
    assert told(stretch=stretch, allowed=0.8) == {}
    assert told(stretch=stretch, allowed=0.5, style="slit") == {}
    assert told(stretch=stretch, allowed=0.5, style="two-part") == {}
    assert told(stretch=stretch, allowed=0.5, is_parted=True) == {}
    assert facts(told(stretch=stretch), "stretch-unknown")[1] == {"needed": Amount(80, "stretch", 0)}
    assert told(stretch=Of(needed=0.05)) == {}


def test_a_thin_neck_a_thin_wall_and_a_mesh_that_was_thinned() -> None:
    neck = Of(height_mm=30.0, across_mm=4.5, above_ml=20.0)
    assert facts(told(neck=neck), "thin-neck") == (
        "style",
        {"height": Amount(30, "length", 0), "across": Amount(4.5, "length", 1), "above": Amount(20, "volume", 0)},
    )
    assert told(neck=neck, style="two-part") == {}
    # 1.3 cells over a wall of 0.5 mm along 60 mm, and one more
    assert facts(told(thin_mm=0.5), "wall-too-thin")[1] == {"thin": Amount(0.5, "length", 2), "cells": "157"}
    assert told(thin_mm=0.0)["wall-too-thin"].facts["cells"] == str(MOST_CELLS)
    assert told(thin_mm=1e-6)["wall-too-thin"].facts["cells"] == "9999"
    assert list(told(is_thinned=True)) == ["mesh-thinned"]
    assert facts(told(checklist=Of()), "judged-not-simulated")[0] == "flat_back"


def test_what_a_parting_surface_keeps_shows_and_loses() -> None:
    def parted(
        steepest: tuple[float, tuple[float, float]] = (10.0, (0.0, 0.0)), **changes: object
    ) -> dict[str, Finding]:
        usual = {"locked_ml": 0.0, "master_ml": 100.0, "film_ml": 0.0, "lost": 0, "seams": ()}
        surface = Of(**{**usual, **changes}, steepest=lambda: steepest)
        return told(parting_surface=surface, is_parted=True, style="two-part")

    assert parted() == {}
    assert facts(parted(locked_ml=50.0), "pull-locked")[1] == {"volume": Amount(50.0, "volume", 1)}
    assert facts(parted(film_ml=0.25), "seam-film") == ("slack_mm", {"volume": Amount(0.25, "volume", 2)})
    assert parted(film_ml=0.2) == {}  # two thousandths of the master
    assert facts(parted(lost=3), "rays-lost")[1] == {"rays": "3"}
    field, steep = facts(parted((70.0, (-12.0, 7.0))), "seam-steep")
    assert field == "slack_mm"
    assert steep == {
        "slope": "70°",
        "x": Amount(12.0, "length", 0),
        "across": "left",
        "y": Amount(7.0, "length", 0),
        "deep": "to the back",
    }
    assert [parted((70.0, (12.0, -7.0)))["seam-steep"].facts[key] for key in ("across", "deep")] == [
        "right",
        "to the front",
    ]
    surface = Of(locked_ml=0.0, master_ml=1.0, film_ml=0.0, lost=0, seams=(), steepest=lambda: (0.0, (0.0, 0.0)))
    assert list(told(of={"slants": True}, parting_surface=surface)) == ["walls-slant"]
    assert list(told(of={"halves": Of(is_judged=True)})) == ["halves-judged"]
    assert dict(told(of={"halves": Of(is_judged=False), "bed_mm": 12.0})["half-bed"].facts) == {
        "bed": Amount(12.0, "length")
    }


def pocket(ml: float, *, matters: bool = True) -> Any:  # noqa: ANN401
    return Of(ml=ml, matters=matters)


def test_air_under_the_master_and_how_to_tilt_it_out() -> None:
    def under(*pockets: Any, closed_ml: float = 0.0) -> Any:  # noqa: ANN401
        return Of(pockets=pockets, closed_ml=closed_ml)

    two = under(pocket(1.5), pocket(0.25), pocket(9.0, matters=False))
    assert facts(told(under=two), "air-under")[1] == {"volume": Amount(1.75, "volume", 2), "pockets": "2 pockets"}
    tilt = Of(degrees=15.0, towards_deg=90.0, tilted_ml=0.1)
    assert facts(told(under=two, tilt=tilt), "air-under-tilt") == (
        "tilt_limit_deg",
        {
            "volume": Amount(1.75, "volume", 2),
            "pockets": "2 pockets",
            "tilt": "15°",
            "side": "back",
            "left": Amount(0.1, "volume", 2),
        },
    )
    gone = told(under=two, tilt=Of(degrees=15.0, towards_deg=90.0, tilted_ml=0.019))
    assert gone["air-under-tilt"].facts["left"] == "none"
    closed = under(pocket(1.0), closed_ml=0.98)
    assert facts(told(under=closed), "air-closed")[1] == {"volume": Amount(0.98, "volume", 1)}
    assert list(told(under=under(pocket(1.0), closed_ml=0.97))) == ["air-under"]
    assert told(under=under(pocket(9.0, matters=False))) == {}
    for style in ("press", "skin"):
        assert told(under=two, style=style) == {}
    halves = (under(pocket(0.5)), under(pocket(9.0, matters=False)))
    assert facts(told(under=two, is_parted=True, halves_air=halves), "air-half")[1] == {
        "half": "first",
        "volume": Amount(0.5, "volume", 2),
        "pockets": "1 pocket",
    }


def test_air_in_the_cast_its_gate_and_its_vents() -> None:
    def cast(*left: Any, **changes: object) -> Any:  # noqa: ANN401
        return Of(**{"left": left, "gates": (), "vents": (), **changes})

    worth = OpeningInputs(worth_ml=0.5)
    found = told(worth, cast=cast(pocket(0.5), pocket(0.75), pocket(0.4), pocket(0.1)))
    assert facts(found, "air-cast") == ("cast_up", {"volume": Amount(1.25, "volume", 2), "pockets": "2 pockets"})
    assert facts(found, "air-crumbs") == ("worth_ml", {"pockets": "2 pockets", "volume": Amount(0.4, "volume", 2)})
    for style in ("squeeze", "press"):
        assert told(worth, cast=cast(pocket(9.0)), style=style) == {}
    hidden, shown, blocked = (Of(on_show=on_show, way=way) for on_show, way in ((False, ()), (True, ()), (False, None)))
    alone = told(cast=cast(gates=(shown,), vents=(hidden, blocked)))
    assert facts(alone, "vent-on-show") == ("show", {"name": "The gate"})
    assert facts(alone, "vent-blocked")[1] == {"name": "Vent 2"}
    assert told(cast=cast(gates=(hidden, shown)))["vent-on-show"].facts["name"] == "Gate 2"


@pytest.mark.parametrize("eighth", range(8))
def test_the_compass_of_the_plan(eighth: int) -> None:
    assert {compass(45 * eighth + off) for off in (-22, 0, 22)} == {COMPASS[eighth]}
    assert compass(45 * eighth - 360) == COMPASS[eighth]
