"""The line told as flows, each worth at the start what the growth of the periods before it makes of
it.

The same in three ways: both sides added up at known rates, both with their slopes at many rates in
floats, and what is lent less what is paid with its slope at one rate (`discounting_sloped`).
Discounted by the growth of each period, what is lent and what is paid are worth the same at the
rates at which a loan ends as stated, and at no others.
"""

from abc import ABC, abstractmethod
from collections.abc import Callable
from decimal import Decimal
from fractions import Fraction
from typing import Any, Generic, NamedTuple, TypeVar

from ..budget import look
from ..line.growth import InRate, growth_in
from ..line.line import Line
from ..line.stretch import Stretch
from ..numbers.arrays import Floats, np
from ..numbers.ratios import as_decimal
from ..roots.crossings import Values

#: A discount, with what is carried beside it.
D = TypeVar("D")
#: How 1 grows over a time.
G = TypeVar("G")


class PeriodOfFlows(NamedTuple, Generic[G]):
    """What moves in a period, above zero what is lent: before its payment, with it and after it.

    How 1 grows up to the payment and from it on (None: not at all); with each amount on a day how
    it grows up to where the period's interest is reckoned. Where only the interest is paid nothing
    grows, but what moves after the payment.
    """

    before: G | None
    after: G | None
    early: tuple[tuple[Decimal, G | None], ...]
    with_payment: tuple[Decimal, Decimal]
    late: tuple[tuple[Decimal, G | None], ...]


class Discounting(ABC, Generic[D, G]):
    """An arithmetic in which flows are discounted and added up."""

    @abstractmethod
    def start(self) -> D:
        """The discount at the start."""

    @abstractmethod
    def growth(self, interest: Any) -> G:  # noqa: ANN401
        """How 1 grows with an interest on 1 of the line."""

    @abstractmethod
    def over(self, at: D, growth: G) -> D:
        """The discount a time later."""

    @abstractmethod
    def back(self, at: D, growth: G) -> D:
        """The discount that time earlier."""

    @abstractmethod
    def add(self, at: D, *amounts: Decimal) -> None:
        """Adds what moves at one moment."""

    def through(self, at: D, period: PeriodOfFlows[G], periods: int) -> D:
        """Adds all that moves in so many like periods; gives the discount at their end."""
        for _ in range(periods):
            at = at if period.before is None else self.over(at, period.before)
            self._on_days(at, period.early)
            self.add(at, *period.with_payment)
            at = at if period.after is None else self.over(at, period.after)
            self._on_days(at, period.late)
        return at

    def _on_days(self, at: D, moved: tuple[tuple[Decimal, G | None], ...]) -> None:
        for amount, growth in moved:
            self.add(at if growth is None else self.back(at, growth), amount)

    def told(self, stretch: Stretch[Any, Any]) -> PeriodOfFlows[G]:
        """A period of a stretch as flows."""
        held = stretch.on_top

        def grown(interest: InRate | Fraction) -> G | None:
            return self.growth(interest) if interest and not held else None

        return PeriodOfFlows(
            grown(stretch.before),
            grown(stretch.after),
            tuple(
                (each.amount, grown(each.interest)) for each in stretch.inner if not each.is_after
            ),
            (
                stretch.advance + stretch.fee,
                -(stretch.repay + stretch.payment),
            ),
            tuple(
                (each.amount, self.growth(each.interest)) for each in stretch.inner if each.is_after
            ),
        )

    def discount(
        self,
        principal: Decimal,
        stretches: tuple[Stretch[Any, Any], ...],
        left: Decimal,
        periods: int | None = None,
    ) -> D:
        """Adds what is lent at 0, all that moves up to the end or in so many periods, and what is
        then left; gives the discount there."""
        at = self.start()
        self.add(at, principal)
        for stretch in stretches:
            if periods is not None and stretch.first > periods:
                break
            at = self.through(at, self.told(stretch), stretch.periods(periods))
        self.add(at, -left)
        return at


