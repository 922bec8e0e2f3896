"""The long work: tables of loans in turns, apart from those who are served meanwhile.

Each turn is a short one: whoever was worked for least lately comes next, of his tables the one with
the fewest rows left. Whatever was being worked when the process ended is gone on with by the next
one, from the part that was kept last.
"""

import logging
import threading
import time
from collections.abc import Callable
from datetime import timedelta
from typing import Final

from django.core.management import call_command
from django.db import connection
from django.db.models.functions import Coalesce
from django.utils import timezone

from zephyrant.texts import read_as, worded

from . import doorman, tables
from .cases import empty_bins
from .files import reading_of
from .models import LoanTable

#: Silence after which whoever worked on a table is held to be gone.
SILENCE: Final = timedelta(seconds=30)
#: Seconds between two looks for work.
PAUSE: Final = 0.25
#: Seconds a table is worked before another has its turn.
TURN: Final = 2.0
#: Seconds between two times that what has run out is thrown away.
TIDYING: Final = 3_600.0
_log = logging.getLogger(__name__)


class Turns:
    """Whose turn it is: when each owner was worked for last."""

    def __init__(self) -> None:
        self._served: dict[int, float] = {}

    def take_up(self) -> LoanTable | None:
        """The table to work next, taken; none where nothing waits."""
        gone = timezone.now() - SILENCE
        silent = LoanTable.objects.filter(state="running", beat_at__lt=gone)
        # A look alone: only where somebody has gone is there anything to write.
        if silent.exists():
            silent.update(state="waiting")
        waiting = LoanTable.objects.filter(state="waiting").only("owner_id", "rows", "done")
        order = sorted(
            waiting,
            key=lambda table: (
                self._served.get(table.owner_id, 0.0),
                table.rows - table.done,
                table.asked_at or gone,
            ),
        )
        for table in order[:4]:
            now = timezone.now()
            mine = LoanTable.objects.filter(pk=table.pk, state="waiting").update(
                state="running", beat_at=now, began_at=Coalesce("began_at", now)
            )
            if mine:
                table.refresh_from_db()
                return table
        return None

    def worked(self, table: LoanTable) -> None:
        """Its owner has had a turn."""
        self._served[table.owner_id] = time.monotonic()


def take_up() -> LoanTable | None:
    """The table to work next, by somebody who begins."""
    return Turns().take_up()


class _StoppedError(Exception):
    """The table is no longer to be worked, or not now, or not by us."""


def work_on(
    table: LoanTable,
    stop: Callable[[], bool] = lambda: False,
    turn: float = float("inf"),
) -> None:
    """Works a table until it is done, no longer wanted, `stop`, or its turn is over; trouble is
    told on it."""
    until = time.monotonic() + turn

    def progress(rows: int, *, kept: bool) -> None:
        mine = LoanTable.objects.filter(pk=table.pk, state="running")
        if not mine.update(done=rows, beat_at=timezone.now()):
            raise _StoppedError
        is_over = kept and time.monotonic() > until and _others_wait()
        if stop() or is_over:
            mine.update(state="waiting")
            raise _StoppedError

    try:
        with read_as(reading_of(table.owner)):
            tables.work(table, progress)
    except _StoppedError:
        return
    except Exception:
        _log.exception("table %s could not be worked", table.pk)
        LoanTable.objects.filter(pk=table.pk).update(
            state="failed",
            why=worded("Something went wrong on our side. Ask for it again; what is done is kept."),
            ended_at=timezone.now(),
        )


def _others_wait() -> bool:
    return LoanTable.objects.filter(state="waiting").exists()


def work_until(stop: threading.Event, orphaned: Callable[[], bool] = lambda: False) -> None:
    """Works whatever is asked for, turn by turn, until told to stop; now and again throws away what
    has run out."""
    turns, tidied = Turns(), 0.0
    while not stop.is_set() and not orphaned():
        doorman.beat().touch()
        try:
            if time.monotonic() - tidied > TIDYING:
                tidy()
                tidied = time.monotonic()
            table = turns.take_up()
        except Exception:
            _log.exception("no table could be taken up")
            # The connection is kept from look to look; after trouble with it another is made.
            connection.close()
            table = None
        if table is None:
            stop.wait(PAUSE)
        else:
            work_on(table, stop.is_set, TURN)
            turns.worked(table)


def tidy() -> None:
    """Throws away what has run out: sessions, and cases that lay in the bin long enough."""
    call_command("clearsessions")
    empty_bins()
