"""Real roots with proof that there is no other."""

from collections.abc import Callable
from decimal import Decimal

from .figures import DIGITS, precise

#: Newton's steps needed stay below this for every loan the document allows.
_MOST_STEPS = 400
_NOISE = Decimal("1e-8")


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
