"""What is lent less what is paid and left, discounted at one rate, with its slope by the rate."""

from decimal import Decimal
from fractions import Fraction
from typing import NamedTuple

from ..line.growth import InRate, growth_in
from ..line.line import Line
from ..numbers import annuity
from ..numbers.ratios import as_decimal
from .discounting import Discounting, PeriodOfFlows


class Worth(NamedTuple):
    """A value at the start, and how it changes with the rate of one period."""

    value: Decimal
    slope: Decimal


class _Sloped(Discounting[Worth, tuple[Decimal, Decimal]]):
    """The discount and the derivative of its logarithm stand in for a value and its slope."""

    def __init__(self, rate: Decimal) -> None:
        self._rate = rate
        self.value = self.slope = Decimal(0)

    def start(self) -> Worth:
        return Worth(Decimal(1), Decimal(0))

    def growth(self, interest: InRate | Fraction) -> tuple[Decimal, Decimal]:
        return growth_in(interest, as_decimal)(self._rate)

    def over(self, at: Worth, growth: tuple[Decimal, Decimal]) -> Worth:
        return Worth(at.value / growth[0], at.slope - growth[1])

    def back(self, at: Worth, growth: tuple[Decimal, Decimal]) -> Worth:
        return Worth(at.value * growth[0], at.slope + growth[1])

    def add(self, at: Worth, *amounts: Decimal) -> None:
        worth = sum(amounts) * at.value
        self.value += worth
        self.slope += worth * at.slope

    def through(
        self, at: Worth, period: PeriodOfFlows[tuple[Decimal, Decimal]], periods: int
    ) -> Worth:
        """Like periods by the sum of a geometric series."""
        if period.early or period.late or periods == 1:
            return super().through(at, period, periods)
        still = Decimal(1), Decimal(0)
        (growth, before), (after, later) = period.before or still, period.after or still
        growth *= after
        ends, moment = annuity.present_values(
            1 / growth, periods, sum(period.with_payment, Decimal(0)), Decimal(0)
        )
        # Each payment is worth its end-of-period value grown back over the time after it.
        worth = at.value * after * ends
        self.value += worth
        self.slope += worth * (at.slope + later) - at.value * after * moment * (before + later)
        return Worth(at.value / growth**periods, at.slope - periods * (before + later))


def worth_at(line: "Line[Decimal, InRate]", rate: Decimal) -> Worth:
    """Of a line in a rate: what is lent less what is paid and left, discounted at a rate of one
    period. In the decimal context in force."""
    sloped = _Sloped(rate)
    sloped.discount(line.principal, line.runs, line.balance)
    return Worth(sloped.value, sloped.slope)


def left_at(line: "Line[Decimal, InRate]", rate: Decimal) -> Worth:
    """The same as it is worth at the end: what is owed then beyond what is to be left. It has no
    pole where a growth is nothing."""
    sloped = _Sloped(rate)
    discount, pull = sloped.discount(line.principal, line.runs, line.balance)
    return Worth(sloped.value / discount, (sloped.slope - sloped.value * pull) / discount)
