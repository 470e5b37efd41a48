"""The Casts station: what a shot takes from the job's own mould, what is told, and what is refused beside its field."""

from typing import Any

import pytest
from bs4 import BeautifulSoup
from fastapi.testclient import TestClient

from ufrin.actions import ADDITIONS, RESINS
from ufrin.actions.job import stations
from ufrin.actions.schedule import job_in_plan
from ufrin.actions.shelf import things
from ufrin.core.casting.additions import Addition
from ufrin.core.casting.resins import Resin
from ufrin.devices import clock
from ufrin.store.connection import Database

HTMX = {"HX-Request": "true"}
PULLEY, FINIAL, AMMONITE = 6, 8, 9
CORMORANT = 5


def shown(client: TestClient, job: int) -> Any:  # noqa: ANN401
    return client.get(f"/jobs/{job}/casts").context


def save(client: TestClient, job: int, **typed: str) -> Any:  # noqa: ANN401
    version = shown(client, job)["job"].versions["casts"]
    data = {"version": str(version), "units": "metric", **typed}
    return client.post(f"/jobs/{job}/casts", data=data, headers=HTMX)


def on_shelf(database: Database, table: Any, name: str) -> str:  # noqa: ANN401
    return str(next(kept.id for kept in things.shelf(database, table).things if kept.thing.name == name))


def test_a_gang_of_four_takes_four_masters_of_resin(client: TestClient, filled: Database) -> None:
    context = shown(client, PULLEY)
    made, master = context["cast"], context["plan"].master.measured.volume_ml
    assert context["casts"].cavity.count == 4
    sprue = context["casts"].cavity.sprue_ml
    # 1 : 1 by volume of 1.12 and 1.008, with 5 % of spare, what the master may be larger, and 1 % of colour
    spare_pct = context["casts"].settled.spare_pct
    error_ml = context["plan"].master.measured.plus_minus_ml
    assert spare_pct == pytest.approx(5.0 + 100 * error_ml / master, abs=0.05)
    assert made.totals["A"].g + made.totals["B"].g == pytest.approx(
        4 * (master + sprue) * 1.064 * (1 + spare_pct / 100)
    )
    assert made.totals["B"].g / made.totals["A"].g == pytest.approx(0.9)
    assert made.shots == 6
    page = BeautifulSoup(client.get(f"/jobs/{PULLEY}/casts").text, "lxml")
    assert "one shot of 4 cavities" in page.find(class_="answer").text
    assert "full: 38.0 mm" in page.find(class_="cast-fill").text
    nav = page.find("nav", class_="stations").find("a", attrs={"aria-current": "page"})
    assert nav.find(class_="name").text == "Casts"
    assert f"{made.totals['A'].g:.1f} g" in nav.text  # as a scale in steps of 0.1 g shows it


def test_every_kind_can_be_planned_on_a_demo_mould(client: TestClient, filled: Database) -> None:
    resin, foam = on_shelf(filled, RESINS, "Quayside 70"), on_shelf(filled, RESINS, "Pontoon foam")
    chalk = on_shelf(filled, ADDITIONS, "Chalk of shells")
    save(client, CORMORANT, resin_id=resin, foam_id=foam, filler_id=chalk, thickness_mm="3")
    grams = {}
    for kind in shown(client, CORMORANT)["cast_kinds"]:
        answer = save(client, CORMORANT, cast_kind=kind)
        assert answer.status_code == 200, kind
        made = answer.context["cast"]
        assert made is not None, kind
        assert made.kind == kind
        grams[kind] = made.piece_g
        assert BeautifulSoup(answer.text, "lxml").find(class_="cast-fill").find("svg")
    assert grams["shell"] < grams["foam-back"] < grams["solid"] < grams["filled"]
    assert grams["marbled"] == pytest.approx(grams["solid"])


def test_layers_of_a_mesh_add_up_to_its_cavity(client: TestClient, filled: Database) -> None:
    made = shown(client, FINIAL)["cast"]
    assert sum(layer.volume_ml for layer in made.layers) == pytest.approx(made.cavity.volume_ml, rel=1e-6)
    # upside down, the slender tip is at the bottom: the lowest third of the height holds least
    assert made.layers[0].volume_ml < made.layers[1].volume_ml
    halved = save(client, FINIAL, cavity_ml=f"{made.cavity.volume_ml / 2}").context["cast"]
    assert [layer.volume_ml * 2 for layer in halved.layers] == pytest.approx(
        [layer.volume_ml for layer in made.layers], rel=1e-3
    )


