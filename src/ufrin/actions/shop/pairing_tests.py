"""The shop's own tests of pairings: noted, withdrawn, taken in from a file and written to one."""

from ufrin.core.exchange import pairing_tests_json
from ufrin.core.pairing.rules import OwnRule
from ufrin.store import pairing_tests
from ufrin.store.connection import Database
from ufrin.store.pairing_tests import StoredTest


def own_rules(database: Database, *, withdrawn: bool = False) -> tuple[StoredTest, ...]:
    """Read the shop's own tests.

    Parameters
    ----------
    database : Database
        The record book.
    withdrawn : bool, optional
        Whether those that no longer count are wanted too.

    Returns
    -------
    tuple of StoredTest
        Newest first.
    """
    with database.reading() as connection:
        return tuple(pairing_tests.every(connection, withdrawn=withdrawn))


def note(database: Database, rule: OwnRule) -> None:
    """Note a test.

    Parameters
    ----------
    database : Database
        The record book.
    rule : OwnRule
        What came of it; where an older one says otherwise of the same case, this one counts if it was tried later.
    """
    with database.transaction() as connection:
        pairing_tests.add(connection, rule)


def withdraw(database: Database, number: int, *, withdrawn: bool) -> None:
    """Count on a test no longer, or again.

    Parameters
    ----------
    database : Database
        The record book.
    number : int
        Of the test.
    withdrawn : bool
        No longer, or again.
    """
    with database.transaction() as connection:
        pairing_tests.withdraw(connection, number, withdrawn=withdrawn)


def take_in(database: Database, data: bytes) -> tuple[int, int]:
    """Take tests in from a file: all of them, or none.

    Parameters
    ----------
    database : Database
        The record book.
    data : bytes
        The file.

    Returns
    -------
    int, int
        How many were new, and how many were there already.
    """
    told = pairing_tests_json.read(data)
    with database.transaction() as connection:
        fresh = sum(pairing_tests.add(connection, rule) for rule in told)
    return fresh, len(told) - fresh


def as_file(database: Database) -> str:
    """Write the tests that count to a file.

    Parameters
    ----------
    database : Database
        The record book.

    Returns
    -------
    str
        JSON.
    """
    return pairing_tests_json.written([kept.rule for kept in own_rules(database)])
