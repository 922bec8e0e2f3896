"""Heavy work: what is light is answered at once, what is not in a process of its own, within
limits, and dropped when nobody waits for it any more.

What can be worked here is a function of a module that needs no Django, with what it takes and
gives: both travel between processes.
"""

import logging
import multiprocessing
import os
import resource
import select
import socket
import threading
import time
from collections import Counter
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import TimeoutError as NotYetError
from contextlib import AbstractContextManager, contextmanager, suppress
from pathlib import Path
from typing import Any, Final, NamedTuple, ParamSpec, TypeVar
from uuid import UUID

from django.conf import settings
from django.http import HttpRequest
from pebble import ProcessExpired, ProcessFuture, ProcessPool

from zephyrant.loans import A_QUESTION, BudgetSpentError, within
from zephyrant.texts import Reading, look_in, looked_in, read_as, worded
from zephyrant.texts import reading as who_reads

from .locks import held

_log = logging.getLogger(__name__)
P = ParamSpec("P")
T = TypeVar("T")
Gone = Callable[[], bool]

#: Seconds of a core that are tried where the request is served, before it counts as heavy.
LIGHT: Final = 0.15
#: Seconds a heavy question may take, files more.
QUESTION: Final = A_QUESTION
FILE: Final = 60.0
#: Seconds after those before a process that does not look at its budget is ended.
_GRACE: Final = 8.0
#: Heavy questions of one analyst at once, over all processes of the server.
MOST_EACH: Final = 2
#: Questions of one analyst that one process of the server answers at once, light or heavy.
MOST_AT_ONCE: Final = 6
#: Heavy questions that wait in one process of the server; its other threads answer what is light.
MOST_WAITING: Final = 4
#: Bytes of a request above which reading it takes a place: it is checked where it is served.
LARGE: Final = 50_000
#: Large requests that one process of the server reads at once, and those of one analyst.
MOST_LARGE: Final = 4
MOST_LARGE_EACH: Final = 2
#: Bytes of memory a heavy question may take.
MEMORY: Final = 1_500_000_000
#: Cores of this machine that may be used.
CORES: Final = len(os.sched_getaffinity(0))
#: Seconds between two looks at whether the answer is there, or nobody waits for it.
_LOOK: Final = 0.1
#: Seconds between two tellings of how much of a file is there.
_TELLS_EACH: Final = 0.25
#: Modules that questions need: loaded once, before a process is made.
NEEDED: Final = ("zephyrant.loans.statement", "zephyrant.loans.tape", "numpy", "holidays")


_BUSY: Final = "The desk is busy with long questions. This one is asked again."
_YOURS: Final = "Other questions of yours are still being worked. This one is asked again."


class BusyError(Exception):
    """Too much is asked at once; it may be asked again after so many seconds."""

    def __init__(self, status: int, message: str, retry_after: int = 2) -> None:
        super().__init__(message)
        self.status, self.retry_after = status, retry_after


class GoneError(Exception):
    """Nobody waits for the answer any more."""


def never() -> bool:
    """Whoever asked waits, whatever happens to the page."""
    return False


def gone(request: HttpRequest) -> Gone:
    """Whether the page that asked has moved on: it has closed the connection."""
    connection = request.META.get("gunicorn.socket")
    if not isinstance(connection, socket.socket):
        return never

    def is_gone() -> bool:
        try:
            readable, _, _ = select.select([connection], [], [], 0)
            return bool(readable) and not connection.recv(1, socket.MSG_PEEK)
        except (OSError, ValueError):
            return True

    return is_gone


def answered(
    asker: int, is_gone: Gone, function: Callable[P, T], *args: P.args, **named: P.kwargs
) -> T:
    """What a function gives, for the user of this key: at once where that is light, else by a
    process of its own.

    Raises `BudgetSpentError` where it takes too much, `BusyError` where too much is asked already,
    `GoneError` where nobody waits any more, and whatever the function raises.
    """
    return _answered(asker, is_gone, _Limits(QUESTION), function, *args, **named)


def made(
    asker: int,
    is_gone: Gone,
    making: UUID | None,
    function: Callable[P, T],
    *args: P.args,
    **named: P.kwargs,
) -> T:
    """The same for what makes a file, which may take longer, and tells how it grows: see `share`
    with the name its asker gave it."""
    with _growing(asker, making) as told:
        return _answered(asker, is_gone, _Limits(FILE, told), function, *args, **named)


