"""A table of loans solved from file to text, a part at a time: as large as it may be."""

import multiprocessing
import os
import pickle
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
from typing import IO, Any, Final, NamedTuple, Protocol, Self, TypeVar

from pydantic import ValidationError

from zephyrant.loans import FieldError, NotALoan, field_errors
from zephyrant.loans.tape import (
    APART_SAYS,
    FIELDS,
    RESULTS,
    Defaults,
    FieldName,
    Looked,
    aparts,
    counted_in,
    look,
    match,
    solve_tape,
    together,
    unanswered,
    unmatched,
)

from . import table_files


class TextOut(Protocol):
    """Where text goes."""

    def write(self, text: str, /) -> object:
        """Takes more of it."""


#: Rows that are worked as one part: between two signs of life.
_TOGETHER: Final = 25_000
_MOST_ROWS: Final = 100_000_000
#: Bytes of a table that has been read that stay in memory.
_MOST_IN_MEMORY: Final = 50_000_000


def _wrong(message: str) -> NotALoan:
    return NotALoan.at("", message)


def _pairs(given: list[str]) -> dict[str, str]:
    pairs = {}
    for each in given:
        name, sign, value = each.partition("=")
        if not sign:
            raise _wrong(f"“{each}” is not NAME=VALUE.")
        pairs[name.strip()] = value.strip()
    return pairs


def _matched(names: list[str], given: Mapping[str, str]) -> dict[FieldName, int]:
    """The columns by their names, and as they were given."""
    columns = match(names)
    for field, name in given.items():
        if field not in FIELDS:
            raise _wrong(f"“{field}” is no figure: write one of {', '.join(FIELDS)}.")
        if name not in names:
            raise _wrong(f"There is no column “{name}”: there are {', '.join(names)}.")
        columns[field] = names.index(name)
    missing = unmatched(columns)
    if missing:
        raise _wrong(f"{missing} Say --match NAME=COLUMN; the columns are {', '.join(names)}.")
    return columns


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


def _looked(columns: Mapping[FieldName, int], part: _Part) -> Looked:
    """What the cells of a part say of how they are written."""
    whole = part.columns()
    return look(_matching(whole, columns), whole)


def _matching(
    whole: Sequence[Sequence[str]], columns: Mapping[FieldName, int]
) -> dict[FieldName, Sequence[str]]:
    return {name: whole[place] for name, place in columns.items()}


def _defaults(looked: Looked, names: list[str], columns: Any, said: dict[str, str]) -> Defaults:  # noqa: ANN401
    """How the cells are read: as said, else as they can only be meant; raises where neither."""
    stated: dict[str, Any] = dict(said)
    if "count" in columns:
        stated = {**counted_in(names[columns["count"]]), **stated}
    if "rounding" in said:
        way, _, step = said["rounding"].partition(" ")
        stated["rounding"] = {"payment": way, **({"to": step} if step else {})}
    left = unanswered(looked, stated)
    if left:
        raise NotALoan(
            [
                FieldError(
                    field="",
                    message=f"{each.says} Say --set {each.about}={' or '.join(each.choices)}.",
                )
                for each in left
            ]
        )
    try:
        return Defaults.model_validate({"marks": "plain", **looked.defaults, **stated})
    except ValidationError as error:
        raise NotALoan(field_errors(error.errors())) from None


def solve_table(name: str, out: TextOut, settings: list[str], matching: list[str]) -> int:
    """Solves the table in a file; CSV to `out`, progress to standard error. Gives the number of
    rows without an answer.

    Raises `NotALoan` where it cannot be read or something has to be said first.
    """
    said = _pairs(settings)
    with _Cores() as cores:
        kept = _Kept()
        with _opened(name) as file:
            table = table_files.read(file, name, _MOST_ROWS)
            columns = _matched(table.names, _pairs(matching))
            # Each part is looked at while the next one is read.
            looked = together(cores.each(partial(_looked, columns), kept.all_of(table.rows)))
        defaults = _defaults(looked, table.names, columns, said)
        for note in table.notes:
            sys.stderr.write(f"{note}\n")
        out.write(table_files.csv_text([[name] for name in (*table.names, *RESULTS)]))
        return _write(cores.each(partial(_solved, columns, defaults), kept), out)


@contextmanager
def _opened(name: str) -> Iterator[IO[bytes]]:
    try:
        with Path(name).open("rb") as file:
            yield file
    except OSError as error:
        raise _wrong(f"{name} cannot be read: {error.strerror or error}.") from None


class _Solved(NamedTuple):
    """Rows solved, as lines of CSV, and how many of them have no answer."""

    text: str
    rows: int
    problems: int


def _solved(columns: Mapping[FieldName, int], defaults: Defaults, part: _Part) -> _Solved:
    """A part of a table solved."""
    whole = part.columns()
    told = solve_tape(_matching(whole, columns), defaults, set_apart=aparts(whole))
    # The results are numbers and words of our own, but for the sentence at their end.
    ours = range(len(whole), len(whole) + len(RESULTS) - 1)
    text = table_files.csv_text([*whole, *(told[name] for name in RESULTS)], ours)
    set_apart = frozenset(APART_SAYS.values())
    problems = sum(bool(each) and each not in set_apart for each in told["problem"])
    return _Solved(text, part.size, problems)


def _write(solved: Iterator[_Solved], out: TextOut) -> int:
    """Writes the parts of a table as they are solved; gives the rows without an answer."""
    began, done, problems = time.monotonic(), 0, 0
    for text, rows, unanswered_rows in solved:
        out.write(text)
        done, problems = done + rows, problems + unanswered_rows
        rate = done / max(time.monotonic() - began, 1e-9)
        sys.stderr.write(f"\r{done:,} rows, {rate:,.0f} a second, {problems:,} without answer")
        sys.stderr.flush()
    sys.stderr.write("\n")
    return problems


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
            context = multiprocessing.get_context("fork")
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
