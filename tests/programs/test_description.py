"""The description of the interface holds: hundreds of calls made from it, good and bad, find nothing else."""

import re
from collections.abc import Iterator
from pathlib import Path

import pytest
from click.testing import CliRunner
from fastapi.testclient import TestClient
from schemathesis.cli import schemathesis
from signing import enter, join, session_of
from thoroughness import CALLS_EACH

from ufrin.store.accounts import Role
from ufrin.store.connection import Database
from ufrin.trial import trial_server

HERE = Path(__file__).parent


def asked(address: str, credentials: str, *more: str) -> tuple[int, int, str]:
    """Make calls from the description as somebody; return how many were made and passed, and all that was said."""
    words = ["--checks", "all", "--mode", "all", "--workers", "1", "-H", credentials, *more]
    done = CliRunner().invoke(
        schemathesis,
        [
            *("--config-file", str(HERE / "schemathesis.toml")),
            *("run", f"{address}/api/openapi.json", *words, "--no-color", "--generation-deterministic"),
        ],
    )
    told = re.search(r"(\d+) generated, (\d+) passed", done.output)
    assert done.exit_code == 0, done.output[-6000:]
    assert told is not None
    return int(told[1]), int(told[2]), done.output


@pytest.fixture(scope="module")
def address(conninfo: str) -> Iterator[str]:
    """A server at which people sign in."""
    with trial_server(conninfo, sign_in=True) as serving:
        yield serving


def test_calls_made_from_the_description_find_nothing_amiss(filled: Database, address: str) -> None:
    key = join(filled, "A script", "script")
    more = ["--phases", "examples,coverage,fuzzing", "-n", str(CALLS_EACH)]
    generated, passed, _ = asked(address, f"Authorization: Bearer {key}", *more)
    assert generated == passed
    assert generated > 500


@pytest.mark.parametrize("role", ["owner", "maker", "reader"])
def test_each_who_signs_in_may_make_every_call(filled: Database, address: str, role: Role) -> None:
    session = session_of(filled, enter(filled, role))
    more = ["--phases", "fuzzing", "-n", "1"]
    generated, passed, told = asked(address, f"Cookie: ufrin_session={session}", *more)
    assert generated == passed
    assert generated >= 20  # each call at least once
    assert "status=401" not in told


def test_every_error_that_a_call_may_give_is_described_as_it_is(client: TestClient) -> None:
    described = client.get("/api/openapi.json").json()
    for path, calls in described["paths"].items():
        for method, call in calls.items():
            assert set(call["responses"]) == {"200", "400", "401", "403", "404", "413", "422", "500", "503", "507"}, (
                path,
                method,
            )
            for status, answer in call["responses"].items():
                if status != "200":
                    assert answer["content"]["application/json"]["schema"]["$ref"].endswith("/ErrorOut")
    error = described["components"]["schemas"]["ErrorOut"]
    assert (set(error["properties"]), error["required"]) == ({"detail", "reference"}, ["detail"])
    assert not any("HTTPValidationError" in name for name in described["components"]["schemas"])


@pytest.mark.parametrize(
    ("path", "sent"),
    [
        ("mix", {"need_ml": True, "ratio": {"A": 1, "B": 1}, "sg_mixed": 1.1}),
        ("mix", {"need_ml": "250", "ratio": {"A": 1, "B": 1}, "sg_mixed": 1.1}),
        ("mix", {"need_ml": 5e-324, "ratio": {"A": 1, "B": 1}, "sg_mixed": 1.1}),
        ("mix", {"need_g": 10, "ratio": {"A": 5e-324, "B": 1}}),
        ("mix/check", {"ratio": {"A": 100, "B": 10}, "poured_g": {"A": 5e-324, "B": 10}}),
        ("mix/check", {"ratio": {"A": 100, "B": 10}, "poured_g": {"A": False, "B": 10}}),
        ("bubbles", {"viscosity_mpa_s": 5e-324, "sg": 1.1, "depth_mm": 60, "pot_life_min": 30}),
        ("bubbles", {"viscosity_mpa_s": 3000, "sg": 1.1, "depth_mm": 60, "pot_life_min": 1e-300}),
        ("bubbles", {"viscosity_mpa_s": "3000", "sg": 1.1, "depth_mm": 60, "pot_life_min": 30}),
        ("bubbles", {"viscosity_mpa_s": 3000, "sg": True, "depth_mm": 60, "pot_life_min": 30}),
        ("hardness", {"rubber": {"scale": "A", "shore": "5"}, "parts_per_100": 20}),
        ("box", {"masters": [{"length_mm": True, "width_mm": 40, "height_mm": 35, "volume_ml": 20}]}),
        ("box", {"masters": [{"length_mm": 5e-324, "width_mm": 40, "height_mm": 35, "volume_ml": 5e-324}]}),
        ("pairing", {"pour": 3, "touches": "metal"}),
    ],
)
def test_what_is_no_number_or_beyond_all_bounds_is_refused(
    client: TestClient, path: str, sent: dict[str, object]
) -> None:
    answer = client.post(f"/api/v1/{path}", json=sent)
    assert answer.status_code == 422
    assert isinstance(answer.json()["detail"], str)


@pytest.mark.parametrize(
    ("path", "ways"),
    [
        ("/api/v1/pairing", "POST"),
        ("/api/v1/jobs", "GET, HEAD"),
        ("/jobs/1/master", "GET, HEAD, POST"),
        ("/healthz", "GET, HEAD"),
    ],
)
def test_a_wrong_way_to_ask_names_the_right_ones(client: TestClient, path: str, ways: str) -> None:
    answer = client.delete(path)
    assert (answer.status_code, answer.headers["allow"]) == (405, ways)


def test_the_pressure_of_the_air_counts_for_a_pot(client: TestClient) -> None:
    sent = {"viscosity_mpa_s": 3000, "sg": 1.1, "depth_mm": 60, "pot_life_min": 30, "pressure_psi_gauge": 40}
    at_sea = client.post("/api/v1/bubbles", json=sent).json()["pressure_pot"]["volume_ratio"]
    high = client.post("/api/v1/bubbles", json={**sent, "air_pressure_hpa": 700}).json()["pressure_pot"]["volume_ratio"]
    gauge_kpa = 40 * 6.894757293168  # psi to kPa: NIST SP 811 (2008), appendix B.8, value from memory
    assert at_sea == pytest.approx(101.325 / (101.325 + gauge_kpa), rel=1e-9)
    assert high == pytest.approx(70 / (70 + gauge_kpa), rel=1e-9)
