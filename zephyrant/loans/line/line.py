"""The line of a loan: stretches of like periods, and what moves within them."""

from datetime import date
from decimal import Decimal
from fractions import Fraction
from typing import Literal, NamedTuple

from ..document.limits import MOST_PAYMENTS
from .periods import interests
from .terms import Terms


class Inner(NamedTuple):
    """Money that moves on a day between two payments, or a fee added there: what is owed grows by
    `amount`, which bears the fraction `interest` until the period's interest is reckoned; before
    its payment or after it."""

    amount: Decimal
    interest: Fraction
    is_after: bool
    is_fee: bool
    day: date


class Stretch(NamedTuple):
    """Periods `first` to `last` (None: without end), all alike.

    `before` and `after` are the interest, as a fraction of what is owed, up to the payment and from
    it on; `payment` is what is paid in each, or the interest alone. At the payment's moment first
    `advance` and `fee` are added to what is owed; `repay` is paid on top. Where clauses alone are
    the loan, `ahead` is the part of the interest that is added before the period in which the
    `inner` money moves, and `day` the one with which the loan ends, if no payment's.
    """

    first: int
    last: int | None
    before: Fraction
    after: Fraction
    payment: Decimal
    interest_only: bool = False
    advance: Decimal = Decimal(0)
    fee: Decimal = Decimal(0)
    repay: Decimal = Decimal(0)
    inner: tuple[Inner, ...] = ()
    ahead: Fraction = Fraction(0)
    day: date | None = None

    @property
    def is_quiet(self) -> bool:
        """Whether nothing but a payment happens in it."""
        return not (self.advance or self.fee or self.repay or self.inner)

    @property
    def is_plain(self) -> bool:
        """Whether nothing but a level payment happens in it."""
        return self.is_quiet and not self.interest_only


#: What brings the balance of a schedule to what is to be left: the last payment (and what is repaid
#: with it), one amount in the last place alone, the last interest, that of the row before it, the
#: balance itself, or nothing.
Settling = Literal[
    "payment", "repay", "advance", "fee", "interest", "interest-before", "balance", "nothing"
]


class Line(NamedTuple):
    """What is lent at 0, the stretches that follow in order, what is to be left at the end.

    `is_open`: payments run until the balance is reached, however many they are, `most` at the most.
    `has_payments`: there are regular ones, not clauses alone. `settles_by` and `cuts` (what would
    overpay is cut to what is owed and ends the loan) matter to the schedule to the cent. Up to the
    period `lent_until` more will be lent: nothing before it ends the loan.
    """

    principal: Decimal
    stretches: tuple[Stretch, ...]
    balance: Decimal
    is_open: bool = False
    has_payments: bool = True
    settles_by: Settling = "payment"
    cuts: bool = True
    most: int = MOST_PAYMENTS
    lent_until: int = 0


def plain_line(terms: Terms) -> Line:
    """The line of a loan without clauses: its periods at its rate."""
    stretches = tuple(
        Stretch(run.first, run.last, before, after, terms.payment)
        for run, (before, after) in zip(terms.runs, interests(terms.runs, terms.rate), strict=True)
    )
    is_open = terms.count is None
    return Line(terms.principal, stretches, terms.balance, is_open, most=terms.most_payments)
