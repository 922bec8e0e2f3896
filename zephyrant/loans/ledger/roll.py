"""The balance rolled along the line as the schedule to the cent."""

from decimal import Decimal

from ..line.line import Line
from ..line.stretch import Stretch
from .deal import Deal
from .ended_on_a_day import ended_on_a_day
from .period import Happening, Reckoned, happens
from .rounding import rounded, shared
from .rows import CashRule, Hindrance, NeverSettlesError, Row, Schedule
from .settling import BY_INTEREST, BY_MONEY, Ending, before_interest, settle
from .whole_units import UnitRate, WholeUnits


def roll_schedule(line: Line, rule: CashRule, ending: Ending) -> Schedule:
    """The line to the cent: what `settles_by` says closes it at exactly the balance.

    In each row interest + principal = payment. A payment that would overpay is cut to what is
    owed and ends the schedule. In advance, or with interest carried unrounded, the last
    interest takes what is left over below a cent. Raises `NeverSettlesError` where rounding
    keeps the balance from being reached.
    """
    opening, balance = rule.unit.count(line.principal), rule.unit.count(line.balance)
    if not line.has_payments:
        deal = Deal(line, rule, balance, ending.settles_by)
        rows = tuple(deal.rows(opening))
        return Schedule(rows, rule.unit, taken=deal.taken, by_day=deal.by_day)
    roll = _Roll(line, rule, ending, balance, opening)
    rows = tuple(roll.rows(opening))
    last = rows[-1].number
    early = ending.cuts and roll.end is not None and last < roll.end
    paused = early and not any(
        stretch.payment or stretch.on_top or stretch.repay
        for stretch in line.stretches
        if stretch.last is None or stretch.last > last
    )
    return Schedule(rows, rule.unit, early, roll.overpaid, roll.taken, paused_after=paused)


