"""Flows by units of time, each before them with a fraction of one at simple interest, and the rate
of one unit at which they balance."""

from collections.abc import Sequence
from decimal import Decimal
from itertools import chain
from typing import NamedTuple

from ..numbers.arrays import Floats, np
from ..roots.crossings import (
    LEAST_GROWTH,
    MOST_GROWTH,
    Curve,
    Values,
    crossings_in_floats,
)


class UnitFlow(NamedTuple):
    """Money after so many whole units and, before them, a fraction of one at simple interest."""

    whole: float
    fraction: float
    amount: float


class UnitFlows(Curve):
    """Flows by units of time, ready to be discounted at rates i of one unit.

    Each is worth its amount / ((1 + fraction i) (1 + i)^whole): the logarithm of that is convex in
    i, and so is that of a sum of such.
    """

    def __init__(self, flows: Sequence[UnitFlow]) -> None:
        self.flows = tuple(flows)
        # Number by number: far faster than flow by flow.
        numbers = np.fromiter(chain.from_iterable(flows), float, 3 * len(flows))
        whole_fraction_amount = numbers.reshape(-1, 3).T
        amounts = whole_fraction_amount[2]
        self._sides = [whole_fraction_amount[:, side] for side in (amounts > 0, amounts < 0)]
        self.has_both = all(side.size for side in self._sides)

    def values(self, at: Floats) -> Values:
        """Logarithms of what is received and of what is paid, and their slopes."""
        lent, paid = (_log_worth(side, at) for side in self._sides)
        return Values(*lent, *paid)

    def gap(self, at: Decimal) -> tuple[Decimal, Decimal]:
        """What is received less what is paid, discounted, and its slope by the rate."""
        total = slope = Decimal(0)
        for whole, fraction, amount in self.flows:
            units, part = Decimal(whole), Decimal(fraction)
            present_value = Decimal(amount) / ((1 + part * at) * (1 + at) ** units)
            total += present_value
            slope -= present_value * (units / (1 + at) + part / (1 + part * at))
        return total, slope


def _log_worth(side: Floats, at: Floats) -> tuple[Floats, Floats]:
    whole, fraction, amount = side
    simple = 1 + np.multiply.outer(at, fraction)
    exponents = -np.multiply.outer(np.log1p(at), whole)
    # The largest term is taken out, so that nothing overflows.
    most = exponents.max(axis=1)
    present_value = np.abs(amount) * np.exp(exponents - most[:, None]) / simple
    total = present_value.sum(axis=1)
    pull = whole / (1 + at)[:, None] + fraction / simple
    return np.log(total) + most, -(present_value * pull).sum(axis=1) / total


def only_rate(flows: UnitFlows, a_year: float, guess: float | None) -> float | None:
    """The rate of one unit at which flows balance, where it is the only one; `guess`: what it is
    likely to be near."""
    if not flows.has_both:
        return None
    low = LEAST_GROWTH ** (1 / a_year) - 1
    rates = crossings_in_floats(flows, low, MOST_GROWTH ** (1 / a_year) - 1, guess)
    return rates[0] if len(rates) == 1 else None
