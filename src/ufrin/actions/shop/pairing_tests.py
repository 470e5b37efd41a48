"""The shop's own tests of pairings: noted, withdrawn, taken in from a file and written to one."""

from ufrin.core.exchange import pairing_tests_json
from ufrin.core.pairing.rules import OwnRule
from ufrin.store import pairing_tests
from ufrin.store.connection import Database
from ufrin.store.pairing_tests import StoredTest


def own_rules(database: Database, *, withdrawn: bool = False) -> tuple[StoredTest, ...]:
    """Read the shop's own tests."""
    with database.reading() as connection:
        return tuple(pairing_tests.every(connection, withdrawn=withdrawn))


def note(database: Database, rule: OwnRule) -> None:
    """Note a test."""
    with database.transaction() as connection:
        pairing_tests.add(connection, rule)


def withdraw(database: Database, number: int, *, withdrawn: bool) -> None:
    """Exclude a test, or include it again."""
    with database.transaction() as connection:
        pairing_tests.withdraw(connection, number, withdrawn=withdrawn)


def take_in(database: Database, data: bytes) -> tuple[int, int]:
    """Take tests in from a file: all of them, or none."""
    tests = pairing_tests_json.read(data)
    with database.transaction() as connection:
        fresh = sum(pairing_tests.add(connection, rule) for rule in tests)
    return fresh, len(tests) - fresh


def as_file(database: Database) -> str:
    """Write the tests that count to a file."""
    return pairing_tests_json.written([kept.rule for kept in own_rules(database)])