def test_what_is_set_in_floats_or_sinks(client: TestClient, filled: Database) -> None:
    light = save(client, FINIAL, set_in_ml="3", set_in_g="1").text
    assert "floats up" in light
    assert "stays down" in save(client, FINIAL, set_in_g="24").text
    over = save(client, FINIAL, set_in_ml="90")
    assert "takes up more than the layer" in over.text


def test_colour_that_clumps_stops(client: TestClient, filled: Database) -> None:
    answer = save(client, PULLEY, cast_colour_id=on_shelf(filled, ADDITIONS, "Tar black"))
    assert answer.context["casts"].state == "stop"
    assert "water clumps" in answer.text
    # the mould itself is not stopped by it
    assert "Ready" in next(state.words for listed, state, _ in client.get("/").context["rows"] if listed.id == PULLEY)


@pytest.mark.parametrize(
    ("typed", "code"),
    [
        ({"cavity_ml": "400"}, "cast-too-heavy"),
        ({"height_mm": "90"}, "cast-too-deep"),
        ({"cup_ml": "25"}, "cast-pot-life-over"),
        ({"colour_pct": "30"}, "colour-beyond-most"),
    ],
)
def test_limits_of_the_tin_are_told(client: TestClient, filled: Database, typed: dict[str, str], code: str) -> None:
    resin = things.look(filled, RESINS, int(on_shelf(filled, RESINS, "Quayside 70")))
    things.change(filled, RESINS, resin.id, version=resin.version, changes={"most_g": 300.0})
    before = {finding.code for finding in shown(client, PULLEY)["casts"].findings}
    assert code not in before
    assert code in {finding.code for finding in save(client, PULLEY, **typed).context["casts"].findings}


def test_the_room_is_one_for_the_pour_and_the_cast(client: TestClient, filled: Database) -> None:
    assert "cast-pot-life-short" not in {finding.code for finding in shown(client, PULLEY)["casts"].findings}
    version = shown(client, PULLEY)["job"].versions["rubber"]
    client.post(f"/jobs/{PULLEY}/rubber", data={"version": version, "room_temp_c": "35"})
    warm = shown(client, PULLEY)
    assert warm["casts"].settled.room_c == 35.0
    assert "cast-pot-life-short" in {finding.code for finding in warm["casts"].findings}
    assert "35 °C" in client.get(f"/jobs/{PULLEY}/casts").text


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ({"cavities": "7"}, "1 to 4"),
        ({"cavities": "0"}, "less than 1"),
        ({"spare_pct": "nan"}, "can&#39;t be read"),
        ({"cast_kind": "layers", "layers": "30; x"}, "Type shares"),
        ({"cast_kind": "shell", "thickness_mm": "40"}, "cavity holds"),
        ({"cast_kind": "filled"}, "Which filler"),
        ({"cast_kind": "sculpted"}, "choices"),
        ({"cavity_ml": "120 g"}, "measures a weight"),
        ({"rubber_shrink_pct": "100"}, "leaves nothing"),
    ],
)
def test_bad_input_is_told_beside_its_field(
    client: TestClient, filled: Database, typed: dict[str, str], says: str
) -> None:
    answer = save(client, PULLEY, **typed)
    assert answer.status_code in {200, 422}
    assert says in answer.text


def test_without_a_measured_master_the_cavity_is_asked_for(client: TestClient, database: Database) -> None:
    resin = things.add(database, RESINS, Resin(name="Tin", weight_a=1, weight_b=1, sg_mixed=1.1))
    job = stations.start_job(database, "An old mould")
    assert "There is" not in client.get(f"/jobs/{job}/casts").text
    asked = save(client, job, resin_id=str(resin))
    assert "fill the mould with water" in asked.text
    made = save(client, job, cavity_ml="206.4", cavities="4").context["cast"]
    assert made.shot_g == pytest.approx(4 * 206.4 * 1.1 * 1.05)
    assert made.filled == 4


def test_undo_and_two_people_at_once(client: TestClient, filled: Database) -> None:
    version = shown(client, PULLEY)["job"].versions["casts"]
    save(client, PULLEY, pieces="40")
    late = client.post(
        f"/jobs/{PULLEY}/casts", data={"version": str(version), "units": "metric", "pieces": "8"}, headers=HTMX
    )
    assert late.status_code == 409
    assert shown(client, PULLEY)["job"].casts.pieces == 40
    now = shown(client, PULLEY)["job"].versions["casts"]
    client.post(f"/jobs/{PULLEY}/casts/undo", data={"version": str(now)}, headers=HTMX)
    assert shown(client, PULLEY)["job"].casts.pieces == 24


