"""The terms of a loan as the sentence one can read aloud."""

from decimal import Decimal

from . import clock
from .dates import Calendar
from .document import UNKNOWN, Loan
from .read_dates import write_day
from .words import Marks


def terms_in_words(loan: Loan, marks: Marks) -> str:
    """ "We lend 48,250.00 EUR at 6.35 % a year, ..., repaid by 60 monthly payments of ? ..."."""
    period = clock.period(loan.every)

    def money(value: Decimal | str) -> str:
        return value if isinstance(value, str) else marks.number(value, 20, loan.decimals)

    percent = loan.rate.percent
    rate = percent if isinstance(percent, str) else marks.number(percent, 20, 2)
    count = loan.count if loan.count == UNKNOWN else marks.write(str(loan.count))
    payments = "payment" if loan.count == 1 else "payments"
    end = "start" if loan.timing == "in-advance" else "end"
    calendar = loan.calendar
    text = (
        f"We lend {money(loan.principal)} {loan.currency}{_lent_on(calendar)} at {rate} % "
        f"{loan.style.in_words()}, repaid by {count} {period.often} {payments} of "
        f"{money(loan.payment)} at the {end} of each {period.noun}{_paid_from(loan, calendar)}, "
        f"with {money(loan.balance)} still owed at the end"
    )
    clauses = [f"payment {clause.at} is {money(clause.payment)}" for clause in loan.clauses]
    return text + (", except that " + "; ".join(clauses) if clauses else "") + "."


def _lent_on(calendar: Calendar | None) -> str:
    return f" on {write_day(calendar.start)}" if calendar else ""


def _paid_from(loan: Loan, calendar: Calendar | None) -> str:
    if calendar is None:
        return ""
    text = f" from {write_day(calendar.first)}"
    if loan.day_count != "equal":
        return f"{text} (days counted {loan.day_count})"
    if not calendar.is_regular:
        return f"{text} (odd days bear {loan.odd_days} interest)"
    return text
