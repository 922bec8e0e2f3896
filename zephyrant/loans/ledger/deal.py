"""The schedule of a loan of clauses alone."""

from collections.abc import Iterator, Sequence
from datetime import date
from decimal import Decimal
from fractions import Fraction
from itertools import groupby

from ..document.limits import MOST_MONEY
from ..line.line import Line
from ..line.stretch import Inner, Stretch
from .rounding import rounded, rounded_fraction
from .rows import CashRule, NeverSettlesError, Row
from .settling import BY_MONEY, Settling, takes_up


class Deal:
    """The schedule of a loan of clauses alone: a row each time something happens.

    Inside a period the money that moved bears interest up to its end, each amount on its own, and
    interest bears none; it is told, and rounded, with the rows.
    """

    def __init__(self, line: Line, rule: CashRule, balance: int, settles_by: Settling) -> None:
        self.line, self.rule, self.balance, self.by = line, rule, balance, settles_by
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
        told = rounded_fraction(interest, self.rule.interest_step)
        advance, fee, repay = moved
        closing = opening + told + advance + fee - repay
        by = self.by if is_last else "nothing"
        more = rounded(closing - self.balance, self.rule.cash_step)
        taken_by = takes_up(by, more, advance=advance, fee=fee)
        if taken_by == "advance":
            advance -= more
        elif taken_by == "fee":
            fee -= more
        elif by in BY_MONEY:
            repay += more
        if repay < 0:
            raise NeverSettlesError("payment", place)
        closing = opening + told + advance + fee - repay
        if by in (*BY_MONEY, "interest"):
            self.taken = self.balance - closing
            told, closing = told + self.taken, self.balance
        elif by == "balance":
            closing = rounded(closing, self.rule.cash_step)
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
