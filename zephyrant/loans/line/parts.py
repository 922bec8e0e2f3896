"""What is lent shared out: what each payment repays of it, the interest being paid on top or, where
all is paid at the end, added.

Places that a clause pauses repay no part; the others share what is to be repaid.
"""

from decimal import Decimal
from functools import cached_property
from typing import NamedTuple

from .cash_flow import CashFlow
from .pieces import Pieces

_NONE, _ONE = Decimal(0), Decimal(1)


class Sharing(NamedTuple):
    """How what is lent is shared out: in equal parts, by `percents`, or `at_last` in one; or how
    what is paid is: by the cash flow there is for it, `follows`.

    `on_top`: interest is paid with each payment, besides its part.
    """

    on_top: bool = True
    at_last: bool = False
    percents: tuple[Decimal, ...] = ()
    follows: CashFlow | None = None


class Parts:
    """The parts of a loan, each as a multiple of one: 1 of equal ones, else its percent."""

    def __init__(self, sharing: Sharing, paused: Pieces[int | None], last: int) -> None:
        self.sharing = sharing
        self._paused, self._last = paused, last

    @cached_property
    def _percents(self) -> tuple[Decimal, ...]:
        """By payment; of as many as there are places that repay one, those that are paused have
        none."""
        given = self.sharing.percents
        if len(given) >= self._last:
            return given
        rest = iter(given)
        return tuple(
            _NONE if self.is_paused(number) else next(rest, _NONE)
            for number in range(1, self._last + 1)
        )

    def at(self, number: int) -> Decimal:
        """What a payment that is not paused repays, as a multiple of one part."""
        sharing = self.sharing
        if sharing.follows is not None:
            return sharing.follows.at(number)
        if sharing.at_last:
            return _ONE if number == self._last else _NONE
        return self._percents[number - 1] if sharing.percents else _ONE

    def is_paused(self, number: int) -> bool:
        """Whether a clause says that a payment repays no part."""
        return self._paused.at(number) is not None

    @cached_property
    def places(self) -> int:
        """How many payments are not paused."""
        runs = self._paused.within(1, self._last)
        return sum(last - first + 1 for first, last, by in runs if by is None)

    @property
    def is_matched(self) -> bool:
        """Whether there are as many percents as payments, or as payments that repay a part."""
        given = len(self.sharing.percents)
        return not given or given in (self._last, self.places)

    @cached_property
    def turns(self) -> set[int]:
        """The payments that repay another part than the one before."""
        sharing = self.sharing
        if sharing.at_last:
            return {self._last}
        if sharing.follows is not None:
            return set(sharing.follows.turns(self._last))
        by_place = self._percents if sharing.percents else ()
        return {
            number
            for number in range(2, len(by_place) + 1)
            if by_place[number - 1] != by_place[number - 2]
        }

    @cached_property
    def total(self) -> Decimal:
        """How many parts are repaid in all; of percents how many hundredths."""
        return self.from_payment(1)

    def from_payment(self, number: int) -> Decimal:
        """How many parts are repaid from a payment on."""
        runs = self._paused.within(number, self._last)
        free = [(first, last) for first, last, by in runs if by is None]
        if self.sharing.at_last:
            return _ONE if free and free[-1][1] == self._last else _NONE
        if not self.sharing.percents:
            return Decimal(sum(last - first + 1 for first, last in free))
        return sum(
            (each for first, last in free for each in self._percents[first - 1 : last]), _NONE
        )

    @cached_property
    def first(self) -> int | None:
        """The first payment that repays a part, of interest alone the first that is paid; None
        where none is."""
        for begins, ends, by in self._paused.within(1, self._last):
            if by is not None:
                continue
            if not self.sharing.percents:
                return begins
            for number in range(begins, ends + 1):
                if self._percents[number - 1]:
                    return number
        return None
