"""Loans side by side: their terms, their results, and what each differs by from one of them.

Money differs in money and percent, rates in basis points (hundredths of a percent), dates in days.
"""

from collections.abc import Callable, Sequence
from datetime import date
from decimal import Decimal
from typing import Final, NamedTuple

from pydantic import BaseModel
from typing_extensions import TypedDict

from ..answer.results import as_paid
from ..answer.solving import with_the_answer
from ..calendars.days_in_words import write_day
from ..calendars.frequencies import period
from ..document.loan import Loan
from ..document.sentence import clause_in_words
from ..errors import FieldError, NotALoan
from ..ledger.rows import due
from ..numbers.decimals import plain, precise
from ..unknowns.worked import work_out
from ..wording.marks import MARKS, Marks, MarksName

#: Loans that stand beside each other.
MOST_BESIDE: Final = 6
#: Points of a line that is drawn.
_MOST_POINTS: Final = 240
_PERCENT_PLACES: Final = 4


class Cell(TypedDict):
    """A figure of one loan in the reader's marks, None where it has none, and as a plain decimal
    or an ISO date; `differs`: from the base, in its own unit; `percent`: that in percent of the
    base's (of money)."""

    text: str | None
    value: str | None
    differs: str | None
    percent: str | None


_NO_CELL: Final[Cell] = {"text": None, "value": None, "differs": None, "percent": None}


class SideBySideRow(TypedDict):
    """A figure or result of every loan. `stands_out`: not the same in all of them."""

    name: str
    kind: str
    cells: list[Cell]
    stands_out: bool


class Line(TypedDict):
    """What is owed, by years since the start: to draw, not to read from."""

    years: list[float]
    owed: list[float]
    start: str | None


class SideBySide(BaseModel):
    """Loans side by side: `wrong` says of each why it cannot be worked, if it cannot."""

    names: list[str]
    wrong: list[str | None]
    base: int
    currencies: list[str]
    terms: list[SideBySideRow]
    results: list[SideBySideRow]
    lines: list[Line | None]


class Contender(NamedTuple):
    """A loan to stand beside others, its money in `currency`; without a loan `wrong` says why there
    is none."""

    name: str
    currency: str
    loan: Loan | None
    wrong: str | None = None


class _Column:
    """One loan, worked."""

    def __init__(self, contender: Contender, marks: Marks) -> None:
        self.marks = marks
        self.loan: Loan | None = None
        self.wrong = contender.wrong
        self.currency = contender.currency
        if contender.loan is not None:
            try:
                self.loan = with_the_answer(contender.loan)
            except NotALoan as wrong:
                self.wrong = wrong.errors[0].message


def side_by_side(contenders: Sequence[Contender], base: int, marks_name: MarksName) -> SideBySide:
    """Loans beside each other.

    Raises `NotALoan` where there are none or too many, or `base` is none of them.
    """
    if not 1 <= len(contenders) <= MOST_BESIDE:
        message = f"From one to {MOST_BESIDE} loans can stand side by side."
        raise NotALoan([FieldError(field="pins", message=message)])
    if not 0 <= base < len(contenders):
        raise NotALoan([FieldError(field="base", message="The base is one of the loans shown.")])
    marks = MARKS[marks_name]
    columns = [_Column(contender, marks) for contender in contenders]
    return SideBySide(
        names=[contender.name for contender in contenders],
        wrong=[column.wrong for column in columns],
        base=base,
        currencies=[column.currency for column in columns],
        terms=[row for name, tell in _TERMS if (row := _words(name, tell, columns)) is not None],
        results=[
            row
            for name, figure, kind in _RESULTS
            if (row := _figures(name, figure, kind, columns, base)) is not None
        ],
        lines=[_line(column.loan) for column in columns],
    )


# Terms


def _money(loan: Loan, value: Decimal | str | None, marks: Marks) -> str:
    return marks.number(Decimal(value or 0), 20, loan.decimals)


def _rate(loan: Loan, marks: Marks) -> str:
    return f"{marks.number(round(Decimal(loan.rate.percent), 6), 6, 2)} % {loan.style.in_words()}"


def _down(loan: Loan, marks: Marks) -> str:
    if loan.purchase is None:
        return ""
    down = loan.purchase.down
    if down.percent is not None:
        return f"{marks.number(Decimal(down.percent), 10)} %"
    return _money(loan, down.amount, marks)


def _rounding(loan: Loan) -> str:
    rounding = loan.rounding
    payment = {"nearest": "to the nearest", "up": "up to", "none": "payment not rounded"}
    text = payment[rounding.payment]
    if rounding.payment != "none":
        text += f" {plain(loan.step)}"
    text += "" if rounding.interest == "nearest" else ", interest carried unrounded"
    return text + ("" if rounding.overpaid == "cut" else ", overpaid shown")


def _days(loan: Loan) -> str:
    calendar = loan.calendar
    if calendar is None:
        return ""
    return f"{write_day(calendar.start)}, first payment {write_day(calendar.first)}"


