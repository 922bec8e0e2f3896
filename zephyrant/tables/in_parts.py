"""A table of loans solved from file to text, a part at a time: as large as it may be."""

import multiprocessing
import os
import pickle
import shutil
import sys
import tempfile
import time
from collections import deque
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from concurrent.futures import Future, ProcessPoolExecutor
from contextlib import contextmanager
from functools import partial
from itertools import chain, islice
from pathlib import Path
from typing import IO, Any, Final, NamedTuple, Self, TypeVar

from zephyrant.loans import NotALoan
from zephyrant.loans.tape import (
    APART_SAYS,
    RESULTS,
    Defaults,
    FieldName,
    Looked,
    aparts,
    look,
    solve_tape,
    together,
)
from zephyrant.outlets.csv_form import PLAIN_CSV, CsvForm
from zephyrant.outlets.reader import Reader

from . import files, settling
from .kinds import figures
from .template import Template
from .ways_out import WAYS_OUT, Columns, Heads, WayName

#: Rows that are worked as one part: between two signs of life.
_TOGETHER: Final = 25_000
_MOST_ROWS: Final = 100_000_000
#: Bytes of a table that has been read that stay in memory.
_MOST_IN_MEMORY: Final = 50_000_000


def _wrong(message: str) -> NotALoan:
    return NotALoan.at("", message)


#: How one says to the command what cannot be told from a table.
BY_COMMAND: Final = settling.Saying(
    match=lambda figure, column: f"--match {figure}={column}",
    setting=lambda name, choices: f"--set {name}={' or '.join(choices)}",
)


def _written_out(said: dict[str, str]) -> dict[str, Any]:
    """Settings as defaults hold them."""
    settings: dict[str, Any] = dict(said)
    if "rounding" in said:
        way, _, step = said["rounding"].partition(" ")
        settings["rounding"] = {"payment": way, **({"to": step} if step else {})}
    return settings


def _pairs(given: Sequence[str]) -> dict[str, str]:
    pairs = {}
    for each in given:
        name, sign, value = each.partition("=")
        if not sign:
            raise _wrong(f"“{each}” is not NAME=VALUE.")
        pairs[name.strip()] = value.strip()
    return pairs


class _Part(NamedTuple):
    """Some rows of a table, every column of them packed."""

    size: int
    content: bytes

    def columns(self) -> list[list[str]]:
        """Unpacked."""
        unpacked: list[list[str]] = pickle.loads(self.content)  # noqa: S301  (what we packed)
        return unpacked


class _Kept:
    """The parts of a table that has been read once: on disk, where it may be as long as it is."""

    def __init__(self) -> None:
        self._file = tempfile.SpooledTemporaryFile(_MOST_IN_MEMORY)  # noqa: SIM115  (with us)
        self._sizes: list[tuple[int, int]] = []

    def _add(self, columns: Sequence[Sequence[str]]) -> _Part:
        part = _Part(len(columns[0]), pickle.dumps([list(column) for column in columns]))
        self._sizes.append((part.size, self._file.write(part.content)))
        return part

    def all_of(self, rows: Iterator[list[str]]) -> Iterator[_Part]:
        """The rows of a table, part by part, as they are read and kept."""
        while some := list(islice(rows, _TOGETHER)):
            yield self._add(list(zip(*some, strict=True)))

    def __iter__(self) -> Iterator[_Part]:
        self._file.seek(0)
        return (_Part(size, self._file.read(length)) for size, length in self._sizes)


def _looked(columns: Mapping[FieldName, int], kinds: Sequence[str], part: _Part) -> Looked:
    """What the cells of a part say of how they are written."""
    whole = part.columns()
    return look(figures(whole, columns, kinds), whole)


class Asked(NamedTuple):
    """What is said of a table: settings (`NAME=VALUE`) and columns (`FIGURE=COLUMN`) beside those
    of a template, the sheet of a workbook; and how it comes out."""

    settings: Sequence[str] = ()
    matching: Sequence[str] = ()
    sheet: str | None = None
    way: WayName = "csv"
    csv: CsvForm = PLAIN_CSV
    template: Template | None = None


def solve_table(name: str, out: IO[bytes], asked: Asked) -> int:
    """Solves the table in a file (`-`: standard input), told `out` one way; progress goes to
    standard error. Gives the number of rows without an answer.

    Raises `NotALoan` where it cannot be read or something has to be said first.
    """
    template = asked.template
    said = {**(template.settings if template else {}), **_written_out(_pairs(asked.settings))}
    with _Cores() as cores:
        kept = _Kept()
        with _opened(name) as file:
            table = files.read(file, name, _MOST_ROWS, asked.sheet)
            columns = settling.matched(table.names, _pairs(asked.matching), BY_COMMAND, template)
            # Each part is looked at while the next one is read.
            looking = partial(_looked, columns, table.kinds)
            looked = together(cores.each(looking, kept.all_of(table.rows)))
        defaults = settling.settled(looked, table.names, columns, said, BY_COMMAND)
        for note in table.notes:
            sys.stderr.write(f"{note}\n")
        heads = Heads.beside(table.names, table.kinds, Reader(csv=asked.csv))
        progress = _Progress()
        parts = cores.each(partial(_solved, heads, columns, defaults, asked.way), kept)
        for chunk in WAYS_OUT[asked.way].whole(heads, progress.through(parts)):
            out.write(chunk)
        sys.stderr.write("\n")
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
        raise _wrong(f"{name} cannot be read: {error.strerror or error}.") from None


class _Solved(NamedTuple):
    """Rows solved, as they are told, and how many of them have no answer."""

    told: bytes
    rows: int
    problems: int


def _solved(
    heads: Heads,
    columns: Mapping[FieldName, int],
    defaults: Defaults,
    way: WayName,
    part: _Part,
) -> _Solved:
    """A part of a table solved."""
    whole = part.columns()
    told = solve_tape(figures(whole, columns, heads.kinds), defaults, set_apart=aparts(whole))
    every: Columns = [*whole, *(told[name] for name in RESULTS)]
    set_apart = frozenset(APART_SAYS.values())
    problems = sum(bool(each) and each not in set_apart for each in told["problem"])
    return _Solved(WAYS_OUT[way].part(heads, every), part.size, problems)


class _Progress:
    """Tells how many rows are done, and counts those without an answer."""

    def __init__(self) -> None:
        self._began, self._done = time.monotonic(), 0
        self.problems = 0

    def through(self, solved: Iterator[_Solved]) -> Iterator[bytes]:
        """What is told of each part as it is solved."""
        for told, rows, problems in solved:
            yield told
            self._done, self.problems = self._done + rows, self.problems + problems
            rate = self._done / max(time.monotonic() - self._began, 1e-9)
            sys.stderr.write(
                f"\r{self._done:,} rows, {rate:,.0f} a second, {self.problems:,} without answer"
            )
            sys.stderr.flush()


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

    def each(self, work: Callable[[_Part], T], parts: Iterable[_Part]) -> Iterator[T]:
        """What work on each part gives, in their order; few are ahead of what has been taken."""
        coming = iter(parts)
        first = list(islice(coming, 1))
        if self._cores < 2 or not first or first[0].size < _TOGETHER:
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
