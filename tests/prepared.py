"""Pours brought to where a test begins: steps ticked off, cups weighed through, some hours ago where it is wished."""

from dataclasses import replace

from ufrin.actions.bench import pours
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.devices import clock
from ufrin.store.connection import Database

KINDS = {"cup": "tare", "mix": "mixed", "pour": "poured", "do": "step"}


def do_steps(database: Database, number: int) -> None:
    """Tick the steps of the method off until something is to be weighed, mixed or poured."""
    while (state := pours.look(database, number).state).step.kind == "do":
        entry = RecordEntry(number=state.next_number, at=clock.now(), kind="step", what=state.step.key)
        pours.enter(database, number, entry, token=f"step-{entry.number}", sure=True)


def weigh_through(
    database: Database, job: int, *, number: int = 0, ago_h: float = 0.0, until: str = "", part: str = ""
) -> int:
    """Weigh a pour through to its end, or until a step is reached: of a part, where one is named."""
    now = clock.now()
    seconds = 3600 * ago_h
    begun = replace(now, wall_s=now.wall_s - seconds, steady_s=now.steady_s - seconds)
    number = number or pours.start(database, job, who="Wren", temp_c=23.0, what="the box", now=begun)
    while not (state := pours.look(database, number).state).is_finished:
        step, one = state.step, state.step.ingredient
        if step.kind == until and (not part or (one and one.key == part)):
            break
        entry = RecordEntry(
            number=state.next_number,
            at=begun,
            kind=KINDS.get(step.kind, step.kind),
            ingredient=one.key if one and step.kind in {"hold", "weigh"} else "",
            net_g=step.target_g if step.kind == "weigh" else 3.0 if step.kind == "leftover" else None,
            what=step.key,
        )
        pours.enter(database, number, entry, token=f"through-{entry.number}", sure=True)
    return number
