"""Today is the workshop's day, wherever the server stands."""

from datetime import UTC, datetime, timedelta
from zoneinfo import ZoneInfo

import pytest
from fastapi.testclient import TestClient

from ufrin.actions import RUBBERS
from ufrin.actions.job import stations
from ufrin.actions.shelf import lots, things
from ufrin.actions.shop import workshop_settings
from ufrin.core.rubber.tins import Rubber
from ufrin.store.connection import Database

FAR_EAST, FAR_WEST = "Pacific/Kiritimati", "Pacific/Pago_Pago"  # UTC+14 and UTC-11: never on the same day


def move_to(database: Database, zone: str) -> None:
    kept = workshop_settings.settings(database)
    workshop_settings.change_settings(
        database, version=kept.version, units="metric", currency="EUR", time_zone=zone, height_m=640.0
    )


@pytest.mark.parametrize("zone", [FAR_EAST, FAR_WEST, "UTC"])
def test_the_day_is_that_of_the_zone(database: Database, zone: str) -> None:
    move_to(database, zone)
    assert workshop_settings.settings(database).today == datetime.now(ZoneInfo(zone)).date()


def test_a_lot_is_over_when_its_day_is_past_in_the_workshop(database: Database) -> None:
    rubber = things.add(database, RUBBERS, Rubber(name="Tideline 15", weight_a=1, weight_b=1, sg_mixed=1.1))
    last = datetime.now(ZoneInfo(FAR_WEST)).date()
    lots.add(database, RUBBERS, rubber, {"code": "TL-1", "part": "A", "got_g": 500.0, "use_by": last})
    for zone, is_over in ((FAR_WEST, False), (FAR_EAST, True)):
        move_to(database, zone)
        assert lots.of_thing(database, RUBBERS, rubber)[0][0].lot.is_expired is is_over


def test_pages_show_times_by_the_workshops_clock(client: TestClient, database: Database) -> None:
    job = stations.start_job(database, "Ammonite")
    late = datetime.now(UTC).replace(hour=23, minute=30, second=0, microsecond=0)
    with database.transaction() as connection:
        connection.execute("update jobs set created_at = %s where id = %s", [late, job])
    for zone in ("UTC", FAR_EAST):
        move_to(database, zone)
        client.app.state.workshop_clock.forget()  # type: ignore[attr-defined]
        day = late.astimezone(ZoneInfo(zone))
        assert f"started {day:%-d %b %Y}" in client.get("/").text
    assert late.astimezone(ZoneInfo(FAR_EAST)).date() == late.date() + timedelta(days=1)


def test_settings_take_a_height_a_barometer_and_a_zone(client: TestClient, database: Database) -> None:
    def save(**typed: str) -> object:
        version = client.get("/settings").context["kept"].version
        form = {"version": str(version), "units": "metric", "currency": "EUR", **typed}
        return client.post("/settings", data=form, headers={"Origin": "http://127.0.0.1"})

    assert "939 hPa is counted on" in " ".join(save(height_m="640 m").text.split())  # type: ignore[attr-defined]
    assert "850 hPa is counted on" in " ".join(save(air_pressure_hpa="25.1 inHg").text.split())  # type: ignore[attr-defined]
    assert save(air_pressure_hpa="").context["kept"].air_pressure_hpa is None  # type: ignore[attr-defined]
    for field, typed in (("height_m", "9 km"), ("air_pressure_hpa", "3 hPa"), ("time_zone", "Atlantis/Harbour")):
        refused = save(**{field: typed})
        assert refused.status_code == 422  # type: ignore[attr-defined]
        assert set(refused.context["errors"]) == {field}  # type: ignore[attr-defined]
