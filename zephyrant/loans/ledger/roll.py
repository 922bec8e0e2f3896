"""The balance rolled along the line as the schedule to the cent.

Money is a whole number of units and a rate a ratio of whole numbers: interest
multiplies first and divides once, last, so no cent depends on how a rate was written.
"""

from collections.abc import Iterator
from decimal import Decimal
from fractions import Fraction
from typing import Final

from ..budget import look
from ..document.limits import MOST_MONEY
from ..line.line import Line, Stretch
from ..numbers.decimals import Unit, divide_nearest
from .deal import Deal
from .rounding import interest_rule, rounded, rounded_fraction, shared
from .rows import CashRule, Ending, Hindrance, NeverSettlesError, Row, Schedule

#: Rows after which the budget is looked at.
_LOOKS_EACH: Final = 256


def roll_schedule(line: Line, rule: CashRule) -> Schedule:
    """The line to the cent: what `settles_by` says closes it at exactly the balance.

    In each row interest + principal = payment. A payment that would overpay is cut to what is
    owed and ends the schedule. In advance, or with interest carried unrounded, the last
    interest takes what is left over below a cent. Raises `NeverSettlesError` where rounding
    keeps the balance from being reached.
    """
    opening, balance = rule.unit.count(line.principal), rule.unit.count(line.balance)
    if not line.has_payments:
        deal = Deal(line, rule, balance)
        rows = tuple(deal.rows(opening))
        return Schedule(rows, rule.unit, taken=deal.taken, by_day=deal.by_day)
    end = None if line.is_open else line.stretches[-1].last
    state = _Rolling(rule, balance, end, falls=opening > balance, line=line)
    rows = tuple(_rows(line, rule, state, opening))
    last = rows[-1].number
    early = line.cuts and end is not None and last < end
    paused = early and not any(
        stretch.payment or stretch.interest_only or stretch.repay
        for stretch in line.stretches
        if stretch.last is None or stretch.last > last
    )
    return Schedule(rows, rule.unit, early, state.overpaid, state.taken, paused_after=paused)


def _rows(line: Line, rule: CashRule, state: "_Rolling", opening: int) -> Iterator[Row]:
    most = rule.unit.count(MOST_MONEY)
    for stretch in line.stretches:
        period = _Period(stretch, rule, is_last=stretch is line.stretches[-1])
        for number in range(stretch.first, (stretch.last or line.most) + 1):
            if not number % _LOOKS_EACH:
                look()
            row = state.row(number, opening, period, lent_later=number < line.lent_until)
            if row.payment < 0 or row.repay < 0:
                why: Hindrance = "interest" if stretch.interest_only else "payment"
                raise NeverSettlesError(why, number)
            if abs(row.closing) > most:
                raise NeverSettlesError("size", number)
            yield row
            opening = row.closing
            if state.ended:
                return
    if line.is_open:
        raise NeverSettlesError("rounding", line.most)


class _Period:
    """A stretch in whole units, with its rules of interest."""

    def __init__(self, stretch: Stretch, rule: CashRule, *, is_last: bool) -> None:
        count = rule.unit.count
        self.stretch = stretch
        self.payment = count(stretch.payment)
        self.before = interest_rule(stretch.before, rule.interest_step)
        self.after = interest_rule(stretch.after, rule.interest_step)
        self.ends_with_payment = not stretch.after
        self.is_last = is_last
        self.is_plain = stretch.is_plain
        self.advance, self.fee = count(stretch.advance), count(stretch.fee)
        self.repay = count(stretch.repay)
        self.inner = [(count(each.amount), *each[1:4]) for each in stretch.inner]

    def accrued(self, opening: int, step: int, *, is_after: bool) -> tuple[int, int]:
        """Interest up to the payment (or from it on), and the money that moved meanwhile."""
        rate = self.stretch.after if is_after else self.stretch.before
        interest, moved = opening * rate, 0
        for amount, share, late, _ in self.inner:
            if late == is_after:
                interest += amount * share
                moved += amount
        return rounded_fraction(interest, step), moved


class _Happening:
    """A period in which more than a payment happens, in units: `moved` before its payment and
    `moved_after` it, `interest` up to the payment and `later` from it on."""

    def __init__(self, opening: int, interest: int, moved: int, period: _Period) -> None:
        self.opening, self.interest, self.moved = opening, interest, moved
        self.advance, self.fee = period.advance, period.fee
        self.paid, self.repaid = period.payment, period.repay
        self.later = self.moved_after = 0

    @property
    def due(self) -> int:
        """What is owed before the payment."""
        return self.opening + self.interest + self.moved + self.advance + self.fee

    @property
    def rest(self) -> int:
        """What is owed right after it."""
        return self.due - self.paid - self.repaid

    @property
    def closing(self) -> int:
        """What is owed at the end of the period."""
        return self.rest + self.later + self.moved_after


