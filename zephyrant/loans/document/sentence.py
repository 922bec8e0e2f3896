"""The terms of a loan as the sentence one can read aloud."""

import re
from datetime import date
from decimal import Decimal
from typing import Final

from zephyrant.texts import ENGLISH, read_as

from ..calendars import frequencies
from ..calendars.dates import Calendar
from ..calendars.days_in_words import MONTHS, PLAIN_DAYS
from ..wording.marks import Marks
from .bounds import cash_flows_in_words
from .business_days import calendars_in_words
from .choices import (
    ADJUSTED,
    CHARGED_OF,
    IN_COSTS,
    ODD_DAYS,
    PAY,
    REPAYMENT,
    ROLLS,
    TAKEN,
    THEN,
    TIMING,
    WE,
)
from .clauses import ChargeShare, Clause, Share
from .fields import UNKNOWN
from .floating import floating
from .loan import Loan
from .repaid import repaid_by
from .repayment import PartsInPercent, percents_in_words

_NOTHING: Final = Decimal(0)


@read_as(ENGLISH)
def terms_in_words(loan: Loan, marks: Marks) -> str:
    """ "We lend 48,250.00 EUR at 6.35 % a year, ..., repaid by 60 monthly payments of ? ..."."""
    lent = f"{_lent(loan, marks)}{_lent_on(loan.calendar)} at {rate_in_words(loan, marks)}"
    left = f"{_money(loan, loan.balance, marks)} {WE[loan.we].there} at the end"
    clauses = "; ".join(clause_in_words(loan, clause, marks) for clause in loan.clauses)
    if loan.count == 0:
        bounds = _bounds(loan, marks)
        return f"{lent}, with no regular payments and {left}{bounds}; {clauses}."
    text = f"{lent}, {_payments(loan, marks)}"
    if REPAYMENT[repaid_by(loan)].states_balance:
        text += f" and {left}" if loan.payment == 0 else f", with {left}"
    text += _bounds(loan, marks)
    return text + (f", except that {clauses}" if clauses else "") + "."


@read_as(ENGLISH)
def rate_in_words(loan: Loan, marks: Marks) -> str:
    """ "6.35 % a year, nominal, compounded half-yearly"; of a floating rate "harbour-6 plus 2.15 %
    a year, ..., reset every half-year, ..."."""

    def percent(value: Decimal | str) -> str:
        return value if isinstance(value, str) else marks.number(value, 20, 2)

    quote, style = floating(loan), loan.style.in_words()
    if quote is None:
        return f"{percent(loan.rate.percent)} % {style}"
    text = f"{quote.index} plus {percent(quote.margin)} % {style}"
    text += f", reset every {frequencies.period(quote.resets).noun}"
    held = [
        f"{name} of {percent(value)} %"
        for name, value in (("a floor", quote.floor), ("a cap", quote.cap))
        if value is not None
    ]
    if held:
        text += f", with {' and '.join(held)} on the {quote.on}"
    if quote.first is not None:
        text += f", {percent(quote.first)} % at first"
    if quote.lag_days:
        text += f", fixed {quote.lag_days} days before"
    return f"{text}, the payment set anew with it" if quote.then else text


def _money(loan: Loan, value: Decimal | str | None, marks: Marks) -> str:
    if isinstance(value, str):
        return value
    return marks.number(value or _NOTHING, 20, loan.decimals)


def _lent(loan: Loan, marks: Marks) -> str:
    words = WE[loan.we]
    if loan.purchase is None:
        return f"{words.label} {_money(loan, loan.principal, marks)} {loan.currency}"
    price, down = loan.purchase.price, loan.purchase.down
    part = _money(loan, down.amount, marks)
    if down.percent is not None:
        part = _percent(down.percent, marks)
    text = f"Of a price of {_money(loan, price, marks)} {loan.currency} {part} is paid at once; "
    text += f"{words.within} the rest"
    if isinstance(loan.principal, Decimal):
        text += f", {_money(loan, loan.principal, marks)},"
    return text


#: Where a payment is said of a way of repaying.
_PAYMENT_SAID: Final = re.compile(r"(?:^of|, the first|:) \{payment\}")


