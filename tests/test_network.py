"""On the network: at which names Ufrin answers, and certificates that a browser believes for these names alone."""

import stat
from datetime import UTC, datetime, timedelta
from ipaddress import ip_address
from pathlib import Path

import pytest
from cryptography import x509
from cryptography.x509.verification import PolicyBuilder, Store, VerificationError
from fastapi.testclient import TestClient
from signing import PASSWORD, enter

from ufrin import network
from ufrin.certificates import server_files
from ufrin.network import is_https, is_loopback, names_served, shown_address
from ufrin.serving import config_of
from ufrin.settings import Settings
from ufrin.store.connection import Database
from ufrin.web.app import create_app

NOW = datetime(2026, 3, 1, tzinfo=UTC)


@pytest.mark.parametrize(
    ("host", "loopback"),
    [
        ("127.0.0.1", True),
        ("127.9.9.9", True),
        ("::1", True),
        ("localhost", True),
        ("0.0.0.0", False),
        ("::", False),
        ("192.0.2.7", False),
        ("no-such-host.invalid", False),
        ("a" * 70, False),
    ],
)
def test_loopback_is_this_machine_alone(host: str, loopback: bool) -> None:
    assert is_loopback(host) is loopback


def test_names_are_loopbacks_and_off_it_this_machines_and_those_listed(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(network, "addresses_of_this_machine", lambda: ["10.1.2.3", "fd00::5"])
    monkeypatch.setattr(network.socket, "gethostname", lambda: "Bench.example")
    own = ("127.0.0.1", "localhost", "[::1]")
    assert names_served(Settings()) == own
    assert names_served(Settings(host="0.0.0.0")) == (*own, "10.1.2.3", "[fd00::5]", "bench.example", "bench.local")
    assert names_served(Settings(host="10.1.2.3", allowed_hosts=("Shop.example",)))[3:] == (
        *("shop.example", "10.1.2.3", "bench.example", "bench.local"),
    )
    assert shown_address(Settings(host="0.0.0.0", port=9000)) == "https://10.1.2.3:9000"
    assert shown_address(Settings(host="fd00::5", port=9000, https=False)) == "http://[fd00::5]:9000"
    assert shown_address(Settings(address="https://bench.example/")) == "https://bench.example"


def test_https_is_spoken_whenever_others_reach_it_unless_set(tmp_path: Path) -> None:
    assert not is_https(Settings())
    assert is_https(Settings(host="0.0.0.0"))
    assert not is_https(Settings(host="0.0.0.0", https=False))
    assert is_https(Settings(https=True))
    assert is_https(Settings(certificate=tmp_path / "given.pem"))


def believed(var: Path, name: str, now: datetime = NOW) -> bool:
    """Whether somebody who trusts the workshop's authority alone believes the server under a name."""
    folder = var / "certificates"
    authority = x509.load_pem_x509_certificate((folder / "workshop.crt").read_bytes())
    server = x509.load_pem_x509_certificate((folder / "server.crt").read_bytes())
    try:
        subject: x509.IPAddress | x509.DNSName = x509.IPAddress(ip_address(name))
    except ValueError:
        subject = x509.DNSName(name)
    verifier = PolicyBuilder().store(Store([authority])).time(now).build_server_verifier(subject)
    try:
        verifier.verify(server, [])
    except VerificationError:
        return False
    return True


def test_a_certificate_is_believed_for_the_names_that_are_served_and_no_other(tmp_path: Path) -> None:
    names = ("127.0.0.1", "localhost", "[::1]", "10.1.2.3", "192.0.2.7", "bench.local")
    certificate, key = server_files(Settings(var=tmp_path, https=True), names, NOW)
    for name in names:
        assert believed(tmp_path, name.strip("[]")), name
    for name in ("10.1.2.4", "elsewhere.example", "local"):
        assert not believed(tmp_path, name), name
    assert not believed(tmp_path, "10.1.2.3", NOW + timedelta(days=400))
    for file in (key, tmp_path / "certificates" / "workshop.key"):
        assert stat.S_IMODE(file.stat().st_mode) == 0o600
    assert stat.S_IMODE((tmp_path / "certificates").stat().st_mode) == 0o700
    assert certificate.read_bytes() != (tmp_path / "certificates" / "workshop.crt").read_bytes()


def test_the_authority_can_not_sign_for_a_site_that_is_not_the_workshops(tmp_path: Path) -> None:
    server_files(Settings(var=tmp_path, https=True), ("10.1.2.3", "bench.local"), NOW)
    made = x509.load_pem_x509_certificate((tmp_path / "certificates" / "workshop.crt").read_bytes())
    permitted = made.extensions.get_extension_for_class(x509.NameConstraints)
    assert permitted.critical
    names = {one.value for one in permitted.value.permitted_subtrees or [] if isinstance(one, x509.DNSName)}
    assert names == {"bench.local"}
    assert made.extensions.get_extension_for_class(x509.BasicConstraints).value.path_length == 0


def test_it_is_made_anew_before_it_ends_and_for_new_names_under_an_authority_that_stays(tmp_path: Path) -> None:
    settings = Settings(var=tmp_path, https=True)

    def made(now: datetime, *names: str) -> tuple[bytes, bytes]:
        certificate, _ = server_files(settings, ("127.0.0.1", *names), now)
        return certificate.read_bytes(), (tmp_path / "certificates" / "workshop.crt").read_bytes()

    first = made(NOW)
    assert made(NOW + timedelta(days=300)) == first
    later = made(NOW + timedelta(days=340))
    assert later[0] != first[0]
    assert later[1] == first[1]  # tablets that trust it go on
    other = made(NOW + timedelta(days=341), "10.9.9.9")
    assert other[0] != later[0]
    assert other[1] == first[1]
    assert believed(tmp_path, "10.9.9.9", NOW + timedelta(days=341))


def test_a_certificate_that_was_given_is_taken_as_it_is(tmp_path: Path) -> None:
    settings = Settings(var=tmp_path, certificate=tmp_path / "a.pem", certificate_key=tmp_path / "a.key")
    assert server_files(settings, ("127.0.0.1",), NOW) == (tmp_path / "a.pem", tmp_path / "a.key")
    assert not (tmp_path / "certificates").exists()


@pytest.mark.parametrize(("trusted", "is_believed"), [("", False), ("10.0.0.1", False), ("127.0.0.1", True)])
def test_a_proxys_headers_are_believed_where_it_is_trusted_alone(
    database: Database, conninfo: str, trusted: str, is_believed: bool
) -> None:
    settings = Settings(trusted_proxies=trusted, allowed_hosts=("bench.example",))
    config = config_of(create_app(Database(conninfo, wait_s=5.0), settings), settings)
    config.load()
    enter(database, "owner")
    with TestClient(
        config.loaded_app, base_url="http://bench.example", client=("127.0.0.1", 5000), follow_redirects=False
    ) as browser:
        headers = {"X-Forwarded-Proto": "https", "X-Forwarded-For": "203.0.113.9", "Origin": "https://bench.example"}
        for _ in range(2):
            browser.post("/sign-in", data={"name": "Wren", "password": "wrong"}, headers=headers)
        answer = browser.post("/sign-in", data={"name": "Wren", "password": PASSWORD}, headers=headers)
        assert answer.status_code == 303
        assert ("Secure" in answer.headers["set-cookie"]) is is_believed
        browser.post("/sign-in", data={"name": "Other", "password": "wrong"}, headers=headers)
        browser.cookies.clear()
        # what a proxy passes on is not of this machine, believed or not
        assert browser.get("/metrics", headers=headers).status_code == 403
    with database.reading() as connection:
        tries = connection.execute("select distinct address from failed_tries").fetchall()
    assert tries == [{"address": "203.0.113.9" if is_believed else "127.0.0.1"}]
