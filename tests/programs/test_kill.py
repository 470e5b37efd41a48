"""Killing the server between any two steps of a weigh-up loses no accepted reading, and the pot life runs on."""

import re
import urllib.error
import urllib.parse
import urllib.request

from running import Killable

from ufrin.actions.bench import pours
from ufrin.store.connection import Database

KINDS = {"cup": "tare", "mix": "mixed", "pour": "poured", "do": "step"}


def post(address: str, **form: str) -> tuple[int, str]:
    request = urllib.request.Request(address, urllib.parse.urlencode(form).encode(), {"HX-Request": "true"})
    try:
        with urllib.request.urlopen(request) as answer:
            return int(answer.status), str(answer.headers.get("HX-Redirect") or answer.read().decode())
    except urllib.error.HTTPError as error:
        return error.code, error.read().decode()


def test_sigkill_at_each_step_of_a_weigh_up(filled: Database, conninfo: str) -> None:
    server = Killable(conninfo)
    server.start()
    address = server.address
    status, place = post(f"{address}/jobs/8/pour", units="metric", who="Wren", temp_c="23")
    assert status == 204
    number = int(place.rsplit("/", 1)[1])
    accepted: list[tuple[str, float | None]] = [("start", None)]
    clocks: list[float] = []
    while not (state := pours.look(filled, number).state).is_finished:
        step, one = state.step, state.step.ingredient
        kind = KINDS.get(step.kind, step.kind)
        too_much = 1.15 if one and one.key == "B" else 1.0  # so that it must be mended
        grams = f"{step.target_g * too_much:.1f}" if kind == "weigh" else "11.5" if kind == "leftover" else ""
        status, answer = post(
            f"{address}/pours/{number}/enter",
            kind=kind,
            number=str(state.next_number),
            token=f"{kind}-{len(accepted)}",
            units="metric",
            by="typed",
            ingredient=one.key if one else "",
            net_g=grams,
            sure="yes",
            what=step.key,
        )
        assert status == 200, (kind, answer[-600:])
        accepted.append((kind, float(grams) if grams else None))
        server.kill()
        server.start()
        page = urllib.request.urlopen(f"{address}/pours/{number}").read().decode()
        assert [(entry.kind, entry.net_g) for entry in pours.look(filled, number).state.entries] == accepted
        if left := re.search(r'aria-label="Pot life left"\s+data-left="([\d.]+)"', page):
            clocks.append(float(left[1]))
    assert [kind for kind, _ in accepted].count("weigh") == 3
    assert len(clocks) > 3
    assert clocks == sorted(clocks, reverse=True)  # the pot life runs on while the server is away
    assert pours.look(filled, number).pour.finished_at is not None
    cures = []
    for _ in range(2):  # the clocks of the cure are kept as well
        page = urllib.request.urlopen(f"{address}/pours/{number}").read().decode()
        cures.append(float(re.findall(r'data-alarm="Take it out" data-counts="([\d.]+)"', page)[0]))
        server.kill()
        server.start()
    assert cures[0] > cures[1] > cures[0] - 600
    server.close()
