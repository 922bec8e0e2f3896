"""Flows without a loan round them: a table of days and amounts as a document.

The days are counted in a loan of daily periods without regular payments; its rate is effective a
year of 365 days. What goes out to the borrower is lent, what comes in is repaid.
"""

from datetime import date
from decimal import Decimal
from typing import Any, Final

from zephyrant.texts import worded

from ..budget import look
from ..calendars.days_in_words import read_day
from ..document.limits import MOST_CLAUSES
from ..document.loan import Loan
from ..document.reading import check
from ..errors import NotALoan
from ..questions.their_table import decimal_mark, number_in, read_table

_DAYS: Final = ("date", "day", "when", "due")
_AMOUNTS: Final = ("amount", "flow", "cash flow", "value")
_OUT: Final = ("out", "lent", "advance", "paid out")
_IN: Final = ("in", "repaid", "repayment", "paid in", "received")


def _refused(message: str) -> NotALoan:
    return NotALoan.at("text", message)


def read_flows(text: str, name: str, currency: str) -> Loan:
    """A document from a table: a day, and an amount (below zero: out) or columns for out and in.

    Raises `NotALoan` where the table cannot be read; a broken row is named.
    """
    table = read_table(text)
    names = [each.lower() for each in table.names]

    def column(known: tuple[str, ...]) -> int | None:
        return next((place for place, each in enumerate(names) if each in known), None)

    day, amount = column(_DAYS), column(_AMOUNTS)
    out, into = column(_OUT), column(_IN)
    if day is None or (amount is None and (out is None or into is None)):
        raise _refused(
            worded(
                "Columns named date and amount (below zero what goes out), or date, out "
                "and in, are expected."
            )
        )
    places = [place for place in (amount, out, into) if place is not None]
    mark = decimal_mark([row[place] for row in table.rows for place in places])
    flows: dict[date, Decimal] = {}
    for line, row in enumerate(table.rows, 2):
        look()
        when = read_day(row[day])
        if when is None:
            raise _refused(
                worded(
                    "Row {line}: “{row}” is no day of the calendar.", line=line, row=row[day][:40]
                )
            )
        lent = Decimal(0)
        for place, sign in ((amount, -1), (out, 1), (into, -1)):
            if place is None or not row[place].strip():
                continue
            value = number_in(row[place], mark)
            if value is None:
                raise _refused(
                    worded("Row {line}: “{row}” is no number.", line=line, row=row[place][:40])
                )
            lent += sign * value
        flows[when] = flows.get(when, Decimal(0)) + lent
    return check(_document({day: lent for day, lent in flows.items() if lent}, name, currency))


def _document(flows: dict[date, Decimal], name: str, currency: str) -> dict[str, Any]:
    if len(flows) < 2:
        raise _refused(worded("At least two days on which money moves are expected."))
    if len(flows) > MOST_CLAUSES:
        raise _refused(worded("At most {most} days can be taken.", most=MOST_CLAUSES))
    first, *later = sorted(flows)
    turned = -1 if flows[first] < 0 else 1
    clauses = []
    for day in later:
        lent = turned * flows[day]
        verb = "advance" if lent > 0 else "repay"
        clauses.append({"at": day.isoformat(), verb: f"{abs(lent):f}"})
    return {
        "zephyrant": "loan/1",
        "name": name,
        "currency": currency,
        "principal": f"{abs(flows[first]):f}",
        "rate": {"percent": "?", "quoted": "effective"},
        "count": 0,
        "every": "day",
        "payment": "0",
        "start": first.isoformat(),
        "clauses": clauses,
    }
