"""Practice as it is kept: whose it is, what may be done next, and that nothing else is touched by it."""

import pytest
from practising import Maker

from ufrin.actions import RUBBERS
from ufrin.actions.bench import practice
from ufrin.actions.shelf import things
from ufrin.core.clocks.moment import Moment
from ufrin.core.practice.levels import MISHAPS
from ufrin.core.practice.practice_lines import Act, seconds_of
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.demo import RUBBERS as DEMO_RUBBERS
from ufrin.errors import Missing, Overtaken, Refused
from ufrin.store.connection import Database

DRIFT_SEED = 3  # the kinds are turned by the seed


def at(seconds: float) -> Moment:
    return Moment(wall_s=1_800_000_000 + seconds, steady_s=5_000 + seconds, machine="m")


def begin(database: Database, who: str = "Wren", *, level: str = "first", account_id: int | None = None) -> int:
    return practice.begin(
        database, who=who, account_id=account_id, level=level, rubber_id=None, now=at(0), seed=DRIFT_SEED
    )


def played(database: Database, number: int, *, notices: bool) -> None:
    """Let a maker work through it in memory, and keep the same lines one after another."""
    kept = practice.look(database, number, at(0)).kept
    maker = Maker(kept.setup, notices=MISHAPS if notices else (), lines=list(kept.lines))
    maker.work()
    for line in maker.lines[1:]:
        if line in maker.by_trainer:
            continue
        real_s = maker.table.real_s(seconds_of(line))
        if isinstance(line, Act):
            practice.act(database, number, line.kind, line.what, at(real_s))
        else:
            practice.enter(database, number, lambda _, line=line: line, at(real_s), sure=True)


def test_it_is_kept_line_by_line_and_reviewed_when_it_ends(database: Database) -> None:
    number = begin(database)
    played(database, number, notices=True)
    seen = practice.look(database, number, at(10_000))
    assert seen.table.is_over
    assert seen.kept.ended_at is not None
    assert seen.at_s == seen.table.last_s  # its clock stands still
    found = practice.practising(database, account_id=None, who="wren")
    assert [(one.id, one.past.level) for one in found.past] == [(number, "first")]
    assert found.past[0].past.review.is_well
    assert {one.kind: one.mastered for one in found.progress.mishaps}["drift"] == 1
    with pytest.raises(Refused, match="has ended"):
        practice.act(database, number, "cup", "", at(10_001))


def test_the_next_one_has_what_was_mastered_least(database: Database) -> None:
    number = begin(database)
    played(database, number, notices=True)
    again = begin(database)
    (mishap,) = practice.look(database, again, at(0)).kept.setup.mishaps
    assert mishap.kind != "drift"


def test_everybody_has_a_progress_of_their_own(database: Database) -> None:
    with database.transaction() as connection:
        row = connection.execute("insert into accounts (name, role) values ('Wren', 'maker') returning id").fetchone()
    account = row["id"] if row else 0
    number = begin(database, account_id=account)
    played(database, number, notices=False)
    assert [one.id for one in practice.practising(database, account_id=account, who="Wren").past] == [number]
    # a name alone is not the account of that name
    assert practice.practising(database, account_id=None, who="Wren").past == ()
    assert practice.practising(database, account_id=None, who="Finch").past == ()


def test_what_was_left_unfinished_makes_room_for_the_next(database: Database) -> None:
    first, other = begin(database), begin(database, "Finch")
    second = begin(database, "WREN")
    with pytest.raises(Missing):
        practice.look(database, first, at(0))
    assert practice.look(database, other, at(0)).kept.who == "Finch"
    assert practice.look(database, second, at(0)).kept.who == "WREN"


def test_it_takes_nothing_from_the_shelf_and_begins_no_pour(filled: Database) -> None:
    rubber = next(kept for kept in things.shelf(filled, RUBBERS).things if kept.thing.form == "liquid")
    with filled.reading() as connection:
        before = connection.execute(
            "select sum(left_g) as g, (select count(*) from pours) as pours from lots"
        ).fetchone()
    number = practice.begin(filled, who="Wren", account_id=None, level="third", rubber_id=rubber.id, now=at(0), seed=0)
    played(filled, number, notices=True)
    with filled.reading() as connection:
        assert (
            before
            == connection.execute("select sum(left_g) as g, (select count(*) from pours) as pours from lots").fetchone()
        )


@pytest.mark.parametrize(
    ("given", "says"),
    [
        ({"who": " \n "}, "Type your name"),
        ({"level": "fourth"}, "not one of the levels"),
        ({"rubber_id": 999}, "can't be practised with"),
    ],
)
def test_what_it_can_not_begin_with(database: Database, given: dict[str, object], says: str) -> None:
    usual = {"who": "Wren", "account_id": None, "level": "first", "rubber_id": None, "now": at(0)}
    with pytest.raises(Refused, match=says):
        practice.begin(database, **{**usual, **given})  # type: ignore[arg-type]


def test_a_putty_can_not_be_chosen(database: Database) -> None:
    putty = next(one for one in DEMO_RUBBERS if one.form == "putty")
    number = things.add(database, RUBBERS, putty)
    assert practice.practising(database, account_id=None, who="").rubbers == ()
    with pytest.raises(Refused, match="poured"):
        practice.begin(database, who="Wren", account_id=None, level="first", rubber_id=number, now=at(0))


def test_what_may_be_done_at_the_table_and_when(database: Database) -> None:
    number = begin(database)
    refused = (
        ("tip", "far", "no cup"),
        ("tip", "wildly", "not one"),
        ("dance", "far", "not one"),
        ("flag", "rain", "not one"),
    )
    for kind, what, says in refused:
        with pytest.raises(Refused, match=says):
            practice.act(database, number, kind, what, at(1))
    practice.act(database, number, "cup", "", at(1))
    for kind, says in (("cup", "already"), ("tip", "first")):
        with pytest.raises(Refused, match=says):
            practice.act(database, number, kind, "far", at(2))


def test_a_line_for_a_step_that_is_done_is_told_so(database: Database) -> None:
    number = begin(database)
    stirred = RecordEntry(number=2, at=at(1), kind="step", what="stir-a")
    practice.enter(database, number, lambda _: stirred, at(1), sure=False)
    with pytest.raises(Overtaken):
        practice.enter(database, number, lambda _: stirred, at(2), sure=False)
