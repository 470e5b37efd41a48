"""The interface call of a cast: its answers, and what it refuses."""

from typing import Any

import pytest
from fastapi.testclient import TestClient

SOLID = {"kind": "solid", "cavity_ml": 18, "ratio": {"A": 100, "B": 90}, "sg_mixed": 1.05}
SHELL = {"kind": "shell", "sg_mixed": 1.05, "thickness_mm": 3}
FILLED = {
    "kind": "filled",
    "need_ml": 400,
    "parts_by_volume": {"A": 1, "B": 1, "filler": 1},
    "sg_parts": {"A": 1.05, "B": 1.02},
    "filler_bulk_sg": 1.3,
    "filler_true_sg": 2.7,
}
FOAM = {
    "kind": "foam-back",
    "cavity_ml": 820,
    "shell_mass_g": 160,
    "shell_sg": 1.05,
    "expansion": 8,
    "foam_liquid_sg": 1.1,
}


def ask(client: TestClient, asked: dict[str, Any]) -> Any:
    answer = client.post("/api/v1/cast", json=asked)
    assert answer.status_code == 200, answer.text
    return answer.json()


def test_a_shot_of_four(client: TestClient) -> None:
    made = ask(client, SOLID | {"count": 4, "sprue_ml": 0.8, "overfill_pct": 2, "spare_pct": 5})
    assert made["volume_ml"] == pytest.approx(18.8 * 1.02 * 4)
    assert made["mass_g"] == pytest.approx(18.8 * 1.02 * 4 * 1.05 * 1.05)
    assert made["parts"]["A"] == {"g": pytest.approx(made["mass_g"] * 100 / 190), "ml": None}
    assert ask(client, {"kind": "solid", "cavity_ml": 118, "sg_mixed": 1.06}) == {
        "mass_g": pytest.approx(125.08),
        "volume_ml": 118,
        "parts": None,
    }


def test_a_shell_by_surface_by_cavity_and_as_a_ball(client: TestClient) -> None:
    flat = ask(client, SHELL | {"cavity_area_cm2": 340, "coat_mm": 0.7, "ratio": {"A": 1, "B": 1}})
    # five whole coats of 0.7 mm are 3.5 mm: 340 x 0.35 x 1.05 (by hand)
    assert flat["mass_g"] == pytest.approx(124.95)
    assert (flat["coats"], flat["reached_mm"]) == (5, 3.5)
    assert flat["parts"]["B"]["g"] == pytest.approx(62.475)
    assert ask(client, SHELL | {"cavity_area_cm2": 340})["mass_g"] == pytest.approx(107.1)
    ball = ask(client, SHELL | {"ball_outer_mm": 90, "thickness_mm": 4})
    assert (ball["mass_g"], ball["thin_shell_g"]) == (pytest.approx(97.6582925924), pytest.approx(106.876982075))
    start = ask(client, SHELL | {"cavity_ml": 400})
    assert start["mass_g"] == pytest.approx(105)
    assert start["coats"] is None


def test_foam_filled_and_coverage(client: TestClient) -> None:
    assert ask(client, FOAM) == {
        "remaining_ml": pytest.approx(667.619047619),
        "foam_mix_g": pytest.approx(91.7976190476),
    }
    filled = ask(client, FILLED)
    assert (filled["total_g"], filled["findings"]) == (pytest.approx(543.223880597), [])
    stiff = ask(client, FILLED | {"parts_by_volume": {"A": 1, "B": 1, "filler": 30}})
    assert [(one["level"], one["code"]) for one in stiff["findings"]] == [("stop", "filler-too-stiff")]
    assert ask(client, {"kind": "coverage", "mass_g": 150, "sg": 1.18, "coat_mm": 1.5}) == {
        "area_cm2": pytest.approx(847.457627119)
    }


@pytest.mark.parametrize(
    ("asked", "says"),
    [
        ({"kind": "marble"}, "kind"),
        (SOLID | {"cavity_ml": 0}, "cavity_ml"),
        (SOLID | {"cavity_ml": "18"}, "cavity_ml"),
        (SOLID | {"count": 0}, "count"),
        (SOLID | {"cavity_ml": 1e7, "count": 1000}, "10 t"),
        (SOLID | {"colour": "grey"}, "colour"),
        ({"kind": "solid", "cavity_ml": 18}, "specific gravity"),
        ({"kind": "solid", "cavity_ml": 18, "ratio": {"A": 1, "B": 1}, "basis": "volume"}, "specific gravity"),
        (SHELL, "exactly one"),
        (SHELL | {"cavity_ml": 3, "cavity_area_cm2": 3}, "exactly one"),
        ({"kind": "shell", "sg_mixed": 1.05, "cavity_area_cm2": 30}, "thickness_mm"),
        (SHELL | {"ball_outer_mm": 5}, "leaves nothing hollow"),
        (FOAM | {"shell_mass_g": 900}, "takes up the whole cavity"),
        (FOAM | {"expansion": 0.5}, "must rise"),
        (FILLED | {"filler_bulk_sg": 2.8}, "wrong way round"),
        (FILLED | {"parts_by_volume": {"A": 1, "B": 1}}, "filler"),
        (FILLED | {"parts_by_volume": {"A": 0, "B": 1, "filler": 1}}, "Both parts"),
    ],
)
def test_it_refuses_what_cannot_be(client: TestClient, asked: dict[str, Any], says: str) -> None:
    answer = client.post("/api/v1/cast", json=asked)
    assert answer.status_code == 422
    assert says in answer.text
    assert set(answer.json()) <= {"detail", "reference"}
