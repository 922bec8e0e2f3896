"""The balance rolled along the line: unrounded, and as the schedule to the cent.

To the cent, money is a whole number of units and a rate a ratio of whole numbers: interest
multiplies first and divides once, last, so no cent depends on how a rate was written.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction
from typing import NamedTuple

from .fields import MOST_MONEY, MOST_PAYMENTS
from .figures import UNROUNDED_PLACES, Cash, Unit, decimal_places, divide_nearest
from .line import Line, Stretch
from .rates import as_decimal

#: Periods from which on growth alone is a power, not a roll.
_MANY = 8


def unrounded_end(line: Line, periods: int | None = None) -> Decimal:
    """What is owed after the last period (or after so many), unrounded, never cut at zero.

    In the decimal context in force; linear in every amount on the line.
    """
    owed = line.principal
    for stretch in line.stretches:
        last = stretch.last
        if periods is not None:
            if stretch.first > periods:
                break
            if last is None or last > periods:
                last = periods
        if last is None:
            raise ValueError("a line without end has no end to roll to")
        owed = rolled(owed, stretch, last - stretch.first + 1)
    return owed


def rolled(owed: Decimal, stretch: Stretch, periods: int) -> Decimal:
    """What is owed after so many periods of a stretch."""
    before, after = 1 + as_decimal(stretch.before), 1 + as_decimal(stretch.after)
    payment = stretch.payment
    if stretch.is_plain:
        if not payment and periods > _MANY:
            return owed * (before * after) ** periods
        for _ in range(periods):
            owed = (owed * before - payment) * after
        return owed
    for _ in range(periods):
        interest = owed * (before - 1)
        for amount, share, is_after, *_ in stretch.inner:
            if not is_after:
                interest += amount * as_decimal(share)
                owed += amount
        due = owed + interest + stretch.advance + stretch.fee - stretch.repay
        if stretch.interest_only:
            payment = interest + (due - interest) * (after - 1) / after
        owed = (due - payment) * after
        for amount, share, is_after, *_ in stretch.inner:
            if is_after:
                owed += amount * (1 + as_decimal(share))
    return owed


class Row(NamedTuple):
    """One period of a schedule; money in whole units. `rest` is owed right after the payment.

    `advance` and `fee` are added to what is owed, `repay` is paid on top of `payment`; `principal`
    is what payment and repayment take off it.
    """

    number: int
    opening: int
    interest: int
    principal: int
    payment: int
    closing: int
    rest: int
    advance: int = 0
    repay: int = 0
    fee: int = 0


@dataclass(frozen=True, slots=True)
class CashRule:
    """How money moves on a schedule.

    Steps are in units: interest is rounded to `interest_step`, what settles the loan to
    `cash_step`. `absorbs` says that the closing balance takes what rounding leaves, so that
    the last payment is as the others. `shows_overpaid`: a repayment above what is owed is made
    whole and leaves a balance below zero, instead of being cut.
    """

    unit: Unit
    interest_step: int
    cash_step: int
    absorbs: bool = False
    shows_overpaid: bool = False


@dataclass(frozen=True, slots=True)
class Schedule:
    """The rows to the cent. `early`: the last payment was cut before the count was reached.
    `overpaid`: by how much, in units, the last repayment lay above what was owed, before the count
    was reached."""

    rows: tuple[Row, ...]
    unit: Unit
    early: bool = False
    overpaid: int = 0


class NeverSettlesError(Exception):
    """The rounded payments never bring the loan to the balance it is to end with."""


def cash_rule(
    line: Line,
    decimals: int,
    cash: Cash,
    interest: Cash,
    *,
    absorbs: bool,
    shows_overpaid: bool = False,
) -> CashRule:
    """The unit and the steps for a line in a currency of so many decimals."""
    amounts = [line.principal, line.balance]
    for stretch in line.stretches:
        amounts.append(stretch.payment)
        if not stretch.is_plain:
            amounts += [stretch.advance, stretch.fee, stretch.repay]
            amounts += [inner.amount for inner in stretch.inner]
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
        shows_overpaid=shows_overpaid,
    )


def schedule(line: Line, rule: CashRule) -> Schedule:
    """The line to the cent: the last payment settles, closing at exactly the balance.

    In each row interest + principal = payment. A payment that would overpay is cut to what is
    owed and ends the schedule. In advance, or with interest carried unrounded, the last
    interest takes what is left over below a cent. Raises `NeverSettlesError` where rounding
    keeps the balance from being reached.
    """
    opening, balance = rule.unit.count(line.principal), rule.unit.count(line.balance)
    end = None if line.is_open else line.stretches[-1].last
    state = _Rolling(rule, balance, end, falls=opening > balance, line=line)
    rows = tuple(_rows(line, rule, state, opening))
    early = line.cuts and end is not None and rows[-1].number < end
    return Schedule(rows, rule.unit, early=early, overpaid=state.overpaid)


def _rounded(amount: int, step: int) -> int:
    return amount if step == 1 else divide_nearest(amount, step) * step


def _rows(line: Line, rule: CashRule, state: "_Rolling", opening: int) -> Iterator[Row]:
    lent_until = max((each.first for each in line.stretches if each.advance), default=0)
    most = rule.unit.count(MOST_MONEY)
    for stretch in line.stretches:
        period = _Period(stretch, rule, is_last=stretch is line.stretches[-1])
        for number in range(stretch.first, _last_number(stretch) + 1):
            row = state.row(number, opening, period, lent_later=number < lent_until)
            if row.payment < 0 or row.repay < 0 or abs(row.closing) > most:
                raise NeverSettlesError
            yield row
            opening = row.closing
            if state.ended:
                return
    if line.is_open:
        raise NeverSettlesError


class _Period:
    """A stretch in whole units, with its rules of interest."""

    def __init__(self, stretch: Stretch, rule: CashRule, *, is_last: bool) -> None:
        count = rule.unit.count
        self.stretch = stretch
        self.payment = count(stretch.payment)
        self.before = _interest_rule(stretch.before, rule.interest_step)
        self.after = _interest_rule(stretch.after, rule.interest_step)
        self.ends_with_payment = not stretch.after
        self.is_last = is_last
        self.is_plain = stretch.is_plain
        self.advance, self.fee = count(stretch.advance), count(stretch.fee)
        self.repay = count(stretch.repay)
        self.inner = [
            (count(each.amount), each.interest, each.is_after, each.is_fee)
            for each in stretch.inner
        ]

    def accrued(self, opening: int, step: int, *, is_after: bool) -> tuple[int, int]:
        """Interest up to the payment (or from it on), and the money that moved meanwhile."""
        rate = self.stretch.after if is_after else self.stretch.before
        interest, moved = opening * rate, 0
        for amount, share, late, _ in self.inner:
            if late == is_after:
                interest += amount * share
                moved += amount
        return _rounded_fraction(interest, step), moved


class _Rolling:
    """The roll to the cent: how a row comes about, and whether the loan has ended with it."""

    def __init__(
        self, rule: CashRule, balance: int, end: int | None, *, falls: bool, line: Line
    ) -> None:
        self.rule, self.balance, self.end = rule, balance, end
        self.falls, self.settles, self.cuts = falls, line.settles, line.cuts
        self.ended = False
        self.overpaid = 0

    def row(self, number: int, opening: int, period: _Period, *, lent_later: bool) -> Row:
        """The row of a payment."""
        if not period.is_plain:
            return self._busy(number, opening, period, lent_later=lent_later)
        due = opening + period.before(opening)
        paid, rest = period.payment, due - period.payment
        idle = period.ends_with_payment or (rest <= 0 and self.cuts)
        closing = rest if idle else rest + period.after(rest)
        last = (
            number == self.end
            if self.end
            else _reaches(opening, closing, self.balance, period.is_last, falls=self.falls)
        )
        if last and self.settles and not self.rule.absorbs:
            kept = _before_interest(self.balance, period.stretch.after)
            paid, closing = _rounded(due - kept, self.rule.cash_step), self.balance
            rest = due - paid
        elif rest <= 0 and self.cuts and not lent_later and (self.settles or not last):
            if self.balance:
                raise NeverSettlesError
            paid, closing, rest = _rounded(due, self.rule.cash_step), 0, 0
        elif last and self.rule.absorbs:
            closing = self.balance = _rounded(closing, self.rule.cash_step)
        if period.ends_with_payment:
            rest = closing
        self._close(number, closing, lent_later=lent_later)
        return Row(
            number, opening, paid + closing - opening, opening - closing, paid, closing, rest
        )

    def _busy(self, number: int, opening: int, period: _Period, *, lent_later: bool) -> Row:
        """A row in which more than a payment happens."""
        step, cash_step = self.rule.interest_step, self.rule.cash_step
        interest, moved = period.accrued(opening, step, is_after=False)
        due = opening + interest + moved + period.advance + period.fee
        paid, repaid = period.payment, period.repay
        if period.stretch.interest_only:
            rate = period.stretch.after
            base = due - interest - repaid
            ahead = _rounded_fraction(base * rate / (1 + rate), step) if rate else 0
            paid = _rounded(interest + ahead, cash_step)
        rest = due - paid - repaid
        later, moved_after = period.accrued(rest, step, is_after=True)
        if rest <= 0 and self.cuts and not moved_after:
            later = 0
        if period.stretch.interest_only and period.stretch.after and not period.inner:
            later = paid - interest
        closing = rest + later + moved_after
        last = (
            number == self.end
            if self.end
            else (closing <= self.balance if self.falls else closing >= self.balance)
            and not lent_later
        )
        ends_here = rest <= 0 and not lent_later and not moved_after
        is_over = self.cuts and ends_here and repaid > 0 > rest and number != self.end
        shows = is_over and self.rule.shows_overpaid and not self.balance
        if shows:
            later, closing, self.overpaid = 0, rest, -rest
        elif last and self.settles and not self.rule.absorbs:
            kept = _before_interest(self.balance - moved_after, period.stretch.after)
            total = _rounded(due - kept, cash_step)
            closing, rest = self.balance, due - total
            paid, repaid = _shared(total, paid, repaid)
            later = closing - rest - moved_after
        elif ends_here and self.cuts:
            if self.balance:
                raise NeverSettlesError
            paid, repaid = _shared(_rounded(due, cash_step), paid, repaid)
            closing = rest = later = 0
            interest = paid + repaid - opening - moved - period.advance - period.fee
        elif last and self.rule.absorbs:
            closing = self.balance = _rounded(closing, cash_step)
            later = closing - rest - moved_after
        if is_over and not shows:
            self.overpaid = period.repay - repaid
        self._close(number, closing, lent_later=lent_later)
        self.ended = self.ended or shows
        advanced = fees = 0
        for amount, _, _, is_fee in period.inner:
            fees += amount if is_fee else 0
            advanced += amount if amount > 0 and not is_fee else 0
            repaid -= amount if amount < 0 else 0
        return Row(
            number,
            opening,
            interest + later,
            paid + repaid - interest - later,
            paid,
            closing,
            closing if not period.stretch.after and not moved_after else rest,
            period.advance + advanced,
            repaid,
            period.fee + fees,
        )

    def _close(self, number: int, closing: int, *, lent_later: bool) -> None:
        at_end = self.end is not None and number == self.end
        if self.end is None:
            self.ended = closing == self.balance or (not closing and not lent_later)
        else:
            self.ended = at_end or (not closing and not lent_later and self.cuts)


def _shared(total: int, paid: int, repaid: int) -> tuple[int, int]:
    """What is paid in all, as payment and as repayment on top."""
    if total <= paid or not repaid:
        return total, 0
    return paid, total - paid


def _rounded_fraction(amount: Fraction, step: int) -> int:
    if isinstance(amount, int):
        return amount
    return divide_nearest(amount.numerator, amount.denominator * step) * step


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

    def interest(owed: int) -> int:
        if owed < 0:
            return -((-owed * double + half) // whole * sign)
        return (owed * double + half) // whole * sign

    return interest


def _before_interest(balance: int, rate: Fraction) -> int:
    """What grows to `balance` from the last payment on."""
    if not rate:
        return balance
    return divide_nearest(balance * rate.denominator, rate.denominator + rate.numerator)
