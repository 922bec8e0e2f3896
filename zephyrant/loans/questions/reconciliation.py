"""Somebody's schedule held against ours, row by row."""

from collections.abc import Callable, Sequence
from datetime import date
from decimal import Decimal
from typing import Final, NamedTuple

from pydantic import BaseModel, ConfigDict, Field

from zephyrant.texts import worded

from ..budget import look
from ..calendars.days_in_words import read_day, write_day
from ..document.loan import Loan
from ..document.named import COLUMNS_NAMED
from ..errors import FieldError, NotALoan
from ..ledger.rows import Row, due
from ..numbers.decimals import is_whole
from ..unknowns.worked import work_out
from ..wording.marks import Marks, Money, Number, Sentence
from ..wording.tables import TableTold, row_told
from .their_table import (
    COLUMNS,
    MONEY,
    Column,
    Matched,
    TheirTable,
    decimal_mark,
    guess,
    number_in,
    read_table,
)

#: Differences told one by one.
MOST_TOLD: Final = 200


class Difference(BaseModel):
    """A figure that differs; `gap` is theirs less ours."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    number: int
    column: Column
    ours: str
    theirs: str
    gap: str


class Reconciliation(BaseModel):
    """Two schedules held against each other.

    Where the columns are not known by their names, `ask` is true and `names`, `sample` and the
    guess `matched` are what to ask with. `told`: the differences as they are read; `unread` are
    rows that could not be read.
    """

    model_config = ConfigDict(frozen=True, defer_build=True)

    ask: bool = False
    names: tuple[str, ...] = ()
    sample: tuple[tuple[str, ...], ...] = ()
    matched: Matched = Matched()
    says: str = ""
    compared: int = 0
    rows_differing: int = 0
    began: int | None = None
    differences: tuple[Difference, ...] = ()
    told: TableTold | None = None
    unread: tuple[FieldError, ...] = Field(default=())


class _Theirs(NamedTuple):
    number: int
    figures: dict[Column, Decimal]
    date: str | None


def reconcile(
    loan: Loan, text: str, matched: Matched | None, tolerance: Decimal, marks: Marks
) -> Reconciliation:
    """Their schedule against ours; asks which column is which rather than guess.

    Raises `NotALoan` where their text is no table or our loan has no schedule.
    """
    table = read_table(text)
    known = matched or guess(table)
    if not any(getattr(known, column) is not None for column in MONEY) or (
        matched is None and known.closing is None and known.payment is None
    ):
        return Reconciliation(ask=True, names=table.names, sample=table.rows[:4], matched=known)
    schedule = work_out(loan).schedule
    if schedule is None:
        raise NotALoan.at(
            "", worded("Our loan has no schedule to the cent to hold theirs against.")
        )
    theirs, unread = _read_rows(table, known)
    ours = {row.number: row for row in schedule.rows}
    differences = [
        difference
        for row in theirs
        if row.number in ours
        for difference in _differing(row, ours[row.number], schedule.unit.amount, tolerance, loan)
    ]
    numbers = {difference.number for difference in differences}
    said = _says(len(theirs), schedule.rows, sorted(numbers), differences, loan)
    return Reconciliation(
        names=table.names,
        matched=known,
        says=said.say(marks),
        compared=len([row for row in theirs if row.number in ours]),
        rows_differing=len(numbers),
        began=min(numbers, default=None),
        differences=tuple(differences[:MOST_TOLD]),
        told=_told(differences[:MOST_TOLD], marks),
        unread=tuple(unread),
    )


def _told(differences: Sequence[Difference], marks: Marks) -> TableTold:
    """The differences, a row each."""

    def text(each: Difference, figure: str) -> str:
        if not figure:
            return ""
        if each.column == "date":
            return write_day(date.fromisoformat(figure))
        return marks.write(figure)

    return TableTold(
        heads=(worded("No."), worded("Figure"), worded("Ours"), worded("Theirs"), worded("Gap")),
        rows=tuple(
            row_told(
                str(each.number),
                COLUMNS_NAMED[each.column].alone,
                *(text(each, figure) for figure in (each.ours, each.theirs, each.gap)),
            )
            for each in differences
        ),
    )


def _read_rows(table: TheirTable, known: Matched) -> tuple[list[_Theirs], list[FieldError]]:
    places = {column: getattr(known, column) for column in COLUMNS}
    money = {column: place for column in MONEY if (place := places[column]) is not None}
    wide = [place for place in places.values() if place is not None and place >= len(table.names)]
    if wide:
        raise NotALoan.at("matched", worded("A column that was named is not in the table."))
    mark = decimal_mark([row[place] for row in table.rows for place in money.values()])
    read: list[_Theirs] = []
    unread: list[FieldError] = []
    for line, row in enumerate(table.rows, 2):
        look()
        figures = {column: number_in(row[place], mark) for column, place in money.items()}
        number = len(read) + len(unread) + 1
        if places["number"] is not None:
            stated = number_in(row[places["number"]], mark)
            if stated is None or not is_whole(stated) or stated < 1:
                unread.append(_cannot(line, "number", row[places["number"]]))
                continue
            number = int(stated)
        wrong = next((column for column, value in figures.items() if value is None), None)
        if wrong:
            unread.append(_cannot(line, wrong, row[money[wrong]]))
            continue
        day = read_day(row[places["date"]]) if places["date"] is not None else None
        told = {column: value for column, value in figures.items() if value is not None}
        read.append(_Theirs(number, told, day.isoformat() if day else None))
    return read, unread


def _cannot(line: int, column: str, cell: str) -> FieldError:
    message = worded("{column}: “{cell}” is no number.", column=column, cell=cell[:40])
    return FieldError(field=f"row {line}", message=message)


def _differing(
    theirs: _Theirs, ours: Row, amount: Callable[[int], Decimal], tolerance: Decimal, loan: Loan
) -> list[Difference]:
    found = []
    for column, value in theirs.figures.items():
        held = amount(getattr(ours, column))
        if column == "payment" and ours.repay:
            # Theirs may count what is paid on top with the payment, or not.
            held = min(held, amount(ours.paid), key=lambda each: abs(value - each))
        gap = value - held
        if abs(gap) > tolerance:
            found.append(
                Difference(
                    number=ours.number,
                    column=column,
                    ours=f"{held:.{loan.decimals}f}",
                    theirs=f"{value:f}",
                    gap=f"{gap:f}",
                )
            )
    day = due(ours, loan.calendar)
    if day is not None and theirs.date is not None and day.isoformat() != theirs.date:
        ours_on = day.isoformat()
        found.append(
            Difference(number=ours.number, column="date", ours=ours_on, theirs=theirs.date, gap="")
        )
    return found


def _says(
    read: int,
    ours: Sequence[Row],
    numbers: list[int],
    differences: list[Difference],
    loan: Loan,
) -> Sentence:
    lengths = ""
    if read != len(ours):
        lengths = worded(" They have {read} rows, we {ours}.")
    figures: dict[str, Money | Number | str] = {"read": Number(read), "ours": Number(len(ours))}
    if not numbers:
        return Sentence(worded("Every row agrees within the tolerance.") + lengths, **figures)
    first = differences[0]
    figures |= {"rows": Number(len(numbers)), "began": Number(numbers[0]), "column": first.column}
    text = worded("{rows} rows differ. It began with payment {began}: its {column} ")
    if numbers == [numbers[0]]:
        text = worded("One row differs, payment {began}: its {column} ")
    if first.gap:
        gap = Decimal(first.gap)
        figures["gap"] = Money(abs(gap), max(loan.decimals, 2))
        text += (
            worded("is {gap} ")
            + (worded("more") if gap > 0 else worded("less"))
            + worded(" than ours.")
        )
    else:
        figures["theirs"], figures["due"] = first.theirs, first.ours
        text += worded("is {theirs} there and {due} here.")
    return Sentence(text + lengths, **figures)
