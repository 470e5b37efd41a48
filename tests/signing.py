"""People of every kind for the tests: accounts with sessions, a tablet at the bench and a script."""

from functools import cache

from fastapi.testclient import TestClient

from ufrin.actions.people import passwords, tokens
from ufrin.actions.people.party import Who
from ufrin.store import accounts, devices, sessions
from ufrin.store.accounts import Role
from ufrin.store.connection import Database

PASSWORD = "tidal lantern seven quays"
NAMES: dict[Role, str] = {"owner": "Wren", "maker": "Tamsin", "reader": "Odo"}


@cache
def password_hash() -> str:
    return passwords.hashed(PASSWORD)


def enter(database: Database, role: Role, name: str = "") -> int:
    """Enter somebody whose password is PASSWORD."""
    with database.transaction() as connection:
        return accounts.add(connection, name=name or NAMES[role], role=role, hashed=password_hash())


def session_of(database: Database, account_id: int) -> str:
    """Sign somebody in without asking for the password, which takes its time."""
    token = tokens.new_token()
    with database.transaction() as connection:
        sessions.begin(connection, tokens.hash_of(token), account_id, longest_h=1, program="a test")
    return token


def join(database: Database, name: str = "Bench tablet", kind: devices.DeviceKind = "bench") -> str:
    token = tokens.new_token()
    with database.transaction() as connection:
        devices.join(connection, name=name, kind=kind, token_hash=tokens.hash_of(token), joined_by="Wren")
    return token


class Shop:
    """A workshop with one of everybody, and a browser that can be any of them."""

    def __init__(self, client: TestClient, database: Database) -> None:
        self.client, self.database = client, database
        self.accounts = {role: enter(database, role) for role in NAMES}
        self.tokens: dict[str, str] = {
            **{role: session_of(database, number) for role, number in self.accounts.items()},
            "bench": join(database),
            "script": join(database, "A script", "script"),
        }

    def be(self, who: Who) -> TestClient:
        """Make the next requests as one of them."""
        self.client.cookies.clear()
        self.client.headers.pop("Authorization", None)
        if who == "script":
            self.client.headers["Authorization"] = f"Bearer {self.tokens[who]}"
        elif who != "nobody":
            self.client.cookies.set("ufrin_device" if who == "bench" else "ufrin_session", self.tokens[who])
        return self.client
