"""Some rows of a table worked together: looked at, solved, told. Whoever works a table, on one
machine or many, works its blocks with these."""

import pickle
from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from itertools import islice
from time import thread_time
from typing import Final, NamedTuple

from zephyrant.loans import A_QUESTION, within
from zephyrant.loans.tape import (
    APART_SAYS,
    RESULTS,
    Defaults,
    FieldName,
    Looked,
    Shock,
    aparts,
    look,
    moved,
    solve_tape,
)

from .kinds import figures
from .ways_out import WAYS_OUT, Columns, Heads, WayName

#: Rows of a block: between two signs of life.
TOGETHER: Final = 25_000


class Block(NamedTuple):
    """Some rows of a table, every column of them packed."""

    size: int
    content: bytes

    @classmethod
    def of(cls, columns: Columns) -> "Block":
        """Columns packed."""
        return cls(len(columns[0]), pickle.dumps([list(column) for column in columns]))

    def columns(self) -> list[list[str]]:
        """Unpacked."""
        unpacked: list[list[str]] = pickle.loads(self.content)  # noqa: S301  (what we packed)
        return unpacked


def blocks_of(rows: Iterator[list[str]]) -> Iterator[Columns]:
    """The rows of a table, block by block, as columns."""
    while some := list(islice(rows, TOGETHER)):
        yield list(zip(*some, strict=True))


class Matched(NamedTuple):
    """A table as it is read: what its columns are called and hold and for whom they are told, which
    of them are which figures, and what holds for every row."""

    heads: Heads
    columns: Mapping[FieldName, int]
    defaults: Defaults


def looked_at(columns: Mapping[FieldName, int], kinds: Sequence[str], whole: Columns) -> Looked:
    """What the cells of a block say of how they are written."""
    return look(figures(whole, columns, kinds), whole)


class Solved(NamedTuple):
    """A block solved: its figures as they are stated, its own columns and then the results, and
    these by name; how many rows have no answer."""

    stated: Mapping[FieldName, Sequence[str]]
    every: Columns
    told: Mapping[str, Sequence[str]]
    problems: int

    def as_told(self, heads: Heads, way: WayName) -> bytes:
        """The block as it comes out one way."""
        return WAYS_OUT[way].part(heads, self.every)


def solved(table: Matched, whole: Columns, shock: Shock | None = None) -> Solved:
    """A block solved, as it stands or under a shock; a row that takes more than a question may
    says so."""
    stated = figures(whole, table.columns, table.heads.kinds)
    if shock is not None:
        stated = dict(moved(stated, table.defaults, shock))
    told = solve_tape(stated, table.defaults, set_apart=aparts(whole), bounded=_as_a_question)
    problems = sum(bool(each) and each not in _SET_APART for each in told["problem"])
    return Solved(stated, [*whole, *(told[name] for name in RESULTS)], told, problems)


_SET_APART: Final = frozenset(APART_SAYS.values())


@contextmanager
def _as_a_question() -> Iterator[None]:
    until = thread_time() + A_QUESTION
    with within(lambda: thread_time() > until, A_QUESTION):
        yield
