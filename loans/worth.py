"""What the payments of a loan are worth when the money is lent, at any rate.

Discounted by the growth of each period, payments and the balance left are worth less the higher
the rate: at one rate, and no other, they are worth what is lent.
"""

from decimal import Decimal
from typing import NamedTuple

from . import closed_form
from .line import Beat, Terms
from .rates import as_decimal


class Worth(NamedTuple):
    """A value at the start, and how it changes with the rate of one period."""

    value: Decimal
    slope: Decimal


def worth(terms: Terms, rate: Decimal) -> Worth:
    """Payments and balance, discounted at `rate` a period; in the decimal context in force.

    Level stretches by the sum of a geometric series, the rest one by one. The count is known.
    """
    value = slope = Decimal(0)
    discount, force = Decimal(1), Decimal(0)
    odd = dict(terms.odd)

    def add(amount: Decimal) -> None:
        nonlocal value, slope
        value += amount * discount
        slope -= amount * discount * force

    for beat in terms.beats:
        last, number = beat.last or 0, beat.first
        for at in [*sorted(each for each in odd if number <= each <= last), None]:
            level = last - number + 1 if at is None else at - number
            if level > 0:
                each = _level(beat, level, rate, terms.payment)
                value += discount * each.value
                slope += discount * (each.slope - force * each.value)
                discount, force = _moved(beat, level, rate, discount, force)
            if at is not None:
                before = _growth(beat, rate, after=False)
                discount, force = discount / before, force + beat.before.force(rate)
                add(odd[at])
                after = _growth(beat, rate, after=True)
                discount, force = discount / after, force + beat.after.force(rate)
                number = at + 1
    add(terms.balance)
    return Worth(value, slope)


def _growth(beat: Beat, rate: Decimal, *, after: bool) -> Decimal:
    span = beat.after if after else beat.before
    growth = 1 + as_decimal(span.simple) * rate
    if span.power:
        growth *= (1 + rate) ** as_decimal(span.power)
    return growth


def _forces(beat: Beat, rate: Decimal) -> Decimal:
    return beat.before.force(rate) + beat.after.force(rate)


def _moved(
    beat: Beat, periods: int, rate: Decimal, discount: Decimal, force: Decimal
) -> tuple[Decimal, Decimal]:
    growth = _growth(beat, rate, after=False) * _growth(beat, rate, after=True)
    return discount / growth**periods, force + periods * _forces(beat, rate)


def _level(beat: Beat, periods: int, rate: Decimal, payment: Decimal) -> Worth:
    """Payments of as many periods that are alike, worth at the beginning of the first."""
    after = _growth(beat, rate, after=True)
    growth = _growth(beat, rate, after=False) * after
    ends, moment = closed_form.present_values(1 / growth, periods, payment, Decimal(0))
    # Each payment is worth its end-of-period value grown back over the time after it.
    slope = -moment * _forces(beat, rate) + ends * beat.after.force(rate)
    return Worth(ends * after, slope * after)
