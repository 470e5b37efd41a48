"""Accounts: the first owner, everybody else, what each may do, and codes with which a password is chosen."""

from ufrin.actions.people import passwords, signing_in, tokens
from ufrin.actions.people.party import Party, at_work
from ufrin.actions.people.signing_in import SessionLimits, checked_name, count_try
from ufrin.errors import NotSignedIn, Refused
from ufrin.language import Text
from ufrin.store import accounts, devices, sessions
from ufrin.store.accounts import ROLES, Account, Role
from ufrin.store.connection import Connection, Database

OWNER_CODE_S = 24 * 3600.0
PASSWORD_CODE_S = 3 * 24 * 3600.0
NO_CODE = Text("This code is not known, was used already, or is too old. Ask for a new one.")


def has_owner(database: Database) -> bool:
    """Return whether there is an owner who can sign in."""
    with database.reading() as connection:
        return accounts.has_owner(connection)


def owner_code(database: Database) -> str | None:
    """Make the code with which the first owner is entered; None where there is an owner. Earlier codes stop working."""
    code = tokens.new_code(tokens.LONG_SIGNS)
    with database.transaction() as connection:
        if accounts.has_owner(connection):
            return None
        devices.forget_codes(connection, "owner")
        devices.add_code(connection, tokens.code_hash(code), "owner", lasts_s=OWNER_CODE_S)
    return code


def enter_owner(
    database: Database,
    *,
    code: str,
    name: str,
    password: str,
    again: str,
    address: str,
    program: str,
    limits: SessionLimits,
) -> str:
    """Enter the first owner, who is signed in with the token that is returned.

    Raises Refused for a wrong code, name or password, or when there is an owner already. Raises TooManyTries.
    """
    name = checked_name(name)
    _check_passwords(name, password, again)
    count_try(database, name=Text("owner's code"), address=address)
    hashed, token = passwords.hashed(password), tokens.new_token()
    with at_work(Party(who="owner", name=name)), database.transaction() as connection:
        if devices.use_code(connection, tokens.code_hash(code), "owner") is None:
            raise Refused("code", Text("This is not the code that the terminal shows. Type it as it is there."))
        if accounts.has_owner(connection):
            raise Refused("", Text("There is an owner already. Sign in, or ask the owner for an account."))
        account_id = accounts.add(connection, name=name, role="owner", hashed=hashed)
        sessions.forget_failures(connection, name=Text("owner's code"), address=address)
        signing_in.begin(connection, token, account_id, program=program, limits=limits)
    return token


def every(database: Database) -> list[Account]:
    """List everybody who has an account."""
    with database.reading() as connection:
        return accounts.every(connection)


def account_of(database: Database, party: Party) -> int | None:
    """Return the account of whoever is at work: signed in, or standing at a tablet; None where it is not known."""
    if party.account_id is not None or not party.stands:
        return party.account_id
    with database.reading() as connection:
        return accounts.called(connection, party.stands)


def add(database: Database, party: Party, *, name: str, role: str, own_password: str) -> tuple[int, str]:
    """Enter somebody, and return their number with the code with which they choose a password.

    Raises Refused for a name that is taken, an unknown role or a wrong password of one's own.
    """
    name, chosen = checked_name(name), _checked_role(role)
    signing_in.check_own_password(database, party, own_password, field="own_password")
    with database.transaction() as connection:
        account_id = accounts.add(connection, name=name, role=chosen, hashed="")
        return account_id, _password_code(connection, account_id, party)


def new_code(database: Database, party: Party, account_id: int) -> str:
    """Make a new code with which somebody chooses a password; the one they had works until then."""
    with database.transaction() as connection:
        if accounts.one(connection, account_id).ended_at is not None:
            raise Refused("", Text("This person may not sign in any more. Take that back first."))
        return _password_code(connection, account_id, party)


def _password_code(connection: Connection, account_id: int, party: Party) -> str:
    code = tokens.new_token()
    devices.forget_codes(connection, "password", account_id=account_id)
    devices.add_code(
        connection, tokens.hash_of(code), "password", lasts_s=PASSWORD_CODE_S, made_by=party.name, account_id=account_id
    )
    return code


def whose_code(database: Database, code: str) -> Account:
    """Return whose password is chosen with a code.

    Raises NotSignedIn when it may not be used.
    """
    with database.reading() as connection:
        found = devices.code(connection, tokens.hash_of(code), "password")
        if found is None or found.account_id is None:
            raise NotSignedIn(NO_CODE)
        return accounts.one(connection, found.account_id)


def choose_password(
    database: Database, *, code: str, password: str, again: str, program: str, limits: SessionLimits
) -> str:
    """Choose a password with a code, sign out everywhere else, and return the token of a new session.

    Raises NotSignedIn when the code may not be used; Refused for a password that is not good enough.
    """
    account = whose_code(database, code)
    _check_passwords(account.name, password, again)
    hashed, token = passwords.hashed(password), tokens.new_token()
    with at_work(Party(who=account.role, name=account.name)), database.transaction() as connection:
        if devices.use_code(connection, tokens.hash_of(code), "password") is None:
            raise NotSignedIn(NO_CODE)
        accounts.set_password(connection, account.id, hashed)
        sessions.end_all(connection, account.id)
        signing_in.begin(connection, token, account.id, program=program, limits=limits)
    return token


def change_role(database: Database, party: Party, account_id: int, role: str, *, own_password: str) -> None:
    """Change what somebody may do; it counts from their next request on.

    Raises Refused when nobody else would be owner, or one's own password is wrong.
    """
    chosen = _checked_role(role)
    signing_in.check_own_password(database, party, own_password, field="own_password")
    with database.transaction() as connection:
        if chosen != "owner":
            _must_keep_an_owner(connection, account_id)
        accounts.change_role(connection, account_id, chosen)


def end(database: Database, account_id: int) -> None:
    """Let somebody sign in no more, and sign them out everywhere. What they did stays under their name.

    Raises Refused when nobody else would be owner.
    """
    with database.transaction() as connection:
        _must_keep_an_owner(connection, account_id)
        accounts.end(connection, account_id)
        sessions.end_all(connection, account_id)
        devices.forget_codes(connection, "password", account_id=account_id)


def take_back(database: Database, party: Party, account_id: int) -> str:
    """Let somebody who had left sign in again, and return the code with which they choose a password."""
    with database.transaction() as connection:
        accounts.take_back(connection, account_id)
        return _password_code(connection, account_id, party)


def _must_keep_an_owner(connection: Connection, account_id: int) -> None:
    if accounts.one(connection, account_id).role == "owner" and not accounts.has_another_owner(connection, account_id):
        raise Refused("role", Text("There would be no owner left who can sign in. Make somebody else owner first."))


def _checked_role(role: str) -> Role:
    for known in ROLES:
        if role == known:
            return known
    raise Refused("role", Text("That is not one of the roles. Choose again."))


def _check_passwords(name: str, password: str, again: str) -> None:
    passwords.check_new(password, name=name)
    if password != again:
        raise Refused("again", Text("The two are not the same. Type the password once more."))
