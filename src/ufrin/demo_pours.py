"""The demo's past pours: weighed through at the bench like any other, some months ago."""

from dataclasses import replace

from ufrin.actions import Database
from ufrin.actions.bench import pours
from ufrin.actions.bench.pours import Bench
from ufrin.core.clocks.moment import Moment
from ufrin.core.rubber.cure_times import time_at
from ufrin.core.weighing.record_entries import EntryKind, RecordEntry

# job, days ago, who, A over what was asked for in g, left over in g
PAST: tuple[tuple[int, int, str, float, float], ...] = (
    (1, 210, "Wren", 3.1, 14.0),
    (9, 181, "Wren", 0.4, 31.0),
    (8, 166, "Tamsin", -0.6, 12.0),
    (7, 150, "Tamsin", 1.2, 9.0),
    (9, 139, "Wren", 2.2, 26.0),
    (7, 121, "Wren", 0.3, 17.0),
    (8, 98, "Wren", 0.9, 15.0),
    (9, 80, "Tamsin", -1.1, 22.0),
    (7, 61, "Tamsin", 2.6, 4.0),
    (9, 44, "Wren", 0.8, 28.0),
    (8, 27, "Tamsin", 0.2, 13.0),
    (9, 12, "Wren", 1.4, 25.0),
)
# what the witness cups said, at which share of the time that the tin states: these rubbers are quick in this shop
PRESSED = (("sticky", 0.7), ("set", 0.92))
# job, hours ago, who, what the cup said 40 minutes ago: poured when the demo is filled, so that clocks run in it
TODAY: tuple[tuple[int, float, str, str], ...] = (
    (12, 3.0, "Tamsin", "sticky"),
    (6, 6.5, "Wren", ""),
    (9, 8.5, "Wren", "liquid"),
)
FIRST_S = 1_795_600_000.0  # late in November 2026
MINUTE_S = 60.0
LATER_MIN = 40.0  # nobody stands beside it when its clock ends


class _Hand:
    """A maker's hand: writes one line after the other, a while apart."""

    def __init__(self, database: Database, number: int, at_s: float, begun: Moment | None = None) -> None:
        self._database, self.number, self._at_s = database, number, at_s
        self._begun = begun or Moment(wall_s=at_s, steady_s=at_s, machine="demo")
        self.bench = pours.look(database, number)

    def min_until(self, wall_s: float) -> float:
        return max(0.0, wall_s - self._at_s) / MINUTE_S

    def write(
        self,
        kind: EntryKind,
        *,
        after_min: float = 1.0,
        ingredient: str = "",
        net_g: float | None = None,
        what: str = "",
    ) -> Bench:
        self._at_s += after_min * MINUTE_S
        passed_s = self._at_s - self._begun.wall_s
        at = replace(self._begun, wall_s=self._at_s, steady_s=self._begun.steady_s + passed_s)
        number = self.bench.state.next_number
        entry = RecordEntry(number=number, at=at, kind=kind, ingredient=ingredient, net_g=net_g, what=what)
        self.bench = pours.enter(self._database, self.number, entry, token=f"demo-{entry.number}", sure=True)
        return self.bench


def pour_before(database: Database) -> None:
    """Pour what was poured before the demo begins.

    Parameters
    ----------
    database : Database
        With the demo's jobs.
    """
    for job_id, days, who, over_g, left_g in PAST:
        begun = FIRST_S - days * 86_400.0
        number = pours.start(
            database,
            job_id,
            who=who,
            temp_c=19.0 + days % 5,
            what="the box",
            now=Moment(wall_s=begun, steady_s=begun, machine="demo"),
        )
        hand = _Hand(database, number, begun)
        weigh_through(hand, over_g, left_g)
        take_out(hand)


def weigh_through(hand: _Hand, over_g: float, left_g: float) -> None:
    """Weigh every batch of a pour.

    Parameters
    ----------
    hand : _Hand
        At the pour.
    over_g, left_g : float
        How much more A than asked for, in each batch, and what is left over in the last.
    """
    while not hand.bench.state.is_finished:
        step = hand.bench.state.step
        one = step.ingredient
        if step.kind == "hold" and one:
            hand.write("hold", ingredient=one.key)
        elif step.kind == "weigh" and one:
            net_g = round(step.target_g + (over_g if one.key == "A" else 0.0), 1)
            hand.write("weigh", ingredient=one.key, net_g=net_g)
        elif step.kind == "do":
            hand.write("step", what=step.key, after_min=max(0.5, step.least_min))
        elif step.kind == "leftover":
            last = hand.bench.state.attempt.batch + 1 == len(hand.bench.state.plan.batches)
            hand.write("leftover", net_g=left_g if last else 0.0)
        else:
            hand.write(_SAYS[step.kind])


def take_out(hand: _Hand) -> None:
    """Take a mould out of its box once its clock has ended.

    Parameters
    ----------
    hand : _Hand
        At a pour that is finished.
    """
    state = hand.bench.state
    ends_s, poured = state.clocks.end_s("demould"), state.clocks.poured
    if state.plan.demould_min and poured and poured[-1].contact:
        tin_s = 60 * time_at(state.plan.demould_min, state.room_temp_c)
        for what, share in PRESSED:
            at_s = poured[-1].contact.wall_s + share * tin_s
            hand.write("witness", what=what, after_min=hand.min_until(at_s))
    hand.write("demould", what="well", after_min=hand.min_until(ends_s) + LATER_MIN if ends_s else LATER_MIN)


def pour_today(database: Database, now: Moment) -> None:
    """Pour what cures while somebody looks at the demo for the first time.

    Parameters
    ----------
    database : Database
        With the demo's jobs.
    now : Moment
        When the demo is filled.
    """
    for job_id, hours, who, pressed in TODAY:
        begun = replace(now, wall_s=now.wall_s - 3600 * hours, steady_s=now.steady_s - 3600 * hours)
        number = pours.start(database, job_id, who=who, temp_c=21.0, what="the box", now=begun)
        hand = _Hand(database, number, begun.wall_s, begun)
        weigh_through(hand, 0.4, 9.0)
        if pressed:
            hand.write("witness", what=pressed, after_min=hand.min_until(now.wall_s - 2400))


_SAYS: dict[str, EntryKind] = {"cup": "tare", "mix": "mixed", "pour": "poured", "finish": "finish"}
