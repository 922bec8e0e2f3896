"""The balance rolled along the line: unrounded, and as the schedule to the cent.

To the cent, money is a whole number of units and a rate a ratio of whole numbers: interest
multiplies first and divides once, last, so no cent depends on how a rate was written.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction
from typing import NamedTuple

from .document import MOST_MONEY, MOST_PAYMENTS
from .figures import UNROUNDED_PLACES, Cash, Unit, decimal_places, divide_nearest
from .line import Line, Stretch
from .rates import as_decimal


def unrounded_end(line: Line, periods: int | None = None) -> Decimal:
    """What is owed after the last period (or after so many), unrounded, never cut at zero.

    In the decimal context in force; linear in every amount on the line.
    """
    owed = line.principal
    for stretch in line.stretches:
        last = stretch.last
        if periods is not None and (last is None or last > periods):
            last = periods
        if last is None:
            raise ValueError("a line without end has no end to roll to")
        before, after = 1 + as_decimal(stretch.before), 1 + as_decimal(stretch.after)
        payment = stretch.payment
        for _ in range(last - stretch.first + 1):
            owed = (owed * before - payment) * after
    return owed


class Row(NamedTuple):
    """One period of a schedule; money in whole units. `rest` is owed right after the payment."""

    number: int
    opening: int
    interest: int
    principal: int
    payment: int
    closing: int
    rest: int


@dataclass(frozen=True, slots=True)
class CashRule:
    """How money moves on a schedule.

    Steps are in units: interest is rounded to `interest_step`, what settles the loan to
    `cash_step`. `absorbs` says that the closing balance takes what rounding leaves, so that
    the last payment is as the others.
    """

    unit: Unit
    interest_step: int
    cash_step: int
    absorbs: bool = False


@dataclass(frozen=True, slots=True)
class Schedule:
    """The rows to the cent. `early`: the last payment was cut before the count was reached."""

    rows: tuple[Row, ...]
    unit: Unit
    early: bool = False


class NeverSettlesError(Exception):
    """The rounded payments never bring the loan to the balance it is to end with."""


def cash_rule(line: Line, decimals: int, cash: Cash, interest: Cash, *, absorbs: bool) -> CashRule:
    """The unit and the steps for a line in a currency of so many decimals."""
    amounts = [line.principal, line.balance, *(stretch.payment for stretch in line.stretches)]
    places = max(decimals, *(decimal_places(amount) for amount in amounts))
    if "none" in (cash, interest):
        places = max(places, UNROUNDED_PLACES)
    unit = Unit(places, decimals)
    minor = 10 ** (places - decimals)
    return CashRule(
        unit,
        interest_step=1 if interest == "none" else minor,
        cash_step=1 if cash == "none" else minor,
        absorbs=absorbs,
    )


def schedule(line: Line, rule: CashRule) -> Schedule:
    """The line to the cent: the last payment settles, closing at exactly the balance.

    In each row interest + principal = payment. A payment that would overpay is cut to what is
    owed and ends the schedule. In advance, or with interest carried unrounded, the last
    interest takes what is left over below a cent. Raises `NeverSettlesError` where rounding
    keeps the balance from being reached.
    """
    rows = tuple(_rows(line, rule))
    last = line.stretches[-1].last
    return Schedule(rows, rule.unit, early=not line.is_open and len(rows) < (last or 0))


def _rounded(amount: int, step: int) -> int:
    return amount if step == 1 else divide_nearest(amount, step) * step


def _rows(line: Line, rule: CashRule) -> Iterator[Row]:
    cash_step = rule.cash_step
    opening, balance = rule.unit.count(line.principal), rule.unit.count(line.balance)
    falls, end = opening > balance, None if line.is_open else line.stretches[-1].last
    most = rule.unit.count(MOST_MONEY)
    for stretch in line.stretches:
        payment = rule.unit.count(stretch.payment)
        before = _interest_rule(stretch.before, rule.interest_step)
        after = _interest_rule(stretch.after, rule.interest_step)
        ends_with_payment = not stretch.after
        alike = stretch is line.stretches[-1]
        for number in range(stretch.first, _last_number(stretch) + 1):
            due = opening + before(opening)
            paid, rest = payment, due - payment
            closing = rest if ends_with_payment or rest <= 0 else rest + after(rest)
            last = number == end if end else _reaches(opening, closing, balance, alike, falls=falls)
            if last and not rule.absorbs:
                kept = _before_interest(balance, stretch.after)
                paid, closing = _rounded(due - kept, cash_step), balance
                rest = due - paid
            elif rest <= 0:
                if balance:
                    raise NeverSettlesError
                paid, closing, rest = _rounded(due, cash_step), 0, 0
            elif last:
                closing = balance = _rounded(closing, cash_step)
            if paid < 0 or closing > most:
                raise NeverSettlesError
            if ends_with_payment:
                rest = closing
            yield Row(
                number, opening, paid + closing - opening, opening - closing, paid, closing, rest
            )
            opening = closing
            if not closing or (closing == balance and (end is None or number == end)):
                return
    raise NeverSettlesError


def _last_number(stretch: Stretch) -> int:
    return MOST_PAYMENTS if stretch.last is None else stretch.last


def _reaches(opening: int, closing: int, balance: int, alike: bool, *, falls: bool) -> bool:
    """Whether this payment is the first to reach the balance.

    Where all that follows is `alike`, one that moves away from it proves that none ever does.
    """
    if (closing <= balance) if falls else (closing >= balance):
        return True
    if alike and ((closing >= opening) if falls else (closing <= opening)):
        raise NeverSettlesError
    return False


def _interest_rule(rate: Fraction, step: int) -> Callable[[int], int]:
    """Interest on what is owed, to the nearest `step`, ties away from zero."""
    if not rate:
        return lambda owed: 0
    double, half = 2 * abs(rate.numerator), rate.denominator * step
    whole = 2 * half
    sign = -step if rate < 0 else step
    return lambda owed: (owed * double + half) // whole * sign


def _before_interest(balance: int, rate: Fraction) -> int:
    """What grows to `balance` from the last payment on."""
    if not rate:
        return balance
    return divide_nearest(balance * rate.denominator, rate.denominator + rate.numerator)