def test_a_material_that_a_job_casts_is_not_deleted(client: TestClient, filled: Database) -> None:
    number = on_shelf(filled, RESINS, "Quayside 70")
    answer = client.post(f"/shelf/resins/{number}/delete", data={"sure": "yes"})
    assert answer.status_code == 409
    assert "can't be deleted" in answer.text.replace("&#39;", "'")


def test_the_shelf_takes_a_tin_its_lots_and_its_csv(client: TestClient, database: Database) -> None:
    form = {"units": "metric", "name": "Cask 40", "weight_a": "100", "weight_b": "60", "sg_mixed": "1.08"}
    assert client.post("/shelf/resins/new", data=form, follow_redirects=False).status_code == 303
    number = on_shelf(database, RESINS, "Cask 40")
    kit = {"units": "metric", "code": "K-1", "got_g": "1600", "part": "all"}
    client.post(f"/shelf/resins/{number}/lots", data=kit)
    left = things.shelf(database, RESINS).lots[int(number)]
    assert [(one.lot.part, one.lot.left_g) for one in left] == [("A", 1000), ("B", 600)]
    assert "Cask 40" in client.get("/shelf/lots").text
    things.add(database, ADDITIONS, Addition(name="Chalk", bulk_sg=0.9, true_sg=2.7))
    wrong = client.post(
        "/shelf/additions/new",
        data={"units": "metric", "name": "Slate", "kind": "filler", "bulk_sg": "3", "true_sg": "2.7"},
    )
    assert wrong.status_code == 422
    assert "wrong way round" in wrong.text


def test_the_checks_know_what_is_cast(client: TestClient, filled: Database) -> None:
    # nobody said at the Checks what is cast in the finial: what is chosen here counts
    version = shown(client, FINIAL)["job"].versions["checks"]
    stations.change_station(filled, FINIAL, "checks", version=version, changes={"cast_material": None})
    checks = client.get(f"/jobs/{FINIAL}/checks").context["checks"]
    assert "epoxy-resin" in {pair.contact.pour for pair in checks.pairs}
    codes = {finding.code for finding in shown(client, AMMONITE)["casts"].findings}
    assert "cast-not-checked" not in codes
    answer = save(client, AMMONITE, resin_id=on_shelf(filled, RESINS, "Quayside 70"))
    assert "cast-not-checked" in {finding.code for finding in answer.context["casts"].findings}
    assert "The Checks assume plaster" in answer.text


def test_getting_ready_is_dated_from_now(client: TestClient, filled: Database) -> None:
    tile = 7
    context = shown(client, tile)
    steps = [one.step for _, one in context["ready"]]
    assert steps[0].do.startswith("Dry Chalk of shells")
    assert steps[0].dry_min == 240 + 30
    assert [step.before_min for step in steps] == sorted((step.before_min for step in steps), reverse=True)
    times = [at_s for at_s, _ in context["ready"]]
    assert times == sorted(times)
    assert context["ready_at"] - times[0] == pytest.approx(60 * steps[0].before_min)
    assert any("Close the mould" in one.step.do for _, one in shown(client, PULLEY)["ready"])
    assert not any("Close the mould" in step.do for step in steps)
    # what the Checks ask for before a cast waits before the mould is closed
    released = [step for step in context["plan"].checks.steps if step.phase == "cast"]
    assert {step.do for step in released} <= {step.do for step in steps}


def test_getting_ready_waits_until_the_mould_may_be_cast_in(client: TestClient, filled: Database) -> None:
    context, now_s = shown(client, CORMORANT), clock.now().wall_s
    assert context["waits_for_mould"]
    # nothing is poured yet: the rubber has to cure first, however short the preparation is
    (pour,) = context["plan"].pours
    assert context["ready_at"] - now_s >= 60 * pour.demould_min
    steps = job_in_plan.of_job(filled, CORMORANT, clock.now()).steps
    first_cast = next(one for one in steps if one.step.key == "first-cast")
    assert context["ready_at"] == pytest.approx(first_cast.begins_s, abs=120)
    assert context["ready"][0][0] > now_s


