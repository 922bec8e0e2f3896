"""Passwords hashed one at a time over the whole server: strangers who try take one core's share."""

import threading
from contextlib import AbstractContextManager
from typing import Final

from django.conf import settings
from django.contrib.auth.hashers import PBKDF2PasswordHasher

from zephyrant.texts import worded

from .heavy import a_place
from .locks import held

#: Who may wait in one process of the server for a password to be looked at.
MOST_WAITING: Final = 3
_places = threading.BoundedSemaphore(MOST_WAITING)


class OneAtATime(PBKDF2PasswordHasher):
    """Django's own way of hashing, a password at a time."""

    def encode(self, password: str, salt: str, iterations: int | None = None) -> str:
        """The hash, when it is its turn."""
        with held(settings.DATA_DIR / "hashing", wait=True):
            return super().encode(password, salt, iterations)


def waiting() -> AbstractContextManager[None]:
    """A place among those whose password is looked at; raises `BusyError` where all are taken."""
    return a_place(_places, worded("Many are signing in at this moment. This is tried again."), 1)
