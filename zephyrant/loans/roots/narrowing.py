"""An interval with one crossing in it, made narrower and narrower: by halves, by the false
position, by Newton's steps kept within it; by thirds where a least value is sought.

Each gives what it knows after every step; who asks says when that is enough.
"""

from collections.abc import Callable, Iterator
from decimal import Decimal
from math import isfinite
from typing import NamedTuple, TypeVar

N = TypeVar("N", int, float, Decimal)
#: Newton's steps that are tried at the most: a bracket is halved as often as that, too.
MOST_STEPS = 200


def to_a_float(to: float) -> float:
    """How near a root in floats is to be: to what they tell apart at it, of small ones at one."""
    return 1e-15 * max(1.0, abs(to))


def halvings(
    low: N, high: N, is_low: Callable[[N], bool], middle: Callable[[N, N], N]
) -> Iterator[tuple[N, N]]:
    """The interval at whose one end `is_low` holds and at whose other it does not, halved."""
    while True:
        at = middle(low, high)
        low, high = (at, high) if is_low(at) else (low, at)
        yield low, high


def halved(
    low: Decimal, high: Decimal, is_low: Callable[[Decimal], bool], times: int
) -> tuple[Decimal, Decimal]:
    """The same, so many times."""
    intervals = halvings(low, high, is_low, lambda one, other: (one + other) / 2)
    for _ in range(times):
        low, high = next(intervals)
    return low, high


class Point(NamedTuple):
    """A place, and the value of a function there."""

    at: Decimal
    value: Decimal


class Narrowed(NamedTuple):
    """A point tried, and the ends between which it lay."""

    point: Point
    low: Point
    high: Point


def false_positions(
    function: Callable[[Decimal], Decimal | None],
    low: Point,
    high: Point,
    cut: Callable[[Decimal], Decimal] = lambda at: at,
) -> Iterator[Narrowed]:
    """Points nearer and nearer to a change of sign, by the Illinois variant of the false position.

    Ends where a point falls outside what is left, or the function has no value there. `cut`: to
    how many digits points are tried.
    """
    weighed_low, weighed_high, side = low.value, high.value, 0
    while True:
        at = cut((low.at * weighed_high - high.at * weighed_low) / (weighed_high - weighed_low))
        value = function(at) if low.at < at < high.at else None
        if value is None:
            return
        point = Point(at, value)
        yield Narrowed(point, low, high)
        if (value > 0) == (weighed_high > 0):
            high, weighed_high = point, value
            weighed_low = weighed_low / 2 if side > 0 else weighed_low
            side = 1
        else:
            low, weighed_low = point, value
            weighed_high = weighed_high / 2 if side < 0 else weighed_high
            side = -1


def newton_between(
    value_and_slope: Callable[[float], tuple[float, float]],
    low: float,
    high: float,
    at: float,
    *,
    rises: bool,
    enough: Callable[[float], float],
) -> float:
    """The one crossing between two points, in floats, by Newton's method from `at`; a step that
    leaves what is left of the interval is replaced by its middle. `enough`: a step as small as
    this of where it leads to ends it."""
    for _ in range(MOST_STEPS):
        value, slope = value_and_slope(at)
        if (value > 0) == rises:
            high = at
        else:
            low = at
        to = at - value / slope if slope and isfinite(slope) else (low + high) / 2
        if not low <= to <= high:
            to = (low + high) / 2
        if abs(to - at) <= enough(to):
            return to
        at = to
    return at


def thirds(
    low: Decimal,
    high: Decimal,
    least: Callable[[Decimal, Decimal], bool | None],
    cut: Callable[[Decimal], Decimal],
) -> Iterator[tuple[Decimal, Decimal]]:
    """The interval within which something is least, a third narrower each time. `least`: whether it
    is less at the first of two points, or as little; None ends it. `cut`: to which points are
    tried."""
    while True:
        third = (high - low) / 3
        one, other = cut(low + third), cut(high - third)
        is_first = least(one, other)
        if is_first is None:
            return
        low, high = (low, other) if is_first else (one, high)
        yield low, high
