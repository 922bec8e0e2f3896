"""The machines that work: those of a cluster that runs, or processes of this one."""

import logging
import warnings
from collections.abc import Callable, Iterable, Iterator, Sequence
from concurrent.futures import CancelledError
from contextlib import contextmanager, suppress
from itertools import islice
from math import inf
from queue import Empty, Queue
from time import monotonic
from typing import Any, Final, TypeVar

from distributed import Client, Future, LocalCluster
from distributed.client import ClosedClientError
from distributed.comm.core import CommClosedError
from distributed.scheduler import KilledWorker

from zephyrant.loans import NotALoan

from .work import Refused

T = TypeVar("T")
J = TypeVar("J")
#: Seconds in which a scheduler answers, and in which a first worker joins it.
_ANSWERS: Final = 5
_JOINS: Final = 30
#: Seconds without a single worker before one gives up.
_ALONE: Final = 120
#: Seconds between two looks at who works.
_LOOK: Final = 5
#: Parts that a worker has before it, beside the one it works.
_AHEAD: Final = 2


#: What a client says that has nobody to speak to.
_GONE: Final = (OSError, TimeoutError, CommClosedError, ClosedClientError)


class Lost:
    """What a job gives whose worker died of it, each time it was begun again."""


LOST: Final = Lost()


@contextmanager
def machines(cluster: str | None, workers: int) -> Iterator["Machines"]:
    """Workers, until the end: those of the scheduler at an address, or so many processes here.

    Raises `NotALoan` where nobody answers.
    """
    for name in [*logging.root.manager.loggerDict]:
        # What goes wrong there is told by us.
        if name.partition(".")[0] in ("distributed", "tornado"):
            logging.getLogger(name).setLevel(logging.CRITICAL)
    if cluster is None:
        with _here(workers) as local, Client(local) as client:
            yield Machines(client, f"{workers} on this machine")
        return
    try:
        client = Client(cluster, timeout=_ANSWERS)
    except (OSError, ValueError, CommClosedError) as error:
        raise _wrong(
            f"No scheduler answers at {cluster}: {_first_line(error)}. Is the address right?"
        ) from None
    with client:
        try:
            client.wait_for_workers(1, timeout=_JOINS)
        except TimeoutError:
            raise _wrong(f"No worker has joined the scheduler at {cluster}: start some.") from None
        yield Machines(client, cluster)


def _here(workers: int) -> LocalCluster:
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        return LocalCluster(
            n_workers=workers,
            threads_per_worker=1,
            # Of this machine, and by keys made for this run: nobody else on it reaches them.
            host="127.0.0.1",
            security=True,
            dashboard_address=None,
            silence_logs=logging.CRITICAL,
            env={"POLARS_MAX_THREADS": "1"},
        )


def _first_line(error: Exception) -> str:
    return str(error).partition("\n")[0].rstrip(".") or type(error).__name__


class Machines:
    """Workers that take jobs."""

    def __init__(self, client: Client, where: str) -> None:
        self.client, self.where = client, where
        self._looked, self._seen = -inf, monotonic()
        self._threads = 0

    def ask_all(self, ask: Callable[..., str | Refused], *given: object) -> None:
        """Asks every worker whether it can work; raises `NotALoan` with what one of them says."""
        # In words that a machine has which lacks ours.
        for answer in self._of_all(exec, f"import {ask.__module__}"):
            if isinstance(answer, ModuleNotFoundError):
                raise _lacks(answer)
        for answer in self._of_all(ask, *given):
            if isinstance(answer, BaseException):
                raise answer
            if said := answer.message if isinstance(answer, Refused) else answer:
                raise _wrong(said)

    def _of_all(self, ask: Callable[..., Any], *given: object) -> Iterable[Any]:
        answers: dict[str, Any] = self.client.run(ask, *given, on_error="return")
        return answers.values()

    def each(
        self, work: Callable[..., T | Refused], jobs: Iterable[J], *given: object
    ) -> Iterator[tuple[J, T | Lost]]:
        """What work on each job gives, as it is done, where `given` stands before the job; few are
        ahead of the workers, however many there are.

        Raises `NotALoan` with what a worker refuses, or where the scheduler or all workers went.
        """
        coming = iter(jobs)
        under_way: dict[Future[Any], J] = {}
        ended: Queue[Future[Any]] = Queue()
        try:
            while True:
                self._look()
                for job in islice(coming, max(0, self._wanted() - len(under_way))):
                    future = self._submit(work, *given, job)
                    under_way[future] = job
                    future.add_done_callback(ended.put)
                if not under_way:
                    return
                done = self._next(ended)
                answers = self._answers(done)
                yield from zip(map(under_way.pop, done), answers, strict=True)
        finally:
            if self.client.status == "running":
                self.client.cancel(list(under_way))

    def _submit(self, work: Callable[..., Any], *given: object) -> "Future[Any]":
        try:
            return self.client.submit(work, *given, pure=False)
        except _GONE:
            raise self._gone() from None

    def _wanted(self) -> int:
        """How many jobs are given at once."""
        return _AHEAD * max(1, self._threads)

    def _next(self, ended: "Queue[Future[Any]]") -> list["Future[Any]"]:
        """Those that came to an end, at least one."""
        while True:
            self._look()
            with suppress(Empty):
                done = [ended.get(timeout=_LOOK)]
                # All at once: with many workers each is soon there.
                done += (ended.get_nowait() for _ in range(ended.qsize()))
                return done

    def _look(self) -> None:
        """Looks who works, now and then."""
        now = monotonic()
        if now - self._looked < _LOOK:
            return
        self._looked = now
        try:
            self._threads = sum(self.client.nthreads().values())
        except _GONE:
            raise self._gone() from None
        if self._threads:
            self._seen = now
        elif now - self._seen > _ALONE:
            raise _wrong(
                f"No worker has been left for {_ALONE} seconds. Start some, and the same again: it "
                "goes on with what is missing."
            )

    def _answers(self, done: Sequence["Future[Any]"]) -> list[Any]:
        """What jobs gave that came to an end."""
        good = [future for future in done if future.status == "finished"]
        try:
            found = dict(zip(good, self.client.gather(good), strict=True))
        except (CancelledError, *_GONE):
            raise self._gone() from None
        for answer in found.values():
            if isinstance(answer, Refused):
                raise _wrong(answer.message)
        return [found[future] if future in found else self._without(future) for future in done]

    def _without(self, future: "Future[Any]") -> Lost:
        """Why a job gave nothing: its workers died of it, or the run ends here."""
        try:
            future.result()
        except KilledWorker:
            return LOST
        except ModuleNotFoundError as error:
            raise _lacks(error) from None
        except (CancelledError, *_GONE):
            raise self._gone() from None
        raise self._gone()

    def _gone(self) -> NotALoan:
        return _wrong(
            f"The scheduler ({self.where}) went away. Start the same again: it goes on with what "
            "is missing."
        )


def _wrong(message: str) -> NotALoan:
    return NotALoan.at("", message)


def _lacks(error: ModuleNotFoundError) -> NotALoan:
    missing = (error.name or "zephyrant").partition(".")[0]
    extra = "" if missing == "zephyrant" else f" ({missing} is not there)"
    return _wrong(
        f"A worker lacks the package{extra}: install zephyrant[cluster] on every machine, the same."
    )
