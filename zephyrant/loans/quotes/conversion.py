"""Rates of interest: the quote of a style, the rate of one payment period, and what one grows to.

With f payments a year one payment period grows money by the f-th root of what a year does. Rates of
one payment period are fractions (0.005 is half a percent): exact where the quote divides evenly
into periods, else rounded to as many decimals as digits are kept.
"""

from decimal import Decimal
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

from ..numbers.decimals import DIGITS, precise
from ..numbers.ratios import GUARD, as_decimal, as_fraction
from .styles import Style


class Rates(NamedTuple):
    """One rate on three footings, in percent; `nominal` at the payment frequency."""

    periodic: Decimal
    nominal: Decimal
    effective: Decimal


def growth_of(percent: Decimal, style: Style) -> Decimal:
    """What one lent grows to in a year at a quote; in the decimal context in force.

    `percent` lies within the bounds of its style.
    """
    share = as_decimal(Fraction(percent) / 100 * style.scale)
    return style.convention.growth(share, style)


def percent_of(growth: Decimal, style: Style) -> Decimal:
    """The percent at which a growth a year is quoted: `growth_of` undone."""
    return 100 * style.convention.share(growth, style) / as_decimal(style.scale)


@lru_cache(maxsize=256)
def periodic_rate(percent: Decimal, style: Style) -> Fraction:
    """The rate of one payment period, as a fraction above -1.

    `percent` is a year, or a period where the style is `periodic`.
    """
    share = Fraction(percent) / 100 * style.scale
    divisor = style.convention.divisor(style)
    if not share or divisor is not None:
        return share / (divisor or 1)
    with precise(DIGITS + GUARD):
        return as_fraction(style.convention.rate(as_decimal(share), style))


def quoted_percent(rate: Decimal, style: Style) -> Decimal:
    """The percent at which a rate of one payment period is quoted: `periodic_rate` undone."""
    divisor = style.convention.divisor(style)
    with precise(DIGITS + GUARD):
        if divisor is not None:
            return 100 * divisor * rate / as_decimal(style.scale)
        return 100 * style.convention.share_of(rate, style) / as_decimal(style.scale)


def footings(rate: Decimal, payments_a_year: int) -> Rates:
    """A rate of one payment period on the three footings an answer tells, in percent."""
    with precise(DIGITS + GUARD):
        effective = 100 * ((1 + rate) ** payments_a_year - 1)
        return Rates(100 * rate, 100 * rate * payments_a_year, effective)
