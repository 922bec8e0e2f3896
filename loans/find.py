"""The unknown: which kind it is, and its solution or the reason there is none."""

from dataclasses import replace
from decimal import Decimal
from fractions import Fraction
from math import log10
from typing import Literal, NamedTuple

from . import clock, closed_form
from .document import MOST_MONEY, MOST_PAYMENTS, UNKNOWN, Loan
from .figures import DIGITS, UNROUNDED_PLACES, decimal_places, precise, to_step, told
from .ledger import unrounded_end
from .line import Terms, lay_out
from .rates import as_decimal, periodic_rate, quoted_percent
from .roots import root_of_falling_convex
from .words import Money, Number, Sentence

#: Decimals a found percent is put back with.
PERCENT_PLACES = 10
#: Digits added at the most for loans whose balances grow beyond measure on the way.
_MOST_EXTRA_DIGITS = 400


class Found(NamedTuple):
    """Every solution, ascending; where there is none, the reason.

    A rate is told as the percent of the document's quote; `periodic` is then the rate of one
    payment period it stands for.
    """

    solutions: tuple[Decimal, ...]
    reason: Sentence | None = None
    periodic: Decimal | None = None


def _number(value: object) -> Decimal:
    return Decimal(0) if value == UNKNOWN else Decimal(value)  # type: ignore[arg-type]


def stated_terms(loan: Loan) -> Terms:
    """The document's figures on the clock of its payments, zero (no end) where unknown."""
    percent = loan.rate.percent
    rate = Fraction(0)
    if percent != UNKNOWN:
        rate = periodic_rate(percent, loan.style)
    return Terms(
        principal=_number(loan.principal),
        rate=rate,
        count=None if loan.count == UNKNOWN else loan.count,
        payment=_number(loan.payment),
        balance=_number(loan.balance),
        timing=loan.timing,
    )


def payable_terms(loan: Loan, solution: Decimal) -> Terms:
    """The terms with the solution put back as it will be paid, as the schedule starts from.

    A stated payment finer than the currency pays is rounded as the document rounds payments.
    """
    terms, cash = stated_terms(loan), loan.rounding.payment
    if loan.unknown == "payment" or decimal_places(terms.payment) > loan.decimals:
        payment = solution if loan.unknown == "payment" else terms.payment
        terms = terms.having("payment", _carried(to_step(payment, loan.step, cash)))
    if loan.unknown == "principal":
        nearest = to_step(solution, loan.minor_unit, "none" if cash == "none" else "nearest")
        terms = terms.having("principal", _carried(nearest))
    if loan.unknown == "rate":
        percent = payable_percent(solution)
        terms = replace(terms, rate=periodic_rate(percent, loan.style))
    return terms


def _carried(amount: Decimal) -> Decimal:
    with precise(80):
        return round(amount, UNROUNDED_PLACES)


def payable_percent(solution: Decimal) -> Decimal:
    """A found percent to the decimals it is put back with."""
    with precise(80):
        return round(solution, PERCENT_PLACES)


def digits_for(terms: Terms) -> int:
    """Digits that keep an unrounded roll exact to `DIGITS` through the growth of its balance."""
    growth = max(float(1 + terms.rate), 1e-300)
    return DIGITS + 10 + min(_MOST_EXTRA_DIGITS, int(abs(log10(growth) * (terms.count or 0))))


def find(loan: Loan) -> Found:
    """Every solution for the figure marked `?`, unrounded, or the reason there is none."""
    terms = stated_terms(loan)
    by_kind = {
        "payment": _payment,
        "principal": _principal,
        "balance": _balance,
        "count": _count,
        "rate": _rate,
    }
    with precise(digits_for(terms)):
        return by_kind[loan.unknown](loan, terms)


def _amount(terms: Terms, name: Literal["principal", "payment"]) -> Decimal:
    """An unknown amount: what is left at the end is linear in it, so two rolls tell it."""
    left = []
    for trial in (Decimal(0), Decimal(1)):
        line = lay_out(terms.having(name, trial))
        left.append(unrounded_end(line) - line.balance)
    at_zero, at_one = left
    return at_zero / (at_zero - at_one)


def _below_zero(loan: Loan, value: Decimal) -> bool:
    return told(value) <= -loan.minor_unit / 2


def _span(loan: Loan, count: int) -> str:
    return clock.number_of(count, clock.period(loan.every).noun)


def _payment(loan: Loan, terms: Terms) -> Found:
    value = _amount(terms, "payment")
    if not _below_zero(loan, value):
        return Found((value,))
    grown = unrounded_end(lay_out(terms))
    return Found(
        (),
        Sentence(
            "No payment leaves {balance}: even with nothing paid only {grown} is owed after "
            "{span}.",
            balance=Money(terms.balance, loan.decimals),
            grown=Money(grown, loan.decimals),
            span=_span(loan, terms.count or 0),
        ),
    )


def _principal(loan: Loan, terms: Terms) -> Found:
    return Found((_amount(terms, "principal"),))


def _balance(loan: Loan, terms: Terms) -> Found:
    value = unrounded_end(lay_out(terms))
    if value >= MOST_MONEY:
        return Found(
            (),
            Sentence(
                "The balance grows beyond {most} before the end: no such amount is owed. "
                "A payment of {least} keeps it from growing.",
                most=Money(MOST_MONEY, loan.decimals),
                least=Money(_standstill(terms), loan.decimals),
            ),
        )
    if not _below_zero(loan, value):
        return Found((value,))
    enough = closed_form.payment(
        terms.principal,
        Decimal(0),
        closed_form.factors(as_decimal(terms.rate), terms.count or 1, terms.timing),
    )
    return Found(
        (),
        Sentence(
            "The payments repay more than is owed: by the end {over} too much has been paid. "
            "{count} payments of {enough} repay it exactly.",
            over=Money(-value, loan.decimals),
            count=Number(terms.count or 0),
            enough=Money(enough, loan.decimals),
        ),
    )


