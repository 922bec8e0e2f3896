"""The zeros of a difference of two convex curves, with proof that there is no other.

H = ln P - ln Q, P what is lent and Q what is paid, discounted at a rate or a force; it is zero
where a rate fits. Both logarithms are convex (log-sum-exp), so their slopes rise: values and slopes
at the ends of an interval enclose H and its slope H' inside it. An interval in which H cannot
vanish is discarded, one in which H' cannot is decided by the signs at its ends, all others are
halved. What stays undecided (two crossings close together, or a touch) is decided exactly where an
exact way is known, else in high precision by the turning point between.
"""

from abc import ABC, abstractmethod
from collections.abc import Callable, Sequence
from decimal import Decimal
from typing import Final, Literal, NamedTuple

from ..numbers.arrays import Flags, Floats, np
from ..numbers.decimals import DIGITS, precise
from .narrowing import halved, newton_between

#: Yearly growth between which rates are looked for: -99.9 % to +10,000 % a year.
LEAST_GROWTH: Final = 0.001
MOST_GROWTH: Final = 101.0
_DEPTH: Final = 60
#: Values of H this near to zero are taken for undecided: beyond the error of its floats.
_NOISE: Final = 1e-11
#: Intervals as narrow as this stay undecided.
NARROW: Final = 1e-9
#: More open intervals than this only a curve that lies on zero leaves.
_MOST_INTERVALS: Final = 4_000

Touch = Literal["crosses", "touches", "touches, not certified"]


class Crossing(NamedTuple):
    """A rate, or a force, at which H is zero, and how."""

    at: Decimal
    how: Touch


class Values(NamedTuple):
    """ln P, ln Q and their slopes, at each of several points."""

    lent: Floats
    lent_slope: Floats
    paid: Floats
    paid_slope: Floats


class Curve(ABC):
    """H, and P - Q."""

    @abstractmethod
    def values(self, at: Floats) -> Values:
        """Ln P, ln Q and their slopes at every point of `at`."""

    @abstractmethod
    def gap(self, at: Decimal) -> tuple[Decimal, Decimal]:
        """P - Q, or so many times that, and its slope, in the decimal context in force."""

    def exactly(self) -> list[tuple[Decimal, int]] | None:
        """Every zero with its multiplicity, where an exact way tells them; else None."""
        return None


def crossings_between(curve: Curve, low: float, high: float) -> list[Crossing]:
    """Every zero of a curve between two points, ascending, to full precision."""
    found = isolate(curve.values, low, high)
    told = [
        Crossing(polish(curve.gap, in_floats(curve.values, *bracket)), "crosses")
        for bracket in found.brackets
    ]
    if found.undecided:
        told += _decided(curve, found.undecided)
    return sorted(told)


def crossings_in_floats(
    curve: Curve, low: float, high: float, guess: float | None = None
) -> list[float]:
    """The same as near as floats tell it; `guess`: what one is likely to be near."""
    found = isolate(curve.values, low, high)
    told = [in_floats(curve.values, *bracket, guess) for bracket in found.brackets]
    if found.undecided:
        told += [float(each.at) for each in _decided(curve, found.undecided)]
    return sorted(told)


def _decided(curve: Curve, intervals: Sequence[tuple[float, float]]) -> list[Crossing]:
    """What floats could not tell apart."""
    exact = curve.exactly()
    if exact is None:
        return [each for low, high in intervals for each in near(curve.gap, low, high)]
    told = []
    for at, multiplicity in exact:
        if any(low - NARROW <= float(at) <= high + NARROW for low, high in intervals):
            told.append(Crossing(at, "touches" if multiplicity % 2 == 0 else "crosses"))
    return told


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
        narrow = rest & (width < NARROW)
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
) -> Flags:
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
        if joined and low <= joined[-1][1] + NARROW:
            joined[-1] = (joined[-1][0], max(high, joined[-1][1]))
        else:
            joined.append((low, high))
    return tuple(joined)


def in_floats(
    values: Callable[[Floats], Values], low: float, high: float, guess: float | None = None
) -> float:
    """The one crossing between two points, as near as floats tell it; `guess`: where to begin, if
    it lies there."""
    ends = values(np.array([low, high]))
    rises = bool(ends.lent[1] - ends.paid[1] > ends.lent[0] - ends.paid[0])

    def height(at: float) -> tuple[float, float]:
        found = values(np.array([at]))
        slope = found.lent_slope[0] - found.paid_slope[0]
        return float(found.lent[0] - found.paid[0]), float(slope)

    at = guess if guess is not None and low < guess < high else (low + high) / 2
    return newton_between(
        height, low, high, at, rises=rises, enough=lambda to: 1e-15 + 1e-13 * abs(to)
    )


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


def near(
    gap: Callable[[Decimal], tuple[Decimal, Decimal]], low: float, high: float
) -> list[Crossing]:
    """Two crossings close together, a touch, or none: by the turning point between, in decimals.

    A touch is told where the gap there vanishes to 25 digits; that does not prove it.
    """
    reach = Decimal(high) - Decimal(low) + Decimal(NARROW)
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
    low, high = halved(below, above, lambda at: (gap(at)[1] > 0) != rises, 4 * DIGITS)
    return (low + high) / 2


def _bisected(
    gap: Callable[[Decimal], tuple[Decimal, Decimal]], below: Decimal, above: Decimal
) -> Decimal:
    rises = gap(above)[0] > 0
    low, high = halved(below, above, lambda at: (gap(at)[0] > 0) != rises, 4 * DIGITS)
    return +((low + high) / 2)
