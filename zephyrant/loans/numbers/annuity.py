"""Level loans by formula: the independent proof of what the ledger rolls.

Standard annuity mathematics. With growth u = 1 + i a period and s = (u^n - 1) / i (n where i is
zero; times u for payments in advance), a loan P repaid by n payments A ends at P u^n - A s.
Every function works in the decimal context in force; rates are fractions of one period.
"""

from decimal import Decimal
from typing import Literal, NamedTuple

#: When a payment falls in its period: at its end or at its start.
Timing = Literal["in-arrears", "in-advance"]


class Factors(NamedTuple):
    """What 1 lent grows to (`growth`) and what payments of 1 add up to (`accumulated`)."""

    growth: Decimal
    accumulated: Decimal


def factors(rate: Decimal, count: int | Decimal, timing: Timing) -> Factors:
    """The factors of `count` periods at `rate`; a fractional count is taken as the powers are."""
    growth = (1 + rate) ** count
    accumulated = (growth - 1) / rate if rate else Decimal(count)
    return Factors(growth, accumulated * (1 + rate) if timing == "in-advance" else accumulated)


def payment(principal: Decimal, balance: Decimal, by: Factors) -> Decimal:
    """The level payment that leaves `balance` after the periods of `by`."""
    return (principal * by.growth - balance) / by.accumulated


def principal(payment_: Decimal, balance: Decimal, by: Factors) -> Decimal:
    """The amount lent that such payments bring to `balance`."""
    return (balance + payment_ * by.accumulated) / by.growth


def balance(principal_: Decimal, payment_: Decimal, by: Factors) -> Decimal:
    """What is owed at the end; below zero where more is paid than is owed."""
    return principal_ * by.growth - payment_ * by.accumulated


def count(
    principal_: Decimal, rate: Decimal, payment_: Decimal, balance_: Decimal, timing: Timing
) -> Decimal | None:
    """The number of periods, not whole as a rule, after which `balance_` is owed.

    None where the balance is never reached.
    """
    at_end = payment_ * (1 + rate) if timing == "in-advance" else payment_
    if not rate:
        return (principal_ - balance_) / at_end if at_end else None
    above, below = at_end - balance_ * rate, at_end - principal_ * rate
    if not below or above / below <= 0:
        return None
    return (above / below).ln() / (1 + rate).ln()


def present_values(
    discount: Decimal, count_: int, payment_: Decimal, balance_: Decimal
) -> tuple[Decimal, Decimal]:
    """Payments at the end of `count_` periods and a balance with the last, discounted.

    Gives the sum and the sum of each times its number of periods (its moment).
    """
    power = discount**count_
    if discount == 1:
        level, moment = Decimal(count_), Decimal(count_ * (count_ + 1)) / 2
    else:
        level = discount * (1 - power) / (1 - discount)
        moment = (level - count_ * power * discount) / (1 - discount)
    return payment_ * level + balance_ * power, payment_ * moment + balance_ * count_ * power
