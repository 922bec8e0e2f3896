"""An unknown number of payments, or the reason there is none."""

from dataclasses import replace
from datetime import date
from decimal import Decimal
from fractions import Fraction
from typing import Final

from zephyrant.texts import worded

from ..calendars import frequencies
from ..calendars.dates import Calendar
from ..document.loan import Loan
from ..ledger.exact import EXACT
from ..ledger.period import happens_until
from ..line.compiling import stated_terms
from ..line.line import lay_out
from ..line.stretch import Stretch
from ..line.terms import Terms
from ..numbers import annuity
from ..numbers.decimals import precise, significant, to_step
from ..numbers.ratios import as_decimal
from ..wording.marks import Money, Number, Sentence
from .solution import Found

#: Periods up to which an unknown count is sought before all are laid out.
FIRST_TRIED: Final = 800


def span(loan: Loan, count: int) -> str:
    """A count of payments as time, in words."""
    return frequencies.period(loan.every).number(count)


def standstill(terms: Terms) -> Decimal:
    """The payment that just covers the interest."""
    rate = as_decimal(terms.rate)
    interest = terms.principal * rate
    return interest / (1 + rate) if terms.in_advance else interest


def never_repays(loan: Loan, terms: Terms) -> Sentence:
    """Why a payment no larger than the first interest leads nowhere, with that interest."""
    noun = frequencies.period(loan.every).noun
    unit, cash = loan.minor_unit, loan.rounding.interest
    with precise():
        rate = as_decimal(terms.rate)
        if rate <= 0:
            return Sentence(
                "With payments of {payment} at this rate the balance never comes to {balance}.",
                payment=Money(terms.payment, loan.decimals),
                balance=Money(terms.balance, loan.decimals),
            )
        least = to_step(standstill(terms), unit, "up") + unit
        while True:
            owed = terms.principal - (least if terms.in_advance else 0)
            interest = to_step(owed * rate, unit, cash)
            if least <= interest:
                break
            least -= unit
    rest = worded(" on the rest") if terms.in_advance else ""
    return Sentence(
        "A payment of {least} or less never repays: the first {noun}’s interest{rest} is "
        "{interest}.",
        least=Money(least, loan.decimals),
        noun=noun,
        rest=rest,
        interest=Money(interest, loan.decimals),
    )


def count_of(loan: Loan, terms: Terms) -> Found:
    """How many payments bring the loan to its balance: whole and part."""
    principal, balance = terms.principal, terms.balance
    rate = as_decimal(terms.rate)
    money = {
        "principal": Money(principal, loan.decimals),
        "balance": Money(balance, loan.decimals),
        "payment": Money(terms.payment, loan.decimals),
    }
    if balance == principal and not terms.provisions:
        return Found(
            (), Sentence("Nothing is to be repaid: {principal} is lent and as much left.", **money)
        )
    value = _periods_until(terms)
    if value is None and (terms.provisions or terms.runs[-1].last == FIRST_TRIED):
        value = _periods_until(replace(stated_terms(loan), part=terms.part))
    if terms.provisions and (value is None or value <= 0):
        if (repaid := _repaid_before_more_is_lent(loan, terms)) is not None:
            return Found((), repaid)
        return Found(
            (),
            Sentence(
                "With these clauses the balance never comes to {balance} in {most} payments.",
                balance=money["balance"],
                most=Number(terms.most_payments),
            ),
        )
    if value is None or value <= 0:
        if balance < principal:
            return Found((), never_repays(loan, terms))
        if rate <= 0:
            text = worded("At this rate the balance never grows to {balance}: {principal} is lent.")
            return Found((), Sentence(text, **money))
        return Found(
            (),
            Sentence(
                "The balance never grows to {balance}: payments of {payment} bring it down from "
                "{principal}. A payment below {least} would let it grow.",
                least=Money(max(standstill(terms), Decimal(0)), loan.decimals),
                **money,
            ),
        )
    most = terms.most_payments
    if value <= most:
        return Found((value,))
    by = annuity.factors(rate, most, terms.timing)
    return Found(
        (),
        Sentence(
            "It would take {value} payments; at most {most} are laid out here. {most} payments of "
            "{enough} would do it.",
            value=Number(significant(value), 1),
            most=Number(most),
            enough=Money(annuity.payment(principal, balance, by), loan.decimals),
        ),
    )


