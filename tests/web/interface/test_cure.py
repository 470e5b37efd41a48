"""The interface call on cure, its worked example, and what it refuses."""

import pytest
from fastapi.testclient import TestClient

ROOM = [{"from_min": 0, "c": 19}, {"from_min": 120, "c": 26}]


def test_it_is_done_when_the_equivalent_age_is_reached(client: TestClient) -> None:
    asked = {"minutes_at_ref": 240, "ref_c": 23, "q10": 2, "temperatures": ROOM}
    answer = client.post("/api/v1/cure", json=asked)
    assert answer.status_code == 200
    assert answer.json() == {"done_min": pytest.approx(120 + (240 - 120 * 2**-0.4) / 2**0.3)}
    assert client.post("/api/v1/cure", json={"minutes_at_ref": 240, "temperatures": ROOM}).json() == answer.json()


@pytest.mark.parametrize(
    ("change", "says"),
    [
        ({"temperatures": []}, "temperatures"),
        ({"temperatures": ROOM[::-1]}, "in the order of their times"),
        ({"temperatures": [{"from_min": 0, "c": 900}]}, "temperatures"),
        ({"temperatures": [{"from_min": -5, "c": 20}]}, "temperatures"),
        ({"minutes_at_ref": 0}, "minutes_at_ref"),
        ({"minutes_at_ref": 1e7, "q10": 10, "temperatures": [{"from_min": 0, "c": -60}]}, "longer than anyone waits"),
        ({"q10": 0.5}, "q10"),
        ({"hours": 3}, "hours"),
    ],
)
def test_it_refuses_what_cannot_be(client: TestClient, change: dict[str, object], says: str) -> None:
    answer = client.post("/api/v1/cure", json={"minutes_at_ref": 240, "temperatures": ROOM} | change)
    assert answer.status_code == 422
    assert says in answer.text
