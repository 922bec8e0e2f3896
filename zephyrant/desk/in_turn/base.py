"""SQLite lets one write at a time, and whoever waits looks again after a pause that grows: where
many write without rest, one that has waited long finds the lock taken each time it looks. Here of a
process only the first in the row looks; the others stand behind."""

import threading
from typing import Final

from django.db import OperationalError
from django.db.backends.sqlite3 import base

_first: Final = threading.Lock()


class DatabaseWrapper(base.DatabaseWrapper):
    """SQLite whose transactions begin one after the other."""

    def _start_transaction_under_autocommit(self) -> None:
        # As long as SQLite itself would wait; what it says then is said here, too.
        if not _first.acquire(timeout=float(self.settings_dict["OPTIONS"]["timeout"])):
            raise OperationalError("database is locked")
        try:
            super()._start_transaction_under_autocommit()  # type: ignore[misc]
        finally:
            _first.release()