# Both sides, at known rates


class Sides(NamedTuple):
    """What is lent and what is paid (with what is left), each worth at the start."""

    lent: Decimal
    paid: Decimal


class _BothSides(Discounting[Decimal, Decimal]):
    def __init__(self) -> None:
        self.lent = self.paid = Decimal(0)

    def start(self) -> Decimal:
        return Decimal(1)

    def growth(self, interest: Fraction) -> Decimal:
        return 1 + as_decimal(interest)

    def over(self, at: Decimal, growth: Decimal) -> Decimal:
        return at / growth

    def back(self, at: Decimal, growth: Decimal) -> Decimal:
        return at * growth

    def add(self, at: Decimal, *amounts: Decimal) -> None:
        for amount in amounts:
            if amount > 0:
                self.lent += amount * at
            else:
                self.paid -= amount * at

    def through(self, at: Decimal, period: PeriodOfFlows[Decimal], periods: int) -> Decimal:
        """What moves with the payments is alike: the discounts alone are added up, one by one."""
        if period.early or period.late:
            return super().through(at, period, periods)
        total, (before, after) = Decimal(0), period[:2]
        for _ in range(periods):
            at = at if before is None else at / before
            total += at
            at = at if after is None else at / after
        self.add(total, *period.with_payment)
        return at


def discounted(line: Line, periods: int | None = None, left: Decimal | None = None) -> Sides:
    """Everything on a line up to its end (or so many periods, with what is then left), discounted.

    In the decimal context in force.
    """
    sides = _BothSides()
    left = line.balance if left is None else left
    sides.discount(line.principal, line.stretches, left, periods)
    return Sides(sides.lent, sides.paid)


# Both with their slopes, at many rates


class _Discounts(NamedTuple):
    """At every rate the discount, and how fast its logarithm falls with the rate."""

    discount: Floats
    pull: Floats


_GrowthAt = Callable[[Floats], tuple[Floats, Floats]]


class _Curves(Discounting[_Discounts, tuple[Floats, Floats]]):
    def __init__(self, at: Floats) -> None:
        self._at = at
        self._ones, none = np.ones_like(at), np.zeros_like(at)
        self.sums = [none, none.copy(), none.copy(), none.copy()]

    def start(self) -> _Discounts:
        return _Discounts(self._ones, np.zeros_like(self._at))

    def growth(self, interest: InRate | Fraction) -> tuple[Floats, Floats]:
        grown: _GrowthAt = growth_in(interest, float)
        return grown(self._at)

    def over(self, at: _Discounts, growth: tuple[Floats, Floats]) -> _Discounts:
        return _Discounts(at.discount / growth[0], at.pull + growth[1])

    def back(self, at: _Discounts, growth: tuple[Floats, Floats]) -> _Discounts:
        return _Discounts(at.discount * growth[0], at.pull - growth[1])

    def add(self, at: _Discounts, *amounts: Decimal) -> None:
        """What moves at one moment on balance."""
        amount = float(sum(amounts))
        if not amount:
            return
        worth = abs(amount) * at.discount
        place = 0 if amount > 0 else 2
        self.sums[place] += worth
        self.sums[place + 1] -= worth * at.pull

    def through(
        self, at: _Discounts, period: PeriodOfFlows[tuple[Floats, Floats]], periods: int
    ) -> _Discounts:
        """One by one; a budget is looked at."""
        for _ in range(periods):
            look()
            at = super().through(at, period, 1)
        return at


def logarithms(line: "Line[Decimal, InRate]", at: Floats) -> Values:
    """Of a line in a rate: the logarithms of what is lent and of what is paid, discounted, and
    their slopes, at every rate of `at`."""
    curves = _Curves(at)
    curves.discount(line.principal, line.runs, line.balance)
    lent, lent_slope, paid, paid_slope = curves.sums
    with np.errstate(divide="ignore", invalid="ignore"):
        return Values(np.log(lent), lent_slope / lent, np.log(paid), paid_slope / paid)
