"""`python manage.py work_tables`: works the tables of loans that are asked for, until ended."""

import os
import signal
import threading
from typing import Any

from django.core.management.base import BaseCommand

from zephyrant.desk import heavy
from zephyrant.desk.jobs import work_until


class Command(BaseCommand):
    """Work the tables of loans that are asked for, until ended."""

    help = "Works the tables of loans that are asked for. The server starts one of its own."

    def handle(self, *args: Any, **options: Any) -> None:  # noqa: ANN401
        """Works until it is told to end, or whoever started it is gone."""
        stop, parent = threading.Event(), os.getppid()
        for each in (signal.SIGTERM, signal.SIGINT):
            signal.signal(each, lambda *_: stop.set())
        # Those who are served come first.
        os.nice(10)
        heavy.make_ready_side_by_side()
        try:
            work_until(stop, orphaned=lambda: os.getppid() != parent)
        finally:
            heavy.end()