def test_a_mould_is_warmed_after_a_spot_test_of_a_day_and_before_a_short_release(
    client: TestClient, filled: Database
) -> None:
    def before_min(family: str, resin: str) -> dict[str, float]:
        typed = {"name": "Old mould", "units": "metric", "mould_family": family, "cavity_ml": "80 ml"}
        job = int(client.post("/moulds", data=typed, follow_redirects=False).headers["location"].split("/")[2])
        ready = save(client, job, resin_id=on_shelf(filled, RESINS, resin)).context["ready"]
        return {one.step.do.split()[0]: one.step.before_min for _, one in ready}

    tested = before_min("condensation-silicone", "Hull gel")
    assert tested["Test"] > 24 * 60 > tested["Warm"]
    released = before_min("polyurethane-rubber", "Quayside 70")
    assert released["Warm"] > released["Release"] > released["Level"]


def ready_step(client: TestClient, job: int, words: str) -> Any:  # noqa: ANN401
    return next(one for _, one in shown(client, job)["ready"] if words in one.step.do)


def test_getting_ready_is_ticked_off_for_the_next_shot_alone(client: TestClient, filled: Database) -> None:
    tile, before = 7, shown(client, 7)["ready_at"]
    drying = ready_step(client, tile, "Dry Chalk")
    at = f"/jobs/{tile}/casts/steps/{drying.step.key}"
    client.post(at, data={"done": "yes"})
    assert ready_step(client, tile, "Dry Chalk").done_at_s is not None
    assert "dry at" in client.get(f"/jobs/{tile}/casts").text
    # the chalk dries; what is still to do takes less
    assert shown(client, tile)["ready_at"] < before
    client.post(at, data={"done": "no"})
    assert ready_step(client, tile, "Dry Chalk").done_at_s is None
    client.post(at, data={"done": "yes"})
    shot = {"token": "t", "mixed_g": "180 g", "piece-1": "good"}
    client.post(f"/jobs/{tile}/casts/log", data=shot)
    assert ready_step(client, tile, "Dry Chalk").done_at_s is None  # that was for the shot before
    assert client.post(f"/jobs/{tile}/casts/steps/unknown", data={"done": "yes"}).status_code == 422


def test_a_stop_is_signed_off_with_a_reason_before_the_bench_opens(client: TestClient, filled: Database) -> None:
    save(client, PULLEY, cast_colour_id=on_shelf(filled, ADDITIONS, "Tar black"))
    at = f"/jobs/{PULLEY}/casts"
    refused = client.post(f"{at}/bench")
    assert refused.status_code == 422
    assert "neither settled nor signed off" in refused.text
    stop = shown(client, PULLEY)["stops"][0]
    assert "clump" in stop["text"]
    typed = {"about": stop["key"], "reason": "", "who": "Wren"}
    unsaid = client.post(f"{at}/sign", data=typed)
    assert unsaid.status_code == 422
    assert "Say why" in unsaid.text
    client.post(f"{at}/sign", data=typed | {"reason": "a trial piece"})
    begun = client.post(f"{at}/bench", follow_redirects=False)
    assert begun.status_code == 303
    assert "a trial piece" in client.get(f"{begun.headers['location']}/record").text
    client.post(f"{at}/unsign", data={"about": stop["key"]})
    assert shown(client, PULLEY)["stops"][0]["signed"] is None


def test_a_mould_that_was_made_before_has_a_casts_station_of_its_own(client: TestClient, filled: Database) -> None:
    unnamed = client.post("/moulds", data={"name": "", "cavity_ml": "80 ml"})
    assert unnamed.status_code == 422
    assert "80 ml" in unnamed.text  # what was typed stays
    assert client.post("/moulds", data={"name": "Old", "cavity_ml": "-3"}).status_code == 422
    typed = {
        "name": "Mooring ring",
        "units": "metric",
        "mould_family": "condensation-silicone",
        "mould_parts": "two",
        "mould_cavities": "3",
        "cavity_ml": "80 ml",
    }
    entered = client.post("/moulds", data=typed, follow_redirects=False)
    assert entered.status_code == 303
    job = int(entered.headers["location"].split("/")[2])
    assert client.get(f"/jobs/{job}/master", follow_redirects=False).headers["location"] == f"/jobs/{job}/casts"
    resin = on_shelf(filled, RESINS, "Quayside 70")
    answer = save(client, job, resin_id=resin, cavities="2")
    assert answer.context["cast"].shot_g == pytest.approx(2 * 80 * 1.064 * 1.05)
    assert any("Close the mould" in one.step.do for _, one in answer.context["ready"])
    nav = BeautifulSoup(client.get(f"/jobs/{job}/casts").text, "lxml").find("nav", class_="stations")
    assert [one.text for one in nav.find_all(class_="name")] == ["Casts", "Log", "Mould"]
    assert client.get(f"/api/v1/jobs/{job}").json()["state"] == "mould ready"
    # all three cavities stand in the log, and nothing is early
    page = client.get(f"/jobs/{job}/casts/log")
    assert [one.number for one in page.context["log"].cavities] == [1, 2, 3]
    assert not page.context["log"].is_early
    assert "Mooring ring" in client.get("/moulds").text
    assert "Mooring ring" not in client.get("/").text  # it is no job