def _bounds(loan: Loan, marks: Marks) -> str:
    """The cash flow that is to cover the payments, and the value the loan is lent on."""
    text = ""
    if (cover := loan.cover) is not None:
        noun = frequencies.period(cover.every).noun
        flows = cash_flows_in_words(cover.cash_flows or (), marks, loan.decimals)
        if cover.cash_flow is not None:
            flows = f"a cash flow of {_money(loan, cover.cash_flow, marks)} a {noun}"
            if cover.growth:
                flows += f" growing {marks.number(cover.growth, 20)} % a year"
        else:
            flows = f"cash flows of {flows} year by year"
        ratio = cover.ratio if isinstance(cover.ratio, str) else marks.number(cover.ratio, 20, 2)
        tested = "" if cover.cash_flow is not None or cover.every == "year" else f" each {noun}"
        text += f", out of {flows}, covering the payments {ratio} times{tested}"
    if (value := loan.value) is not None:
        text += f", on a value of {_money(loan, value.amount, marks)}"
        text += f", at most {marks.number(value.highest, 20)} % of it lent"
    return text


def _payments(loan: Loan, marks: Marks) -> str:
    """What is paid regularly, or that nothing is."""
    period, words = frequencies.period(loan.every), WE[loan.we]
    count = loan.count if loan.count == UNKNOWN else marks.write(str(loan.count))
    if loan.payment == 0:
        return f"{words.without} {period.number(count)}"
    repaying, dated = REPAYMENT[repaid_by(loan)], _paid_from(loan, loan.calendar)
    over, percents = loan.amortized_over, ""
    if isinstance(loan.repayment, PartsInPercent):
        percents = percents_in_words(loan.repayment.percents, marks)
    said = repaying.said
    if not loan.states_payment:
        said = _PAYMENT_SAID.sub("", said)
    said = said.format(
        payment=_money(loan, loan.payment, marks),
        percents=percents,
        amortized_over=over if over in (None, UNKNOWN) else marks.write(str(over)),
    )
    if not repaying.is_regular:
        return f"{words.without} {period.number(count)}{said}{dated}"
    said = f" {said}" if said[:1].isalpha() else said
    return (
        f"{words.repaid} {period.payments(count)}{said} at the "
        f"{TIMING[loan.timing].in_sentence} of each {period.noun}{dated}"
    )


def _percent(value: Decimal | str | None, marks: Marks) -> str:
    return f"{value if isinstance(value, str) else marks.number(Decimal(value or 0), 20)} %"


def _lent_on(calendar: Calendar | None) -> str:
    return f" on {PLAIN_DAYS.write(calendar.start)}" if calendar else ""


def _paid_from(loan: Loan, calendar: Calendar | None) -> str:
    if calendar is None:
        return ""
    text = f" from {PLAIN_DAYS.write(calendar.first)}{_business_days(loan)}"
    if loan.day_count != "equal":
        return f"{text} (days counted {loan.day_count})"
    if not calendar.is_regular:
        return f"{text} (odd days bear {ODD_DAYS[loan.odd_days].label})"
    return text


def _business_days(loan: Loan) -> str:
    days = loan.business_days
    if days is None:
        return ""
    interest = ADJUSTED["yes" if days.adjusted else "no"].in_sentence
    calendars = calendars_in_words(days.calendars)
    return f" on business days of {calendars}, {ROLLS[days.roll].in_sentence}, {interest}"


_MONTHS: Final = tuple(name[:3] for name in MONTHS)


@read_as(ENGLISH)
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
            text = f"{where} {WE[loan.we].within} {money(clause.advance)} more"
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
        case verb:
            text = f"{where} {(_charge if verb == 'charge' else _fee)(loan, clause, marks)}"
    return text + (f", and {THEN[clause.then].in_sentence}" if clause.then else "")


def _fee(loan: Loan, clause: Clause, marks: Marks) -> str:
    """A fee as it is said: "a fee of 2 % of what is lent is kept back from the proceeds"."""
    if isinstance(clause.fee, Share):
        said = f"{_percent(clause.fee.percent, marks)} of what is {WE[loan.we].lent}"
    else:
        said = _money(loan, clause.fee, marks) if clause.fee is not None else ""
    return f"a fee of {said} is {TAKEN[clause.taken or 'from-proceeds'].label}"


def _charge(loan: Loan, clause: Clause, marks: Marks) -> str:
    """A charge as it is said: "a charge of 18.50 is collected for insurance"."""
    charge = clause.charge
    if isinstance(charge, ChargeShare):
        said = f"{_percent(charge.percent, marks)} a year {CHARGED_OF[charge.of].in_sentence}"
    else:
        said = _money(loan, charge, marks)
    text = f"a charge of {said} is collected"
    text += f" for {clause.name}" if clause.name else ""
    return text if clause.in_costs is not False else f"{text}, {IN_COSTS['no'].label}"


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
    return f"on {PLAIN_DAYS.write(place)}" if isinstance(place, date) else f"at payment {place}"


def _place(place: int | date) -> str:
    return PLAIN_DAYS.write(place) if isinstance(place, date) else f"payment {place}"
