"""Whole minor units, rounded: amounts, fractions, the interest of a period."""

from collections.abc import Callable
from fractions import Fraction

from ..numbers.decimals import divide_nearest


def rounded(amount: int, step: int) -> int:
    """An amount of units to the nearest `step`, ties away from zero."""
    return amount if step == 1 else divide_nearest(amount, step) * step


def rounded_fraction(amount: Fraction, step: int) -> int:
    """A fraction of units to the nearest `step`, ties away from zero."""
    if isinstance(amount, int):
        return amount
    return divide_nearest(amount.numerator, amount.denominator * step) * step


def interest_rule(rate: Fraction, step: int) -> Callable[[int], int]:
    """Interest on what is owed, to the nearest `step`, ties away from zero."""
    if not rate:
        return lambda owed: 0
    double, half = 2 * abs(rate.numerator), rate.denominator * step
    whole = 2 * half
    sign = -step if rate < 0 else step

    def interest(owed: int) -> int:
        if owed < 0:
            return -((-owed * double + half) // whole * sign)
        return (owed * double + half) // whole * sign

    return interest


def shared(total: int, paid: int, repaid: int) -> tuple[int, int]:
    """What is paid in all, as payment and as repayment on top."""
    if total <= paid or not repaid:
        return total, 0
    return paid, total - paid
