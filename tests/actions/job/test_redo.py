"""Redo and the history of a station."""

import pytest
from hypothesis import given
from hypothesis import strategies as st
from thoroughness import examples

from ufrin.actions.job import stations
from ufrin.actions.job.history import station_history
from ufrin.errors import Stale
from ufrin.store.connection import Database, doer


def change(database: Database, job: int, **changes: object) -> None:
    version = stations.station_form(database, job, "box").job.versions["box"]
    stations.change_station(database, job, "box", version=version, changes=changes, own_step=True)


def step(database: Database, job: int, act: str) -> None:
    version = stations.station_form(database, job, "box").job.versions["box"]
    {"undo": stations.undo, "redo": stations.redo}[act](database, job, "box", version=version)


def held(database: Database, job: int) -> tuple[object, bool, bool]:
    kept = stations.open_job(database, job, "box").job
    return kept.box, kept.can_undo, kept.can_redo


@given(st.lists(st.sampled_from(["change", "undo", "redo"]), max_size=14))
@examples(25, on_one_database=True)
def test_it_is_a_line_of_states_with_a_place_on_it(database: Database, acts: list[str]) -> None:
    job = stations.start_job(database, "Cleat")
    line, at = [held(database, job)[0]], 0  # the same rule, kept as a list
    for number, act in enumerate(acts, 1):
        if act == "change":
            change(database, job, side_mm=float(number))
            line, at = [*line[: at + 1], held(database, job)[0]], at + 1
        else:
            step(database, job, act)
            at = max(0, at - 1) if act == "undo" else min(len(line) - 1, at + 1)
        assert held(database, job) == (line[at], at > 0, at < len(line) - 1)
    told = station_history(database, job, "box")
    assert len(told) == at
    for one, (before, after) in zip(reversed(told), zip(line, line[1:], strict=False), strict=False):
        assert one.changed == {"side_mm": (before.side_mm, after.side_mm)}


def test_redo_is_refused_when_somebody_saved_meanwhile(database: Database) -> None:
    job = stations.start_job(database, "Cleat")
    change(database, job, side_mm=14.0)
    step(database, job, "undo")
    with pytest.raises(Stale):
        stations.redo(database, job, "box", version=1)
    assert held(database, job)[1:] == (False, True)


def test_a_step_names_who_made_it(database: Database) -> None:
    job = stations.start_job(database, "Cleat")
    for name, side_mm in (("Wren", 14.0), ("Tamsin", 16.0)):
        token = doer.set(name)
        try:
            change(database, job, side_mm=side_mm)
        finally:
            doer.reset(token)
    assert [(one.doer, one.changed) for one in station_history(database, job, "box")] == [
        ("Tamsin", {"side_mm": (14.0, 16.0)}),
        ("Wren", {"side_mm": (None, 14.0)}),
    ]


def test_stations_do_not_share_what_was_undone(database: Database) -> None:
    job = stations.start_job(database, "Cleat")
    change(database, job, side_mm=14.0)
    step(database, job, "undo")
    version = stations.station_form(database, job, "master").job.versions["master"]
    stations.change_station(database, job, "master", version=version, changes={"mass_g": 90.0})
    assert held(database, job)[2]  # what is changed at the Master leaves the Box's redo alone
    assert not stations.open_job(database, job, "master").job.can_redo
