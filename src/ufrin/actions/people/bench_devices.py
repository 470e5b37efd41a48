"""Bench devices and scripts: joined by a code that works once for two minutes, and thrown out at a tap."""

from dataclasses import dataclass

from ufrin.actions.people import tokens
from ufrin.actions.people.party import Party, at_work
from ufrin.actions.people.signing_in import checked_name, count_try
from ufrin.errors import NotSignedIn, Refused
from ufrin.language import Text
from ufrin.store import accounts, devices, sessions
from ufrin.store.connection import Database
from ufrin.store.devices import Device

JOIN_CODE_S = 120.0
EXAMPLE = Text("Bench by the window")
NO_CODE = Text(
    "This code was used already, or is older than two minutes. Show a new one on the page "
    "Devices, and scan it with the tablet."
)


@dataclass(frozen=True, slots=True, kw_only=True)
class JoinCode:
    """A code that a tablet joins with, and for how long it works."""

    code: str
    lasts_s: float


def every(database: Database) -> list[Device]:
    """List the devices that have joined."""
    with database.reading() as connection:
        return devices.every(connection)


def show_code(database: Database, party: Party) -> JoinCode:
    """Make a code that one tablet can join with."""
    code = tokens.new_code()
    with database.transaction() as connection:
        devices.add_code(
            connection,
            tokens.code_hash(code),
            "device",
            lasts_s=JOIN_CODE_S,
            made_by=party.name,
            account_id=party.account_id,
        )
    return JoinCode(code=code, lasts_s=JOIN_CODE_S)


def was_used(database: Database, code: str) -> bool:
    """Return whether a tablet has joined with a code."""
    with database.reading() as connection:
        return devices.was_used(connection, tokens.code_hash(code))


def is_good(database: Database, code: str) -> bool:
    """Return whether a tablet can still join with a code; looking at it does not use it up."""
    with database.reading() as connection:
        return devices.code(connection, tokens.code_hash(code), "device") is not None


def join(database: Database, *, code: str, name: str, address: str) -> str:
    """Join a tablet, and return its token.

    Raises NotSignedIn when the code may not be used any more; Refused for a name that can't be kept; TooManyTries.
    """
    name = checked_name(name, example=EXAMPLE)
    count_try(database, name=Text("device's code"), address=address)
    token, hashed = tokens.new_token(), tokens.code_hash(code)
    with database.reading() as connection:
        shown = devices.code(connection, hashed, "device")
    # it is the change of whoever showed the code
    with at_work(Party(who="maker", name=shown.made_by if shown else "")), database.transaction() as connection:
        used = devices.use_code(connection, hashed, "device")
        if used is None:
            raise NotSignedIn(NO_CODE)
        # who may have been sent away meanwhile
        if used.account_id is not None and accounts.one(connection, used.account_id).ended_at is not None:
            raise NotSignedIn(NO_CODE)
        devices.join(connection, name=name, kind="bench", token_hash=tokens.hash_of(token), joined_by=used.made_by)
        sessions.forget_failures(connection, name=Text("device's code"), address=address)
    return token


def add_script(database: Database, party: Party, *, name: str) -> str:
    """Let a script read the interface, and return its key, which is shown once."""
    name, token = checked_name(name, example=Text("Price list")), tokens.new_token()
    with database.transaction() as connection:
        devices.join(connection, name=name, kind="script", token_hash=tokens.hash_of(token), joined_by=party.name)
    return token


def throw_out(database: Database, device_id: int) -> None:
    """Take a device or a script out: its next request is refused."""
    with database.transaction() as connection:
        devices.throw_out(connection, device_id)


def names(database: Database) -> list[str]:
    """List the names of those who may stand at the bench."""
    with database.reading() as connection:
        return accounts.names_at_bench(connection)


def stand(database: Database, party: Party, who: str) -> None:
    """Keep who stands at a tablet.

    Raises Refused for somebody who may not weigh.
    """
    if party.device_id is None:
        raise Refused("who", Text("Who is at work is known here by their account."))
    with database.transaction() as connection:
        if who and who not in accounts.names_at_bench(connection):
            raise Refused("who", Text("Nobody of this name may weigh here. Choose a name from the list."))
        devices.stands(connection, party.device_id, who)
