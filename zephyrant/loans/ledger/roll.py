"""The balance rolled along the line: unrounded, and as the schedule to the cent.

To the cent, money is a whole number of units and a rate a ratio of whole numbers: interest
multiplies first and divides once, last, so no cent depends on how a rate was written.
"""

from bisect import bisect_right
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from fractions import Fraction
from itertools import groupby
from typing import Final, Literal, NamedTuple

from ..budget import look
from ..document.limits import MOST_MONEY
from ..line.periods import Inner, Line, Stretch
from ..numbers.decimals import UNROUNDED_PLACES, Cash, Unit, decimal_places, divide_nearest
from ..quotes.conversion import as_decimal

#: Rows after which the budget is looked at.
_LOOKS_EACH: Final = 256
#: Periods from which on they are rolled at once.
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


def carried(owed: Decimal, stretches: Iterable[Stretch]) -> Decimal:
    """What is owed after some stretches that have an end; in the decimal context in force."""
    for stretch in stretches:
        owed = rolled(owed, stretch, (stretch.last or stretch.first) - stretch.first + 1)
    return owed


def rolled(owed: Decimal, stretch: Stretch, periods: int) -> Decimal:
    """What is owed after so many periods of a stretch."""
    before, after = 1 + as_decimal(stretch.before), 1 + as_decimal(stretch.after)
    payment = stretch.payment
    moved = stretch.advance + stretch.fee - stretch.repay
    if not stretch.inner and periods > _MANY:
        if stretch.interest_only:
            return owed + moved * periods
        return _many_periods(owed, before * after, (moved - payment) * after, periods)
    if stretch.is_plain:
        for _ in range(periods):
            owed = (owed * before - payment) * after
        return owed
    for _ in range(periods):
        interest = owed * (before - 1)
        for amount, share, is_after, *_ in stretch.inner:
            if not is_after:
                interest += amount * as_decimal(share)
                owed += amount
        due = owed + interest + moved
        if stretch.interest_only:
            payment = interest + (due - interest) * (after - 1) / after
        owed = (due - payment) * after
        for amount, share, is_after, *_ in stretch.inner:
            if is_after:
                owed += amount * (1 + as_decimal(share))
    return owed


class Carrying:
    """Stretches that have an end, ready to be carried through from any payment on: what is owed at
    the end is affine in what is owed before. In the decimal context in force."""

    def __init__(self, stretches: Iterable[Stretch]) -> None:
        self._stretches = tuple(stretches)
        self._firsts = [stretch.first for stretch in self._stretches]
        growth, added = Decimal(1), Decimal(0)
        after = [(growth, added)]
        for stretch in reversed(self._stretches):
            added += growth * carried(Decimal(0), (stretch,))
            if not stretch.interest_only:
                one = (1 + as_decimal(stretch.before)) * (1 + as_decimal(stretch.after))
                growth *= one ** ((stretch.last or stretch.first) - stretch.first + 1)
            after.append((growth, added))
        self._after = after[::-1]

    def from_payment(self, number: int, owed: Decimal) -> Decimal:
        """What is owed at the end where this is owed before a payment."""
        place = bisect_right(self._firsts, number) - 1
        stretch = self._stretches[place]
        owed = rolled(owed, stretch, (stretch.last or number) - number + 1)
        growth, added = self._after[place + 1]
        return growth * owed + added


def _many_periods(owed: Decimal, growth: Decimal, added: Decimal, periods: int) -> Decimal:
    """So many times `owed` becomes growth x owed + added: by doubling, without a division, so that
    as many digits stay as one by one."""
    while True:
        if periods % 2:
            owed = owed * growth + added
        periods //= 2
        if not periods:
            return owed
        growth, added = growth * growth, growth * added + added


class Ending(NamedTuple):
    """A loan that ended on a day between two payments, and what had moved on days of that period
    by then, in units: above zero to the borrower."""

    day: date
    moved: int


class Row(NamedTuple):
    """One period of a schedule; money in whole units. `rest` is owed right after the payment.

    `advance` and `fee` are added to what is owed, `repay` is paid on top of `payment`; `principal`
    is what payment and repayment take off it. `place` and `day`, where they are not those of the
    payment of this number: the payment at or before which money moves, and when. `ended`, where
    what is repaid on a day ended the loan within the period.
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
    place: int | None = None
    day: date | None = None
    ended: Ending | None = None

    @property
    def stands_at(self) -> int:
        """The payment's number on the line."""
        return self.number if self.place is None else self.place

    @property
    def paid(self) -> int:
        """All that is paid: the regular payment and what is repaid on top."""
        return self.payment + self.repay


