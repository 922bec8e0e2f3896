"""Real roots with proof that there is no other."""

from collections.abc import Callable
from decimal import Decimal

from .decimals import DIGITS, precise

#: Newton's steps needed stay below this for every loan the document allows.
_MOST_STEPS = 400
_NOISE = Decimal("1e-8")
#: Roots further from 0 than this are not looked for.
_FARTHEST = Decimal(10_000)
#: Logarithms of growth beyond this are not looked for.
_WIDEST = 20


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
                    return at
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
        low, high = Decimal(-1) / 8, Decimal(1) / 8
        at_low, at_high = function(low), function(high)
        while (at_low > 0) == (at_high > 0) and at_low and at_high:
            low, high = 2 * low, 2 * high
            if high > _WIDEST:
                return None
            at_low, at_high = function(low), function(high)
        side = 0
        for _ in range(_MOST_STEPS):
            at = (low * at_high - high * at_low) / (at_high - at_low)
            value = function(at)
            if not value or high - low <= max(abs(at), Decimal(1)).scaleb(-(DIGITS - 5)):
                return at
            if (value > 0) == (at_high > 0):
                high, at_high = at, value
                at_low = at_low / 2 if side > 0 else at_low
                side = 1
            else:
                low, at_low = at, value
                at_high = at_high / 2 if side < 0 else at_high
                side = -1
            if abs(value) <= max(abs(at_low), abs(at_high)).scaleb(-2 * DIGITS):
                return at
        return at
