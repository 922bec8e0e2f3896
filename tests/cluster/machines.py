"""The command as many machines run it, schedulers and workers: processes of their own."""

import re
import subprocess
import sys
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Final, NamedTuple

import psutil

#: Seconds within which what is waited for comes, however busy the machine.
_LONG: Final = 180
_COMMAND: Final = "from zephyrant.command import main; main()"
_WORKER: Final = "from distributed.cli.dask_worker import main; main()"


class Done(NamedTuple):
    status: int
    out: str
    err: str


def started(*arguments: str | Path) -> "subprocess.Popen[str]":
    """The command under way."""
    return subprocess.Popen(
        [sys.executable, "-c", _COMMAND, *map(str, arguments)],
        stdout=subprocess.PIPE,
        stderr=subprocess.PIPE,
        text=True,
    )


def ended(process: "subprocess.Popen[str]") -> Done:
    """What a command came to."""
    out, err = process.communicate(timeout=_LONG)
    return Done(process.returncode, out, err)


def run(*arguments: str | Path) -> Done:
    """The command, to its end."""
    return ended(started(*arguments))


def until(holds: Callable[[], object], process: "subprocess.Popen[str]") -> None:
    """Waits until something holds, as long as a process runs."""
    by = time.monotonic() + _LONG
    while not holds():
        if process.poll() is not None or time.monotonic() > by:
            process.kill()
            raise AssertionError(f"it came to an end before: {process.communicate()}")
        time.sleep(0.02)


def workers_of(process: "subprocess.Popen[str]") -> list[psutil.Process]:
    """The processes that work for a command."""
    return [
        child
        for child in psutil.Process(process.pid).children(recursive=True)
        if any("spawn_main" in word for word in child.cmdline())
    ]


@contextmanager
def scheduler() -> Iterator[tuple["subprocess.Popen[str]", str]]:
    """A scheduler of this machine, and its address."""
    script = "from distributed.cli.dask_scheduler import main; main()"
    process = subprocess.Popen(
        [sys.executable, "-c", script, "--host", "127.0.0.1", "--port", "0", "--no-dashboard"],
        stderr=subprocess.PIPE,
        text=True,
    )
    try:
        assert process.stderr is not None
        address = next(
            found[1]
            for line in process.stderr
            if (found := re.search(r"Scheduler at:\s+(tcp://\S+)", line))
        )
        yield process, address
    finally:
        process.kill()
        process.communicate()


@contextmanager
def worker(address: str, before: str = "") -> Iterator[None]:
    """A worker of a scheduler, which does something before it begins."""
    process = subprocess.Popen(
        [
            *(sys.executable, "-c", f"{before}\n{_WORKER}", address),
            *("--nthreads", "1", "--no-nanny", "--no-dashboard"),
        ],
        stderr=subprocess.PIPE,
        text=True,
    )
    try:
        assert process.stderr is not None
        next(line for line in process.stderr if "Registered to" in line)
        yield
    finally:
        process.kill()
        process.communicate()
