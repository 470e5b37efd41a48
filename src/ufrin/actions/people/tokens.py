"""Tokens and codes: made at random, handed out once, and kept as their hashes alone."""

import hashlib
import secrets

# without letters and figures that look alike on a screen or are mistaken when read aloud
SIGNS = "23456789ABCDEFGHJKMNPQRSTVWXYZ"
GROUP = 4
SHORT_SIGNS, LONG_SIGNS = 8, 12  # 39 bits for two minutes and few tries; 59 bits for a day
LONGEST_TOKEN = 200


def new_token() -> str:
    """Return a token that nobody can guess: 256 bits."""
    return secrets.token_urlsafe(32)


def new_code(signs: int = SHORT_SIGNS) -> str:
    """Return a code that can be typed: groups of four signs."""
    code = "".join(secrets.choice(SIGNS) for _ in range(signs))
    return "-".join(code[begin : begin + GROUP] for begin in range(0, signs, GROUP))


def hash_of(token: str) -> bytes:
    """Return the hash under which a token is kept; a slow one is not needed for what is random."""
    return hashlib.sha256(token[:LONGEST_TOKEN].encode("utf-8", "replace")).digest()


def code_hash(typed: str) -> bytes:
    """Return the hash of a code as somebody typed it: spaces, hyphens and small letters make no difference."""
    return hash_of("".join(sign for sign in typed.upper() if sign in SIGNS))
