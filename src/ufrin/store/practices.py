"""Practices as they are kept: what each is about, its lines, to which is only added, and what came of it."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from datetime import datetime
from typing import Any

from psycopg.types.json import Jsonb
from pydantic import TypeAdapter

from ufrin.core.clocks.moment import Moment
from ufrin.core.practice.levels import LEVELS, Mishap
from ufrin.core.practice.practice_lines import Act, PracticeLine, PracticeSetup
from ufrin.core.practice.practice_review import PastPractice, PracticeReview
from ufrin.core.weighing.record_entries import RecordEntry
from ufrin.core.weighing.weigh_plan import WeighPlan
from ufrin.errors import Missing
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("practices")
_PLAN, _MISHAPS = TypeAdapter(WeighPlan), TypeAdapter(tuple[Mishap, ...])
_ENTRY, _ACT, _REVIEW = TypeAdapter(RecordEntry), TypeAdapter(Act), TypeAdapter(PracticeReview)
MOST_LISTED = 100


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredPractice:
    """A practice with its number, who practises, when it began, and its lines."""

    id: int
    account_id: int | None
    who: str
    setup: PracticeSetup
    began: Moment
    lines: tuple[PracticeLine, ...]
    ended_at: datetime | None


@dataclass(frozen=True, slots=True, kw_only=True)
class KeptPractice:
    """A practice that has ended, as it is listed."""

    id: int
    rubber: str
    ended_at: datetime
    past: PastPractice


def begin(connection: Connection, *, account_id: int | None, who: str, setup: PracticeSetup, began: Moment) -> int:
    """Keep a practice that begins."""
    row = connection.execute(
        _SQL["begin"],
        {
            "account_id": account_id,
            "who": who,
            "level": setup.level.key,
            "plan": Jsonb(asdict(setup.plan)),
            "mishaps": Jsonb([asdict(one) for one in setup.mishaps]),
            "wall_s": began.wall_s,
            "steady_s": began.steady_s,
            "machine": began.machine,
        },
    ).fetchone()
    return int(row["id"]) if row else 0


def look(connection: Connection, number: int, *, lock: bool = False) -> StoredPractice:
    """Read a practice with its lines.

    Raises Missing when there is none.
    """
    row = connection.execute(_SQL["lock" if lock else "look"], {"id": number}).fetchone()
    if row is None:
        raise Missing(Text("this practice"))
    lines = connection.execute(_SQL["lines"], {"id": number}).fetchall()
    return StoredPractice(
        setup=PracticeSetup(
            level=LEVELS[row["level"]],
            plan=_PLAN.validate_python(row["plan"]),
            mishaps=_MISHAPS.validate_python(row["mishaps"]),
        ),
        began=Moment(wall_s=row["began_at"].timestamp(), steady_s=row["steady_s"], machine=row["machine"]),
        lines=tuple(_line(line) for line in lines),
        **{key: row[key] for key in ("id", "account_id", "who", "ended_at")},
    )


def _line(row: Mapping[str, Any]) -> PracticeLine:
    return _ACT.validate_python(row["line"]) if row["is_act"] else _ENTRY.validate_python(row["line"])


def how_many_lines(connection: Connection, number: int) -> int:
    """Return how many lines a practice has."""
    row = connection.execute(_SQL["how_many"], {"id": number}).fetchone()
    return int(row["lines"]) if row else 0


def add(connection: Connection, number: int, lines: Sequence[PracticeLine]) -> None:
    """Keep more lines of a practice that is locked."""
    for line in lines:
        values = {"id": number, "is_act": isinstance(line, Act), "line": Jsonb(asdict(line))}
        connection.execute(_SQL["add"], values)


def end(connection: Connection, number: int, review: PracticeReview, *, wall_s: float) -> None:
    """Keep what came of a practice."""
    connection.execute(_SQL["end"], {"id": number, "review": Jsonb(asdict(review)), "wall_s": wall_s})


def past(connection: Connection, *, account_id: int | None, who: str) -> list[KeptPractice]:
    """Read what somebody practised, the newest first: by the account, or by the name where there is none."""
    rows = connection.execute(_SQL["past"], {"account_id": account_id, "who": who, "limit": MOST_LISTED}).fetchall()
    return [
        KeptPractice(
            id=row["id"],
            rubber=row["rubber"],
            ended_at=row["ended_at"],
            past=PastPractice(level=row["level"], review=_REVIEW.validate_python(row["review"])),
        )
        for row in rows
    ]
