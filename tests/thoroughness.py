"""How thoroughly the suite looks: as on every change, or for long, with ``./run test --long``.

On every change a property is tried with few examples, the same ones each time; for long with twelve times as many,
drawn afresh, and with what else takes its time: kills, and calls made from the interface's description.
"""

import os
import tomllib
from pathlib import Path

from hypothesis import HealthCheck, Phase, settings

LAST = Path(__file__).parent / "data" / "last_for_long.toml"
FOR_LONG = "UFRIN_LONG" in os.environ
MOST_EXAMPLES, TIMES_MORE = 25, 12
KILLS = 100 if FOR_LONG else 4
CALLS_EACH = 60 if FOR_LONG else 2

settings.register_profile("every change", deadline=None, derandomize=True, max_examples=MOST_EXAMPLES)
settings.register_profile("long", deadline=None, max_examples=TIMES_MORE * MOST_EXAMPLES, print_blob=True)
# of a planted wrong rule it is enough to know that it is noticed, not by which smallest example
settings.register_profile("mutants", settings.get_profile("every change"), phases=[Phase.explicit, Phase.generate])
settings.load_profile("mutants" if "UFRIN_MUTANTS" in os.environ else "long" if FOR_LONG else "every change")


def examples(number: int, *, on_one_database: bool = False) -> settings:
    """Return the settings of a property whose examples are dear: so many on every change, and more of them for long.

    With ``on_one_database`` the examples follow one another on what the first one was given.
    """
    shared = [HealthCheck.function_scoped_fixture] if on_one_database else []
    return settings(max_examples=number * (TIMES_MORE if FOR_LONG else 1), suppress_health_check=shared)


def last_for_long() -> str:
    """Return when all of it was last looked at for long, as it was written down then."""
    if not LAST.exists():
        return "no day that is written down"
    kept = tomllib.loads(LAST.read_text())
    return f"{kept['day']}, {kept['passed']} passed and {kept['failed']} failed in {kept['minutes']} min"


def keep_for_long(day: str, passed: int, failed: int, minutes: int) -> None:
    """Write down that all of it was looked at for long, and what came out."""
    LAST.write_text(f'day = "{day}"\npassed = {passed}\nfailed = {failed}\nminutes = {minutes}\n')
