"""A schedule as CSV: plain numbers under the names of columns."""

from collections.abc import Iterable, Iterator, Sequence
from itertools import chain, islice
from typing import Any, Final

from zephyrant.loans import Answer, Loan, ScheduleRow, as_text, solve

from .csv_form import PLAIN_CSV, CsvForm

COLUMNS: Final = ("number", "date", "opening", "interest", "principal", "payment", "closing")
#: Columns that only loans with such clauses have, before the closing balance.
_MOVED: Final = ("advance", "fee", "repay")
#: What is collected beside the payment, what another rule of sharing interest out brings, what
#: cover and value do, and the day a payment stood on that business days moved.
_BESIDE: Final = ("charge", "actuarial_closing", "cover_ratio", "loan_to_value", "scheduled")
#: Rows that are written at once.
_TOGETHER: Final = 1_000


def columns_of(answer: Answer) -> tuple[str, ...]:
    """The columns that a schedule has as a table for other programs."""
    there = answer.laid.titles if answer.laid else ()
    beside = [name for name in _BESIDE if name in there]
    return (*COLUMNS[:-1], *(name for name in _MOVED if name in there), COLUMNS[-1], *beside)


def csv_parts(answer: Answer, form: CsvForm = PLAIN_CSV) -> Iterator[str]:
    """The schedule, some lines at a time, with a row of names on top."""
    columns = columns_of(answer)
    yield form.begins + form.lines([columns])
    rows = iter(answer.schedule)
    while some := [cells(row, columns, form) for row in islice(rows, _TOGETHER)]:
        yield form.lines(some)


def csv_of_several(named: Iterable[tuple[str, Answer]], form: CsvForm = PLAIN_CSV) -> Iterator[str]:
    """The schedules of several loans under one another, in parts: as that of one alone, where there
    are more with the name each row's loan goes by, and every column any of them may have."""
    coming = iter(named)
    first = list(islice(coming, 2))
    if len(first) < 2:
        for _, answer in first:
            yield from csv_parts(answer, form)
        return
    columns = (*COLUMNS[:-1], *_MOVED, COLUMNS[-1], *_BESIDE)
    yield form.begins + form.lines([("loan", *columns)])
    for name, answer in chain(first, coming):
        called = as_text(name)
        yield form.lines((called, *cells(row, columns, form)) for row in answer.schedule)


def csv_of(loan: Loan, form: CsvForm = PLAIN_CSV) -> bytes:
    """The schedule of a loan as a table."""
    return "".join(csv_parts(solve(loan), form)).encode()


def cells(row: ScheduleRow, columns: Sequence[str], form: CsvForm = PLAIN_CSV) -> Sequence[str]:
    """A row of the schedule, empty where a column has nothing."""
    told: dict[str, Any] = dict(row)
    # Days have no point in them.
    return form.numbers([str(told.get(name) or "") for name in columns])
