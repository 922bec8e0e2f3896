"""The balance rolled along the line, unrounded."""

from bisect import bisect_right
from collections.abc import Iterable
from decimal import Decimal

from ..line.line import Line, Stretch
from ..quotes.conversion import as_decimal

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
        owed = _one_period(owed, stretch, before, after)
    return owed


def _one_period(owed: Decimal, stretch: Stretch, before: Decimal, after: Decimal) -> Decimal:
    """What is owed after a period of a stretch that grows so before its payment and after it."""
    interest, payment = owed * (before - 1), stretch.payment
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
