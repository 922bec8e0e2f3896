"""Many regular loans at once, as arrays: each of the five figures, unrounded.

Every number here is a float or a whole number of minor units. Where a float comes too near to
where rounding turns, or a loan does something that a regular one does not, the place is given up
(NaN) and is left to the exact way.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Final

from ..numbers.arrays import Flags, Floats, Wholes, np
from ..roots.many_rates import TOGETHER

#: So near to where rounding turns a float is not trusted, in minor units.
_NEAR: Final = 1e-4
#: Whole numbers beyond this a float does not tell apart.
MOST_EXACT: Final = 2.0**50


@dataclass(frozen=True)
class Level:
    """Regular loans; money in minor units, `rate` of one period.

    What is asked for stands in as nothing. `numerator` / `denominator` is the same rate as whole
    numbers where those are small, else 0 / 1.
    """

    principal: Floats
    rate: Floats
    numerator: Wholes
    denominator: Wholes
    count: Wholes
    balance: Floats
    payment: Floats
    in_advance: Flags

    def at(self, places: Wholes | Flags | slice) -> "Level":
        """Some of them."""
        return Level(
            self.principal[places],
            self.rate[places],
            self.numerator[places],
            self.denominator[places],
            self.count[places],
            self.balance[places],
            self.payment[places],
            self.in_advance[places],
        )


def to_whole(amount: Floats, near: float | Floats = _NEAR) -> Floats:
    """The nearest whole number; NaN where that is too near a tie to be told by floats."""
    low = np.floor(amount)
    part = amount - low
    sure = (np.abs(part - 0.5) > near) & (np.abs(amount) < MOST_EXACT)
    return np.where(sure, np.where(part > 0.5, low + 1, low), np.nan)


def _factors(loans: Level) -> tuple[Floats, Floats]:
    """What 1 lent grows to, and what payments of 1 grow to."""
    rate = loans.rate
    grown = np.log1p(rate)
    grown *= loans.count
    np.expm1(grown, out=grown)
    added = grown / rate
    free = rate == 0
    if free.any():
        added[free] = loans.count[free]
    if loans.in_advance.any():
        added *= 1 + rate * loans.in_advance
    grown += 1
    return grown, added


def _in_parts(loans: Level, figure: Callable[[Level], Floats]) -> Floats:
    """A figure of each, worked on so many at once as stay in the cache."""
    found = np.empty(len(loans.count))
    with np.errstate(all="ignore"):
        for start in range(0, len(found), TOGETHER):
            some = slice(start, start + TOGETHER)
            found[some] = figure(loans.at(some))
    return found


def payments(loans: Level) -> Floats:
    """The payment of each, unrounded."""

    def figure(some: Level) -> Floats:
        growth, added = _factors(some)
        return (some.principal * growth - some.balance) / added

    return _in_parts(loans, figure)


def principals(loans: Level) -> Floats:
    """The amount lent of each, unrounded."""

    def figure(some: Level) -> Floats:
        growth, added = _factors(some)
        return (some.payment * added + some.balance) / growth

    return _in_parts(loans, figure)


def balances(loans: Level) -> Floats:
    """What is left at the end of each, unrounded."""

    def figure(some: Level) -> Floats:
        growth, added = _factors(some)
        return some.principal * growth - some.payment * added

    return _in_parts(loans, figure)


def counts(loans: Level) -> Floats:
    """The number of payments of each, unrounded; NaN where the balance is never reached."""

    def figure(some: Level) -> Floats:
        rate, paid = some.rate, some.payment * (1 + some.rate * some.in_advance)
        gap, left = some.principal - some.balance, paid - some.principal * some.rate
        count = np.log1p(gap * rate / left) / np.log1p(rate)
        free = rate == 0
        if free.any():
            count[free] = gap[free] / paid[free]
        count[(left <= 0) | (gap <= 0)] = np.nan
        return count

    return _in_parts(loans, figure)
