"""Practice: begun, worked through line by line, reviewed when it ends; and how somebody gets on with it."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from datetime import UTC, datetime
from secrets import randbelow
from typing import cast

from ufrin.actions.bench.pours import Bench
from ufrin.core.clocks.moment import Moment
from ufrin.core.measures.quantity_kinds import Units
from ufrin.core.practice.levels import LEVELS, LevelKey, planted
from ufrin.core.practice.practice_lines import MOST_LINES, Act, ActKind, PracticeLine, PracticeSetup, moment
from ufrin.core.practice.practice_plan import may_be_practised, practice_plan
from ufrin.core.practice.practice_replay import first_entry, practice_table, weighed_again
from ufrin.core.practice.practice_review import Progress, progress, review
from ufrin.core.practice.practice_table import PracticeTable
from ufrin.core.rubber.tins import Rubber
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.core.weighing.record_rules import check_entry
from ufrin.core.wording.one_line import one_line
from ufrin.errors import Overtaken, Refused
from ufrin.language import Text
from ufrin.store import practices, workshop_settings
from ufrin.store.connection import Connection, Database
from ufrin.store.pours import StoredPour
from ufrin.store.practices import KeptPractice, StoredPractice
from ufrin.store.shelf import RUBBERS, Stored
from ufrin.store.workshop_settings import Workshop

LONGEST_WHO, SEEDS = 80, 1_000_000
# an invented rubber for a Shelf that has none which is poured
PRACTICE_RUBBER = Rubber(
    name="Practice silicone",
    a_name="Practice A",
    a_colour="white",
    b_name="Practice B",
    b_colour="blue",
    weight_a=100,
    weight_b=10,
    sg_mixed=1.1,
    pot_life_min=30,
    mix_least_min=3,
)


@dataclass(frozen=True, slots=True, kw_only=True)
class OpenPractice:
    """A practice as its page needs it, at a time by its own clock."""

    kept: StoredPractice
    table: PracticeTable
    at_s: float
    workshop: Workshop

    @property
    def now(self) -> Moment:
        """The moment at the bench."""
        return moment(self.at_s, self.kept.began.wall_s)

    @property
    def bench(self) -> Bench:
        """Its bench: of a pour that belongs to no job, and takes nothing out of a tin of the Shelf."""
        kept, record = self.kept, self.table.bench
        pour = StoredPour(
            id=kept.id,
            job_id=0,
            job_name=Text("Practice"),
            rubber_id=None,
            who=kept.who,
            plan=kept.setup.plan,
            entries=record.entries,
            started_at=datetime.fromtimestamp(kept.began.wall_s, UTC),
            finished_at=kept.ended_at,
        )
        return Bench(pour=pour, state=record, lots=(), workshop=self.workshop)


@dataclass(frozen=True, slots=True, kw_only=True)
class Practising:
    """What somebody may practise with, and how they get on."""

    rubbers: tuple[Stored[Rubber], ...]
    progress: Progress
    past: tuple[KeptPractice, ...]
    units: Units


def practising(database: Database, *, account_id: int | None, who: str) -> Practising:
    """Show how somebody gets on, and the rubbers that can be weighed."""
    with database.reading() as connection:
        past = practices.past(connection, account_id=account_id, who=who)
        return Practising(
            rubbers=_rubbers(connection),
            progress=_progress(past),
            past=tuple(past),
            units=workshop_settings.load(connection).units,
        )


def _rubbers(connection: Connection) -> tuple[Stored[Rubber], ...]:
    return tuple(kept for kept in RUBBERS.all(connection) if not kept.retired_at and may_be_practised(kept.thing))


def _rubber(connection: Connection, rubber_id: int | None) -> Rubber:
    if rubber_id is None:
        return PRACTICE_RUBBER
    found = next((kept for kept in _rubbers(connection) if kept.id == rubber_id), None)
    if found is None:
        raise Refused("rubber", Text("That rubber can't be practised with. Choose one that is poured."))
    return found.thing


def _progress(past: list[KeptPractice]) -> Progress:
    return progress([one.past for one in past], tuple(LEVELS))


def begin(
    database: Database,
    *,
    who: str,
    account_id: int | None,
    level: str,
    rubber_id: int | None,
    now: Moment,
    seed: int | None = None,
) -> int:
    """Begin a practice; its mishaps follow from a seed, and from those that this maker has mastered least.

    Raises Refused without a name, for a level that there is not, or a rubber that is not poured.
    """
    name = one_line(who)[:LONGEST_WHO]
    if not name:
        raise Refused("who", Text("Type your name: your progress is kept under it."))
    chosen = LEVELS.get(cast(LevelKey, level))
    if chosen is None:
        raise Refused("level", Text("That is not one of the levels. Choose again."))
    with database.transaction() as connection:
        rubber = _rubber(connection, rubber_id)
        mastered = _progress(practices.past(connection, account_id=account_id, who=name)).mastered
        setup = PracticeSetup(
            level=chosen,
            plan=practice_plan(rubber),
            mishaps=planted(chosen, randbelow(SEEDS) if seed is None else seed, mastered),
        )
        number = practices.begin(connection, account_id=account_id, who=name, setup=setup, began=now)
        practices.add(connection, number, [first_entry(now.wall_s)])
    return number


def look(database: Database, number: int, now: Moment) -> OpenPractice:
    """Show where a practice is."""
    with database.reading() as connection:
        return _open(connection, practices.look(connection, number), now)


def how_many_lines(database: Database, number: int) -> int:
    """Return how many lines a practice has, which tells whether it has gone on."""
    with database.reading() as connection:
        return practices.how_many_lines(connection, number)


def _open(connection: Connection, kept: StoredPractice, now: Moment) -> OpenPractice:
    table = practice_table(kept.setup, kept.lines)
    at_s = table.last_s if kept.ended_at else table.at_s(now.since_s(kept.began))
    return OpenPractice(kept=kept, table=table, at_s=at_s, workshop=workshop_settings.load(connection))


def act(database: Database, number: int, kind: str, what: str, now: Moment) -> OpenPractice:
    """Do something at the table: put a cup on, tip a tin, put it upright, or call something wrong.

    Raises Refused for what can't be done now.
    """
    with database.transaction() as connection:
        seen = _locked(connection, number, now)
        seen.table.check_act(kind, what)
        after = _with(connection, seen, [Act(at_s=seen.at_s, kind=cast(ActKind, kind), what=what)])
        if seen.table.steady_from_s is None and after.table.steady_from_s is not None:
            after = _with(connection, after, weighed_again(after.table, seen.at_s, seen.kept.began.wall_s))
        return after


def enter(
    database: Database, number: int, entry_at: Callable[[OpenPractice], RecordEntry], now: Moment, *, sure: bool
) -> OpenPractice:
    """Add a line to the record of a practice, by the rules of the bench; it ends once a cup is poured or given up.

    Raises Refused by the rules of the record, and Overtaken where it has gone on meanwhile.
    """
    with database.transaction() as connection:
        seen = _locked(connection, number, now)
        entry = entry_at(seen)
        if entry.number != seen.table.bench.next_number:
            raise Overtaken
        check_entry(seen.table.bench, entry, sure=sure)
        after = _with(connection, seen, [entry])
        if after.table.is_over:
            practices.end(connection, number, review(after.table), wall_s=now.wall_s)
            return _open(connection, practices.look(connection, number), now)
        return after


def _locked(connection: Connection, number: int, now: Moment) -> OpenPractice:
    seen = _open(connection, practices.look(connection, number, lock=True), now)
    if seen.kept.ended_at is not None:
        raise Refused("", Text("This practice has ended. Begin another."))
    if len(seen.kept.lines) >= MOST_LINES:
        raise Refused("", Text("This practice has too many steps. Begin another."))
    return seen


def _with(connection: Connection, seen: OpenPractice, lines: Sequence[PracticeLine]) -> OpenPractice:
    practices.add(connection, seen.kept.id, lines)
    kept = replace(seen.kept, lines=(*seen.kept.lines, *lines))
    return replace(seen, kept=kept, table=practice_table(kept.setup, kept.lines))
