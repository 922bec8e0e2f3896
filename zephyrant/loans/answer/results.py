"""A result of a loan, by its name: as its rounding leaves it, as it will be paid."""

from decimal import Decimal
from typing import Final

from ..cost.costs import yearly_costs
from ..document.figure_path import PAYMENT
from ..document.loan import Loan
from ..ledger.rows import Schedule, due
from ..quotes.conversion import footings
from ..unknowns.solution import footing_rate
from ..unknowns.worked import Solved, payment_as_paid, value_as_paid, work_out

YEARLY_COSTS: Final = ("us_apr", "eu_aprc")


def result(loan: Loan, figure: str, worked: Solved | None = None) -> Decimal | None:
    """A result of a loan, as its rounding leaves it; None where it has none.

    Money in the loan's currency, rates in percent; `figure` is one an aim can name.
    """
    worked = worked or work_out(loan)
    found, line, schedule = worked.found, worked.line, worked.schedule
    if found.reason or found.ordinary is None:
        return None
    if figure == loan.unknown:
        return found.meant
    if figure == "count":
        return Decimal(loan.count)
    if figure == "end_date":
        return _ends(loan, schedule)
    if figure == "effective":
        rate = footing_rate(loan, found)
        return None if rate is None else footings(rate, loan.payments_a_year).effective
    if line is None or schedule is None:
        return None
    if figure in YEARLY_COSTS:
        rate = footing_rate(loan, found) or Decimal(0)
        told = yearly_costs(line, schedule, rate)[figure]  # type: ignore[literal-required]
        return None if told is None else Decimal(told)
    units = (
        _told_by(schedule, figure)
        if figure != "payment"
        else None
        # Payments that follow the cash flow are no single amount.
        if line.terms.follows_cash_flow
        else schedule.unit.count(line.terms.payment)
    )
    return None if units is None else schedule.unit.amount(units)


def _ends(loan: Loan, schedule: Schedule | None) -> Decimal | None:
    """The day of the last payment, in the count of days."""
    if schedule is None or loan.calendar is None:
        return None
    paying = [row for row in schedule.rows if row.paid]
    day = due(paying[-1] if paying else schedule.rows[-1], loan.calendar)
    return None if day is None else Decimal(day.toordinal())


def _told_by(schedule: Schedule, figure: str) -> int | None:
    """A result that the rows of a schedule tell, in units."""
    columns = schedule.columns
    name, _, number = figure.partition("@")
    if name == "balance":
        after = {0: columns.opening[0], **dict(zip(columns.number, columns.rest, strict=True))}
        return after.get(int(number))
    if name == "interest":
        first, last = map(int, number.split("-"))
        if not 1 <= first <= last <= len(columns.number):
            return None
        return sum(columns.interest[first - 1 : last])
    if name == "total_interest":
        return sum(columns.interest)
    if name == "total_paid":
        return sum(columns.paid)
    return next((each for each in reversed(columns.paid) if each), 0)


def as_paid(loan: Loan, figure: str) -> Decimal | None:
    """A result of a loan as its schedule to the cent has it."""
    worked = work_out(loan)
    if figure == "count" and worked.schedule is not None:
        return Decimal(len(worked.schedule.rows))
    if figure == "payment" and worked.line is not None:
        terms, schedule = worked.line.terms, worked.schedule
        if terms.follows_cash_flow:
            return None
        if worked.found.sizing is not None:
            return Decimal(payment_as_paid(loan, terms, schedule))
        if loan.asked == PAYMENT and worked.found.solutions:
            return Decimal(value_as_paid(loan, worked.found.meant, terms, schedule))
        return terms.payment
    return result(loan, figure, worked)
