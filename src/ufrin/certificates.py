"""Certificates: the workshop's own authority and the server's certificate, made here and made anew before they end.

A tablet that trusts the authority once trusts every certificate that it signs; it can sign for private addresses and
for this workshop's names alone, so that nobody who steals its key can pretend to be another site.
"""

import hashlib
import ipaddress
from datetime import datetime, timedelta
from pathlib import Path

from cryptography import x509
from cryptography.hazmat.primitives import hashes, serialization
from cryptography.hazmat.primitives.asymmetric import ec
from cryptography.x509.oid import ExtendedKeyUsageOID, NameOID

from ufrin.network import is_https
from ufrin.settings import Settings

AUTHORITY_LASTS, SERVER_LASTS = timedelta(days=3650), timedelta(days=365)
MADE_ANEW_BEFORE = timedelta(days=30)
# private addresses: RFC 1918, RFC 4193, loopback and link-local
PRIVATE = (
    "10.0.0.0/8",
    "172.16.0.0/12",
    "192.168.0.0/16",
    "127.0.0.0/8",
    "169.254.0.0/16",
    "fc00::/7",
    "fe80::/10",
    "::1/128",
)
ONLY_MINE, FOR_ALL = 0o600, 0o644


def shop_certificate(settings: Settings) -> Path | None:
    """Return the file with the certificate of the workshop's own authority; None where it is not used.

    Parameters
    ----------
    settings : Settings
        As they are.

    Returns
    -------
    Path or None
        It may not be there yet.
    """
    return settings.var / "certificates" / "workshop.crt" if is_https(settings) and not settings.certificate else None


def server_files(settings: Settings, names: tuple[str, ...], now: datetime) -> tuple[Path, Path]:
    """Return the files with the server's certificate and its key, made where they are missing, old or for other names.

    Parameters
    ----------
    settings : Settings
        With a certificate of one's own, perhaps.
    names : tuple of str
        Host names and addresses that it must be good for.
    now : datetime
        In UTC.

    Returns
    -------
    tuple of Path
        Certificate and key.
    """
    if settings.certificate:
        return settings.certificate, settings.certificate_key or settings.certificate
    folder = settings.var / "certificates"
    folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    certificate, key = folder / "server.crt", folder / "server.key"
    wanted = sorted({name.strip("[]") for name in names if "*" not in name})
    authority = _authority(folder, wanted, now)
    if not _is_good(certificate, key, wanted, authority[0], now):
        _make_server(certificate, key, wanted, authority, now)
    return certificate, key


Authority = tuple[x509.Certificate, ec.EllipticCurvePrivateKey]


def _general_names(names: list[str]) -> list[x509.GeneralName]:
    found: list[x509.GeneralName] = []
    for name in names:
        try:
            found.append(x509.IPAddress(ipaddress.ip_address(name)))
        except ValueError:
            found.append(x509.DNSName(name))
    return found


def _covers(names: list[str]) -> list[x509.GeneralName]:
    # what the authority may sign for: private addresses, and the names and addresses that are served now
    private = [ipaddress.ip_network(one) for one in PRIVATE]
    found: list[x509.GeneralName] = [x509.IPAddress(one) for one in private]
    for one in _general_names(names):
        if isinstance(one, x509.DNSName):
            found.append(one)
        elif isinstance(one, x509.IPAddress) and not any(one.value in network for network in private):
            found.append(x509.IPAddress(ipaddress.ip_network(one.value)))
    return found


