"""Passwords: hashed by argon2, checked in the same time whether or not there is such a person; no easy ones."""

from functools import cache

from pwdlib import PasswordHash

from ufrin.errors import Refused
from ufrin.language import Text

SHORTEST, LONGEST = 12, 128
LEAST_SCORE = 3  # of 0 to 4, by the estimate of zxcvbn (Wheeler, 2016): more than 10^8 guesses
SCORED = 72  # signs; the estimate takes no more
_HASHER = PasswordHash.recommended()


@cache
def _hash_of_nobody() -> str:
    return _HASHER.hash(Text("the password of somebody who is not there"))


def hashed(password: str) -> str:
    """Return the hash of a password."""
    return _HASHER.hash(password)


def is_right(password: str, kept: str) -> tuple[bool, str | None]:
    """Return whether a password is right, and its hash made anew where today's is stronger.

    Without a hash it is wrong, and takes as long to be found wrong as any other.
    """
    if len(password) > LONGEST:
        password, kept = password[:LONGEST], ""
    right, anew = _HASHER.verify_and_update(password, kept or _hash_of_nobody())
    return right and bool(kept), anew if right and kept else None


def check_new(password: str, *, name: str, field: str = "password") -> None:
    """Check that a new password is good enough.

    Raises Refused with what is wrong with it.
    """
    if not SHORTEST <= len(password) <= LONGEST:
        raise Refused(
            field,
            Text(
                "A password has {shortest} to {longest} characters. A few words that do not belong "
                "together are easy to keep in mind.",
                shortest=SHORTEST,
                longest=LONGEST,
            ),
        )
    from zxcvbn import zxcvbn  # noqa: PLC0415 - its lists take a moment to load

    if int(zxcvbn(password[:SCORED], user_inputs=[name, *name.split(), "ufrin"])["score"]) < LEAST_SCORE:
        raise Refused(
            field,
            Text("This password is easy to guess. Take a few words that do not belong together, without your name."),
        )
