"""Flows in whole or broken periods: every force at which what goes out and what comes in are worth
the same.

Where times are whole what floats leave undecided is decided exactly, by the roots of the polynomial
that the flows are.
"""

from collections.abc import Sequence
from decimal import Decimal
from fractions import Fraction
from functools import cached_property
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


class _Step(NamedTuple):
    """A flow so many parts of a period after the one before it, and at a time in parts, too."""

    step: int
    of: int
    amount: Decimal
    time: int
    parts: int


class Flows(Curve):
    """Flows in whole or broken periods, ready to be discounted."""

    def __init__(self, flows: Sequence[Flow]) -> None:
        # By numerator and denominator: fractions themselves are slow to tell apart.
        joined: dict[tuple[int, int], Flow] = {}
        for flow in flows:
            when = flow.time.as_integer_ratio()
            before = joined.get(when)
            joined[when] = flow if before is None else Flow(flow.time, before.amount + flow.amount)
        whole = all(parts == 1 for _, parts in joined)
        in_order = sorted(joined, key=_count if whole else _time)
        self.flows = tuple(joined[when] for when in in_order if joined[when].amount)
        lent = [flow for flow in self.flows if flow.amount > 0]
        paid = [flow for flow in self.flows if flow.amount < 0]
        self._lent = (_times(lent), _sizes(lent))
        self._paid = (_times(paid), _sizes(paid))
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

    @cached_property
    def _steps(self) -> list[_Step]:
        """Each flow, and how long after the one before it comes."""
        steps, before, parts_before = [], 0, 1
        for flow in self.flows:
            time, parts = flow.time.as_integer_ratio()
            if parts == parts_before == 1:
                step, of = time - before, 1
            else:
                step, of = (flow.time - Fraction(before, parts_before)).as_integer_ratio()
            steps.append(_Step(step, of, flow.amount, time, parts))
            before, parts_before = time, parts
        return steps

    def gap(self, at: Decimal) -> tuple[Decimal, Decimal]:
        """P - Q and its slope at a force."""
        total = slope = Decimal(0)
        discount = Decimal(1)
        whole = (-at).exp()
        # Most flows come as long after another as others do.
        grown: dict[tuple[int, int], Decimal] = {}
        for step, of, amount, time, parts in self._steps:
            growth = grown.get((step, of))
            if growth is None:
                growth = whole**step if of == 1 else (-at * step / of).exp()
                grown[step, of] = growth
            discount *= growth
            present_value = amount * discount
            total += present_value
            slope -= present_value * time if parts == 1 else present_value * time / parts
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


def _count(when: tuple[int, int]) -> int:
    return when[0]


def _time(when: tuple[int, int]) -> Fraction:
    return Fraction(*when)


def _exactly(ball: Any) -> Decimal:  # noqa: ANN401
    return Decimal(ball.mid().str(40, radius=False))


def _times(flows: Sequence[Flow]) -> Floats:
    return np.array([flow.time.numerator / flow.time.denominator for flow in flows])


def _sizes(flows: Sequence[Flow]) -> Floats:
    return np.array([abs(float(flow.amount)) for flow in flows])


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
