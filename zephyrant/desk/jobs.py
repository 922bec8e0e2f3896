"""The long work: tables of loans, one after the other, apart from those who are served meanwhile.

Whatever was being worked when the process ended is gone on with by the next one, from the part
that was kept last.
"""

import logging
import threading
from collections.abc import Callable
from datetime import timedelta
from typing import Final

from django.db import close_old_connections
from django.db.models import Count, Q
from django.utils import timezone

from . import tables
from .models import LoanTable

#: Silence after which whoever worked on a table is held to be gone.
SILENCE: Final = timedelta(seconds=30)
#: Seconds between two looks for work.
PAUSE: Final = 0.2
_log = logging.getLogger(__name__)


def take_up() -> LoanTable | None:
    """The table to work next: of whoever has been worked for least, the one that waits longest."""
    gone = timezone.now() - SILENCE
    LoanTable.objects.filter(state="running", beat_at__lt=gone).update(state="waiting")
    waiting = LoanTable.objects.filter(state="waiting").annotate(
        others=Count("owner__loan_tables", filter=Q(owner__loan_tables__state="running"))
    )
    for table in waiting.order_by("others", "asked_at")[:4]:
        now = timezone.now()
        began = table.began_at or now
        mine = LoanTable.objects.filter(pk=table.pk, state="waiting").update(
            state="running", beat_at=now, began_at=began
        )
        if mine:
            table.refresh_from_db()
            return table
    return None


class _StoppedError(Exception):
    """The table is no longer to be worked, or not by us."""


def work_on(table: LoanTable, stop: Callable[[], bool] = lambda: False) -> None:
    """Works a table until it is done, no longer wanted, or `stop`; trouble is told on it."""

    def progress(rows: int) -> None:
        mine = LoanTable.objects.filter(pk=table.pk, state="running")
        if not mine.update(done=rows, beat_at=timezone.now()):
            raise _StoppedError
        if stop():
            mine.update(state="waiting")
            raise _StoppedError

    try:
        tables.work(table, progress)
    except _StoppedError:
        return
    except Exception:
        _log.exception("table %s could not be worked", table.pk)
        LoanTable.objects.filter(pk=table.pk).update(
            state="failed",
            why="Something went wrong on our side. Ask for it again; what is done is kept.",
            ended_at=timezone.now(),
        )


def work_until(stop: threading.Event, orphaned: Callable[[], bool] = lambda: False) -> None:
    """Works whatever is asked for, until told to stop."""
    while not stop.is_set() and not orphaned():
        close_old_connections()
        try:
            table = take_up()
        except Exception:
            _log.exception("no table could be taken up")
            table = None
        if table is None:
            stop.wait(PAUSE)
        else:
            work_on(table, stop.is_set)
