"""What the payments of a loan are worth when the money is lent.

Discounted by the growth of each period, payments and the balance left are worth less the higher
the rate: at one rate, and no other, they are worth what is lent.
"""

from collections.abc import Callable
from decimal import Decimal
from typing import NamedTuple

from ..line.line import Line, Stretch
from ..line.periods import PeriodRun, Span
from ..line.terms import Terms
from ..numbers import annuity
from ..quotes.conversion import as_decimal


class PresentValue(NamedTuple):
    """A value at the start, and how it changes with the rate of one period."""

    value: Decimal
    slope: Decimal


def present_value(terms: Terms, rate: Decimal) -> PresentValue:
    """Level payments and the balance, discounted at `rate` a period; the count is known.

    In the decimal context in force; each run of equal periods by the sum of a geometric series.
    """
    value = slope = Decimal(0)
    discount, force = Decimal(1), Decimal(0)
    for run in terms.runs:
        periods = (run.last or 0) - run.first + 1
        if periods < 1:
            continue
        each = _level(run, periods, rate, terms.payment)
        value += discount * each.value
        slope += discount * (each.slope - force * each.value)
        growth = _growth(run.before, rate) * _growth(run.after, rate)
        discount, force = discount / growth**periods, force + periods * _forces(run, rate)
    left = terms.balance * discount
    return PresentValue(value + left, slope - left * force)


def _growth(span: Span, rate: Decimal) -> Decimal:
    growth = 1 + as_decimal(span.simple) * rate
    if span.power:
        growth *= (1 + rate) ** as_decimal(span.power)
    return growth


def _forces(run: PeriodRun, rate: Decimal) -> Decimal:
    return run.before.force(rate) + run.after.force(rate)


def _level(run: PeriodRun, periods: int, rate: Decimal, payment: Decimal) -> PresentValue:
    """Payments of as many periods that are alike, worth at the beginning of the first."""
    after = _growth(run.after, rate)
    growth = _growth(run.before, rate) * after
    ends, moment = annuity.present_values(1 / growth, periods, payment, Decimal(0))
    # Each payment is worth its end-of-period value grown back over the time after it.
    slope = -moment * _forces(run, rate) + ends * run.after.force(rate)
    return PresentValue(ends * after, slope * after)


class Discounted(NamedTuple):
    """What is lent and what is paid (with what is left), each worth at the start."""

    lent: Decimal
    paid: Decimal


def discounted(line: Line, periods: int | None = None, left: Decimal | None = None) -> Discounted:
    """Everything on a line up to its end (or so many periods, with what is then left), discounted.

    In the decimal context in force. Where only the interest is paid nothing is discounted: what is
    owed does not grow.
    """
    sums = [Decimal(0), Decimal(0)]
    discount = Decimal(1)

    def add(amount: Decimal, at: Decimal) -> None:
        sums[0 if amount > 0 else 1] += abs(amount) * at

    add(line.principal, discount)
    for stretch in line.stretches:
        last = stretch.last
        if periods is not None:
            if stretch.first > periods:
                break
            last = periods if last is None else min(last, periods)
        discount = _through(stretch, (last or 0) - stretch.first + 1, discount, add)
    add(-(line.balance if left is None else left), discount)
    return Discounted(*sums)


def _through(
    stretch: Stretch, periods: int, discount: Decimal, add: Callable[[Decimal, Decimal], None]
) -> Decimal:
    """So many periods: adds what moves in them, gives the discount at their end."""
    before, after = 1 + as_decimal(stretch.before), 1 + as_decimal(stretch.after)
    if stretch.interest_only:
        before = after = Decimal(1)
    paid = stretch.repay if stretch.interest_only else stretch.repay + stretch.payment
    lent = stretch.advance + stretch.fee
    if not stretch.inner:
        # What moves is alike: the discounts alone are added up, one by one.
        total = Decimal(0)
        for _ in range(periods):
            discount /= before
            total += discount
            discount /= after
        add(lent, total)
        add(-paid, total)
        return discount
    discount /= before
    for amount, share, is_after, *_ in stretch.inner:
        if not is_after:
            grown = Decimal(1) if stretch.interest_only else 1 + as_decimal(share)
            add(amount, discount * grown)
    add(lent, discount)
    add(-paid, discount)
    discount /= after
    for amount, share, is_after, *_ in stretch.inner:
        if is_after:
            add(amount, discount * (1 + as_decimal(share)))
    return discount
