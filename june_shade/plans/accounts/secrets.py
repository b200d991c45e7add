"""Passwords, PINs and what cookies hold: made, judged, kept as hashes.

Argon2id as RFC 9106 recommends it; lengths and lists after NIST SP 800-63B and OWASP ASVS 4.0, chapter 2.
"""

import secrets
from collections.abc import Sequence
from hashlib import sha256
from itertools import pairwise

from pwdlib import PasswordHash
from zxcvbn import zxcvbn

from june_shade.core.errors import InputError

SHORTEST, LONGEST = 12, 128
PIN_DIGITS = range(4, 9)
GUESSED_IN_TIME = 3
"""Below this score out of 4 a password is guessed in days by whoever has its hash."""
JUDGED_TO = 72
"""So many characters are judged: the judging takes long for long ones, and those are good."""
LETTERS = "abcdefghjkmnpqrstuvwxyz23456789"
"""None that is taken for another when it is read out."""
TOKEN_BYTES = 32

_hashes = PasswordHash.recommended()
NOBODY_S = _hashes.hash(secrets.token_urlsafe(TOKEN_BYTES))
"""What is compared where there is no such account, so that the answer takes as long."""


def hash_of(secret: str) -> str:
    """What is kept of a password or PIN."""
    return _hashes.hash(secret)


def fits(secret: str, kept: str | None) -> bool:
    """Whether a password or PIN is the one that was kept; it takes as long where none was."""
    found = _hashes.verify(secret[:LONGEST], kept or NOBODY_S)
    return found and kept is not None


def check_password(password: str, about: Sequence[str], field: str = "password") -> None:
    """Raises InputError for a password that is too short, or too easy to guess by those who know about whom it is."""
    if len(password) < SHORTEST:
        raise InputError(f"must have at least {SHORTEST} characters: a few words in a row are easy to keep", field)
    if len(password) > LONGEST:
        raise InputError(f"must have at most {LONGEST} characters", field)
    judged = zxcvbn(password[:JUDGED_TO], user_inputs=[word for word in about if word])
    if judged["score"] < GUESSED_IN_TIME:
        raise InputError("is too easy to guess: take a few words that do not belong together", field)


def check_pin(pin: str, field: str = "pin") -> None:
    """Raises InputError for what is no PIN, or the first that anybody tries."""
    if not (pin.isascii() and pin.isdigit() and len(pin) in PIN_DIGITS):
        raise InputError(f"must be {PIN_DIGITS.start} to {PIN_DIGITS.stop - 1} digits", field)
    steps = {(int(b) - int(a)) % 10 for a, b in pairwise(pin)}
    if len(steps) == 1 and steps <= {0, 1, 9}:
        raise InputError("is too easy to guess", field)


def one_time_password() -> str:
    """A password to be read out once and changed at the first sign-in."""
    return "-".join("".join(secrets.choice(LETTERS) for _ in range(4)) for _ in range(4))


def new_token() -> str:
    """What a device's cookie holds."""
    return secrets.token_urlsafe(TOKEN_BYTES)


def digest(text: str) -> str:
    """What is kept of a token, or of a name that somebody tried."""
    return sha256(text.encode()).hexdigest()
