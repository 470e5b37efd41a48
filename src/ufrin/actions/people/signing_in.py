"""Signing in and out: sessions that end by themselves, and a limit on tries."""

import unicodedata
from dataclasses import dataclass

import structlog

from ufrin.actions.people import passwords, tokens
from ufrin.actions.people.party import NOBODY, Party
from ufrin.errors import NotSignedIn, Refused, TooManyTries
from ufrin.language import Text
from ufrin.store import accounts, devices, sessions
from ufrin.store.connection import Connection, Database
from ufrin.store.sessions import Session

log = structlog.get_logger()
LONGEST_NAME = 60
# failed tries that are let pass: in a quarter of an hour under one name from one address, and from one address; in an
# hour under one name, so that nobody is kept out for long by somebody else's tries
MOST_HERE, MOST_OF_ADDRESS, MOST_OF_NAME = 5, 20, 50


@dataclass(frozen=True, slots=True, kw_only=True)
class SessionLimits:
    """How long a session lasts: without use, and at most."""

    idle_h: int
    longest_h: int


def plain_name(name: str) -> str:
    """Return a name as it is kept: one way to write each character, and single spaces."""
    return " ".join(unicodedata.normalize("NFKC", name).split())[: LONGEST_NAME + 1]


def checked_name(typed: str, *, field: str = "name", example: str = "") -> str:
    """Return a name as it is kept.

    Raises Refused for one that is empty, too long, or has signs that can't be shown.
    """
    name = plain_name(typed)
    if not 1 <= len(name) <= LONGEST_NAME or not name.isprintable():
        raise Refused(
            field,
            Text(
                "A name has 1 to {longest_name} characters{example}.",
                longest_name=LONGEST_NAME,
                example=Text(", such as {example}", example=example) if example else "",
            ),
        )
    return name


def sign_in(database: Database, *, name: str, password: str, address: str, program: str, limits: SessionLimits) -> str:
    """Sign somebody in, and return the token of the new session.

    Raises NotSignedIn, without saying which of the two was wrong; TooManyTries after too many.
    """
    name = plain_name(name)
    tried = name.casefold()
    count_try(database, name=tried, address=address)
    with database.reading() as connection:
        found = accounts.to_sign_in(connection, name)
    right, anew = passwords.is_right(password, found[1] if found else "")
    if not (right and found):
        log.warning("somebody could not sign in", address=address)
        raise NotSignedIn(
            Text("The name or the password is not right. Check both, with their capitals, then try again.")
        )
    token = tokens.new_token()
    with database.transaction() as connection:
        sessions.forget_failures(connection, name=tried, address=address)
        if anew:
            accounts.set_password(connection, found[0], anew)
        begin(connection, token, found[0], program=program, limits=limits)
    log.info("signed in", account=found[0], address=address)
    return token


def begin(connection: Connection, token: str, account_id: int, *, program: str, limits: SessionLimits) -> None:
    """Begin a session, and forget those that have ended."""
    sessions.tidy(connection, idle_h=limits.idle_h)
    sessions.begin(connection, tokens.hash_of(token), account_id, longest_h=limits.longest_h, program=program)


def count_try(database: Database, *, name: str, address: str) -> None:
    """Count a try before it is looked at, so that many at once count as well; it is forgotten when it succeeds.

    Raises TooManyTries.
    """
    with database.transaction() as connection:
        sessions.failed(connection, name=name, address=address)
        so_far = sessions.failures(connection, name=name, address=address)
        # raised in here, so that tries which are not looked at leave no row behind however many there are
        if so_far.here > MOST_HERE or so_far.address > MOST_OF_ADDRESS or so_far.name > MOST_OF_NAME:
            log.warning("too many tries", address=address)
            raise TooManyTries


def party_of(
    database: Database, *, session: str, device: str, key: str, limits: SessionLimits, is_use: bool = True
) -> Party:
    """Return who makes a request, by the token of a session, of a bench device, or of a script.

    A page that asks by itself, again and again, is no use of a session: it would never be idle.
    """
    if not (session or device or key):
        return NOBODY
    with database.reading() as connection:
        if session and (party := _of_session(connection, session, limits, is_use=is_use)):
            return party
        if device and (party := _of_device(connection, device, "bench")):
            return party
        if key and (party := _of_device(connection, key, "script")):
            return party
    return NOBODY


def _of_session(connection: Connection, token: str, limits: SessionLimits, *, is_use: bool) -> Party | None:
    hashed = tokens.hash_of(token)
    found = sessions.of_token(connection, hashed, idle_h=limits.idle_h)
    if found is None:
        return None
    if found.is_seen_anew and is_use:
        sessions.seen(connection, hashed)
    return Party(who=found.role, name=found.name, account_id=found.account_id, token_hash=hashed)


def _of_device(connection: Connection, token: str, kind: str) -> Party | None:
    hashed = tokens.hash_of(token)
    found = devices.of_token(connection, hashed)
    if found is None or found.kind != kind:
        return None
    if found.is_seen_anew:
        devices.seen(connection, found.id)
    return Party(who=found.kind, name=found.name, device_id=found.id, stands=found.who, token_hash=hashed)


def sign_out(database: Database, party: Party) -> None:
    """End the session that somebody is signed in with here."""
    with database.transaction() as connection:
        sessions.end(connection, party.token_hash)


def sign_out_everywhere(database: Database, party: Party) -> None:
    """End every session of somebody, this one as well."""
    if party.account_id is not None:
        with database.transaction() as connection:
            sessions.end_all(connection, party.account_id)


def my_sessions(database: Database, party: Party, limits: SessionLimits) -> list[Session]:
    """List where somebody is signed in."""
    if party.account_id is None:
        return []
    with database.reading() as connection:
        return sessions.of_account(connection, party.account_id, party.token_hash, idle_h=limits.idle_h)


def change_password(database: Database, party: Party, *, old: str, new: str, again: str) -> None:
    """Change one's own password, and sign out everywhere but here.

    Raises Refused when the old one is wrong, or the new one is not good enough or typed differently the second time.
    Raises TooManyTries.
    """
    if party.account_id is None:
        raise Refused("old", Text("Nobody is signed in here, so there is no password to change."))
    check_own_password(database, party, old, field="old")
    passwords.check_new(new, name=party.name, field="new")
    if new != again:
        raise Refused("again", Text("The two are not the same. Type the new password once more."))
    hashed = passwords.hashed(new)
    with database.transaction() as connection:
        accounts.set_password(connection, party.account_id, hashed)
        sessions.end_all(connection, party.account_id, besides=party.token_hash)


def check_own_password(database: Database, party: Party, password: str, *, field: str) -> None:
    """Check somebody's own password before something that matters; where nobody signs in there is none.

    Raises Refused when it is wrong; TooManyTries after too many.
    """
    if party.account_id is None:
        return
    with database.reading() as connection:
        kept = accounts.password_hash(connection, party.account_id)
    tried = f"#{party.account_id}"
    count_try(database, name=tried, address=tried)
    if not passwords.is_right(password, kept)[0]:
        raise Refused(field, Text("This is not your password. Type the one that you sign in with."))
    with database.transaction() as connection:
        sessions.forget_failures(connection, name=tried, address=tried)
