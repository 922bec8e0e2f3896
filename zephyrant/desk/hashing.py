"""Password hashing: Argon2id, one password at a time over the whole server.

Strangers who try passwords get the share of one core, and every hash is short enough for honest
people to wait for.
"""

import threading
from contextlib import AbstractContextManager
from typing import Final

from django.conf import settings
from django.contrib.auth.hashers import Argon2PasswordHasher, PBKDF2PasswordHasher

from zephyrant.texts import worded

from .heavy import a_place
from .locks import held

#: How many may wait in one process of the server for a password to be checked.
MOST_WAITING: Final = 9
_places = threading.BoundedSemaphore(MOST_WAITING)


class OneAtATime(Argon2PasswordHasher):
    """Argon2id with the parameters that the OWASP Password Storage Cheat Sheet (2024) names first
    for it: 19 MiB of memory, 2 passes, 1 lane."""

    time_cost = 2
    memory_cost = 19 * 1_024
    parallelism = 1

    def encode(self, password: str, salt: str) -> str:
        """The hash, when it is its turn."""
        with held(settings.DATA_DIR / "hashing", wait=True):
            return super().encode(password, salt)

    def verify(self, password: str, encoded: str) -> bool:
        """Whether the password is right, when it is its turn."""
        with held(settings.DATA_DIR / "hashing", wait=True):
            return super().verify(password, encoded)


class OlderOneAtATime(PBKDF2PasswordHasher):
    """How passwords were hashed before: checked once more, then kept by Argon2id."""

    def encode(self, password: str, salt: str, iterations: int | None = None) -> str:
        """The hash, when it is its turn."""
        with held(settings.DATA_DIR / "hashing", wait=True):
            return super().encode(password, salt, iterations)


def waiting() -> AbstractContextManager[None]:
    """A place among those whose password is checked; raises `BusyError` where all are taken."""
    return a_place(_places, worded("Many are signing in at this moment. This is tried again."), 1)