def share(asker: int, making: UUID) -> float | None:
    """How much of a file that is being made is there, from 0 to 1; None where nobody says."""
    try:
        return float(_growing_file(asker, making).read_text())
    except (OSError, ValueError):
        return None


def made_apart(
    asker: int,
    is_gone: Gone,
    making: UUID | None,
    function: Callable[P, T],
    *args: P.args,
    **named: P.kwargs,
) -> T:
    """The same by a process of its own from the start, for what is known to be heavy."""
    with _growing(asker, making) as told:
        return _worked_apart(asker, is_gone, _Limits(FILE, told), function, *args, **named)


class _Limits(NamedTuple):
    """Seconds a question may take, and the file that is told how much of it is done."""

    seconds: float
    told: Path | None = None


def _answered(
    asker: int,
    is_gone: Gone,
    limits: _Limits,
    function: Callable[P, T],
    *args: P.args,
    **named: P.kwargs,
) -> T:
    with _asking(asker):
        try:
            with within(_of_this_thread(LIGHT), LIGHT / 2):
                return function(*args, **named)
        except BudgetSpentError:
            return _worked_apart(asker, is_gone, limits, function, *args, **named)


def worked_apart(
    asker: int,
    is_gone: Gone,
    seconds: float,
    function: Callable[P, T],
    *args: P.args,
    **named: P.kwargs,
) -> T:
    """The same by a process of its own from the start."""
    return _worked_apart(asker, is_gone, _Limits(seconds), function, *args, **named)


def side_by_side(
    function: Callable[..., T], parts: Sequence[Sequence[Any]], waiting: Callable[[], None]
) -> list[T]:
    """What a function gives for each of several parts, in their order, on every core. `waiting` is
    called now and again meanwhile; the work ends with what it raises."""
    if len(parts) < 2 or multiprocessing.current_process().daemon:
        return [function(*part) for part in parts]
    pool = _pool(CORES)
    futures = [
        pool.schedule(_read_so, args=[who_reads(), looked_in(), function, part]) for part in parts
    ]
    try:
        return [_awaited(future, waiting) for future in futures]
    finally:
        for future in futures:
            future.cancel()  # type: ignore[no-untyped-call]


def _awaited(future: "ProcessFuture[T]", waiting: Callable[[], None]) -> T:
    while True:
        try:
            result: T = future.result(timeout=_TELLS_EACH)
            return result
        except NotYetError:
            if future.done():
                raise
            waiting()


def _worked_apart(
    asker: int,
    is_gone: Gone,
    limits: _Limits,
    function: Callable[P, T],
    *args: P.args,
    **named: P.kwargs,
) -> T:
    if is_gone():
        raise GoneError
    if multiprocessing.current_process().daemon:
        # A process that may have no children (a runner of tests) works itself, as long as that.
        return _work(limits, function, args, named)
    with _place_for(asker), a_place(_places, worded(_BUSY), 3):
        future = _pool().schedule(
            _read_so,
            args=[who_reads(), looked_in(), _work, (limits, function, args, named)],
            timeout=limits.seconds + _GRACE,
        )
        try:
            result: T = _result(future, is_gone)
            return result
        finally:
            future.cancel()  # type: ignore[no-untyped-call]


def _result(future: "ProcessFuture[Any]", is_gone: Gone) -> Any:  # noqa: ANN401
    while True:
        try:
            return future.result(timeout=_LOOK)
        except NotYetError:
            # Whether the process took too long, or only we have not waited long enough yet.
            if future.done():
                raise BudgetSpentError from None
            if is_gone():
                raise GoneError from None
        except (ProcessExpired, MemoryError) as ended:
            _log.warning("a heavy question took too much: %s", ended)
            raise BudgetSpentError from None


def _read_so(
    reader: Reading, folders: Sequence[Path], function: Callable[..., T], args: Sequence[Any]
) -> T:
    """What a function gives for this reader: who that is, and where translations are besides ours,
    stands in no process but the asker's."""
    for folder in folders:
        look_in(folder)
    with read_as(reader):
        return function(*args)


def _of_this_thread(seconds: float) -> Callable[[], bool]:
    until = time.thread_time() + seconds
    return lambda: time.thread_time() > until


def _work(
    limits: _Limits, function: Callable[..., T], args: tuple[Any, ...], named: dict[str, Any]
) -> T:
    until = time.monotonic() + limits.seconds
    with within(lambda: time.monotonic() > until, limits.seconds, _teller(limits.told)):
        return function(*args, **named)


