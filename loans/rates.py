"""Quotes and their conversion: every quote stands for one growth a year.

A nominal rate p compounded m times a year grows money by (1 + p/m)^m a year, a continuous one
by e^p, an effective one by 1 + p. With f payments a year one payment period grows it by the
f-th root of that (standard interest mathematics).

Rates of one payment period are fractions (0.005 is half a percent): exact where the quote
divides evenly into periods, else rounded to `_PLACES` decimals.
"""

from decimal import Decimal
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

from . import clock
from .document import Quoted
from .figures import DIGITS, precise

#: Extra digits for 1 + a tiny rate.
_GUARD = 40
_PLACES = DIGITS


def quote_in_words(quoted: Quoted, compounding: clock.Compounding, every: clock.Frequency) -> str:
    """How a rate is quoted: "a year, nominal, compounded half-yearly"."""
    return {
        "nominal": f"a year, nominal, {clock.compounded(compounding)}",
        "effective": "a year, effective",
        "continuous": "a year, compounded continuously",
        "periodic": f"for each {clock.period(every).noun}",
    }[quoted]


class Rates(NamedTuple):
    """One rate on three footings, in percent; `nominal` at the payment frequency."""

    periodic: Decimal
    nominal: Decimal
    effective: Decimal


def as_decimal(rate: Fraction) -> Decimal:
    """A rate of one period as a decimal in the context in force."""
    return Decimal(rate.numerator) / Decimal(rate.denominator)


def as_fraction(rate: Decimal) -> Fraction:
    """A computed rate of one period as the fraction a ledger multiplies with."""
    with precise(DIGITS + _GUARD):
        return Fraction(round(rate, _PLACES))


def _growth_power(growth: Decimal, times: Fraction) -> Decimal:
    if times.denominator == 1:
        return growth ** int(times)
    return (growth.ln() * times.numerator / times.denominator).exp()


@lru_cache(maxsize=256)
def periodic_rate(
    percent: Decimal, quoted: Quoted, compounding: clock.Compounding, payments_a_year: int
) -> Fraction:
    """The rate of one payment period, as a fraction above -1.

    `percent` is a year, or a period where `quoted` is `periodic`.
    """
    share = Fraction(percent) / 100
    if quoted == "periodic":
        return share
    if quoted == "nominal" and compounding != "continuous":
        times = clock.a_year(compounding)
        if times == payments_a_year:
            return share / times
    else:
        times = 1
    if not share:
        return share
    with precise(DIGITS + _GUARD):
        if quoted == "continuous" or (quoted == "nominal" and compounding == "continuous"):
            return as_fraction((as_decimal(share) / payments_a_year).exp() - 1)
        growth = 1 + as_decimal(share) / times
        return as_fraction(_growth_power(growth, Fraction(times, payments_a_year)) - 1)


def quoted_percent(
    rate: Decimal, quoted: Quoted, compounding: clock.Compounding, payments_a_year: int
) -> Decimal:
    """The percent at which a rate of one payment period is quoted: `periodic_rate` undone."""
    if quoted == "periodic":
        return 100 * rate
    if quoted == "effective":
        compounding, quoted = 1, "nominal"
    with precise(DIGITS + _GUARD):
        if quoted == "continuous" or compounding == "continuous":
            return 100 * payments_a_year * (1 + rate).ln()
        times = clock.a_year(compounding)
        if times == payments_a_year:
            return 100 * times * rate
        return 100 * times * (_growth_power(1 + rate, Fraction(payments_a_year, times)) - 1)


def footings(rate: Decimal, payments_a_year: int) -> Rates:
    """A rate of one payment period on the three footings an answer tells, in percent."""
    with precise(DIGITS + _GUARD):
        effective = 100 * ((1 + rate) ** payments_a_year - 1)
        return Rates(100 * rate, 100 * rate * payments_a_year, effective)
