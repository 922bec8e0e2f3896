"""Loans side by side: their terms, their results, and what each differs by from one of them.

Money differs in money and percent, rates in basis points (hundredths of a percent), dates in days.
"""

from collections.abc import Callable, Sequence
from decimal import Decimal
from typing import Final, NamedTuple

from pydantic import BaseModel
from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..answer.results import as_paid
from ..answer.solving import with_the_answer
from ..calendars.days_in_words import write_day
from ..calendars.frequencies import period
from ..document.bounds import cash_flow_in_words, cover_in_words, value_in_words
from ..document.choices import TIMED, Choice
from ..document.fields import UNKNOWN
from ..document.floating import floating
from ..document.loan import Loan
from ..document.named import FIGURES_NAMED, RESULTS_NAMED, Named
from ..document.repaid import repaid_in_words
from ..document.sentence import clause_in_words, rate_in_words
from ..document.telling import in_plain, signed, told, told_apart
from ..errors import NotALoan
from ..ledger.rows import due
from ..numbers.decimals import plain, precise
from ..unknowns.worked import work_out
from ..wording.marks import MARKS, Marks, MarksName, Number, Sentence
from .in_a_list import years_in

#: Loans that stand beside each other.
MOST_BESIDE: Final = 6
#: Points of a line that is drawn.
_MOST_POINTS: Final = 240


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
    says: str


class SideBySide(BaseModel):
    """Loans side by side: `wrong` says of each why it cannot be worked, if it cannot. `lines`: of
    those whose money is that of the base; `top`: the most that is owed in any of them;
    `left_out`: others have a line in another currency."""

    names: list[str]
    wrong: list[str | None]
    base: int
    currencies: list[str]
    terms: list[SideBySideRow]
    results: list[SideBySideRow]
    lines: list[Line | None]
    top: str | None
    left_out: bool


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
        message = worded("From one to {most} loans can stand side by side.", most=MOST_BESIDE)
        raise NotALoan.at("pins", message)
    if not 0 <= base < len(contenders):
        raise NotALoan.at("base", worded("The base is one of the loans shown."))
    marks = MARKS[marks_name]
    columns = [_Column(contender, marks) for contender in contenders]
    currency = columns[base].currency
    lines = [_line(column.loan, marks) for column in columns]
    drawn = [
        line if column.currency == currency else None
        for column, line in zip(columns, lines, strict=True)
    ]
    most = max((max(line["owed"]) for line in drawn if line), default=None)
    return SideBySide(
        names=[contender.name for contender in contenders],
        wrong=[column.wrong for column in columns],
        base=base,
        currencies=[column.currency for column in columns],
        terms=[row for name, tell in _TERMS if (row := _words(name, tell, columns)) is not None],
        results=[
            row for figure in _RESULTS if (row := _figures(figure, columns, base)) is not None
        ],
        lines=drawn,
        top=None if most is None else marks.number(Decimal(most), 0),
        left_out=lines != drawn,
    )


# Terms


def _money(loan: Loan, value: Decimal | str | None, marks: Marks) -> str:
    return marks.number(Decimal(value or 0), 20, loan.decimals)


def _rate(loan: Loan, marks: Marks) -> str:
    if floating(loan) is not None:
        return rate_in_words(loan, marks)
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
    payment = {
        "nearest": worded("to the nearest"),
        "up": worded("up to"),
        "none": worded("payment not rounded"),
    }
    text = payment[rounding.payment]
    if rounding.payment != "none":
        text += f" {plain(loan.step)}"
    text += "" if rounding.interest == "nearest" else worded(", interest carried unrounded")
    return text + ("" if rounding.overpaid == "cut" else worded(", overpaid shown"))


def _days(loan: Loan) -> str:
    calendar = loan.calendar
    if calendar is None:
        return ""
    return worded(
        "{start}, first payment {first}",
        start=write_day(calendar.start),
        first=write_day(calendar.first),
    )