class _Rolling:
    """The roll to the cent: how a row comes about, and whether the loan has ended with it."""

    def __init__(
        self, rule: CashRule, balance: int, end: int | None, *, falls: bool, line: Line
    ) -> None:
        self.rule, self.balance, self.end = rule, balance, end
        self.falls, self.by, self.cuts = falls, line.settles_by, line.cuts
        self.settles = self.by in ("payment", "repay", "advance", "fee")
        self.kept = _taken_off(line.stretches[-1], rule.unit) + balance
        self.ended = False
        self.overpaid = self.taken = 0

    def row(self, number: int, opening: int, period: _Period, *, lent_later: bool) -> Row:
        """The row of a payment."""
        if not period.is_plain:
            return self._busy(number, opening, period, lent_later=lent_later)
        due = opening + period.before(opening)
        paid, rest = period.payment, due - period.payment
        idle = period.ends_with_payment or (rest <= 0 and self.cuts and not lent_later)
        closing = rest if idle else rest + period.after(rest)
        last = (
            number == self.end
            if self.end
            else not (lent_later and self.falls)
            and _reaches(opening, closing, self.balance, period.is_last, falls=self.falls)
        )
        if self._takes(number):
            aim = self.balance if last else self.kept
            self.taken, closing = aim - closing, aim
        elif last and self.settles:
            kept = _before_interest(self.balance, period.stretch.after)
            paid, closing = rounded(due - kept, self.rule.cash_step), self.balance
            rest = due - paid
        elif rest <= 0 and self.cuts and not lent_later and not (last and self.by == "nothing"):
            if self.balance:
                raise NeverSettlesError("repaid", number)
            paid, closing, rest = rounded(due, self.rule.cash_step), 0, 0
        elif last and self.by == "balance":
            closing = self.balance = rounded(closing, self.rule.cash_step)
        if period.ends_with_payment:
            rest = closing
        self._close(number, closing, lent_later=lent_later)
        return Row(
            number, opening, paid + closing - opening, opening - closing, paid, closing, rest
        )

    def _busy(self, number: int, opening: int, period: _Period, *, lent_later: bool) -> Row:
        """A row in which more than a payment happens."""
        if period.inner and self.cuts and not lent_later:
            met = self._met_on_a_day(number, opening, period)
            if met is not None:
                return met
        it = self._happens(opening, period, lent_later=lent_later)
        last = self._is_last(number, it.closing, lent_later=lent_later)
        ends_here = it.rest <= 0 and not lent_later and not it.moved_after
        is_over = self.cuts and ends_here and it.repaid > 0 > it.rest and number != self.end
        shows = is_over and self.rule.shows_overpaid and not self.balance
        if shows:
            it.later, self.overpaid = 0, -it.rest
        elif self._takes(number):
            self.taken = (self.balance if last else self.kept) - it.closing
            it.later += self.taken
        elif last and self.settles:
            self._settle(it, period)
        elif ends_here and self.cuts:
            if self.balance:
                raise NeverSettlesError("repaid", number)
            it.later = 0
            it.paid, it.repaid = shared(rounded(it.due, self.rule.cash_step), it.paid, it.repaid)
            it.interest -= it.rest
        elif last and self.by == "balance":
            self.balance = rounded(it.closing, self.rule.cash_step)
            it.later += self.balance - it.closing
        if is_over and not shows:
            self.overpaid = period.repay - it.repaid
        closing = it.closing
        self._close(number, closing, lent_later=lent_later)
        self.ended = self.ended or shows
        return self._row_of(number, opening, it, period)

    def _is_last(self, number: int, closing: int, *, lent_later: bool) -> bool:
        if self.end:
            return number == self.end
        if self.falls:
            return closing <= self.balance and not lent_later
        return closing >= self.balance

    def _row_of(self, number: int, opening: int, it: "_Happening", period: _Period) -> Row:
        closing = it.closing
        advance, repay, fee = it.advance, it.repaid, it.fee
        for amount, _, _, is_fee in period.inner:
            fee += amount if is_fee else 0
            advance += amount if amount > 0 and not is_fee else 0
            repay -= amount if amount < 0 else 0
        interest = it.interest + it.later
        ends_with_payment = not period.stretch.after and not it.moved_after
        return Row(
            number,
            opening,
            interest,
            it.paid + repay - interest,
            it.paid,
            closing,
            closing if ends_with_payment else it.rest,
            advance,
            repay,
            fee,
        )

    def _met_on_a_day(self, number: int, opening: int, period: _Period) -> Row | None:
        """The row of a loan that what is repaid on a day between two payments ends there."""
        target = self.balance if self.end is None else 0
        if self.end is None and not self.falls:
            return None
        step, owed, told, paid, on_days = self.rule.interest_step, opening, 0, 0, 0
        moved = Row(number, opening, 0, 0, 0, 0, 0)
        for is_after, rate in ((False, period.stretch.before), (True, period.stretch.after)):
            base, some = owed, [each for each in period.inner if each[2] == is_after]
            days = [each.day for each in period.stretch.inner if each.is_after == is_after]
            for place, (amount, share, _, is_fee) in enumerate(some):
                interest = base * (rate - share)
                interest += sum(each[0] * (each[1] - share) for each in some[:place])
                told_by_then = told + rounded_fraction(interest, step)
                before = base + told_by_then - told + sum(each[0] for each in some[:place])
                lends = any(each[0] > 0 and not each[3] for each in some[place:])
                if amount < 0 and before + amount <= target and not lends:
                    if self.balance and self.end is not None:
                        raise NeverSettlesError("repaid", number)
                    ended = Ending(days[place], on_days)
                    return self._ended_on_a_day(
                        moved, ended, before, amount, target, interest=told_by_then, paid=paid
                    )
                on_days += 0 if is_fee else amount
                moved = moved._replace(
                    advance=moved.advance + (amount if amount > 0 and not is_fee else 0),
                    repay=moved.repay - (amount if amount < 0 else 0),
                    fee=moved.fee + (amount if is_fee else 0),
                )
            if is_after or not period.stretch.after:
                return None
            it = self._happens(opening, period, lent_later=False)
            if it.rest <= 0:
                return None
            owed, told, paid = it.rest, it.interest, it.paid
            moved = moved._replace(
                advance=moved.advance + it.advance,
                repay=moved.repay + it.repaid,
                fee=moved.fee + it.fee,
            )
        return None

    def _ended_on_a_day(
        self,
        moved: Row,
        ended: Ending,
        before: int,
        amount: int,
        target: int,
        *,
        interest: int,
        paid: int,
    ) -> Row:
        over = target - before - amount
        shows = bool(over) and self.rule.shows_overpaid and not self.balance
        closing = before + amount if shows else target
        repaid = -amount - (0 if shows else over)
        repay = moved.repay + repaid
        self.overpaid, self.ended = over, True
        return moved._replace(
            ended=ended._replace(moved=ended.moved - repaid),
            interest=interest,
            principal=paid + repay - interest,
            payment=paid,
            closing=closing,
            rest=closing,
            repay=repay,
        )

    def _happens(self, opening: int, period: _Period, *, lent_later: bool) -> "_Happening":
        """What a period brings before anything settles the loan."""
        step, stretch = self.rule.interest_step, period.stretch
        interest, moved = period.accrued(opening, step, is_after=False)
        it = _Happening(opening, interest, moved, period)
        if stretch.interest_only:
            rate = stretch.after
            base = it.due - interest - it.repaid
            ahead = rounded_fraction(base * rate / (1 + rate), step) if rate else 0
            it.paid = rounded(interest + ahead, self.rule.cash_step)
        it.later, it.moved_after = period.accrued(it.rest, step, is_after=True)
        if it.rest <= 0 and self.cuts and not (it.moved_after or lent_later):
            it.later = 0
        if stretch.interest_only and stretch.after and not period.inner:
            it.later = it.paid - interest
        return it

    def _settle(self, it: "_Happening", period: _Period) -> None:
        """What moves with the last payment brings the closing to the balance.

        An amount is never below zero: what one cannot take the payment does.
        """
        kept = _before_interest(self.balance - it.moved_after, period.stretch.after)
        more = rounded(it.rest - kept, self.rule.cash_step)
        if self.by == "advance" and it.advance >= more:
            it.advance -= more
        elif self.by == "fee" and it.fee >= more:
            it.fee -= more
        elif self.by == "repay" and it.repaid >= -more:
            it.repaid += more
        else:
            it.paid, it.repaid = shared(it.paid + it.repaid + more, it.paid, it.repaid)
        it.later += self.balance - it.closing

    def _takes(self, number: int) -> bool:
        """Whether the interest of a row takes the cents that settle the loan."""
        if self.end is None:
            return False
        return number == self.end - (self.by == "interest-before") and self.by in _BY_INTEREST

    def _close(self, number: int, closing: int, *, lent_later: bool) -> None:
        at_end = self.end is not None and number == self.end
        if self.end is None:
            self.ended = closing == self.balance or (not closing and not lent_later)
        else:
            self.ended = at_end or (not closing and not lent_later and self.cuts)


#: Ways to settle that leave every payment as it stands.
_BY_INTEREST: Final = ("interest", "interest-before")


def _taken_off(stretch: Stretch, unit: Unit) -> int:
    """What a payment and all that moves with it take off what is owed before it."""
    # On nothing but what is repaid there is no interest to pay.
    payment = Decimal(0) if stretch.interest_only else stretch.payment
    return unit.count(payment + stretch.repay - stretch.advance - stretch.fee)


def _reaches(opening: int, closing: int, balance: int, alike: bool, *, falls: bool) -> bool:
    """Whether this payment is the first to reach the balance.

    Where all that follows is `alike`, one that moves away from it proves that none ever does.
    """
    if (closing <= balance) if falls else (closing >= balance):
        return True
    if alike and ((closing >= opening) if falls else (closing <= opening)):
        raise NeverSettlesError("rounding")
    return False


def _before_interest(balance: int, rate: Fraction) -> int:
    """What grows to `balance` from the last payment on."""
    if not rate:
        return balance
    return divide_nearest(balance * rate.denominator, rate.denominator + rate.numerator)
