"""The shop's own tests as they are kept."""

from dataclasses import asdict, dataclass
from datetime import datetime

from ufrin.core.pairing.rules import OwnRule
from ufrin.errors import Missing, Refused
from ufrin.language import Text
from ufrin.store.connection import Connection
from ufrin.store.queries import named_queries

_SQL = named_queries("pairing_tests")
MOST_RULES = 2000


@dataclass(frozen=True, slots=True, kw_only=True)
class StoredTest:
    """A test, and since when it is withdrawn."""

    rule: OwnRule
    withdrawn_at: datetime | None


def every(connection: Connection, *, withdrawn: bool = False) -> list[StoredTest]:
    """Read the shop's own tests."""
    rows = connection.execute(_SQL["all"], {"withdrawn": withdrawn, "limit": MOST_RULES}).fetchall()
    return [
        StoredTest(
            rule=OwnRule(
                id=row["id"],
                pour=row["pour"],
                touches=row["touches"],
                between=row["between_kind"],
                verdict=row["verdict"],
                why=row["why"],
                tried_on=row["tried_on"].isoformat(),
                rubber=row["rubber"],
            ),
            withdrawn_at=row["withdrawn_at"],
        )
        for row in rows
    ]


def add(connection: Connection, rule: OwnRule) -> bool:
    """Keep a test.

    Raises Refused when its rubber is not on the Shelf, or there are too many.
    """
    if rule.rubber and connection.execute(_SQL["rubber"], {"rubber": rule.rubber}).fetchone() is None:
        raise Refused(
            "rubber",
            Text(
                "“{rubber}” is not on the Shelf. Put it there first, or leave the rubber away: the "
                "test then holds for its kind.",
                rubber=rule.rubber[:60],
            ),
        )
    counted = connection.execute(_SQL["count"]).fetchone()
    if counted and counted["rules"] >= MOST_RULES:
        raise Refused(
            "",
            Text(
                "There are {most_rules} tests already, the most that Ufrin keeps in use. Withdraw old ones first.",
                most_rules=MOST_RULES,
            ),
        )
    return connection.execute(_SQL["add"], asdict(rule)).fetchone() is not None


def withdraw(connection: Connection, number: int, *, withdrawn: bool) -> None:
    """Exclude a test, or include it again.

    Raises Missing when there is none.
    """
    if connection.execute(_SQL["withdraw"], {"id": number, "withdrawn": withdrawn}).fetchone() is None:
        raise Missing(Text("this test"))
