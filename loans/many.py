"""Many regular loans at once: payments and totals to the cent as arrays, or not at all.

Every number here is a float or a whole number of minor units. Where a float comes too near to
where rounding turns, or a loan does something that a regular one does not, the place is given up
(NaN) and is left to the exact way.
"""

from dataclasses import dataclass
from typing import Final

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Wholes = NDArray[np.int64]

#: So near to where rounding turns a float is not trusted, in minor units.
_NEAR: Final = 1e-4
#: Whole-number interest may not reach this.
_MOST: Final = 2.0**62
_MOST_EXACT: Final = 2.0**50


@dataclass(frozen=True)
class Level:
    """Regular loans; money in minor units, `rate` of one period.

    `payment` is nothing where it is asked for. `numerator` / `denominator` is the same rate as
    whole numbers where those are small, else 0 / 1.
    """

    principal: Floats
    rate: Floats
    numerator: Wholes
    denominator: Wholes
    count: Wholes
    balance: Floats
    payment: Floats


@dataclass(frozen=True)
class Paid:
    """What is paid, in minor units: the regular payment, interest in all, the last payment."""

    payment: Floats
    interest: Floats
    final: Floats


def _factors(rate: Floats, count: Wholes) -> tuple[Floats, Floats]:
    """What 1 lent grows to, and what payments of 1 grow to."""
    grown = np.expm1(count * np.log1p(rate))
    with np.errstate(invalid="ignore", divide="ignore"):
        added = np.where(rate == 0, count.astype(float), grown / rate)
    return 1 + grown, added


def to_whole(amount: Floats, near: float = _NEAR) -> Floats:
    """The nearest whole number; NaN where that is too near a tie to be told by floats."""
    low = np.floor(amount)
    part = amount - low
    sure = (np.abs(part - 0.5) > near) & (np.abs(amount) < _MOST_EXACT)
    return np.where(sure, np.where(part > 0.5, low + 1, low), np.nan)


def payments(loans: Level, *, in_advance: bool) -> Floats:
    """The payment of each, to the minor unit."""
    growth, added = _factors(loans.rate, loans.count)
    if in_advance:
        added = added * (1 + loans.rate)
    return to_whole((loans.principal * growth - loans.balance) / added)


def paid(loans: Level) -> Paid:
    """What is paid in all, the schedules rolled side by side."""
    payment = payments(loans, in_advance=False)
    opening, interest = loans.principal.copy(), np.zeros_like(payment)
    final = np.full_like(payment, np.nan)
    exact = loans.denominator > 1
    for number in range(1, int(loans.count.max()) + 1):
        charged = _charged(loans, opening, exact)
        due = opening + charged
        is_last, is_over = loans.count == number, loans.count < number
        interest = np.where(is_over, interest, interest + charged)
        final = np.where(is_last, due - loans.balance, final)
        left = due - payment
        # A loan that is repaid before its last payment is not as the others.
        payment = np.where(~is_over & ~is_last & (left <= 0), np.nan, payment)
        opening = np.where(is_over | is_last, 0.0, left)
    gone = np.isnan(payment) | (final < 0)
    return Paid(
        np.where(gone, np.nan, payment),
        np.where(gone, np.nan, interest),
        np.where(gone, np.nan, final),
    )


def _charged(loans: Level, opening: Floats, exact: NDArray[np.bool_]) -> Floats:
    """Interest of a period to the minor unit, ties away from zero."""
    by_float = to_whole(opening * loans.rate)
    if not exact.any():
        return by_float
    safe = np.where(np.isnan(opening), 0.0, opening)
    fits = exact & (2 * safe * loans.numerator < _MOST) & (safe >= 0)
    whole = np.where(fits, safe, 0.0).astype(np.int64)
    double = 2 * whole * loans.numerator + loans.denominator
    return np.where(fits & ~np.isnan(opening), double // (2 * loans.denominator), by_float)


def rates(loans: Level, payment: Floats, *, in_advance: bool) -> Floats:
    """The rate of one period of each, by Newton's method from a guess; NaN where it does not settle
    or there may be none."""
    lent, left, count = loans.principal, loans.balance, loans.count.astype(float)
    total = payment * count + left
    with np.errstate(all="ignore"):
        guess = 2 * (total - lent) / (count * (lent + left) + 1e-300)
        rate = np.clip(guess, 1e-9, 1.0)
        step = np.full_like(rate, np.inf)
        for _ in range(40):
            log = np.log1p(rate)
            grown = np.expm1(count * log)
            added = grown / rate
            slope = (count * (1 + grown) / (1 + rate) - added) / rate
            if in_advance:
                slope, added = slope * (1 + rate) + added, added * (1 + rate)
            gap = lent * (1 + grown) - payment * added - left
            turn = lent * count * (1 + grown) / (1 + rate) - payment * slope
            step = gap / turn
            rate = rate - step
            if np.nanmax(np.abs(step) / (np.abs(rate) + 1e-12), initial=0.0) < 1e-14:
                break
        settled = (np.abs(step) <= 1e-11 * np.abs(rate)) & (rate > 1e-6)
    return np.where(settled & (total > lent) & (lent > left), rate, np.nan)