# How files grow


def _growing_file(asker: int, making: UUID) -> Path:
    return settings.DATA_DIR / "heavy" / f"{asker}-{making}.share"


@contextmanager
def _growing(asker: int, making: UUID | None) -> Iterator[Path | None]:
    """The file that is told how much is done, for as long as that is being worked."""
    if making is None:
        yield None
        return
    told = _growing_file(asker, making)
    try:
        yield told
    finally:
        for file in (told, _half(told)):
            file.unlink(missing_ok=True)


def _half(told: Path) -> Path:
    """Where it is written before it stands whole in its place."""
    return told.with_suffix(".half")


def _teller(told: Path | None) -> Callable[[float], None]:
    """Writes how much is done, now and then, so that whoever reads it finds it whole."""
    last = 0.0

    def tell(share: float) -> None:
        nonlocal last
        now = time.monotonic()
        if told is None or now - last < _TELLS_EACH:
            return
        last = now
        half = _half(told)
        half.write_text(f"{share:.3f}")
        half.replace(told)

    return tell


# The processes

_making = threading.Lock()
_made: dict[int, ProcessPool] = {}


def _pool(processes: int = settings.HEAVY_PROCESSES) -> ProcessPool:
    with _making:
        if processes not in _made or not _made[processes].active:
            context = multiprocessing.get_context("forkserver")
            context.set_forkserver_preload(list(NEEDED))
            pool = ProcessPool(
                max_workers=processes,
                max_tasks=100,
                initializer=_limit,
                initargs=[MEMORY],
                context=context,
            )
            _made[processes] = pool
        return _made[processes]


def make_ready_side_by_side() -> None:
    """Makes a process for each core, so that the first table need not wait for them."""
    for _ in range(CORES):
        _pool(CORES).schedule(never)


def make_ready() -> None:
    """Makes the processes, so that the first heavy question need not wait for them."""
    _pool().schedule(never)
    # What a process that was ended left behind.
    for left in (settings.DATA_DIR / "heavy").glob("*.*"):
        with suppress(OSError):
            if time.time() - left.stat().st_mtime > FILE + _GRACE:
                left.unlink()


def end() -> None:
    """Ends the processes, with what they work."""
    with _making:
        for pool in _made.values():
            pool.stop()  # type: ignore[no-untyped-call]
            pool.join(5)
        _made.clear()


def _limit(memory: int) -> None:
    resource.setrlimit(resource.RLIMIT_DATA, (memory, memory))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    # Those whose questions are light come first.
    os.nice(10)


# How much at once

_places = threading.BoundedSemaphore(MOST_WAITING)
_counting = threading.Lock()
_asked: Counter[int] = Counter()
_large = threading.BoundedSemaphore(MOST_LARGE)
_reading: Counter[int] = Counter()


def _asking(asker: int) -> AbstractContextManager[None]:
    return _counted(_asked, asker, MOST_AT_ONCE)


@contextmanager
def _counted(counts: Counter[int], asker: int, most: int) -> Iterator[None]:
    """One of so many that an analyst may have at once in this process."""
    with _counting:
        if counts[asker] >= most:
            raise BusyError(429, worded(_YOURS), 1)
        counts[asker] += 1
    try:
        yield
    finally:
        with _counting:
            counts[asker] -= 1
            if not counts[asker]:
                del counts[asker]


@contextmanager
def reading(asker: int, size: int) -> Iterator[None]:
    """A place among those whose request of so many bytes is read and checked; a small one needs
    none. Raises `BusyError` where all are taken."""
    if size <= LARGE:
        yield
        return
    with _counted(_reading, asker, MOST_LARGE_EACH), a_place(_large, worded(_BUSY), 1):
        yield


@contextmanager
def a_place(places: threading.Semaphore, message: str, retry_after: int) -> Iterator[None]:
    """One of the places in this process; raises `BusyError` where all are taken."""
    if not places.acquire(blocking=False):
        raise BusyError(503, message, retry_after)
    try:
        yield
    finally:
        places.release()


@contextmanager
def _place_for(asker: int) -> Iterator[None]:
    """One of an analyst's places."""
    for place in range(MOST_EACH):
        with held(settings.DATA_DIR / "heavy" / f"{asker}-{place}", wait=False) as mine:
            if mine:
                yield
                return
    raise BusyError(429, worded(_YOURS))
