"""Scales: where one is reached, how far its steps can put a ratio off, and the smallest batch that it can weigh."""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from math import ceil, log10

from ufrin.errors import Refused
from ufrin.language import Text

# a device on this machine, or a plain socket: the serial library knows other addresses too, some of which write files
_ADDRESS = re.compile(r"(/dev/(tty|cu|serial)[\w./-]{1,80}|COM\d{1,3}|socket://[\w.\[\]:-]{1,80}:\d{1,5})", re.ASCII)

FINEST_DECIMALS, MOST_DECIMALS = 2, 4  # of grams: where nobody named a step, and at most


@dataclass(frozen=True, slots=True, kw_only=True)
class Scale:
    """A scale that Ufrin can read.

    Parameters
    ----------
    name : str
        What it is called in the workshop.
    address : str
        A serial port, or ``socket://host:port``.
    baud : float
        Speed of a serial port.
    step_g, most_g : float
        Its steps, and the most it weighs.
    """

    name: str
    address: str = ""
    baud: float = 9600.0
    step_g: float = 0.1
    most_g: float = 2000.0

    def __post_init__(self) -> None:
        check_address(self.address, self.baud, "scale")
        if not 0 < self.step_g <= self.most_g <= 1e6:
            raise Refused(
                "step_g",
                Text(
                    "A scale's steps are more than nothing and less than the most it weighs, and that is "
                    "at most a tonne."
                ),
            )


def check_address(address: str, baud: float, what: str) -> None:
    """Refuse an address or a speed at which no device is reached.

    Parameters
    ----------
    address : str
        A serial port, or ``socket://host:port``.
    baud : float
        Speed of a serial port.
    what : str
        The device, for the sentence.

    Raises
    ------
    Refused
        With what is usual.
    """
    if not _ADDRESS.fullmatch(address) or ".." in address:
        raise Refused(
            "address",
            Text(
                "A {what} is reached at a serial port such as /dev/ttyUSB0 or COM3, or at "
                "socket://host:port. Check what is typed.",
                what=what,
            ),
        )
    if not 50 <= baud <= 4_000_000:
        raise Refused("baud", Text("Speeds run from 50 to 4000000 baud; 9600 is usual."))


_HOST = re.compile(r"[\w.\[\]:-]{1,80}", re.ASCII)
MOST_HOSTS = 20


def listed_hosts(text: str) -> tuple[str, ...]:
    """Read the list of hosts at which a scale may be reached.

    Parameters
    ----------
    text : str
        Names or addresses with commas or spaces between them.

    Returns
    -------
    tuple of str
        In small letters.

    Raises
    ------
    Refused
        When one is no host name, or there are too many.
    """
    hosts = tuple(dict.fromkeys(text.replace(",", " ").lower().split()))
    wrong = next((host for host in hosts if not _HOST.fullmatch(host)), None)
    if wrong is not None or len(hosts) > MOST_HOSTS:
        raise Refused(
            "scale_hosts",
            Text(
                "Name at most {most_hosts} hosts, with commas between them, such as 127.0.0.1, scale-server.",
                most_hosts=MOST_HOSTS,
            ),
        )
    return hosts


def check_host(address: str, hosts: tuple[str, ...]) -> None:
    """Refuse a device at a host that is not on the list: no page may make the server speak to any other machine.

    Parameters
    ----------
    address : str
        A serial port, or that of a host.
    hosts : tuple of str
        As ``listed_hosts`` gives them.

    Raises
    ------
    Refused
        With what to do.
    """
    if address.startswith("socket://"):
        host = address.removeprefix("socket://").rsplit(":", 1)[0].lower()
        if host not in hosts:
            raise Refused(
                "address",
                Text(
                    "{host} is not among the hosts at which devices may be reached. Add it to them in the "
                    "Settings first.",
                    host=host,
                ),
            )


def worst_ratio_error_pct(parts: Mapping[str, float], step: float) -> float | None:
    """Return the largest relative error of B/A (of any part over A) when each is off by half a step.

    Parameters
    ----------
    parts : mapping of part name to amount
        Grams, or ml with ``step`` in ml.
    step : float
        Of the scale or of the cup's marks.

    Returns
    -------
    float or None
        In percent; None when A is no more than half a step, so that there is no answer.
    """
    half, a = step / 2, parts["A"]
    if a <= half:
        return None
    # the other part half a step high and A half a step low is always the worst corner
    return 100 * max((amount + half) / (a - half) * a / amount - 1 for name, amount in parts.items() if name != "A")


def mass_decimals(scale_step_g: float, smallest_g: float) -> int:
    """Return the decimals of grams in which amounts are shown.

    Parameters
    ----------
    scale_step_g : float
        Of the scale; 0 for one that shows whatever is wanted.
    smallest_g : float
        Of the amounts that are shown together.

    Returns
    -------
    int
        Those of the scale, and more where the smallest amount would not have two digits that count: at most 4.

    Examples
    --------
    >>> mass_decimals(0.1, 25.0), mass_decimals(0.1, 0.15), mass_decimals(0.5, 120.0)
    (1, 2, 1)
    """
    shown = max(0, ceil(-log10(scale_step_g) - 1e-9)) if scale_step_g > 0 else FINEST_DECIMALS
    counting = ceil(1 - log10(smallest_g) - 1e-9) if smallest_g > 0 else 0
    return min(max(shown, counting), MOST_DECIMALS)


def smallest_batch_g(shares: Mapping[str, float], scale_step_g: float, tolerance_pct: float) -> float:
    """Return the smallest A + B whose ratio this scale keeps within the tolerance at worst.

    Parameters
    ----------
    shares : mapping of part name to share by weight
        They add up to 1.
    scale_step_g, tolerance_pct : float
        The step of the scale, and the tolerance of the rubber.

    Returns
    -------
    float
        In g: A is h (1 + q (1 + e)) / (q e) with half a step h, q = B/A and the tolerance e.
    """
    half, error = scale_step_g / 2, tolerance_pct / 100
    ratios = [share / shares["A"] for name, share in shares.items() if name != "A"]
    return max(half * (1 + q * (1 + error)) / (q * error) for q in ratios) / shares["A"]
