"""The only root of a function that rises or falls throughout, to full precision."""

from collections.abc import Callable
from decimal import Decimal
from itertools import islice

from ..numbers.decimals import DIGITS, precise
from .narrowing import Point, false_positions

#: Newton's steps needed stay below this for every loan the document allows.
_MOST_STEPS = 400
_NOISE = Decimal("1e-8")
#: Roots further from 0 than this are not looked for.
_FARTHEST = Decimal(10_000)
#: Logarithms of growth beyond this are not looked for.
WIDEST = 20


def root_of_falling_convex(
    value_and_slope: Callable[[Decimal], tuple[Decimal, Decimal]],
) -> Decimal:
    """The only root of a convex function that falls from above zero to below it.

    Falling, it has one root at most. Convex, its tangents lie below it, so that after one step
    Newton's method comes from the left and never overshoots, whatever the start (here 0). Low
    precision leads to the neighbourhood, full precision ends it.
    """
    at = Decimal(0)
    for digits, enough in ((28, 12), (DIGITS + 30, DIGITS - 5)):
        with precise(digits):
            before = None
            for _ in range(_MOST_STEPS):
                value, slope = value_and_slope(at)
                step = value / slope
                at -= step
                # Below `_NOISE` a step that does not shrink is rounding, not approach.
                settled = before is not None and abs(step) < _NOISE and abs(step) >= before
                if settled or not step or step.adjusted() < -enough:
                    break
                before = abs(step)
            else:
                raise ArithmeticError("Newton's method did not settle")
    return at


def root_of_falling(
    value_and_slope: Callable[[Decimal], tuple[Decimal, Decimal]],
) -> Decimal | None:
    """The only root of a function that falls from above zero to below it, wherever it lies.

    Newton's method from 0, kept between a point where the function is above zero and one where it
    is below: a step that would leave them is replaced by their middle. None where no sign change is
    met within `_FARTHEST`.
    """
    at, above, below = Decimal(0), None, None
    for digits, enough in ((28, 14), (DIGITS + 30, DIGITS - 5)):
        with precise(digits):
            for _ in range(_MOST_STEPS):
                value, slope = value_and_slope(at)
                if not value:
                    # As far as these digits tell.
                    break
                above, below = (at, below) if value > 0 else (above, at)
                step = _kept_between(at, -value / slope, above, below) - at
                at += step
                if abs(at) > _FARTHEST:
                    return None
                if not step or step.adjusted() < -enough:
                    break
            else:
                raise ArithmeticError("Newton's method did not settle")
        above = below = None
    return at


def _kept_between(
    at: Decimal, step: Decimal, above: Decimal | None, below: Decimal | None
) -> Decimal:
    reach = 1 + abs(at)
    to = at + max(-reach, min(reach, step))
    if above is not None and below is not None and not above <= to <= below:
        return (above + below) / 2
    return to


def root_of_monotone(function: Callable[[Decimal], Decimal]) -> Decimal | None:
    """The only root of a function that rises or falls throughout; None where it has none near.

    The bracket is widened from 0 and then narrowed by the Illinois variant of the false position.
    """
    with precise(DIGITS + 20):
        low, high = (Point(at, function(at)) for at in (Decimal(-1) / 8, Decimal(1) / 8))
        while (low.value > 0) == (high.value > 0) and low.value and high.value:
            low, high = (Point(2 * at, function(2 * at)) for at in (low.at, high.at))
            if high.at > WIDEST:
                return None
        for end in (low, high):
            if not end.value:
                return end.at
        least = max(abs(low.value), abs(high.value)).scaleb(-2 * DIGITS)
        at = low.at
        for point, left, right in islice(false_positions(function, low, high), _MOST_STEPS):
            at = point.at
            narrow = max(abs(at), Decimal(1)).scaleb(-(DIGITS - 5))
            if right.at - left.at <= narrow or abs(point.value) <= least:
                break
        return at