def _standstill(terms: Terms) -> Decimal:
    """The payment that just covers the interest."""
    rate = as_decimal(terms.rate)
    interest = terms.principal * rate
    return interest / (1 + rate) if terms.timing == "in-advance" else interest


def never_repays(loan: Loan, terms: Terms) -> Sentence:
    """Why a payment no larger than the first interest leads nowhere, with that interest."""
    noun = clock.period(loan.every).noun
    unit, cash = loan.minor_unit, loan.rounding.interest
    with precise():
        rate = as_decimal(terms.rate)
        if rate <= 0:
            return Sentence(
                "With payments of {payment} at this rate the balance never comes to {balance}.",
                payment=Money(terms.payment, loan.decimals),
                balance=Money(terms.balance, loan.decimals),
            )
        least = to_step(_standstill(terms), unit, "up") + unit
        while True:
            owed = terms.principal - (least if terms.timing == "in-advance" else 0)
            interest = to_step(owed * rate, unit, cash)
            if least <= interest:
                break
            least -= unit
    rest = " on the rest" if terms.timing == "in-advance" else ""
    return Sentence(
        "A payment of {least} or less never repays: the first {noun}’s interest{rest} is "
        "{interest}.",
        least=Money(least, loan.decimals),
        noun=noun,
        rest=rest,
        interest=Money(interest, loan.decimals),
    )


def _count(loan: Loan, terms: Terms) -> Found:
    principal, balance = terms.principal, terms.balance
    rate = as_decimal(terms.rate)
    money = {
        "principal": Money(principal, loan.decimals),
        "balance": Money(balance, loan.decimals),
        "payment": Money(terms.payment, loan.decimals),
    }
    if balance == principal:
        return Found(
            (), Sentence("Nothing is to be repaid: {principal} is lent and as much left.", **money)
        )
    value = closed_form.count(principal, rate, terms.payment, balance, terms.timing)
    if value is None or value <= 0:
        if balance < principal:
            return Found((), never_repays(loan, terms))
        return Found(
            (),
            Sentence(
                "The balance never grows to {balance}: payments of {payment} bring it down from "
                "{principal}. A payment below {least} would let it grow.",
                least=Money(max(_standstill(terms), Decimal(0)), loan.decimals),
                **money,
            ),
        )
    if value <= MOST_PAYMENTS:
        return Found((value,))
    by = closed_form.factors(rate, MOST_PAYMENTS, terms.timing)
    return Found(
        (),
        Sentence(
            "It would take {value} payments; at most {most} are laid out here. {most} payments of "
            "{enough} would do it.",
            value=Number(told(value), 1),
            most=Number(MOST_PAYMENTS),
            enough=Money(closed_form.payment(principal, balance, by), loan.decimals),
        ),
    )


def _rate(loan: Loan, terms: Terms) -> Found:
    """The rate: discounted at s = ln(1 + i), payments and balance are worth the principal.

    ln(present value / principal) is a log-sum-exp of falling lines in s: convex and falling, so
    it has one root or none.
    """
    count = terms.count or 1
    lent, paid_later = terms.principal, count
    if terms.timing == "in-advance":
        lent, paid_later = lent - terms.payment, count - 1
    if reason := _no_rate(loan, terms, lent, paid_later):
        return Found((), reason)

    def value_and_slope(exponent: Decimal) -> tuple[Decimal, Decimal]:
        discount = (-exponent).exp()
        worth, moment = closed_form.present_values(discount, paid_later, terms.payment, Decimal(0))
        final = terms.balance * discount**count
        worth, moment = worth + final, moment + count * final
        return (worth / lent).ln(), -moment / worth

    periodic = Decimal(0)
    if terms.payment * paid_later + terms.balance != lent:
        with precise(DIGITS + 30):
            periodic = root_of_falling_convex(value_and_slope).exp() - 1
    percent = quoted_percent(periodic, loan.style)
    return Found((told(percent),), None, periodic)


def _no_rate(loan: Loan, terms: Terms, lent: Decimal, paid_later: int) -> Sentence | None:
    """Why no rate fits, where none does.

    `lent` is what is owed after a payment at once, `paid_later` the number of those that follow.
    """
    money = {
        "principal": Money(terms.principal, loan.decimals),
        "payment": Money(terms.payment, loan.decimals),
        "balance": Money(terms.balance, loan.decimals),
    }
    repaid = terms.payment or terms.balance
    later = terms.balance or (terms.payment if paid_later else Decimal(0))
    if not terms.principal:
        text = (
            "Nothing is lent, so no rate explains what is repaid."
            if repaid
            else "Nothing is lent and nothing repaid: every rate fits."
        )
    elif not repaid:
        text = (
            "No rate gives this: {principal} is lent, and neither a payment nor a balance ever "
            "returns any of it."
        )
    elif lent > 0 and later:
        return None
    elif not lent and not later:
        text = "The first payment, at once, returns all that is lent: every rate fits."
    elif lent > 0:
        text = (
            "No rate gives this: the only payment, {payment}, is made at once, and nothing "
            "returns the rest of {principal}."
        )
    else:
        text = (
            "No rate gives this: the first payment, made at once, is {payment} of the "
            "{principal} lent. It must be below {principal}."
        )
    return Sentence(text, **money)


def footing_rate(loan: Loan, found: Found) -> Decimal | None:
    """The unrounded rate of one payment period, if it is stated or was found."""
    if loan.unknown == "rate":
        return found.periodic
    with precise(DIGITS + 20):
        return as_decimal(stated_terms(loan).rate)
