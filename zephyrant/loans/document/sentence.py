"""The terms of a loan as the sentence one can read aloud."""

from datetime import date
from decimal import Decimal
from typing import Final

from ..calendars import frequencies
from ..calendars.dates import Calendar
from ..calendars.days_in_words import MONTHS, write_day
from ..wording.marks import Marks
from .choices import ODD_DAYS, PAY, TAKEN, THEN, TIMING
from .clauses import Clause, Share
from .fields import UNKNOWN
from .loan import Loan

_NOTHING: Final = Decimal(0)


def terms_in_words(loan: Loan, marks: Marks) -> str:
    """ "We lend 48,250.00 EUR at 6.35 % a year, ..., repaid by 60 monthly payments of ? ..."."""
    period = frequencies.period(loan.every)

    def money(value: Decimal | str | None) -> str:
        return (
            value if isinstance(value, str) else marks.number(value or _NOTHING, 20, loan.decimals)
        )

    percent = loan.rate.percent
    rate = percent if isinstance(percent, str) else marks.number(percent, 20, 2)
    count = loan.count if loan.count == UNKNOWN else marks.write(str(loan.count))
    payments = "payment" if loan.count == 1 else "payments"
    end = TIMING[loan.timing].in_sentence
    calendar = loan.calendar
    lent = f"We lend {money(loan.principal)} {loan.currency}"
    if loan.purchase is not None:
        down = loan.purchase.down
        part = money(down.amount) if down.percent is None else _percent(down.percent, marks)
        price = f"{money(loan.purchase.price)} {loan.currency}"
        lent = f"Of a price of {price} {part} is paid at once; we lend the rest"
        if isinstance(loan.principal, Decimal):
            lent += f", {money(loan.principal)},"
    if loan.count == 0:
        said = "; ".join(clause_in_words(loan, clause, marks) for clause in loan.clauses)
        return (
            f"{lent}{_lent_on(calendar)} at {rate} % "
            f"{loan.style.in_words()}, with {money(loan.balance)} still owed at the end; {said}."
        )
    text = (
        f"{lent}{_lent_on(calendar)} at {rate} % "
        f"{loan.style.in_words()}, repaid by {count} {period.often} {payments} of "
        f"{money(loan.payment)} at the {end} of each {period.noun}{_paid_from(loan, calendar)}, "
        f"with {money(loan.balance)} still owed at the end"
    )
    clauses = [clause_in_words(loan, clause, marks) for clause in loan.clauses]
    return text + (", except that " + "; ".join(clauses) if clauses else "") + "."


def _percent(value: Decimal | str | None, marks: Marks) -> str:
    return f"{value if isinstance(value, str) else marks.number(Decimal(value or 0), 20)} %"


def _lent_on(calendar: Calendar | None) -> str:
    return f" on {write_day(calendar.start)}" if calendar else ""


def _paid_from(loan: Loan, calendar: Calendar | None) -> str:
    if calendar is None:
        return ""
    text = f" from {write_day(calendar.first)}"
    if loan.day_count != "equal":
        return f"{text} (days counted {loan.day_count})"
    if not calendar.is_regular:
        return f"{text} (odd days bear {ODD_DAYS[loan.odd_days].label})"
    return text


_MONTHS: Final = tuple(name[:3] for name in MONTHS)


def clause_in_words(loan: Loan, clause: Clause, marks: Marks) -> str:
    """A clause as it is said: "from payment 13 the rate is 6.40 % a year, ..."."""

    def money(value: Decimal | str | None) -> str:
        if value is None or isinstance(value, str):
            return value or ""
        return marks.number(value, 20, loan.decimals)

    where = _where(clause)
    match clause.verb:
        case "repay":
            text = f"{where} {money(clause.repay)} is repaid on top"
        case "advance":
            text = f"{where} we lend {money(clause.advance)} more"
        case "payment":
            text = f"{where} the payment is {money(clause.payment)}"
        case "pay":
            text = f"{where} {PAY[clause.pay or 'nothing'].label}"
        case "rate" if clause.rate:
            words = loan.style_of(clause.rate).in_words()
            text = f"{where} the rate is {_percent(clause.rate.percent, marks)} {words}"
        case "step" if clause.step:
            by = money(clause.step.amount)
            if clause.step.percent is not None:
                by = _percent(clause.step.percent, marks)
            every = clause.every or loan.payments_a_year
            text = f"{where} the payment grows by {by} every {every} payments"
        case _:
            share = isinstance(clause.fee, Share)
            fee = _percent(clause.fee.percent, marks) if isinstance(clause.fee, Share) else ""
            said = f"{fee} of what is lent" if share else money(clause.fee)  # type: ignore[arg-type]
            taken = TAKEN[clause.taken or "from-proceeds"].label
            text = f"{where} a fee of {said} is {taken}"
    return text + (f", and {THEN[clause.then].in_sentence}" if clause.then else "")


def _where(clause: Clause) -> str:
    if clause.at is not None:
        return "at the start" if clause.at == 0 else _at(clause.at)
    months = ""
    if clause.months:
        months = " in " + ", ".join(_MONTHS[month - 1] for month in clause.months)
    if clause.begin is None:
        return f"every year{months}"
    if clause.to is None:
        return f"from {_place(clause.begin)} on{months}"
    return f"from {_place(clause.begin)} to {_place(clause.to)}{months}"


def _at(place: int | date) -> str:
    return f"on {write_day(place)}" if isinstance(place, date) else f"at payment {place}"


def _place(place: int | date) -> str:
    return write_day(place) if isinstance(place, date) else f"payment {place}"
