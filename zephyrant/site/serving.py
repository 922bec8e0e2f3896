"""Gunicorn's settings: the whole desk as one command. Beside the processes that serve runs one for
the long work, started again for as long as the server runs.

ZEPHYRANT_BIND       where it listens (default 127.0.0.1:8000)
ZEPHYRANT_PROCESSES  processes that serve (default 2); each answers twelve requests at a time
"""

import fcntl
import importlib
import os
import subprocess
import sys
import tempfile
import threading
from pathlib import Path
from typing import Any

wsgi_app = "zephyrant.site.wsgi"
bind = os.environ.get("ZEPHYRANT_BIND", "127.0.0.1:8000")
worker_class = "gthread"
workers = int(os.environ.get("ZEPHYRANT_PROCESSES", "2"))
#: Heavy questions wait in at most four of them (see `zephyrant.desk.heavy`), passwords in nine (see
#: `zephyrant.desk.hashing`).
threads = 12
#: The application is loaded once and shared: each process of the server starts at once.
preload_app = True
#: A process that does not even say that it lives for so long is replaced.
timeout = 60
#: What is being answered when the server is told to end may take so long.
graceful_timeout = 30
#: Longer than the proxy's, so that the proxy closes connections.
keepalive = 75
#: The sign of life is a file: not on a disk that may be slow.
worker_tmp_dir = "/dev/shm" if Path("/dev/shm").is_dir() else None  # noqa: S108
control_socket_disable = True
#: No header renames what is asked for: not even one from this machine.
forwarder_headers = ""
header_map = "drop"
#: What is written is for the user the server runs as alone.
umask = 0o077
#: Requests are logged by the application, which knows who asks.
accesslog = None
if os.environ.get("ZEPHYRANT_METRICS") == "on":
    # What each process counts is put together from files of this folder.
    os.environ.setdefault("PROMETHEUS_MULTIPROC_DIR", tempfile.mkdtemp(prefix="zephyrant-metrics-"))
_PAUSE = 2.0
_ended = threading.Event()
_worker: list[subprocess.Popen[bytes]] = []


def _start() -> None:
    settings = {"DJANGO_SETTINGS_MODULE": "zephyrant.site.settings"}
    command = [sys.executable, "-m", "django", "work_tables"]
    _worker[:] = [subprocess.Popen(command, env={**os.environ, **settings})]  # noqa: S603


def _keep_working() -> None:
    """Starts the worker again whenever it has ended before the server."""
    while not _ended.wait(_PAUSE):
        if _worker[0].poll() is not None:
            _start()


def on_starting(server: Any) -> None:  # noqa: ANN401  (gunicorn's own)
    """The data is ours for as long as the server runs: nothing is restored over it meanwhile."""
    backup = importlib.import_module("zephyrant.desk.backup")
    settings = importlib.import_module("zephyrant.site.settings")
    settings.DATA_DIR.mkdir(parents=True, exist_ok=True)
    # Shared: a server that takes over from another holds it with that one.
    held = os.open(settings.DATA_DIR / backup.SERVING, os.O_CREAT | os.O_RDWR, 0o600)
    fcntl.flock(held, fcntl.LOCK_SH)


def when_ready(server: Any) -> None:  # noqa: ANN401
    """The server listens: the worker may start, before the server forks and any thread runs."""
    _start()
    threading.Thread(target=_keep_working, daemon=True).start()


def post_worker_init(worker: Any) -> None:  # noqa: ANN401
    """What only tables and heavy questions need is made ready beside the serving, before the first
    of them comes."""
    loading = threading.Timer(_PAUSE, _make_ready)
    loading.daemon = True
    loading.start()


def _make_ready() -> None:
    heavy = importlib.import_module("zephyrant.desk.heavy")
    heavy.make_ready()
    for name in heavy.NEEDED:
        importlib.import_module(name)
    importlib.import_module("zephyrant.desk.tables")


def worker_exit(server: Any, worker: Any) -> None:  # noqa: ANN401
    """A process that served ends, and its heavy questions with it."""
    heavy = sys.modules.get("zephyrant.desk.heavy")
    if heavy is not None:
        heavy.end()


def child_exit(server: Any, worker: Any) -> None:  # noqa: ANN401
    """A process has ended: what it still showed of the present is gone."""
    if "PROMETHEUS_MULTIPROC_DIR" in os.environ:
        importlib.import_module("prometheus_client.multiprocess").mark_process_dead(worker.pid)


def on_exit(server: Any) -> None:  # noqa: ANN401
    """The server ends, and the worker with it."""
    _ended.set()
    for worker in _worker:
        worker.terminate()