@dataclass(frozen=True, slots=True)
class CashRule:
    """How money moves on a schedule.

    Steps are in units: interest is rounded to `interest_step`, what settles the loan to
    `cash_step`. `shows_overpaid`: a repayment above what is owed is made whole and leaves a balance
    below zero, instead of being cut.
    """

    unit: Unit
    interest_step: int
    cash_step: int
    shows_overpaid: bool = False


@dataclass(frozen=True, slots=True)
class Schedule:
    """The rows to the cent. `early`: the last payment was cut before the count was reached.
    `overpaid`: by how much, in units, the last repayment lay above what was owed, before the count
    was reached. `taken`: what the interest of a row took beyond its own, where it is that which
    settles the loan. `paused_after`: nothing is paid after the last row in any case. `by_day`:
    without payments, a row for each day on which money moves."""

    rows: tuple[Row, ...]
    unit: Unit
    early: bool = False
    overpaid: int = 0
    taken: int = 0
    paused_after: bool = False
    by_day: bool = False


#: Why a loan cannot be laid out to the cent: a payment, or the interest that is to be paid alone,
#: would lie below zero, all is repaid though something is to be left, the balance grows beyond what
#: is told, or rounding keeps it from where it is to be.
Hindrance = Literal["payment", "interest", "repaid", "size", "rounding"]


class NeverSettlesError(Exception):
    """The rounded payments never bring the loan to the balance it is to end with; `number`: of the
    payment where that shows."""

    def __init__(self, why: Hindrance, number: int = 0) -> None:
        self.why, self.number = why, number
        super().__init__(f"{why} at payment {number}")


def cash_rule(
    line: Line,
    decimals: int,
    cash: Cash,
    interest: Cash,
    *,
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
        shows_overpaid=shows_overpaid,
    )


def schedule(line: Line, rule: CashRule) -> Schedule:
    """The line to the cent: what `settles_by` says closes it at exactly the balance.

    In each row interest + principal = payment. A payment that would overpay is cut to what is
    owed and ends the schedule. In advance, or with interest carried unrounded, the last
    interest takes what is left over below a cent. Raises `NeverSettlesError` where rounding
    keeps the balance from being reached.
    """
    opening, balance = rule.unit.count(line.principal), rule.unit.count(line.balance)
    if not line.has_payments:
        deal = _Deal(line, rule, balance)
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


def _rounded(amount: int, step: int) -> int:
    return amount if step == 1 else divide_nearest(amount, step) * step


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
        self.before = _interest_rule(stretch.before, rule.interest_step)
        self.after = _interest_rule(stretch.after, rule.interest_step)
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
        return _rounded_fraction(interest, step), moved


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
            paid, closing = _rounded(due - kept, self.rule.cash_step), self.balance
            rest = due - paid
        elif rest <= 0 and self.cuts and not lent_later and not (last and self.by == "nothing"):
            if self.balance:
                raise NeverSettlesError("repaid", number)
            paid, closing, rest = _rounded(due, self.rule.cash_step), 0, 0
        elif last and self.by == "balance":
            closing = self.balance = _rounded(closing, self.rule.cash_step)
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
        last = (
            number == self.end
            if self.end
            else (it.closing <= self.balance and not lent_later)
            if self.falls
            else it.closing >= self.balance
        )
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
            it.paid, it.repaid = _shared(_rounded(it.due, self.rule.cash_step), it.paid, it.repaid)
            it.interest -= it.rest
        elif last and self.by == "balance":
            self.balance = _rounded(it.closing, self.rule.cash_step)
            it.later += self.balance - it.closing
        if is_over and not shows:
            self.overpaid = period.repay - it.repaid
        closing = it.closing
        self._close(number, closing, lent_later=lent_later)
        self.ended = self.ended or shows
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
                told_by_then = told + _rounded_fraction(interest, step)
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
            ahead = _rounded_fraction(base * rate / (1 + rate), step) if rate else 0
            it.paid = _rounded(interest + ahead, self.rule.cash_step)
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
        more = _rounded(it.rest - kept, self.rule.cash_step)
        if self.by == "advance" and it.advance >= more:
            it.advance -= more
        elif self.by == "fee" and it.fee >= more:
            it.fee -= more
        elif self.by == "repay" and it.repaid >= -more:
            it.repaid += more
        else:
            it.paid, it.repaid = _shared(it.paid + it.repaid + more, it.paid, it.repaid)
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


