"""A schedule as CSV: plain numbers under the names of columns."""

import csv
from collections.abc import Iterable, Iterator, Sequence
from itertools import chain, islice
from typing import Any, Final

from zephyrant.loans import Answer, Loan, ScheduleRow, as_text, solve

COLUMNS: Final = ("number", "date", "opening", "interest", "principal", "payment", "closing")
#: Columns that only loans with such clauses have, before the closing balance.
_MOVED: Final = ("advance", "fee", "repay")


class _Echo:
    """Gives back what a writer writes."""

    def write(self, text: str) -> str:
        return text


def columns_of(answer: Answer) -> tuple[str, ...]:
    """The columns that a schedule has as a table for other programs."""
    there = answer.laid.titles if answer.laid else ()
    return (*COLUMNS[:-1], *(name for name in _MOVED if name in there), COLUMNS[-1])


def csv_lines(answer: Answer, *, marked: bool = True) -> Iterator[str]:
    """The schedule line by line, with a row of names on top; `marked`: begins with the mark of
    UTF-8, which office programs need to read it as that."""
    writer = csv.writer(_Echo(), lineterminator="\r\n")
    columns = columns_of(answer)
    yield ("\ufeff" if marked else "") + writer.writerow(columns)
    for row in answer.schedule:
        yield writer.writerow(cells(row, columns))


def csv_of_several(named: Iterable[tuple[str, Answer]]) -> Iterator[str]:
    """The schedules of several loans under one another, line by line: as that of one alone, where
    there are more with the name each row's loan goes by, and every column any of them may have."""
    coming = iter(named)
    first = list(islice(coming, 2))
    if len(first) < 2:
        for _, answer in first:
            yield from csv_lines(answer, marked=False)
        return
    writer = csv.writer(_Echo(), lineterminator="\r\n")
    columns = (*COLUMNS[:-1], *_MOVED, COLUMNS[-1])
    yield writer.writerow(("loan", *columns))
    for name, answer in chain(first, coming):
        for row in answer.schedule:
            yield writer.writerow((as_text(name), *cells(row, columns)))


def csv_of(loan: Loan) -> bytes:
    """The schedule of a loan as a table."""
    return "".join(csv_lines(solve(loan))).encode()


def cells(row: ScheduleRow, columns: Sequence[str]) -> list[Any]:
    """A row of the schedule, empty where a column has nothing."""
    told: dict[str, Any] = dict(row)
    return [told.get(name) or "" for name in columns]
