"""The open interface, called as a script would."""

import json
from typing import Any

import pytest
from fastapi.testclient import TestClient

MIX: dict[str, Any] = {
    "need_ml": 250.0,
    "basis": "weight",
    "ratio": {"A": 100, "B": 10},
    "sg_parts": {"A": 1.15, "B": 0.98},
    "sg_mixed": 1.13,
    "spare_pct": 10,
    "cling_g": 0,
    "thinner": {"parts_per_100": 10, "of": "A+B", "sg": 0.97},
    "pigment_pct": 1.0,
    "scale_step_g": 0.1,
    "tolerance_pct": 2,
    "cup_ml": 900,
    "rise_factor": 4,
}
BOX: dict[str, Any] = {
    "masters": [{"length_mm": 60, "width_mm": 40, "height_mm": 35, "volume_ml": 52, "mass_g": 60, "count": 1}],
    "shape": "rectangle",
    "side_mm": 12,
    "over_mm": 12,
    "under_mm": 0,
    "gap_mm": 10,
    "bed_mm": 0,
    "sunk_mm": 0,
    "rows": None,
    "columns": None,
    "pot": {"bottom_mm": 80, "top_mm": 100, "height_mm": 120},
    "rubber_sg": 1.13,
    "wall": {"thickness_mm": 5},
    "freeboard_mm": 10,
}
CHECK: dict[str, Any] = {
    "basis": "weight",
    "ratio": {"A": 100, "B": 10},
    "poured_g": {"A": 103.2, "B": 10.0},
    "tolerance_pct": 2,
}
CALLS = {"/api/v1/mix": MIX, "/api/v1/mix/check": CHECK, "/api/v1/box": BOX}


def test_mix(client: TestClient) -> None:
    got = client.post("/api/v1/mix", json=MIX).json()
    # by hand: 110 g of mix and thinner have 100/1.13 + 10/0.97 ml; 250 ml of that and a tenth more, pigment
    # included in the total
    sg = 110 / (100 / 1.13 + 10 / 0.97)
    assert got["sg_mixed"] == pytest.approx(sg)
    assert got["total_g"] == pytest.approx(250 * sg * 1.1)
    assert got["total_ml"] == pytest.approx(275)
    base = got["total_g"] / 1.01 / 1.1
    assert got["parts"]["A"] == {"g": pytest.approx(base / 1.1), "ml": pytest.approx(base / 1.1 / 1.15)}
    assert got["thinner_g"] == pytest.approx(base / 10)
    assert got["pigment_g"] == pytest.approx(base * 1.1 / 100)
    assert len(got["batches"]) == 2  # 275 ml rise to 1100, and the cup holds 900
    assert got["batches"][0]["parts"]["B"] == pytest.approx(base / 11 / 2)
    assert got["ratio_error_pct"]["worst"] == pytest.approx(100 * ((base / 22 + 0.05) / (base / 2.2 - 0.05) * 10 - 1))
    assert got["findings"] == []


def test_mix_with_the_least_said(client: TestClient) -> None:
    got = client.post("/api/v1/mix", json={"need_g": 110, "ratio": {"A": 10, "B": 1}}).json()
    assert got["parts"] == {"A": {"g": pytest.approx(100), "ml": None}, "B": {"g": pytest.approx(10), "ml": None}}
    assert (got["total_ml"], got["sg_mixed"], got["ratio_error_pct"]) == (None, None, {"worst": None})
    kit = client.post("/api/v1/mix", json={"have_g": {"A": 640}, "ratio": {"A": 100, "B": 10}}).json()
    assert kit["total_g"] == pytest.approx(704)


def test_check(client: TestClient) -> None:
    got = client.post("/api/v1/mix/check", json=CHECK).json()
    assert got["verdict"] == "mend"
    assert got["ratio_error_pct"] == pytest.approx(100 * (10 / 103.2 * 10 - 1))
    assert got["add"] == {"part": "B", "g": pytest.approx(0.32)}
    assert got["total_g_after"] == pytest.approx(113.52)
    within = client.post("/api/v1/mix/check", json=CHECK | {"poured_g": {"A": 100, "B": 10.1}}).json()
    assert (within["verdict"], within["add"], within["total_g_after"]) == ("within", None, pytest.approx(110.1))


