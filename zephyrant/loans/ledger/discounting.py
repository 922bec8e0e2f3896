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
from typing import Any, Final, Generic, NamedTuple, TypeVar

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
    """At every rate the discount, and how fast its logarithm falls with the rate.

    Over centuries a discount leaves the range of floats: it is `discount` times e to the power of
    `scale`. No scale: it never left it.
    """

    discount: Floats
    pull: Floats
    scale: Floats | None = None


#: Discounts are scaled before they come nearer to the ends of the range of floats than this.
_LARGEST: Final = 1e100


def _scaled(at: _Discounts) -> _Discounts:
    """The same discounts, each near 1 by its scale, where one has gone too far from that."""
    discount = at.discount
    if discount.max() < _LARGEST and discount.min() > 1 / _LARGEST:
        return at
    moved = np.log(discount)
    before = np.zeros_like(discount) if at.scale is None else at.scale
    return _Discounts(np.ones_like(discount), at.pull, before + moved)


class _Side:
    """What moves one way, worth at the start, and how fast that falls with the rate."""

    def __init__(self, at: Floats) -> None:
        self.worth, self.slope = np.zeros_like(at), np.zeros_like(at)
        self.scale: Floats | None = None

    def add(self, amount: float, at: _Discounts) -> None:
        """An amount that moves when the discounts are these."""
        worth = amount * at.discount
        if at.scale is not None or self.scale is not None:
            worth = self._to_one_scale(worth, at.scale)
        self.worth += worth
        self.slope -= worth * at.pull

    def _to_one_scale(self, worth: Floats, scale: Floats | None) -> Floats:
        """Another worth at the larger of both scales, to which the sums are brought, too."""
        none = np.zeros_like(worth)
        theirs = none if scale is None else scale
        mine = none if self.scale is None else self.scale
        larger = np.where(self.worth > 0, np.maximum(mine, theirs), theirs)
        shrunk = np.exp(np.where(self.worth > 0, mine - larger, 0))
        self.worth, self.slope, self.scale = self.worth * shrunk, self.slope * shrunk, larger
        return worth * np.exp(theirs - larger)

    def logarithm(self) -> tuple[Floats, Floats]:
        """Of the worth, and the slope of that."""
        scale = 0 if self.scale is None else self.scale
        return np.log(self.worth) + scale, self.slope / self.worth


_GrowthAt = Callable[[Floats], tuple[Floats, Floats]]


class _Curves(Discounting[_Discounts, tuple[Floats, Floats]]):
    def __init__(self, at: Floats) -> None:
        self._at = at
        self.lent, self.paid = _Side(at), _Side(at)

    def start(self) -> _Discounts:
        return _Discounts(np.ones_like(self._at), np.zeros_like(self._at))

    def growth(self, interest: InRate | Fraction) -> tuple[Floats, Floats]:
        grown: _GrowthAt = growth_in(interest, float)
        return grown(self._at)

    def over(self, at: _Discounts, growth: tuple[Floats, Floats]) -> _Discounts:
        return _scaled(_Discounts(at.discount / growth[0], at.pull + growth[1], at.scale))

    def back(self, at: _Discounts, growth: tuple[Floats, Floats]) -> _Discounts:
        return _Discounts(at.discount * growth[0], at.pull - growth[1], at.scale)

    def add(self, at: _Discounts, *amounts: Decimal) -> None:
        """What moves at one moment on balance."""
        amount = float(sum(amounts))
        if amount:
            (self.lent if amount > 0 else self.paid).add(abs(amount), at)

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
    with np.errstate(divide="ignore", invalid="ignore"):
        return Values(*curves.lent.logarithm(), *curves.paid.logarithm())
