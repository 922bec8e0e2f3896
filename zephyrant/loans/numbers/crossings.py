"""Every rate at which what goes out and what comes in are worth the same, with proof that there is
no other.

Discounted at a force s a period, P(s) is what is lent and Q(s) what is paid; H = ln P - ln Q is
zero where a rate fits. Both logarithms are convex in s (log-sum-exp), so their slopes rise:
values and slopes at the ends of an interval enclose H and its slope H' inside it. An interval in
which H cannot vanish is discarded, one in which H' cannot is decided by the signs at its ends, all
others are halved. What stays undecided (two crossings close together, or a touch) is decided
exactly, by the roots of the polynomial it is, where times are whole; else in high precision.
"""

from collections.abc import Callable, Sequence
from decimal import Decimal
from fractions import Fraction
from math import gcd, inf, log
from typing import Any, Final, Literal, NamedTuple

import flint
import numpy as np
from numpy.typing import NDArray

from .decimals import DIGITS, precise

Floats = NDArray[np.float64]
#: Yearly growth between which rates are looked for: -99.9 % to +10,000 % a year.
LEAST_GROWTH: Final = 0.001
MOST_GROWTH: Final = 101.0
_DEPTH: Final = 60
#: Values of H this near to zero are taken for undecided: beyond the error of its floats.
_NOISE: Final = 1e-11
_NARROW: Final = 1e-9
#: More open intervals than this only a curve that lies on zero leaves.
_MOST_INTERVALS: Final = 4_000
#: Polynomials up to this degree are solved exactly.
_MOST_DEGREE: Final = 1_200

Touch = Literal["crosses", "touches", "touches, not certified"]


class Crossing(NamedTuple):
    """A force of one period at which H is zero, and how."""

    force: Decimal
    how: Touch


class Values(NamedTuple):
    """ln P, ln Q and their slopes, at each of several points."""

    lent: Floats
    lent_slope: Floats
    paid: Floats
    paid_slope: Floats


class Flow(NamedTuple):
    """Money at a time: above zero lent, below zero paid. Times are numbers of periods."""

    time: Fraction
    amount: Decimal


class Flows:
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

    def gap(self, force: Decimal) -> tuple[Decimal, Decimal]:
        """P - Q and its slope at a force, in the decimal context in force."""
        total = slope = Decimal(0)
        discount, before = Decimal(1), Fraction(0)
        whole = (-force).exp()
        for time, amount in self.flows:
            step = time - before
            if step.denominator == 1:
                discount *= whole ** int(step)
            elif step:
                discount *= (-force * step.numerator / step.denominator).exp()
            before = time
            present_value = amount * discount
            total += present_value
            slope -= present_value * time.numerator / time.denominator
        return total, slope

    def polynomial_roots(self) -> list[tuple[Decimal, int]] | None:
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


class Isolated(NamedTuple):
    """Intervals that hold one crossing each, and those that stayed undecided."""

    brackets: tuple[tuple[float, float], ...]
    undecided: tuple[tuple[float, float], ...]


def isolate(values: Callable[[Floats], Values], low: float, high: float) -> Isolated:
    """The crossings of H between two points, each in an interval of its own."""
    brackets: list[tuple[float, float]] = []
    undecided: list[tuple[float, float]] = []
    lows, highs = np.array([low]), np.array([high])
    for _ in range(_DEPTH):
        if not lows.size or lows.size > _MOST_INTERVALS:
            break
        points = np.concatenate([lows, highs])
        found = values(points)
        half = lows.size
        height = found.lent - found.paid
        left, right = height[:half], height[half:]
        slopes = (found.lent_slope, found.paid_slope)
        least = slopes[0][:half] - slopes[1][half:]
        most = slopes[0][half:] - slopes[1][:half]
        width = highs - lows
        gone = _stays_off_zero(left, right, least, most, width)
        monotone = ((least > 0) | (most < 0)) & (abs(left) > _NOISE) & (abs(right) > _NOISE)
        crossing = monotone & (np.sign(left) != np.sign(right)) & ~gone
        brackets += zip(lows[crossing].tolist(), highs[crossing].tolist(), strict=True)
        rest = ~gone & ~monotone
        narrow = rest & (width < _NARROW)
        undecided += zip(lows[narrow].tolist(), highs[narrow].tolist(), strict=True)
        rest &= ~narrow
        lows, highs = lows[rest], highs[rest]
        # Not quite in the middle, so that a crossing on a round rate is not on an edge for long.
        middle = lows + (highs - lows) * 0.4877
        lows, highs = np.concatenate([lows, middle]), np.concatenate([middle, highs])
    undecided += zip(lows.tolist(), highs.tolist(), strict=True)
    return Isolated(tuple(sorted(brackets)), _merged(undecided))


