"""Gunicorn's settings: beside the server a process for the long work, for as long as it runs."""

import importlib
import subprocess
import sys
import threading
from pathlib import Path
from typing import Any

#: The application is loaded once and shared: each process of the server starts at once.
preload_app = True
_PAUSE = 2.0
_ended = threading.Event()
_worker: list[subprocess.Popen[bytes]] = []


def _start() -> None:
    manage = Path(__file__).resolve().parents[2] / "manage.py"
    _worker[:] = [subprocess.Popen([sys.executable, str(manage), "work_tables"])]  # noqa: S603


def _keep_working() -> None:
    """Starts the worker again whenever it has ended before the server."""
    while not _ended.wait(_PAUSE):
        if _worker[0].poll() is not None:
            _start()


def when_ready(server: Any) -> None:  # noqa: ANN401  (gunicorn's own)
    """The server listens: the worker may start, before the server forks and any thread runs."""
    _start()
    threading.Thread(target=_keep_working, daemon=True).start()


def post_worker_init(worker: Any) -> None:  # noqa: ANN401
    """What only tables need is loaded beside the serving, before the first of them comes."""
    loading = threading.Timer(_PAUSE, importlib.import_module, ["zephyrant.desk.tables"])
    loading.daemon = True
    loading.start()


def on_exit(server: Any) -> None:  # noqa: ANN401
    """The server ends, and the worker with it."""
    _ended.set()
    for worker in _worker:
        worker.terminate()
