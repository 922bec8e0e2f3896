"""The balance rolled along the line, unrounded and never cut at zero.

Linear in every amount on the line: with x for one of them what is owed is affine in that. In the
decimal context in force.
"""

from bisect import bisect_right
from collections.abc import Iterable, Sequence
from decimal import Decimal
from fractions import Fraction
from typing import Any, Final, TypeVar, cast

from ..line.line import Line
from ..line.stretch import Stretch
from ..numbers.affine import Affine
from ..numbers.ratios import as_decimal
from .period import Reckoning

#: Periods from which on they are rolled at once.
_MANY: Final = 8
#: Amounts that are rolled unrounded.
E = TypeVar("E", Decimal, Affine)


class Exact(Reckoning[E, Decimal]):
    """Decimals, or what is affine in the amount that is asked for."""

    def money(self, amount: E) -> E:
        """As it is."""
        return amount

    def rate(self, interest: Fraction) -> Decimal:
        """As a decimal."""
        return as_decimal(interest)

    def accrued(self, owed: E, rate: Decimal, moved: Sequence[tuple[E, Decimal]]) -> E:
        """Without rounding."""
        interest = owed * rate
        for amount, share in moved:
            interest += amount * share
        return interest

    def paid_ahead(self, owed: E, rate: Decimal) -> E:
        """Without rounding."""
        return owed * rate / (1 + rate)

    def through(self, owed: E, stretch: Stretch[Any, Any], periods: int) -> E:
        """What is owed after so many periods of a stretch; of many at once."""
        if stretch.inner or (stretch.on_top and periods <= _MANY):
            one_by_one: E = Reckoning.through(cast(Any, self), owed, stretch, periods)
            return one_by_one
        before, after = 1 + as_decimal(stretch.before), 1 + as_decimal(stretch.after)
        moved: E = stretch.advance + stretch.fee - stretch.repay
        if stretch.on_top:
            repaid: E = stretch.payment - moved
            return owed - repaid * periods
        paid: E = stretch.payment - moved
        if periods <= _MANY:
            for _ in range(periods):
                owed = (owed * before - paid) * after
            return owed
        return _many(owed, before * after, -paid * after, periods)


#: Over decimals.
EXACT: Final[Exact[Decimal]] = Exact()
#: Over what is affine in the amount that is asked for.
AFFINE: Final[Exact[Affine]] = Exact()


def _many(owed: E, growth: Decimal, added: E, periods: int) -> E:
    """So many times `owed` becomes growth x owed + added: by doubling, without a division, so that
    as many digits stay as one by one."""
    while True:
        if periods % 2:
            owed = owed * growth + added
        periods //= 2
        if not periods:
            return owed
        growth, added = growth * growth, growth * added + added


def unrounded_end(line: Line, periods: int | None = None) -> Decimal:
    """What is owed after the last period of a line, or after so many."""
    owed = line.principal
    for stretch in line.stretches:
        if periods is not None and stretch.first > periods:
            break
        owed = EXACT.through(owed, stretch, stretch.periods(periods))
    return owed


class Carrying:
    """Stretches that have an end, ready to be carried through from any payment on: what is owed at
    the end is affine in what is owed before, and in the x of the stretches."""

    def __init__(self, stretches: Iterable[Stretch[Affine]]) -> None:
        self._stretches = tuple(stretches)
        self._firsts = [stretch.first for stretch in self._stretches]
        growth, added = Decimal(1), Affine(Decimal(0), Decimal(0))
        nothing = added
        after = [(growth, added)]
        for stretch in reversed(self._stretches):
            added += growth * AFFINE.carried(nothing, (stretch,))
            if not stretch.on_top:
                one = (1 + as_decimal(stretch.before)) * (1 + as_decimal(stretch.after))
                growth *= one ** stretch.periods()
            after.append((growth, added))
        self._after = after[::-1]

    def from_payment(self, number: int, owed: Decimal) -> Affine:
        """What is owed at the end where this is owed before a payment."""
        place = bisect_right(self._firsts, number) - 1
        stretch = self._stretches[place]._replace(first=number)
        then = AFFINE.carried(Affine(owed, Decimal(0)), (stretch,))
        growth, added = self._after[place + 1]
        return growth * then + added