def _stays_off_zero(
    left: Floats, right: Floats, least: Floats, most: Floats, width: Floats
) -> NDArray[np.bool_]:
    """Whether H cannot vanish, by its ends and the bounds of its slope.

    Above zero it lies above both lines that fall from its ends as steeply as the slope allows;
    their meeting is the lowest it can come.
    """
    with np.errstate(divide="ignore", invalid="ignore"):
        spread = most - least
        lowest = np.where(
            spread > 0, (most * left - least * right + least * most * width) / spread, 0
        )
        highest = np.where(
            spread > 0, (most * right - least * left - least * most * width) / spread, 0
        )
    lowest = np.where((least < 0) & (most > 0), lowest, np.minimum(left, right))
    highest = np.where((least < 0) & (most > 0), highest, np.maximum(left, right))
    return (np.minimum(np.minimum(left, right), lowest) > _NOISE) | (
        np.maximum(np.maximum(left, right), highest) < -_NOISE
    )


def _merged(intervals: Sequence[tuple[float, float]]) -> tuple[tuple[float, float], ...]:
    """Intervals that touch, as one."""
    joined: list[tuple[float, float]] = []
    for low, high in sorted(intervals):
        if joined and low <= joined[-1][1] + _NARROW:
            joined[-1] = (joined[-1][0], max(high, joined[-1][1]))
        else:
            joined.append((low, high))
    return tuple(joined)


def crossings(flows: Flows, periods_a_year: float) -> list[Crossing]:
    """Every force of one period at which flows balance, between the bounds of the yearly growth."""
    if not flows.has_both:
        return []
    low, high = log(LEAST_GROWTH) / periods_a_year, log(MOST_GROWTH) / periods_a_year
    if flows.is_ordinary:
        at = _ordinary(flows, low, high)
        return [] if at is None else [Crossing(polish(flows.gap, at), "crosses")]
    found = isolate(flows.values, low, high)
    told = [
        Crossing(polish(flows.gap, in_floats(flows.values, *bracket)), "crosses")
        for bracket in found.brackets
    ]
    if found.undecided:
        told += _undecided(flows, found.undecided)
    return sorted(told)


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
    at = 0.0 if low < 0.0 < high else (low + high) / 2
    for _ in range(200):
        present_value = np.exp(-at * times)
        lent, paid = (
            present_value[:split] @ amounts[:split],
            present_value[split:] @ amounts[split:],
        )
        if not 0 < lent < inf or not 0 < paid < inf:
            # Beyond what a float holds: the ends decide by logarithms.
            found = flows.values(np.array([at]))
            height = float(found.lent[0] - found.paid[0])
            slope = float(found.lent_slope[0] - found.paid_slope[0])
        else:
            height = log(lent / paid)
            slope = (present_value[split:] @ pulls[split:]) / paid - (
                present_value[:split] @ pulls[:split]
            ) / lent
        if (height > 0) == rises:
            high = at
        else:
            low = at
        to = at - height / slope if slope else (low + high) / 2
        if abs(to - at) < _NARROW:
            return float(to)
        at = to if low < to < high else (low + high) / 2
    return at


