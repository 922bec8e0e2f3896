"""A table of loans solved from file to text, a part at a time: as large as it may be."""

import multiprocessing
import os
import shutil
import sys
import tempfile
from collections import deque
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from concurrent.futures import Future, ProcessPoolExecutor
from contextlib import contextmanager
from functools import partial
from itertools import chain, islice
from pathlib import Path
from typing import IO, Final, NamedTuple, Self, TypeVar

from zephyrant.loans.tape import Defaults, FieldName, Looked, solve_tape, together
from zephyrant.outlets.reader import Reader

from . import files, settling
from .asked import BY_COMMAND, Asked
from .blocks import TOGETHER, Block, Matched, blocks_of, looked_at, solved
from .progress import Progress
from .table import unread
from .ways_out import WAYS_OUT, Columns, Heads, WayName

_MOST_ROWS: Final = 100_000_000
#: Bytes of a table that has been read that stay in memory.
_MOST_IN_MEMORY: Final = 50_000_000


class _Kept:
    """The parts of a table that has been read once: on disk, where it may be as long as it is."""

    def __init__(self) -> None:
        self._file = tempfile.SpooledTemporaryFile(_MOST_IN_MEMORY)  # noqa: SIM115  (with us)
        self._sizes: list[tuple[int, int]] = []

    def _add(self, columns: Columns) -> Block:
        block = Block.of(columns)
        self._sizes.append((block.size, self._file.write(block.content)))
        return block

    def all_of(self, rows: Iterator[list[str]]) -> Iterator[Block]:
        """The rows of a table, block by block, as they are read and kept."""
        return map(self._add, blocks_of(rows))

    def __iter__(self) -> Iterator[Block]:
        self._file.seek(0)
        return (Block(size, self._file.read(length)) for size, length in self._sizes)


def _looked(columns: Mapping[FieldName, int], kinds: Sequence[str], block: Block) -> Looked:
    return looked_at(columns, kinds, block.columns())


def solve_table(name: str, out: IO[bytes], asked: Asked) -> int:
    """Solves the table in a file (`-`: standard input), told `out` one way; progress goes to
    standard error. Gives the number of rows without an answer.

    Raises `NotALoan` where it cannot be read or something has to be said first.
    """
    said, template = asked.stated(), asked.template
    with _Cores() as cores:
        kept = _Kept()
        with _opened(name) as file:
            table = files.read(file, name, _MOST_ROWS, asked.sheet)
            columns = settling.matched(table.names, asked.columns(), BY_COMMAND, template)
            # Each part is looked at while the next one is read.
            looking = partial(_looked, columns, table.kinds)
            looked = together(cores.each(looking, kept.all_of(table.rows)))
        defaults = settling.settled(looked, table.names, columns, said, BY_COMMAND)
        for note in table.notes:
            sys.stderr.write(f"{note}\n")
        heads = Heads.beside(table.names, table.kinds, Reader(csv=asked.csv))
        progress = Progress()
        matched = Matched(heads, columns, defaults)
        parts = cores.each(partial(_told, matched, asked.way), kept)
        for chunk in WAYS_OUT[asked.way].whole(heads, _noted(parts, progress)):
            out.write(chunk)
        progress.end()
        return progress.problems


@contextmanager
def _opened(name: str) -> Iterator[IO[bytes]]:
    if name == "-":
        with tempfile.TemporaryFile() as file:
            shutil.copyfileobj(sys.stdin.buffer, file)
            file.seek(0)
            yield file
        return
    try:
        with Path(name).open("rb") as file:
            yield file
    except OSError as error:
        raise unread(name, error) from None


class _Told(NamedTuple):
    """A block as it is told, and how many of its rows have no answer."""

    told: bytes
    rows: int
    problems: int


def _told(table: Matched, way: WayName, block: Block) -> _Told:
    done = solved(table, block.columns())
    return _Told(done.as_told(table.heads, way), block.size, done.problems)


def _noted(parts: Iterator[_Told], progress: Progress) -> Iterator[bytes]:
    """What is told of each block as it is solved."""
    for told, rows, problems in parts:
        yield told
        progress.add(rows, problems)


def _make_ready() -> None:
    """Loads what solving needs, while the table is being read."""
    solve_tape({"principal": ["1000"], "count": ["12"], "payment": ["100"]}, Defaults())


T = TypeVar("T")


class _Cores:
    """Every core of the machine, for a table of as many rows as a part has."""

    def __init__(self) -> None:
        self._cores = len(os.sched_getaffinity(0))
        self._pool: ProcessPoolExecutor | None = None

    def __enter__(self) -> Self:
        return self

    def __exit__(self, *_: object) -> None:
        if self._pool is not None:
            self._pool.shutdown(cancel_futures=True)

    def each(self, work: Callable[[Block], T], parts: Iterable[Block]) -> Iterator[T]:
        """What work on each part gives, in their order; few are ahead of what has been taken."""
        coming = iter(parts)
        first = list(islice(coming, 1))
        if self._cores < 2 or not first or first[0].size < TOGETHER:
            yield from map(work, chain(first, coming))
            return
        if self._pool is None:
            # What reads files that have types has threads of its own, which end in a fork of ours.
            has_threads = "polars" in sys.modules
            context = multiprocessing.get_context("forkserver" if has_threads else "fork")
            if has_threads:
                context.set_forkserver_preload([__name__])
            self._pool = ProcessPoolExecutor(
                self._cores, mp_context=context, initializer=_make_ready
            )
        waiting: deque[Future[T]] = deque()
        for part in chain(first, coming):
            waiting.append(self._pool.submit(work, part))
            if len(waiting) > self._cores:
                yield waiting.popleft().result()
        while waiting:
            yield waiting.popleft().result()
