"""The demo's past pours: weighed through at the bench like any other, some months ago."""

from ufrin.actions import Database
from ufrin.actions.bench import pours
from ufrin.actions.bench.pours import Bench
from ufrin.core.weighing.pot_life_clock import Moment
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
FIRST_S = 1_795_600_000.0  # late in November 2026
MINUTE_S = 60.0


class _Hand:
    """A maker's hand: writes one line after the other, a while apart."""

    def __init__(self, database: Database, number: int, at_s: float) -> None:
        self._database, self.number, self._at_s = database, number, at_s
        self.bench = pours.look(database, number)

    def write(
        self, kind: EntryKind, *, after_min: float = 1.0, ingredient: str = "", net_g: float | None = None
    ) -> Bench:
        self._at_s += after_min * MINUTE_S
        at = Moment(wall_s=self._at_s, steady_s=self._at_s, machine="demo")
        entry = RecordEntry(number=self.bench.state.next_number, at=at, kind=kind, ingredient=ingredient, net_g=net_g)
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
        weigh_through(_Hand(database, number, begun), over_g, left_g)


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
        elif step.kind == "leftover":
            last = hand.bench.state.attempt.batch + 1 == len(hand.bench.state.plan.batches)
            hand.write("leftover", net_g=left_g if last else 0.0)
        else:
            hand.write(_SAYS[step.kind])


_SAYS: dict[str, EntryKind] = {"cup": "tare", "mix": "mixed", "pour": "poured", "finish": "finish"}
