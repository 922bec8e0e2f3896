"""Flows in whole or broken periods: every force at which what goes out and what comes in are worth
the same.

Where times are whole what floats leave undecided is decided exactly, by the roots of the polynomial
that the flows are.
"""

from collections.abc import Sequence
from decimal import Decimal
from fractions import Fraction
from math import gcd, inf, log
from typing import Any, Final, NamedTuple

from ..numbers.arrays import Floats, flint, np
from ..numbers.decimals import precise
from .crossings import (
    LEAST_GROWTH,
    MOST_GROWTH,
    NARROW,
    Crossing,
    Curve,
    Values,
    crossings_between,
    polish,
)
from .narrowing import newton_between

#: Polynomials up to this degree are solved exactly.
_MOST_DEGREE: Final = 1_200


class Flow(NamedTuple):
    """Money at a time: above zero lent, below zero paid. Times are numbers of periods."""

    time: Fraction
    amount: Decimal


class Flows(Curve):
    """Flows in whole or broken periods, ready to be discounted."""

    def __init__(self, flows: Sequence[Flow]) -> None:
        joined: dict[Fraction, Decimal] = {}
        for time, amount in flows:
            joined[time] = joined.get(time, Decimal(0)) + amount
        self.flows = tuple(Flow(time, joined[time]) for time in sorted(joined) if joined[time])
        lent = [flow for flow in self.flows if flow.amount > 0]
        paid = [flow for flow in self.flows if flow.amount < 0]
        self._lent = (_array(lent, 0), _array(lent, 1))
        self._paid = (_array(paid, 0), -_array(paid, 1))
        self.has_both = bool(lent) and bool(paid)
        #: All times and sizes in one array each, what is lent first, and where what is paid begins.
        self.together = (
            np.concatenate([self._lent[0], self._paid[0]]),
            np.concatenate([self._lent[1], self._paid[1]]),
            len(lent),
        )
        #: Whether everything cancels: then every rate fits.
        self.is_nothing = not self.flows
        self.is_ordinary = self.has_both and (
            lent[-1].time < paid[0].time or paid[-1].time < lent[0].time
        )

    def values(self, at: Floats) -> Values:
        """Both logarithms and their slopes at every point of `at`."""
        return Values(*_log_worth(*self._lent, at), *_log_worth(*self._paid, at))

    def gap(self, at: Decimal) -> tuple[Decimal, Decimal]:
        """P - Q and its slope at a force."""
        total = slope = Decimal(0)
        discount, before = Decimal(1), Fraction(0)
        whole = (-at).exp()
        for time, amount in self.flows:
            step = time - before
            if step.denominator == 1:
                discount *= whole ** int(step)
            elif step:
                discount *= (-at * step.numerator / step.denominator).exp()
            before = time
            present_value = amount * discount
            total += present_value
            slope -= present_value * time.numerator / time.denominator
        return total, slope

    def exactly(self) -> list[tuple[Decimal, int]] | None:
        """Every force at which P = Q, with its multiplicity; None where times are not whole or too
        many."""
        if any(flow.time.denominator != 1 for flow in self.flows):
            return None
        times = [int(flow.time - self.flows[0].time) for flow in self.flows]
        common = gcd(*times)
        if not common or times[-1] // common > _MOST_DEGREE:
            return None
        places = max(max(0, -int(flow.amount.as_tuple().exponent)) for flow in self.flows)
        coefficients = [0] * (times[-1] // common + 1)
        for time, flow in zip(times, self.flows, strict=True):
            # In the growth of `common` periods, the last flow's coefficient first.
            coefficients[(times[-1] - time) // common] = int(flow.amount.scaleb(places))
        found = []
        roots: list[tuple[Any, int]] = flint.fmpz_poly(coefficients).complex_roots()  # type: ignore[assignment]
        for root, multiplicity in roots:
            if root.imag == 0 and root.real > 0:
                growth = _exactly(root.real)
                with precise():
                    found.append((growth.ln() / common, int(multiplicity)))
        return sorted(found)


def _exactly(ball: Any) -> Decimal:  # noqa: ANN401
    return Decimal(ball.mid().str(40, radius=False))


def _array(flows: Sequence[Flow], place: int) -> Floats:
    return np.array([float(flow[place]) for flow in flows])


def _log_worth(times: Floats, amounts: Floats, at: Floats) -> tuple[Floats, Floats]:
    exponents = np.multiply.outer(at, -times)
    # The largest term is taken out, so that nothing overflows.
    most = exponents.max(axis=1)
    terms = np.exp(exponents - most[:, None])
    present_value = terms @ amounts
    return np.log(present_value) + most, -(terms @ (amounts * times)) / present_value


def crossings(flows: Flows, periods_a_year: float) -> list[Crossing]:
    """Every force of one period at which flows balance, between the bounds of the yearly growth."""
    if not flows.has_both:
        return []
    low, high = log(LEAST_GROWTH) / periods_a_year, log(MOST_GROWTH) / periods_a_year
    if flows.is_ordinary:
        at = _ordinary(flows, low, high)
        return [] if at is None else [Crossing(polish(flows.gap, at), "crosses")]
    return crossings_between(flows, low, high)


def _ordinary(flows: Flows, low: float, high: float) -> float | None:
    """The one crossing of flows that change from lent to paid once: H falls or rises throughout."""
    ends = flows.values(np.array([low, high]))
    heights = ends.lent - ends.paid
    if (heights[0] > 0) == (heights[1] > 0):
        return None
    return only_crossing(flows, low, high, rises=bool(heights[1] > 0))


def only_crossing(flows: Flows, low: float, high: float, *, rises: bool) -> float:
    """Newton's method on H, one exponential and two sums a step, kept between two points."""
    times, amounts, split = flows.together
    pulls = times * amounts

    def height(at: float) -> tuple[float, float]:
        present_value = np.exp(-at * times)
        lent, paid = (
            present_value[:split] @ amounts[:split],
            present_value[split:] @ amounts[split:],
        )
        if not 0 < lent < inf or not 0 < paid < inf:
            # Beyond what a float holds: the ends decide by logarithms.
            found = flows.values(np.array([at]))
            slope = found.lent_slope[0] - found.paid_slope[0]
            return float(found.lent[0] - found.paid[0]), float(slope)
        slope = (present_value[split:] @ pulls[split:]) / paid - (
            present_value[:split] @ pulls[:split]
        ) / lent
        return log(lent / paid), float(slope)

    at = 0.0 if low < 0.0 < high else (low + high) / 2
    return newton_between(height, low, high, at, rises=rises, enough=lambda to: NARROW)