def _authority(folder: Path, names: list[str], now: datetime) -> Authority:
    certificate_file, key_file = folder / "workshop.crt", folder / "workshop.key"
    if certificate_file.exists() and key_file.exists():
        made = x509.load_pem_x509_certificate(certificate_file.read_bytes())
        key = serialization.load_pem_private_key(key_file.read_bytes(), None)
        permitted = made.extensions.get_extension_for_class(x509.NameConstraints).value.permitted_subtrees or []
        covers = all(one in permitted for one in _covers(names))
        if isinstance(key, ec.EllipticCurvePrivateKey) and covers and made.not_valid_after_utc > now + MADE_ANEW_BEFORE:
            return made, key
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, f"Ufrin workshop {_mark(key)}")])
    made = (
        _begun(name, name, key.public_key(), now, AUTHORITY_LASTS)
        .add_extension(x509.BasicConstraints(ca=True, path_length=0), critical=True)
        .add_extension(x509.NameConstraints(_covers(names), None), critical=True)
        .add_extension(_key_usage(is_authority=True), critical=True)
        .add_extension(x509.SubjectKeyIdentifier.from_public_key(key.public_key()), critical=False)
        .sign(key, hashes.SHA256())
    )
    _write(key_file, _pem(key), ONLY_MINE)
    _write(certificate_file, made.public_bytes(serialization.Encoding.PEM), FOR_ALL)
    return made, key


def _is_good(certificate: Path, key: Path, names: list[str], authority: x509.Certificate, now: datetime) -> bool:
    if not (certificate.exists() and key.exists()):
        return False
    made = x509.load_pem_x509_certificate(certificate.read_bytes())
    served = made.extensions.get_extension_for_class(x509.SubjectAlternativeName).value
    return (
        set(served) >= set(_general_names(names))
        and made.issuer == authority.subject
        and made.not_valid_after_utc > now + MADE_ANEW_BEFORE
    )


def _make_server(certificate: Path, key_file: Path, names: list[str], authority: Authority, now: datetime) -> None:
    key = ec.generate_private_key(ec.SECP256R1())
    name = x509.Name([x509.NameAttribute(NameOID.COMMON_NAME, "Ufrin")])
    made = (
        _begun(name, authority[0].subject, key.public_key(), now, SERVER_LASTS)
        .add_extension(x509.SubjectAlternativeName(_general_names(names)), critical=False)
        .add_extension(x509.BasicConstraints(ca=False, path_length=None), critical=True)
        .add_extension(_key_usage(is_authority=False), critical=True)
        .add_extension(x509.ExtendedKeyUsage([ExtendedKeyUsageOID.SERVER_AUTH]), critical=False)
        .add_extension(x509.AuthorityKeyIdentifier.from_issuer_public_key(authority[1].public_key()), critical=False)
        .sign(authority[1], hashes.SHA256())
    )
    _write(key_file, _pem(key), ONLY_MINE)
    _write(certificate, made.public_bytes(serialization.Encoding.PEM), FOR_ALL)


def _begun(
    name: x509.Name, issuer: x509.Name, key: ec.EllipticCurvePublicKey, now: datetime, lasts: timedelta
) -> x509.CertificateBuilder:
    # from a day before, for tablets whose clock is behind
    return (
        x509.CertificateBuilder()
        .subject_name(name)
        .issuer_name(issuer)
        .public_key(key)
        .serial_number(x509.random_serial_number())
        .not_valid_before(now - timedelta(days=1))
        .not_valid_after(now + lasts)
    )


def _key_usage(*, is_authority: bool) -> x509.KeyUsage:
    return x509.KeyUsage(
        digital_signature=not is_authority,
        content_commitment=False,
        key_encipherment=False,
        data_encipherment=False,
        key_agreement=False,
        key_cert_sign=is_authority,
        crl_sign=is_authority,
        encipher_only=False,
        decipher_only=False,
    )


def _mark(key: ec.EllipticCurvePrivateKey) -> str:
    # so that two workshops' certificates can be told apart in the list of a tablet
    whole = key.public_key().public_bytes(serialization.Encoding.DER, serialization.PublicFormat.SubjectPublicKeyInfo)
    return hashlib.sha256(whole).hexdigest()[:6]


def _pem(key: ec.EllipticCurvePrivateKey) -> bytes:
    return key.private_bytes(
        serialization.Encoding.PEM, serialization.PrivateFormat.PKCS8, serialization.NoEncryption()
    )


def _write(file: Path, data: bytes, mode: int) -> None:
    # beside its place and then moved there, so that it is never half written and never read by others meanwhile
    beside = file.with_suffix(file.suffix + ".new")
    beside.touch(mode=mode)
    beside.chmod(mode)
    beside.write_bytes(data)
    beside.replace(file)