class _Deal:
    """The schedule of a loan of clauses alone: a row each time something happens.

    Inside a period the money that moved bears interest up to its end, each amount on its own, and
    interest bears none; it is told, and rounded, with the rows.
    """

    def __init__(self, line: Line, rule: CashRule, balance: int) -> None:
        self.line, self.rule, self.balance = line, rule, balance
        self.by_day = any(stretch.inner or stretch.day for stretch in line.stretches)
        self.taken = 0
        self._told = 0

    def rows(self, opening: int) -> Iterator[Row]:
        """Every row."""
        untold, most = Fraction(0), self.rule.unit.count(MOST_MONEY)
        for stretch in self.line.stretches:
            is_last = stretch is self.line.stretches[-1]
            bearing = (opening + untold) * (1 + stretch.ahead)
            untold = bearing - opening
            left = (1 + stretch.before) / (1 + stretch.ahead) - 1
            for day, some in groupby(sorted(stretch.inner, key=_day), key=_day):
                moved = tuple(some)
                untold += bearing * (left - moved[0].interest)
                left = moved[0].interest
                row = self._row(opening, untold, self._moved(moved), stretch.first, day)
                yield row
                bearing += row.closing - opening - row.interest
                opening, untold = row.closing, Fraction(0)
            untold += bearing * left
            if stretch.advance or stretch.fee or stretch.repay or is_last:
                row = self._row(
                    opening, untold, self._at(stretch), stretch.first, stretch.day, is_last=is_last
                )
                yield row
                opening, untold = row.closing, Fraction(0)
            if abs(opening) > most:
                raise NeverSettlesError("size", stretch.first)

    def _moved(self, moved: Sequence[Inner]) -> tuple[int, int, int]:
        count, none = self.rule.unit.count, Decimal(0)
        fee = sum((each.amount for each in moved if each.is_fee), none)
        lent = [each.amount for each in moved if not each.is_fee]
        advance = sum((amount for amount in lent if amount > 0), none)
        return count(advance), count(fee), count(advance - sum(lent, none))

    def _at(self, stretch: Stretch) -> tuple[int, int, int]:
        count = self.rule.unit.count
        return count(stretch.advance), count(stretch.fee), count(stretch.repay)

    def _row(
        self,
        opening: int,
        interest: Fraction,
        moved: tuple[int, int, int],
        place: int,
        day: date | None,
        *,
        is_last: bool = False,
    ) -> Row:
        told = _rounded_fraction(interest, self.rule.interest_step)
        advance, fee, repay = moved
        closing = opening + told + advance + fee - repay
        by = self.line.settles_by if is_last else "nothing"
        more = _rounded(closing - self.balance, self.rule.cash_step)
        if by == "advance" and advance >= more:
            advance -= more
        elif by == "fee" and fee >= more:
            fee -= more
        elif by in ("payment", "repay", "advance", "fee"):
            repay += more
        if repay < 0:
            raise NeverSettlesError("payment", place)
        closing = opening + told + advance + fee - repay
        if by in ("payment", "repay", "advance", "fee", "interest"):
            self.taken = self.balance - closing
            told, closing = told + self.taken, self.balance
        elif by == "balance":
            closing = _rounded(closing, self.rule.cash_step)
            told = closing - opening - advance - fee + repay
        self._told += 1
        return Row(
            self._told if self.by_day else place,
            opening,
            told,
            repay - told,
            0,
            closing,
            closing,
            advance,
            repay,
            fee,
            place,
            day,
        )


def _day(inner: Inner) -> date:
    return inner.day


def _shared(total: int, paid: int, repaid: int) -> tuple[int, int]:
    """What is paid in all, as payment and as repayment on top."""
    if total <= paid or not repaid:
        return total, 0
    return paid, total - paid


def _rounded_fraction(amount: Fraction, step: int) -> int:
    if isinstance(amount, int):
        return amount
    return divide_nearest(amount.numerator, amount.denominator * step) * step


def _reaches(opening: int, closing: int, balance: int, alike: bool, *, falls: bool) -> bool:
    """Whether this payment is the first to reach the balance.

    Where all that follows is `alike`, one that moves away from it proves that none ever does.
    """
    if (closing <= balance) if falls else (closing >= balance):
        return True
    if alike and ((closing >= opening) if falls else (closing <= opening)):
        raise NeverSettlesError("rounding")
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