def in_floats(values: Callable[[Floats], Values], low: float, high: float) -> float:
    """The one crossing between two points, as near as floats tell it."""
    ends = values(np.array([low, high]))
    rises = bool(ends.lent[1] - ends.paid[1] > ends.lent[0] - ends.paid[0])
    at = (low + high) / 2
    for _ in range(200):
        found = values(np.array([at]))
        height = float(found.lent[0] - found.paid[0])
        slope = float(found.lent_slope[0] - found.paid_slope[0])
        if (height > 0) == rises:
            high = at
        else:
            low = at
        to = at - height / slope if slope else (low + high) / 2
        if not low < to < high:
            to = (low + high) / 2
        if abs(to - at) <= 1e-15 + 1e-13 * abs(at):
            return to
        at = to
    return at


def polish(gap: Callable[[Decimal], tuple[Decimal, Decimal]], start: float) -> Decimal:
    """A crossing to full precision from one in floats: each Newton step doubles its digits."""
    at = Decimal(start)
    for digits in (36, DIGITS + 20, DIGITS + 20, DIGITS + 20):
        with precise(digits):
            value, slope = gap(at)
            step = value / slope if slope else Decimal(0)
            at -= step
        # What a step leaves is of the size of its square.
        if not step or 2 * step.adjusted() < -(DIGITS - 4) + min(0, 2 * at.adjusted()):
            break
    with precise():
        return +at


def _undecided(flows: Flows, intervals: Sequence[tuple[float, float]]) -> list[Crossing]:
    """What floats could not tell apart: exactly, where the flows are a polynomial."""
    exact = flows.polynomial_roots()
    if exact is None:
        return [each for low, high in intervals for each in near(flows.gap, low, high)]
    told = []
    for force, multiplicity in exact:
        if any(low - _NARROW <= float(force) <= high + _NARROW for low, high in intervals):
            told.append(Crossing(force, "touches" if multiplicity % 2 == 0 else "crosses"))
    return told


def near(
    gap: Callable[[Decimal], tuple[Decimal, Decimal]], low: float, high: float
) -> list[Crossing]:
    """Two crossings close together, a touch, or none: by the turning point between, in decimals.

    A touch is told where the gap there vanishes to 25 digits; that does not prove it.
    """
    reach = Decimal(high) - Decimal(low) + Decimal(_NARROW)
    below, above = Decimal(low) - reach, Decimal(high) + reach
    with precise(DIGITS + 40):
        turning = _turning_point(gap, below, above)
        ends = (gap(below)[0], gap(above)[0])
        value = gap(turning)[0]
        size = max(abs(end) for end in ends) or Decimal(1)
        if (ends[0] > 0) != (ends[1] > 0):
            return [Crossing(_bisected(gap, below, above), "crosses")]
        if abs(value) <= size.scaleb(-25):
            return [Crossing(+turning, "touches, not certified")]
        if (value > 0) == (ends[0] > 0):
            return []
        return [
            Crossing(_bisected(gap, below, turning), "crosses"),
            Crossing(_bisected(gap, turning, above), "crosses"),
        ]


def _turning_point(
    gap: Callable[[Decimal], tuple[Decimal, Decimal]], below: Decimal, above: Decimal
) -> Decimal:
    rises = gap(above)[1] > 0
    for _ in range(4 * DIGITS):
        middle = (below + above) / 2
        below, above = (below, middle) if (gap(middle)[1] > 0) == rises else (middle, above)
    return (below + above) / 2


def _bisected(
    gap: Callable[[Decimal], tuple[Decimal, Decimal]], below: Decimal, above: Decimal
) -> Decimal:
    rises = gap(above)[0] > 0
    for _ in range(4 * DIGITS):
        middle = (below + above) / 2
        below, above = (below, middle) if (gap(middle)[0] > 0) == rises else (middle, above)
    return +((below + above) / 2)
