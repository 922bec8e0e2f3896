"""Periods of a line that are alike, and what moves within them."""

from datetime import date
from decimal import Decimal
from fractions import Fraction
from typing import Generic, NamedTuple

from typing_extensions import TypeVar

#: Amounts: decimals or, where one is asked for, what is affine in it.
A = TypeVar("A", default=Decimal)
#: Interest on 1: fractions or, where a rate is asked for, what it is in that.
R = TypeVar("R", default=Fraction)


class Inner(NamedTuple, Generic[A, R]):
    """Money that moves on a day between two payments, or a fee added there: what is owed grows by
    `amount`, which bears the fraction `interest` until the period's interest is reckoned; before
    its payment or after it."""

    amount: A
    interest: R
    is_after: bool
    is_fee: bool
    day: date


class Stretch(NamedTuple, Generic[A, R]):
    """Periods `first` to `last` (None: without end), all alike.

    `before` and `after` are the interest, as a fraction of what is owed, up to the payment and from
    it on; `payment` is what is paid in each or, with the interest `on_top` of it, the part that is
    repaid: none, and it is the interest alone. At the payment's moment first `advance` and `fee`
    are added to what is owed; `repay` is paid on top. Where clauses alone are the loan, `ahead` is
    the part of the interest that is added before the period in which the
    `inner` money moves, and `day` the one with which the loan ends, if no payment's.
    """

    first: int
    last: int | None
    before: R
    after: R
    payment: A
    on_top: bool
    advance: A
    fee: A
    repay: A
    inner: tuple[Inner[A, R], ...] = ()
    ahead: Fraction = Fraction(0)
    day: date | None = None

    @property
    def is_quiet(self) -> bool:
        """Whether nothing but a payment happens in it."""
        return not (self.advance or self.fee or self.repay or self.inner)

    @property
    def is_plain(self) -> bool:
        """Whether nothing but a level payment happens in it."""
        return self.is_quiet and not self.on_top

    def periods(self, until: int | None = None) -> int:
        """How many periods it has, up to `until`; raises `ValueError` where it has no end."""
        last = self.last if until is None else until if self.last is None else min(self.last, until)
        if last is None:
            raise ValueError("a stretch without end has no number of periods")
        return last - self.first + 1


def until(stretch: Stretch, place: int) -> Stretch:
    """The part of a period up to where the money moves that stands at a place of its `inner`,
    without that."""
    on = stretch.inner[place]
    inner = tuple(
        each._replace(interest=each.interest - on.interest)
        if each.is_after == on.is_after
        else each
        for each in stretch.inner[:place]
    )
    if on.is_after:
        return stretch._replace(after=stretch.after - on.interest, inner=inner)
    nothing = Decimal(0)
    return stretch._replace(
        before=stretch.before - on.interest,
        after=Fraction(0),
        payment=nothing,
        on_top=False,
        advance=nothing,
        fee=nothing,
        repay=nothing,
        inner=inner,
    )
