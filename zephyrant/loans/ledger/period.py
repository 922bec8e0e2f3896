"""What happens in a period: money moves, interest grows, money moves. It is written here, once.

The roll is this, period after period, over whatever amounts are reckoned in: exact decimals,
fractions, floats, whole minor units, or what is affine in the amount that is asked for.
"""

from abc import ABC, abstractmethod
from collections.abc import Iterable, Sequence
from fractions import Fraction
from typing import Any, Generic, TypeVar

from ..line.stretch import Stretch, until

#: Amounts in an arithmetic: they are added up and taken from each other.
M = TypeVar("M", bound=Any)
#: Interest on 1 in an arithmetic.
G = TypeVar("G")


class Reckoning(ABC, Generic[M, G]):
    """An arithmetic: what amounts and interest are in it, and how the one grows by the other."""

    @abstractmethod
    def money(self, amount: Any) -> M:  # noqa: ANN401
        """An amount of the line."""

    @abstractmethod
    def rate(self, interest: Fraction) -> G:
        """Interest on 1, of the line."""

    @abstractmethod
    def accrued(self, owed: M, rate: G, moved: Sequence[tuple[M, G]]) -> M:
        """Interest on what is owed and, each with its own, on what has moved meanwhile."""

    @abstractmethod
    def paid_ahead(self, owed: M, rate: G) -> M:
        """Of interest alone that is paid: that on the time after the payment, so that what is owed
        does not grow over it."""

    def paid(self, amount: M) -> M:
        """An amount as it is paid."""
        return amount

    def through(self, owed: M, stretch: Stretch[Any, Any], periods: int) -> M:
        """What is owed after so many periods of a stretch."""
        period = Reckoned(stretch, self)
        for _ in range(periods):
            owed = happens(owed, period).closing
        return owed

    def carried(self, owed: M, stretches: Iterable[Stretch[Any, Any]]) -> M:
        """What is owed after some stretches that have an end."""
        for stretch in stretches:
            owed = self.through(owed, stretch, stretch.periods())
        return owed


class Reckoned(Generic[M, G]):
    """A period of a stretch with its amounts and its interest in an arithmetic."""

    def __init__(self, stretch: Stretch[Any, Any], by: Reckoning[M, G]) -> None:
        self.by = by
        self.before, self.after = by.rate(stretch.before), by.rate(stretch.after)
        self.payment, self.repay = by.money(stretch.payment), by.money(stretch.repay)
        self.advance, self.fee = by.money(stretch.advance), by.money(stretch.fee)
        self.on_top = stretch.on_top
        self.ends_with_payment = not stretch.after
        inner = [
            (each.is_after, by.money(each.amount), by.rate(each.interest)) for each in stretch.inner
        ]
        #: What moves on days before the payment, and on days after it.
        self.early = [(amount, rate) for is_after, amount, rate in inner if not is_after]
        self.late = [(amount, rate) for is_after, amount, rate in inner if is_after]
        none = by.money(0)
        self.moved = sum((amount for amount, _ in self.early), none)
        self.moved_after = sum((amount for amount, _ in self.late), none)


class Happening(Generic[M]):
    """A period as it happens: `moved` on days before its payment and `moved_after` it; `interest`
    up to the payment and `later` from it on."""

    __slots__ = (
        *("opening", "interest", "moved", "advance", "fee"),
        *("paid", "repaid", "later", "moved_after"),
    )

    def __init__(self, opening: M, interest: M, period: Reckoned[M, Any]) -> None:
        self.opening, self.interest = opening, interest
        self.moved, self.moved_after = period.moved, period.moved_after
        self.advance, self.fee = period.advance, period.fee
        self.paid, self.repaid = period.payment, period.repay
        self.later: M

    @property
    def due(self) -> M:
        """What is owed before the payment."""
        due: M = self.opening + self.interest + self.moved + self.advance + self.fee
        return due

    @property
    def rest(self) -> M:
        """What is owed right after it."""
        rest: M = self.due - self.paid - self.repaid
        return rest

    @property
    def closing(self) -> M:
        """What is owed at the end of the period."""
        closing: M = self.rest + self.later + self.moved_after
        return closing


def happens_until(opening: M, stretch: Stretch, place: int, by: Reckoning[M, Any]) -> Happening[M]:
    """A period as it has happened by the day on which the money moves that stands at a place of its
    `inner`, without that."""
    part = Reckoned(until(stretch, place), by)
    if not stretch.inner[place].is_after:
        return happens(opening, part)
    it = happens(opening, Reckoned(stretch, by))
    it.later, it.moved_after = by.accrued(it.rest, part.after, part.late), part.moved_after
    return it


def happens(opening: M, period: Reckoned[M, Any]) -> Happening[M]:
    """A period that opens with an amount owed."""
    by = period.by
    it = Happening(opening, by.accrued(opening, period.before, period.early), period)
    if not period.on_top:
        it.later = by.accrued(it.rest, period.after, period.late)
        return it
    ahead = by.paid_ahead(it.due - it.interest - it.repaid - period.payment, period.after)
    it.paid = by.paid(it.interest + ahead) + period.payment
    if period.ends_with_payment or period.early or period.late:
        it.later = by.accrued(it.rest, period.after, period.late)
    else:
        # What is paid ahead is what then accrues.
        it.later = it.paid - it.interest - period.payment
    return it
