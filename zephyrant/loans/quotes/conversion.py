"""Quotes and their conversion: every quote stands for one growth a year.

A nominal rate p compounded m times a year grows money by (1 + p/m)^m a year, a continuous one
by e^p, an effective one by 1 + p; simple interest over t years by (1 + p t)^(1/t), a discount
taken in advance by (1 - p t)^(-1/t). A flat rate p over n level payments in T years is the rate
at which n payments of (1 + p T)/n repay 1. With f payments a year one payment period grows
money by the f-th root of that (standard interest mathematics).

Rates of one payment period are fractions (0.005 is half a percent): exact where the quote
divides evenly into periods, else rounded to `_PLACES` decimals.
"""

from decimal import Decimal
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

from ..calendars import frequencies
from ..numbers import annuity
from ..numbers.decimals import DIGITS, precise
from ..roots.monotone import root_of_falling_convex
from .styles import Style

#: Extra digits for 1 + a tiny rate.
_GUARD = 40
_PLACES = DIGITS


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


def power(growth: Decimal, times: Fraction) -> Decimal:
    """A growth over another time; in the decimal context in force."""
    if times.denominator == 1:
        return growth ** int(times)
    return (growth.ln() * times.numerator / times.denominator).exp()


def growth_of(percent: Decimal, style: Style) -> Decimal:
    """What one lent grows to in a year at a quote; in the decimal context in force.

    `percent` lies within the bounds of its style.
    """
    share = as_decimal(Fraction(percent) / 100 * style.scale)
    often = frequencies.a_year(style.every)
    match style.quoted:
        case "effective":
            return 1 + share
        case "periodic":
            return (1 + share) ** often
        case "flat":
            return (1 + _flat_rate(share, style)) ** often
        case "simple":
            years = _years(style)
            return power(1 + share * as_decimal(years), 1 / years)
        case "discount":
            years = _years(style)
            return power(1 - share * as_decimal(years), -1 / years)
    if style.quoted == "continuous" or style.compounding == "continuous":
        return share.exp()
    times = frequencies.a_year(style.compounding)
    return (1 + share / times) ** times


def percent_of(growth: Decimal, style: Style) -> Decimal:
    """The percent at which a growth a year is quoted: `growth_of` undone."""
    often = frequencies.a_year(style.every)
    share: Decimal
    match style.quoted:
        case "effective":
            share = growth - 1
        case "periodic":
            share = power(growth, Fraction(1, often)) - 1
        case "flat":
            share = _flat_share(power(growth, Fraction(1, often)) - 1, style)
        case "simple":
            years = _years(style)
            share = (power(growth, years) - 1) / as_decimal(years)
        case "discount":
            years = _years(style)
            share = (1 - power(growth, -years)) / as_decimal(years)
        case _ if style.quoted == "continuous" or style.compounding == "continuous":
            share = growth.ln()
        case _:
            times = frequencies.a_year(style.compounding)
            share = times * (power(growth, Fraction(1, times)) - 1)
    return 100 * share / as_decimal(style.scale)


def _years(style: Style) -> Fraction:
    if style.over is None:
        raise ValueError("a simple or a discount quote is charged for a stated time")
    return style.over.years


def _flat_share(rate: Decimal, style: Style) -> Decimal:
    """The flat yearly rate that level payments at `rate` a period come to."""
    count = style.payments or 1
    by = annuity.factors(rate, count, "in-advance" if style.in_advance else "in-arrears")
    level = annuity.payment(Decimal(1), Decimal(0), by)
    return (count * level - 1) / as_decimal(style.term)


def _flat_rate(share: Decimal, style: Style) -> Decimal:
    """The rate of one period at which the payments of a flat quote repay what is lent.

    What they are worth, on a logarithmic scale, is convex and falls with the rate: one root.
    """
    if not share:
        return Decimal(0)
    count = style.payments or 1
    level = (1 + share * as_decimal(style.term)) / count
    lent, later = (1 - level, count - 1) if style.in_advance else (Decimal(1), count)

    def value_and_slope(exponent: Decimal) -> tuple[Decimal, Decimal]:
        discount = (-exponent).exp()
        present_value, moment = annuity.present_values(discount, later, level, Decimal(0))
        return (present_value / lent).ln(), -moment / present_value

    return root_of_falling_convex(value_and_slope).exp() - 1


@lru_cache(maxsize=256)
def periodic_rate(percent: Decimal, style: Style) -> Fraction:
    """The rate of one payment period, as a fraction above -1.

    `percent` is a year, or a period where the style is `periodic`.
    """
    share = Fraction(percent) / 100 * style.scale
    often = frequencies.a_year(style.every)
    if not share or style.quoted == "periodic":
        return share
    if style.quoted == "nominal" and style.compounding != "continuous":
        times = frequencies.a_year(style.compounding)
        if times == often:
            return share / times
    with precise(DIGITS + _GUARD):
        if style.quoted == "flat":
            return as_fraction(_flat_rate(as_decimal(share), style))
        return as_fraction(power(growth_of(percent, style), Fraction(1, often)) - 1)


def quoted_percent(rate: Decimal, style: Style) -> Decimal:
    """The percent at which a rate of one payment period is quoted: `periodic_rate` undone."""
    often = frequencies.a_year(style.every)
    with precise(DIGITS + _GUARD):
        if style.quoted == "periodic":
            return 100 * rate
        if style.quoted == "flat":
            return 100 * _flat_share(rate, style)
        if style.quoted == "nominal" and style.compounding != "continuous":
            times = frequencies.a_year(style.compounding)
            if times == often:
                return 100 * times * rate / as_decimal(style.scale)
        return percent_of((1 + rate) ** often, style)


def footings(rate: Decimal, payments_a_year: int) -> Rates:
    """A rate of one payment period on the three footings an answer tells, in percent."""
    with precise(DIGITS + _GUARD):
        effective = 100 * ((1 + rate) ** payments_a_year - 1)
        return Rates(100 * rate, 100 * rate * payments_a_year, effective)