@pytest.mark.parametrize(
    ("family", "resin", "code"),
    [
        ("condensation-silicone", "Lantern clear", None),
        ("", "Quayside 70", "touch-not-said"),
        ("condensation-silicone", "Hull gel", "touch-may-not-set"),
    ],
)
def test_a_cast_is_judged_against_what_an_old_mould_is_of(
    client: TestClient, filled: Database, family: str, resin: str, code: str | None
) -> None:
    typed = {"name": "Old mould", "units": "metric", "mould_family": family, "cavity_ml": "80 ml"}
    job = int(client.post("/moulds", data=typed, follow_redirects=False).headers["location"].split("/")[2])
    answer = save(client, job, resin_id=on_shelf(filled, RESINS, resin))
    found = {finding.code for finding in answer.context["casts"].findings if finding.field == "mould_family"}
    assert found == ({code} if code else set())


def test_an_old_mould_of_urethane_gets_its_release_while_getting_ready(client: TestClient, filled: Database) -> None:
    typed = {"name": "Old mould", "units": "metric", "mould_family": "polyurethane-rubber", "cavity_ml": "80 ml"}
    job = int(client.post("/moulds", data=typed, follow_redirects=False).headers["location"].split("/")[2])
    save(client, job, resin_id=on_shelf(filled, RESINS, "Quayside 70"))
    assert "Release without silicone" in ready_step(client, job, "Release").step.do


def test_a_rotated_shell_is_followed_by_the_weight_of_its_mould(client: TestClient, filled: Database) -> None:
    resin = on_shelf(filled, RESINS, "Quayside 70")
    save(client, CORMORANT, cast_kind="rotated", resin_id=resin, thickness_mm="3", coat_mm="1")
    begun = save(client, CORMORANT, mould_g="7.0 kg")
    area = begun.context["casts"].cavity.area_cm2
    now = 7000 + area * 0.1 * 1.064  # one coat of a millimetre
    answer = save(client, CORMORANT, now_g=f"{now:.2f} g")
    rotated = answer.context["casts"].rotated
    assert rotated.thickness_mm == pytest.approx(1.0, abs=1e-3)
    assert rotated.coats_to_go == 2
    assert "in 2 coats" in answer.text
    lighter = save(client, CORMORANT, now_g="6.9 kg")
    assert "weighs less than when it was empty" in lighter.text
    # what the plan warns of stays
    assert lighter.context["casts"].findings == answer.context["casts"].findings
    assert answer.context["casts"].findings
    assert "thick enough" in save(client, CORMORANT, now_g=f"{7001 + 3 * (now - 7000):.2f} g").text
    assert "more than its cavity holds" in save(client, CORMORANT, now_g="9 kg").text


def test_the_size_of_a_cast_follows_the_rubber_and_the_resin(client: TestClient, filled: Database) -> None:
    page = client.get("/jobs/6/casts").context
    version, longest_mm = page["job"].versions["casts"], max(page["plan"].master.size_mm)
    resin_pct = page["casts"].picks.resin.shrinkage_pct or 0.0
    sent = {"version": str(version), "units": "metric", "rubber_shrink_pct": "1.5"}
    client.post("/jobs/6/casts", data=sent)
    sizes = client.get("/jobs/6/casts").context["sizes"]
    left = (1 - 0.015) * (1 - resin_pct / 100)
    assert sizes.master_mm == pytest.approx(longest_mm)
    assert sizes.cast_mm == pytest.approx(longest_mm * left)
    assert sizes.wanted_master_mm == pytest.approx(longest_mm / left)