class _Roll:
    """The roll to the cent: how a row comes about, and whether the loan has ended with it."""

    def __init__(
        self, line: Line, rule: CashRule, ending: Ending, balance: int, opening: int
    ) -> None:
        self.line, self.rule, self.by, self.cuts = line, rule, ending.settles_by, ending.cuts
        number, payment = ending.first or (0, Decimal(0))
        self.first, self.stated = number, rule.unit.count(payment)
        self.units = WholeUnits(rule)
        self.balance, self.falls = balance, opening > balance
        self.end = None if line.is_open else line.stretches[-1].last
        self.kept = _taken_off(line.stretches[-1], self.units) + balance
        self.ended = False
        self.overpaid = self.taken = 0

    def rows(self, opening: int) -> list[Row]:
        """Every row."""
        all_rows: list[Row] = []
        stops = self._stops if self.end is None else None
        for stretch in self.line.stretches:
            period = Reckoned(stretch, self.units)
            number, last = stretch.first, stretch.last or self.line.most
            while number <= last:
                if stretch.is_plain:
                    alike = range(number, self._alike_until(last) + 1)
                    rows = self.units.alike(opening, period, alike, stops)
                    all_rows += rows
                    number += len(rows)
                    opening = rows[-1].closing if rows else opening
                    if number > last:
                        break
                row = self._row(number, opening, stretch, period)
                self._check(row, stretch)
                all_rows.append(row)
                if self.ended:
                    return all_rows
                number, opening = number + 1, row.closing
        if self.line.is_open:
            raise NeverSettlesError("rounding", self.line.most)
        return all_rows

    def _check(self, row: Row, stretch: Stretch) -> None:
        if row.payment < 0 or row.repay < 0:
            why: Hindrance = "interest" if stretch.on_top else "payment"
            raise NeverSettlesError(why, row.number)
        if abs(row.closing) > self.units.most:
            raise NeverSettlesError("size", row.number)

    def _alike_until(self, last: int) -> int:
        """The last payment of a stretch that nothing settles with."""
        if self.end is None:
            return last
        return min(last, self.end - (2 if self.by == "interest-before" else 1))

    def _stops(self, opening: int, closing: int) -> bool:
        """Whether payments until the balance is reached may end there: it is, or never will be."""
        if self.falls:
            return closing <= self.balance or closing >= opening
        return closing >= self.balance or closing <= opening

    def _row(
        self, number: int, opening: int, stretch: Stretch, period: Reckoned[int, UnitRate]
    ) -> Row:
        """The row of a payment, with what ends the loan or settles it."""
        lent_later = number < self.line.lent_until
        if stretch.inner and self.cuts and not lent_later and (self.end or self.falls):
            target = self.balance if self.end is None else 0
            met = ended_on_a_day(
                number, opening, stretch, self.units, target=target, balance=self.balance
            )
            if met is not None:
                self.ended, (row, self.overpaid) = True, met
                return row
        it = happens(opening, period)
        settles = lent_later or bool(it.moved_after) or it.rest > 0
        if not settles and self.cuts:
            # Nothing owed bears nothing.
            it.later = 0
        is_last = self._is_last(number, it, stretch, lent_later=lent_later)
        self._end(number, it, period, is_last=is_last, ends_here=not settles)
        if number == self.first and (is_last or it.rest > 0):
            it.interest += self.stated - it.paid
            it.paid = self.stated
        closing = it.closing
        if self.end is None:
            self.ended |= closing == self.balance or (not closing and not lent_later)
        else:
            at_end = number == self.end
            self.ended |= at_end or (not closing and not lent_later and self.cuts)
        return _row_of(number, it, stretch, self.units)

    def _end(
        self,
        number: int,
        it: Happening[int],
        period: Reckoned[int, UnitRate],
        *,
        is_last: bool,
        ends_here: bool,
    ) -> None:
        """What settles the loan with a row or, where all is repaid (`ends_here`), ends it."""
        is_over = self.cuts and ends_here and it.repaid > 0 > it.rest and number != self.end
        if is_over and self.rule.shows_overpaid and not self.balance:
            it.later, self.overpaid, self.ended = 0, -it.rest, True
            return
        if self._takes(number):
            self.taken = (self.balance if is_last else self.kept) - it.closing
            it.later += self.taken
        elif is_last and self.by in BY_MONEY:
            kept = before_interest(self.balance - it.moved_after, period.after.of_one)
            settle(it, self.by, kept, self.rule.cash_step)
            it.later += self.balance - it.closing
        elif ends_here and self.cuts and (it.paid or it.repaid or self.by != "nothing"):
            if self.balance:
                raise NeverSettlesError("repaid", number)
            it.later = 0
            it.paid, it.repaid = shared(rounded(it.due, self.rule.cash_step), it.paid, it.repaid)
            it.interest -= it.rest
        elif is_last and self.by == "balance":
            self.balance = rounded(it.closing, self.rule.cash_step)
            it.later += self.balance - it.closing
        if is_over:
            self.overpaid = period.repay - it.repaid

    def _is_last(
        self, number: int, it: Happening[int], stretch: Stretch, *, lent_later: bool
    ) -> bool:
        """Whether this payment is the last, or the first to reach the balance.

        Where all that follows is alike, one that moves away from it proves that none ever does.
        """
        closing, balance = it.closing, self.balance
        if self.end:
            return number == self.end
        if lent_later and self.falls:
            return False
        if (closing <= balance) if self.falls else (closing >= balance):
            return True
        moves_away = (closing >= it.opening) if self.falls else (closing <= it.opening)
        if stretch.is_plain and stretch is self.line.stretches[-1] and moves_away:
            raise NeverSettlesError("rounding")
        return False

    def _takes(self, number: int) -> bool:
        """Whether the interest of a row takes the cents that settle the loan."""
        if self.end is None:
            return False
        return number == self.end - (self.by == "interest-before") and self.by in BY_INTEREST


def _row_of(number: int, it: Happening[int], stretch: Stretch, units: WholeUnits) -> Row:
    closing = it.closing
    advance, repay, fee = it.advance, it.repaid, it.fee
    for each in stretch.inner:
        amount = units.money(each.amount)
        fee += amount if each.is_fee else 0
        advance += amount if amount > 0 and not each.is_fee else 0
        repay -= min(amount, 0)
    interest = it.interest + it.later
    ends_with_payment = not stretch.after and not it.moved_after
    return Row(
        number,
        it.opening,
        interest,
        it.paid + repay - interest,
        it.paid,
        closing,
        closing if ends_with_payment else it.rest,
        advance,
        repay,
        fee,
    )


def _taken_off(stretch: Stretch, units: WholeUnits) -> int:
    """What a payment and all that moves with it take off what is owed before it."""
    # On nothing but what is repaid there is no interest to pay on top of a part.
    return units.money(stretch.payment + stretch.repay - stretch.advance - stretch.fee)
