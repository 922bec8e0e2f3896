"""The cash flow that is to cover the payments of a loan, on the clock of these."""

from collections.abc import Iterator
from decimal import Decimal
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

from ..numbers.ratios import as_decimal


class CashFlow(NamedTuple):
    """What there is for the payments: so much for each `each` of them, which are one period of the
    cover, growing by `growth` (a fraction) with each year of `a_year` payments; or `by_year`, a
    year of the loan each."""

    first: Fraction
    growth: Fraction
    by_year: tuple[Fraction, ...]
    each: int
    a_year: int

    def share(self, number: int) -> Fraction:
        """What there is for one payment: a period's, spread evenly over its payments. Nothing after
        the last year that is stated."""
        year = (number - 1) // self.a_year
        if not self.by_year:
            return _grown(self.first, self.growth, year) / self.each
        return self.by_year[year] / self.a_year if year < len(self.by_year) else Fraction(0)

    def at(self, number: int) -> Decimal:
        """The same as a decimal, in the context in force."""
        return as_decimal(self.share(number))

    def turns(self, last: int) -> Iterator[int]:
        """The payments up to `last` from which on there is another amount for each."""
        years = range(1 + self.a_year, last + 1, self.a_year)
        return (number for number in years if self.share(number) != self.share(number - 1))

    def is_known(self, number: int) -> bool:
        """Whether the cash flow of a payment's year is stated."""
        return not self.by_year or (number - 1) // self.a_year < len(self.by_year)

    def period(self, number: int) -> int:
        """The period of the cover that a payment lies in, from 1."""
        return (number - 1) // self.each + 1


@lru_cache(maxsize=512)
def _grown(first: Fraction, growth: Fraction, years: int) -> Fraction:
    return first * (1 + growth) ** years


class Cover(NamedTuple):
    """A cash flow and how many times it is to be the payments; of a ratio that is asked for
    nothing."""

    flow: CashFlow
    ratio: Fraction | None

    def carries(self, number: int) -> Fraction:
        """What may be paid with a payment at the most."""
        return self.flow.share(number) / self.ratio if self.ratio else Fraction(0)