def _periods_until(terms: Terms) -> Decimal | None:
    """After how many periods, not whole as a rule, the balance is owed; None: never.

    Where periods differ, rolled through them up to the one in which it is reached, and by the
    closed form in there.
    """
    line = lay_out(terms)
    owed, target, falls = line.principal, terms.balance, line.principal > terms.balance
    for stretch in line.stretches:
        lent_later = falls and line.lent_until > stretch.first
        is_past = (owed < target) if falls else (owed > target)
        within = None
        if not lent_later and not is_past:
            reached = _within_days if stretch.inner else _within
            within = reached(owed, stretch, target, terms, falls=falls)
        periods = None if stretch.last is None else stretch.last - stretch.first + 1
        if within is not None and within >= 0 and (periods is None or within <= periods):
            return stretch.first - 1 + within
        if periods is None:
            return None
        owed = EXACT.through(owed, stretch, periods)
        if lent_later:
            continue
        if is_past and ((owed < target) if falls else (owed > target)):
            # Even with all that is lent later it has gone past the balance.
            return None
        if not is_past and ((owed <= target) if falls else (owed >= target)):
            return Decimal(stretch.last or 0)
    return None


def _repaid_before_more_is_lent(loan: Loan, terms: Terms) -> Sentence | None:
    """Why a loan never comes to its balance where what is lent last comes too late and is too
    little; None where that is not so."""
    line = lay_out(terms)
    owed = line.principal
    for stretch in line.stretches:
        if stretch.first > line.lent_until or stretch.last is None:
            return None
        owed = EXACT.through(owed, stretch, stretch.periods())
        if stretch.first == line.lent_until and owed < terms.balance < line.principal:
            return Sentence(
                "The payments repay all before more is lent: after payment {number}, with what is "
                "lent there, {over} too much has been paid.",
                number=Number(stretch.first),
                over=Money(terms.balance - owed, loan.decimals),
            )
    return None


def _within_days(
    owed: Decimal, stretch: Stretch, target: Decimal, terms: Terms, *, falls: bool
) -> Decimal | None:
    """The same in a period in which money moves on days: the part of it up to the day on which it
    brings the balance there, else as if what moved had with its interest been there before."""
    calendar = terms.time.calendar
    for place, moves in enumerate(stretch.inner):
        if any(each.day == moves.day for each in stretch.inner[place + 1 :]):
            continue
        by_then = happens_until(owed, stretch, place, EXACT).closing + moves.amount
        if calendar and ((by_then <= target) if falls else (by_then >= target)):
            begins, ends = _around(calendar, stretch.first, is_after=moves.is_after)
            return Decimal((moves.day - begins).days) / Decimal((ends - begins).days)
    if stretch.after:
        return None
    growth = 1 + as_decimal(stretch.before)
    owed += sum(each.amount * (1 + as_decimal(each.interest)) / growth for each in stretch.inner)
    return _within(owed, stretch._replace(inner=()), target, terms, falls=falls)


def _around(calendar: Calendar, number: int, *, is_after: bool) -> tuple[date, date]:
    """The days between which the time before a payment runs, or that after it."""
    if is_after:
        return calendar.payment(number), calendar.payment(number + 1)
    return (calendar.payment(number - 1) if number > 1 else calendar.start), calendar.payment(
        number
    )


def _within(
    owed: Decimal, stretch: Stretch, target: Decimal, terms: Terms, *, falls: bool
) -> Decimal | None:
    """After how many periods of a stretch the balance is reached, by the closed form."""
    if stretch.inner or (stretch.on_top and not stretch.payment):
        return None
    if stretch.before and stretch.after:
        # Interest on both sides of one payment: what lies before it is grown at once.
        owed *= 1 + as_decimal(stretch.before)
        stretch = stretch._replace(before=Fraction(0))
    paid = stretch.payment + stretch.repay - stretch.advance - stretch.fee
    if paid <= 0 and falls:
        return None
    if stretch.on_top:
        return (owed - target) / paid
    rate = as_decimal(stretch.before or stretch.after)
    return annuity.count(owed, rate, paid, target, terms.timing)
