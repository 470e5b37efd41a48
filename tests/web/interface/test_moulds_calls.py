"""The calls on the life of moulds and on costs: the fixed answers, and what is refused."""

import pytest
from fastapi.testclient import TestClient


def test_the_life_of_moulds(client: TestClient) -> None:
    moulds = [{"casts": casts, "failed": casts != 25} for casts in (9, 14, 25, 31)]
    answer = client.post("/api/v1/life", json={"moulds": moulds, "at_casts": 20}).json()
    assert answer["survival_at"] == 0.5
    assert answer["median_casts"] == 14
    assert answer["weibull"]["shape"] > 1
    assert answer["findings"] == []
    alone = client.post("/api/v1/life", json={"moulds": [{"casts": 12, "failed": False}]}).json()
    assert alone["median_casts"] is alone["survival_at"] is alone["weibull"] is None
    assert [one["code"] for one in alone["findings"]] == ["life-none-failed"]


def test_costs_and_when_it_pays(client: TestClient) -> None:
    body = {"pieces": 50, "master_cost": 60, "mould_cost": 120, "mould_life_casts": 25, "unit_cost": 2.1}
    answer = client.post("/api/v1/costs", json=body | {"buy_price": 9.5}).json()
    assert answer == {
        "moulds": 2,
        "total_cost": 405.0,
        "cost_per_piece": 8.1,
        "first_count": 25,
        "stays_from_count": 57,
    }
    assert client.post("/api/v1/costs", json=body).json()["first_count"] is None


@pytest.mark.parametrize(
    ("call", "body"),
    [
        ("life", {"moulds": []}),
        ("life", {"moulds": [{"casts": 0, "failed": True}]}),
        ("life", {"moulds": [{"casts": -1, "failed": False}]}),
        ("costs", {"pieces": 5, "master_cost": -1, "mould_cost": 1, "mould_life_casts": 5, "unit_cost": 1}),
        ("costs", {"pieces": 5, "master_cost": 1, "mould_cost": 1, "mould_life_casts": 0, "unit_cost": 1}),
        ("costs", {"pieces": 0, "master_cost": 1, "mould_cost": 1, "mould_life_casts": 5, "unit_cost": 1}),
    ],
)
def test_what_cannot_be_is_refused(client: TestClient, call: str, body: dict[str, object]) -> None:
    answer = client.post(f"/api/v1/{call}", json=body)
    assert answer.status_code == 422
    assert answer.json()["detail"]
