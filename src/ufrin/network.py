"""The network: at which names and addresses Ufrin is reached, and whether that is this machine alone."""

import ipaddress
import socket

import psutil

from ufrin.settings import Settings

EVERYWHERE = ("0.0.0.0", "::", "")  # noqa: S104 - what somebody may have asked for
LOOPBACK = ("127.0.0.1", "localhost", "[::1]")


def is_loopback(host: str) -> bool:
    """Return whether nobody but this machine reaches a host.

    Parameters
    ----------
    host : str
        A name or an address.

    Returns
    -------
    bool
        False as well for a name that can't be looked up.
    """
    try:
        found = socket.getaddrinfo(host or None, None, type=socket.SOCK_STREAM, flags=socket.AI_PASSIVE)
    except (OSError, UnicodeError):
        return False
    return all(ipaddress.ip_address(str(one[4][0]).partition("%")[0]).is_loopback for one in found)


def addresses_of_this_machine() -> list[str]:
    """Return the addresses under which other machines reach this one, without those of loopback.

    Returns
    -------
    list of str
        IPv4 first.
    """
    found = []
    for interface in psutil.net_if_addrs().values():
        for one in interface:
            if one.family in {socket.AF_INET, socket.AF_INET6}:
                address = ipaddress.ip_address(one.address.partition("%")[0])
                if not address.is_loopback and not address.is_link_local:
                    found.append(address)
    return [str(address) for address in sorted(found, key=lambda one: (one.version, int(one)))]


def names_served(settings: Settings) -> tuple[str, ...]:
    """Return the host names that requests may ask for; all others are refused.

    Parameters
    ----------
    settings : Settings
        With the host that is served on, and the names that somebody listed.

    Returns
    -------
    tuple of str
        Those listed, loopback's, and off loopback this machine's own.
    """
    names = [*LOOPBACK, *settings.allowed_hosts]
    if not is_loopback(settings.host):
        names += [_in_address(one) for one in _hosts(settings.host)]
    return tuple(dict.fromkeys(name.lower() for name in names))


def _hosts(host: str) -> list[str]:
    name = socket.gethostname()
    own = [name, f"{name.partition('.')[0]}.local"]
    return [*addresses_of_this_machine(), *own] if host in EVERYWHERE else [host, *own]


def shown_address(settings: Settings) -> str:
    """Return the address to type or scan at another device.

    Parameters
    ----------
    settings : Settings
        With the host and the port, and perhaps an address that somebody set.

    Returns
    -------
    str
        Without a slash at its end.
    """
    if settings.address:
        return settings.address.rstrip("/")
    host = settings.host
    if host in EVERYWHERE:
        host = next(iter(addresses_of_this_machine()), "127.0.0.1")
    return f"{'https' if is_https(settings) else 'http'}://{_in_address(host)}:{settings.port}"


def is_https(settings: Settings) -> bool:
    """Return whether Ufrin itself speaks HTTPS: as it was set, or else whenever others reach it.

    Parameters
    ----------
    settings : Settings
        As they are.

    Returns
    -------
    bool
        Whether it does.
    """
    if settings.https is not None:
        return settings.https
    return bool(settings.certificate) or not is_loopback(settings.host)


def _in_address(host: str) -> str:
    return f"[{host}]" if ":" in host and not host.startswith("[") else host
