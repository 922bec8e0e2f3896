"""Ratios of whole numbers as decimals, and back; powers that need not be whole."""

from decimal import Decimal
from fractions import Fraction

from .decimals import DIGITS, precise

#: Extra digits for 1 + a tiny rate.
GUARD = 40


def as_decimal(rate: Fraction) -> Decimal:
    """A ratio as a decimal in the context in force."""
    return Decimal(rate.numerator) / Decimal(rate.denominator)


def as_fraction(rate: Decimal) -> Fraction:
    """A computed rate of one period as the fraction a ledger multiplies with."""
    with precise(DIGITS + GUARD):
        return Fraction(round(rate, DIGITS))


def power(growth: Decimal, times: Fraction) -> Decimal:
    """A growth over another time; in the decimal context in force."""
    if times.denominator == 1:
        return growth ** int(times)
    return (growth.ln() * times.numerator / times.denominator).exp()