#: The terms of a loan in the order they are said; an empty text where a loan has none of the kind.
_TERMS: Final[tuple[tuple[Named | Choice, Callable[[Loan, Marks], str]], ...]] = (
    (
        FIGURES_NAMED["purchase.price"],
        lambda loan, marks: (loan.purchase and _money(loan, loan.purchase.price, marks)) or "",
    ),
    (FIGURES_NAMED["purchase.down.amount"], _down),
    (FIGURES_NAMED["principal"], lambda loan, marks: _money(loan, loan.principal, marks)),
    (FIGURES_NAMED["rate.percent"], _rate),
    (
        FIGURES_NAMED["count"],
        lambda loan, marks: "?" if loan.count == UNKNOWN else marks.write(str(loan.count)),
    ),
    (
        Choice("Paid"),
        lambda loan, _: f"{period(loan.every).often}, {TIMED[loan.timing]}",
    ),
    (Choice("Repaid"), repaid_in_words),
    (FIGURES_NAMED["cover.cash_flow"], cash_flow_in_words),
    (FIGURES_NAMED["cover.ratio"], cover_in_words),
    (FIGURES_NAMED["value.amount"], value_in_words),
    (FIGURES_NAMED["balance"], lambda loan, marks: _money(loan, loan.balance, marks)),
    (Choice("Lent on"), lambda loan, _: _days(loan)),
    (Choice("Days counted"), lambda loan, _: loan.day_count if loan.calendar else ""),
    (Choice("Rounding"), lambda loan, _: _rounding(loan)),
    (
        Choice("Clauses"),
        lambda loan, marks: "; ".join(
            clause_in_words(loan, clause, marks) for clause in loan.clauses
        ),
    ),
)


def _words(
    name: Named | Choice, tell: Callable[[Loan, Marks], str], columns: list[_Column]
) -> SideBySideRow | None:
    texts = [tell(column.loan, column.marks) if column.loan else None for column in columns]
    said = {text for column, text in zip(columns, texts, strict=True) if column.loan}
    if said <= {""}:
        return None
    return {
        "name": name.alone if isinstance(name, Named) else name.label,
        "kind": "words",
        "cells": [{**_NO_CELL, "text": text or None} for text in texts],
        "stands_out": len(said) > 1,
    }


# Results

_RESULTS: Final = (
    "payment",
    "total_paid",
    "total_interest",
    "final_payment",
    "count",
    "end_date",
    "effective",
    "us_apr",
    "eu_aprc",
)


def _figures(figure: str, columns: list[_Column], base: int) -> SideBySideRow | None:
    named, kind = RESULTS_NAMED[figure], RESULTS_NAMED[figure].kind
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
                "text": told(kind, value, column.marks, column.loan.decimals),
                "value": in_plain(kind, value, column.loan.decimals),
                "differs": gap
                if gap is None
                else told_apart(kind, gap, column.marks, column.loan.decimals),
                "percent": _share(column, gap, ours) if kind == "money" else None,
            }
        )
    texts = {cell["text"] for cell in cells if cell["text"] is not None}
    return {"name": named.alone, "kind": kind, "cells": cells, "stands_out": len(texts) > 1}


def _share(column: _Column, gap: Decimal | None, ours: Decimal | None) -> str | None:
    if gap is None or not ours:
        return None
    with precise():
        return f"{signed(column.marks, round(100 * gap / ours, 2), 2, 2)} %"


def _line(loan: Loan | None, marks: Marks) -> Line | None:
    """What is owed right after each payment, thinned out where there are many."""
    if loan is None or not loan.payments_a_year:
        return None
    schedule = work_out(loan).schedule
    if schedule is None or not schedule.rows:
        return None
    calendar = loan.calendar
    rows = [(0.0, schedule.rows[0].opening)]
    rows += [(years_in(loan, row.stands_at, due(row, calendar)), row.rest) for row in schedule.rows]
    step = max(1, len(rows) // _MOST_POINTS)
    kept = [*rows[:-1:step], rows[-1]]
    amount, (years, left) = schedule.unit.amount, kept[-1]
    says = Sentence(
        "{first} owed at the start, {left} after {years} years",
        first=Number(amount(kept[0][1])),
        left=Number(amount(left)),
        years=Number(Decimal(years), 1),
    )
    return {
        "years": [round(at, 4) for at, _ in kept],
        "owed": [float(amount(units)) for _, units in kept],
        "start": calendar and calendar.start.isoformat(),
        "says": says.say(marks),
    }