#: The terms of a loan in the order they are said; an empty text where a loan has none of the kind.
_TERMS: Final[tuple[tuple[str, Callable[[Loan, Marks], str]], ...]] = (
    (
        "Price",
        lambda loan, marks: (loan.purchase and _money(loan, loan.purchase.price, marks)) or "",
    ),
    ("Down payment", _down),
    ("Amount lent", lambda loan, marks: _money(loan, loan.principal, marks)),
    ("Rate", _rate),
    (
        "Paid",
        lambda loan, _: f"{period(loan.every).often}, {loan.timing.replace('-', ' ')}",
    ),
    ("Balance at the end", lambda loan, marks: _money(loan, loan.balance, marks)),
    ("Lent on", lambda loan, _: _days(loan)),
    ("Days counted", lambda loan, _: loan.day_count if loan.calendar else ""),
    ("Rounding", lambda loan, _: _rounding(loan)),
    (
        "Clauses",
        lambda loan, marks: "; ".join(
            clause_in_words(loan, clause, marks) for clause in loan.clauses
        ),
    ),
)


def _words(
    name: str, tell: Callable[[Loan, Marks], str], columns: list[_Column]
) -> SideBySideRow | None:
    texts = [tell(column.loan, column.marks) if column.loan else None for column in columns]
    told = {text for column, text in zip(columns, texts, strict=True) if column.loan}
    if told <= {""}:
        return None
    return {
        "name": name,
        "kind": "words",
        "cells": [{**_NO_CELL, "text": text or None} for text in texts],
        "stands_out": len(told) > 1,
    }


# Results

_RESULTS: Final = (
    ("Payment", "payment", "money"),
    ("Total paid", "total_paid", "money"),
    ("Total interest", "total_interest", "money"),
    ("Last payment", "final_payment", "money"),
    ("Number of payments", "count", "number"),
    ("Ends on", "end_date", "day"),
    ("Effective rate a year", "effective", "percent"),
    ("US actuarial rate a year, nominal (12 CFR 1026 App. J)", "us_apr", "percent"),
    ("EU annual percentage rate of charge, effective", "eu_aprc", "percent"),
)


def _figures(
    name: str, figure: str, kind: str, columns: list[_Column], base: int
) -> SideBySideRow | None:
    values = [as_paid(column.loan, figure) if column.loan else None for column in columns]
    if all(value is None for value in values):
        return None
    ours = values[base]
    cells: list[Cell] = []
    for column, value in zip(columns, values, strict=True):
        if value is None or column.loan is None:
            cells.append(_NO_CELL.copy())
            continue
        same_money = kind != "money" or column.currency == columns[base].currency
        gap = value - ours if ours is not None and same_money else None
        cells.append(
            {
                "text": _shown(column, value, kind),
                "value": _plain(column.loan, value, kind),
                "differs": _gap(column, gap, kind),
                "percent": _share(column, gap, ours) if kind == "money" else None,
            }
        )
    told = {cell["text"] for cell in cells if cell["text"] is not None}
    return {"name": name, "kind": kind, "cells": cells, "stands_out": len(told) > 1}


def _shown(column: _Column, value: Decimal, kind: str) -> str:
    marks, loan = column.marks, column.loan
    if kind == "day":
        return write_day(date.fromordinal(int(value)))
    if kind == "percent":
        return f"{marks.number(round(value, _PERCENT_PLACES), _PERCENT_PLACES, 4)} %"
    return marks.number(value, 20, loan.decimals if loan and kind == "money" else 0)


def _plain(loan: Loan, value: Decimal, kind: str) -> str:
    if kind == "day":
        return date.fromordinal(int(value)).isoformat()
    if kind == "percent":
        return f"{value:.10f}"
    return plain(value, loan.decimals if kind == "money" else 0)


def _signed(marks: Marks, value: Decimal, places: int, least: int) -> str:
    text = marks.number(abs(value), places, least)
    if not any(digit in "123456789" for digit in text):
        return "±0"
    return f"{'+' if value > 0 else '−'}{text}"


def _gap(column: _Column, gap: Decimal | None, kind: str) -> str | None:
    if gap is None or column.loan is None:
        return None
    marks = column.marks
    if kind == "percent":
        return f"{_signed(marks, round(gap * 100, 2), 2, 0)} bp"
    if kind == "day":
        return f"{_signed(marks, gap, 0, 0)} days"
    decimals = column.loan.decimals if kind == "money" else 0
    return _signed(marks, gap, 20, decimals)


def _share(column: _Column, gap: Decimal | None, ours: Decimal | None) -> str | None:
    if gap is None or not ours:
        return None
    with precise():
        return f"{_signed(column.marks, round(100 * gap / ours, 2), 2, 2)} %"


def _line(loan: Loan | None) -> Line | None:
    """What is owed right after each payment, thinned out where there are many."""
    if loan is None or not loan.payments_a_year:
        return None
    schedule = work_out(loan).schedule
    if schedule is None or not schedule.rows:
        return None
    calendar = loan.calendar
    shift = -1 if loan.timing == "in-advance" else 0
    year = loan.payments_a_year
    rows = [(0.0, schedule.rows[0].opening)]
    for row in schedule.rows:
        day = due(row, loan.calendar)
        at = (row.stands_at + shift) / year
        if calendar is not None and day is not None:
            at = (day - calendar.start).days / 365.25
        rows.append((at, row.rest))
    step = max(1, len(rows) // _MOST_POINTS)
    kept = [*rows[:-1:step], rows[-1]]
    return {
        "years": [round(at, 4) for at, _ in kept],
        "owed": [float(schedule.unit.amount(units)) for _, units in kept],
        "start": calendar and calendar.start.isoformat(),
    }
