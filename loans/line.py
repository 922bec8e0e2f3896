"""A document laid out on its time line: what happens when, in order.

The line is cut into stretches within which every period is alike: one rate, one payment. A
regular loan is a single stretch. The ledger knows nothing but the line.
"""

from dataclasses import dataclass, replace
from decimal import Decimal
from fractions import Fraction
from typing import Literal, NamedTuple

from .document import Timing


@dataclass(frozen=True, slots=True)
class Terms:
    """The five figures of a regular loan, all on the clock of its payments.

    `rate` is the fraction of one period; `count` of None means that payments run until the
    balance is reached.
    """

    principal: Decimal
    rate: Fraction
    count: int | None
    payment: Decimal
    balance: Decimal
    timing: Timing

    def having(self, name: Literal["principal", "payment"], amount: Decimal) -> "Terms":
        """These terms with another amount in one place."""
        if name == "principal":
            return replace(self, principal=amount)
        return replace(self, payment=amount)


class Stretch(NamedTuple):
    """Periods `first` to `last` (None: without end), all alike.

    `rate` is the interest of one period as a fraction, `payment` what is paid in each.
    """

    first: int
    last: int | None
    rate: Fraction
    payment: Decimal


class Line(NamedTuple):
    """What is lent at 0, the stretches that follow in order, what is to be left at the end."""

    principal: Decimal
    stretches: tuple[Stretch, ...]
    balance: Decimal
    in_advance: bool


def lay_out(terms: Terms) -> Line:
    """The line of a regular loan."""
    stretch = Stretch(1, terms.count, terms.rate, terms.payment)
    return Line(terms.principal, (stretch,), terms.balance, terms.timing == "in-advance")
