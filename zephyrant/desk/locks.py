"""Locks over all processes of the desk: files that are held locked, and are free again when the
process that holds them ends, however it ends."""

import fcntl
import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path


@contextmanager
def held(path: Path, *, wait: bool) -> Iterator[bool]:
    """A lock held meanwhile; not `wait`: whether it was free."""
    path.parent.mkdir(parents=True, exist_ok=True)
    file = os.open(path, os.O_CREAT | os.O_RDWR, 0o600)
    try:
        try:
            fcntl.flock(file, fcntl.LOCK_EX | (0 if wait else fcntl.LOCK_NB))
        except BlockingIOError:
            yield False
            return
        yield True
    finally:
        os.close(file)