def test_box(client: TestClient) -> None:
    got = client.post("/api/v1/box", json=BOX).json()
    gross = 84 * 64 * 47 / 1000
    assert got["inside"] == {"length_mm": 84, "width_mm": 64}
    assert (got["fill_mm"], got["rim_mm"], got["rows"], got["columns"], got["raise_to_clear_mm"]) == (47, 57, 1, 1, 0)
    assert (got["gross_ml"], got["displaced_ml"], got["bed_ml"], got["net_ml"]) == (
        pytest.approx(gross),
        52,
        0,
        pytest.approx(gross - 52),
    )
    assert got["lift_g"] == 0
    assert got["wall_kpa"] == pytest.approx(1.13 * 9.80665 * 47 / 1000)
    assert got["panels"][0] == {"name": "long side", "length_mm": 94, "height_mm": 57, "count": 2}


def test_box_in_a_bed_and_in_a_pot(client: TestClient) -> None:
    sunk = client.post("/api/v1/box", json=BOX | {"bed_mm": 20, "sunk_mm": 7}).json()
    assert sunk["bed_ml"] == pytest.approx(84 * 64 * 20 / 1000 - 52 / 5)
    assert sunk["net_ml"] == pytest.approx(84 * 64 * (20 + 28 + 12) / 1000 - 52 - sunk["bed_ml"])
    pot = client.post("/api/v1/box", json=BOX | {"shape": "tapered", "side_mm": 10}).json()
    assert pot["raise_to_clear_mm"] == pytest.approx(((60**2 + 40**2) ** 0.5 + 20 - 80) * 6)
    assert [finding["code"] for finding in pot["findings"]] == ["too-tight"]


@pytest.mark.parametrize("path", CALLS)
@pytest.mark.parametrize(
    "value", ["NaN", "Infinity", "-Infinity", "-1", "1e999", "1e12", '"12"', "true", "[]", '{"A": -1}']
)
def test_a_bad_value_anywhere_gets_a_sentence(client: TestClient, path: str, value: str) -> None:
    for name in CALLS[path]:
        body = json.dumps(CALLS[path] | {name: "@"}).replace('"@"', value)
        if (name, value) in {("rows", "true"), ("columns", "true")} or (name == "have_g"):
            continue
        answer = client.post(path, content=body, headers={"Content-Type": "application/json"})
        assert 400 <= answer.status_code < 500, (name, value)
        assert len(answer.json()["detail"]) > 15


@pytest.mark.parametrize(
    ("path", "change", "says"),
    [
        ("/api/v1/mix", {"nonsense": 1}, "nonsense is not known here"),
        ("/api/v1/mix", {"need_g": 5}, "exactly one"),
        ("/api/v1/mix", {"ratio": {"A": 0, "B": 1}}, "ratio.A must be at least 1e-06"),
        ("/api/v1/mix", {"ratio": {"X": 1, "B": 1}}, "names its parts"),
        ("/api/v1/mix/check", {"poured_g": {"A": 0, "B": 1}}, "some A"),
        ("/api/v1/box", {"masters": []}, "masters"),
        (
            "/api/v1/box",
            {"masters": [BOX["masters"][0] | {"volume_ml": 85}]},
            "85 ml can't be inside 60 mm x 40 mm x 35 mm, which holds 84 ml",
        ),
        ("/api/v1/box", {"masters": [BOX["masters"][0] | {"count": 401}]}, "masters.0.count"),
        ("/api/v1/box", {"shape": "tapered", "pot": None}, "inside diameters"),
        ("/api/v1/box", {"masters": [BOX["masters"][0] | {"count": 5}], "rows": 2, "columns": 2}, "hold 4"),
    ],
)
def test_refusals_name_what_to_do(client: TestClient, path: str, change: dict[str, Any], says: str) -> None:
    answer = client.post(path, json=CALLS[path] | change)
    assert answer.status_code == 422
    assert says in answer.json()["detail"]


@pytest.mark.parametrize(
    "body",
    [b"", b"{", b"[1]", b"\xff\xfe", b"[" * 100_000, b'{"ratio": {"A": 1' + b"0" * 5000 + b', "B": 1}, "need_g": 1}'],
)
def test_broken_bodies(client: TestClient, body: bytes) -> None:
    answer = client.post("/api/v1/mix", content=body, headers={"Content-Type": "application/json"})
    assert 400 <= answer.status_code < 500
    assert answer.json()["detail"]


def test_described(client: TestClient) -> None:
    paths = client.get("/api/openapi.json").json()["paths"]
    assert set(CALLS) <= set(paths)
    assert "swagger-ui-bundle.js" in client.get("/api/docs").text
