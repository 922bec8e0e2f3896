"""How money grows over a time, at a rate that is known or at the one that is asked for."""

from collections.abc import Callable
from dataclasses import dataclass
from decimal import Decimal
from fractions import Fraction
from typing import Any, Final, NamedTuple, TypeVar

from ..numbers.decimals import DIGITS, precise
from ..numbers.ratios import as_decimal, as_fraction, power

#: Whole periods up to which an odd time is kept as an exact fraction.
_MOST_EXACT: Final = 3
#: Numbers that reckon alike: decimals, floats, arrays of floats.
N = TypeVar("N", Decimal, Any)


class Span(NamedTuple):
    """How money grows over a time at a rate i of one period: (1 + simple i)(1 + i)^power."""

    simple: Fraction
    power: Fraction = Fraction(0)

    def interest(self, rate: Fraction) -> Fraction:
        """Interest on 1 over this time, above -1 where `rate` is."""
        if not self.power:
            return self.simple * rate
        if isinstance(rate, InRate):
            return InRate(Fraction(0), Fraction(1), self)
        if self.power.denominator == 1 and self.power <= _MOST_EXACT:
            return (1 + self.simple * rate) * (1 + rate) ** int(self.power) - 1
        with precise(DIGITS + 40):
            growth = power(1 + as_decimal(rate), self.power)
            return as_fraction((1 + as_decimal(self.simple * rate)) * growth - 1)

    @property
    def size(self) -> int:
        """Its length in periods, roughly."""
        return int(self.simple + self.power)


NO_TIME: Final = Span(Fraction(0))
ONE_PERIOD: Final = Span(Fraction(1))


@dataclass(frozen=True, slots=True)
class InRate:
    """Interest on 1 in the rate i of one period that is asked for: constant + slope x, x being i
    or, over a long odd time, the interest that i makes on 1 in its `span`.

    Added up and multiplied by numbers it stands where a rate and an interest stand, from the terms
    to the periods of a line.
    """

    constant: Fraction
    slope: Fraction
    span: Span | None = None

    def __add__(self, other: "InRate | Fraction | int") -> "InRate":
        if isinstance(other, InRate):
            constant, slope = self.constant + other.constant, self.slope + other.slope
            return InRate(constant, slope, self.span or other.span)
        return InRate(self.constant + other, self.slope, self.span)

    __radd__ = __add__

    def __mul__(self, number: Fraction | int) -> "InRate":
        return InRate(self.constant * number, self.slope * number, self.span)

    __rmul__ = __mul__

    def __bool__(self) -> bool:
        return bool(self.constant or self.slope)


#: The rate that is asked for itself.
THE_RATE: Final = InRate(Fraction(0), Fraction(1))


def growth_in(
    interest: InRate | Fraction, number: Callable[[Fraction], N]
) -> Callable[[N], tuple[N, N]]:
    """From a rate to the growth that an interest on 1 makes of 1 there, and to the derivative of
    the logarithm of that by the rate; `number` makes a fraction a number of the kind that rates
    are told in."""
    if isinstance(interest, Fraction):
        growth = 1 + number(interest), number(Fraction(0))
        return lambda rate: growth
    constant, slope = number(interest.constant), number(interest.slope)
    if interest.span is None:

        def at_once(rate: N) -> tuple[N, N]:
            grown = 1 + constant + slope * rate
            return grown, slope / grown

        return at_once
    simple, times = number(interest.span.simple), number(interest.span.power)

    def over_the_span(rate: N) -> tuple[N, N]:
        whole = (1 + simple * rate) * (1 + rate) ** times
        pull = simple / (1 + simple * rate) + times / (1 + rate)
        grown = 1 + constant + slope * (whole - 1)
        return grown, slope * whole * pull / grown

    return over_the_span
