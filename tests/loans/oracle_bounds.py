"""What can be lent within cover and value, once more from the contract: every principal with the
payments that repay it, in fractions, then in cents, one cent less at a time.

Loans without clauses but for one stretch of interest alone at the start (`idle` payments of it).
"""

from fractions import Fraction
from itertools import count as count_up
from math import floor
from typing import Any, NamedTuple

from .documents import PERIODS

CENT = Fraction(1, 100)
#: A way to lay a principal out: what is regularly paid with each payment.
Payments = list[Fraction]


class Sized(NamedTuple):
    """What can be lent unrounded and to the cent, what is regularly paid then, which bound binds,
    and what each alone would lend."""

    exact: Fraction
    lent: Fraction
    paid: Payments
    binding: str
    alone: dict[str, Fraction]


def nearest(amount: Fraction) -> Fraction:
    return floor(amount * 100 + Fraction(1, 2)) * CENT


def down(amount: Fraction) -> Fraction:
    return floor(amount * 100) * CENT


class Sizing:
    """A document of level or other payments whose principal follows from its bounds."""

    def __init__(self, content: dict[str, Any], idle: int = 0) -> None:
        self.content, self.idle, self.count = content, idle, int(content["count"])
        self.a_year = PERIODS[content.get("every", "month")]
        self.rate = Fraction(str(content["rate"]["percent"])) / 100 / self.a_year
        self.left = Fraction(str(content.get("balance", "0")))
        self.advance = content.get("timing") == "in-advance"
        self.style = content.get("repayment", "level")
        self.over = int(content.get("amortized_over", self.count))
        self.cover: dict[str, Any] = content.get("cover") or {}
        self.value: dict[str, Any] = content.get("value") or {}

    # The cash flow

    def share(self, number: int) -> Fraction:
        """What there is for one payment."""
        year = (number - 1) // self.a_year
        if "cash_flows" in self.cover:
            return Fraction(self.cover["cash_flows"][year]) / self.a_year
        growth = 1 + Fraction(self.cover.get("growth", "0")) / 100
        return Fraction(self.cover["cash_flow"]) * growth**year / self.each

    @property
    def each(self) -> int:
        """Payments of one period of the cover."""
        return self.a_year // PERIODS[self.cover.get("every", "year")]

    def periods(self) -> list[range]:
        firsts = range(1, self.count + 1, self.each)
        return [range(first, min(first + self.each, self.count + 1)) for first in firsts]

    def carried(self, period: range) -> Fraction:
        return sum(map(self.share, period), Fraction(0)) / Fraction(self.cover["ratio"])

    # The payments of a principal

    def weights(self) -> Payments:
        """What each payment is a multiple of: 1 of level ones, its cash flow, or its part."""
        numbers = range(1, self.over + 1)
        if self.style == "sculpted":
            weights = [self.share(number) for number in numbers]
        elif self.style == "interest-only":
            weights = [Fraction(int(number == self.count)) for number in numbers]
        elif isinstance(self.style, dict):
            weights = [Fraction(each) for each in self.style["percents"]]
        else:
            weights = [Fraction(1)] * self.over
        return [Fraction(0)] * self.idle + weights[self.idle :]

    @property
    def on_top(self) -> bool:
        return self.style not in ("level", "sculpted")

    def each_is(self, principal: Fraction) -> Fraction:
        """What one is, so that the principal is repaid to what is left."""
        weights = self.weights()
        if self.on_top:
            return (principal - self.left) / sum(weights, Fraction(0))
        grown, paid = principal, Fraction(0)
        for number, weight in enumerate(weights, 1):
            if self.advance:
                grown, paid = grown * (1 + self.rate), (paid + weight) * (1 + self.rate)
            elif number <= self.idle:
                pass
            else:
                grown, paid = grown * (1 + self.rate), paid * (1 + self.rate) + weight
        return (grown - self.left) / paid

    def exactly(self, principal: Fraction) -> Payments:
        """What is regularly paid, unrounded."""
        one, owed, paid = self.each_is(principal), principal, []
        for number, weight in enumerate(self.weights()[: self.count], 1):
            interest = owed * self.rate
            if number <= self.idle or self.on_top:
                part = one * weight
                tested = interest + (0 if self.style == "interest-only" else part)
                owed -= part
            else:
                tested = one * weight
                base = owed - tested if self.advance else owed
                owed += base * self.rate - tested
            paid.append(tested)
        return paid

    def in_cents(self, principal: Fraction, one: Fraction, cash: Any) -> Payments:
        """The same to the cent: the last payment settles, or what is owed then is due."""
        owed, paid = principal, []
        weights = self.weights()
        for number in range(1, self.count + 1):
            part = cash(one * weights[number - 1])
            base = owed - part if self.advance else owed
            interest = nearest(base * self.rate)
            is_last = number == self.count and "amortized_over" not in self.content
            payment = interest + part if number <= self.idle or self.on_top else part
            # No more is paid than is owed.
            payment = min(payment, owed if self.advance else owed + interest)
            if is_last:
                payment = owed + interest - self.left
                if self.advance:
                    # Nothing is left to bear interest but the balance.
                    payment = owed - nearest(self.left / (1 + self.rate))
                    interest = self.left - (owed - payment)
            owed += interest - payment
            tested = interest if is_last and self.style == "interest-only" else payment
            paid.append(tested)
        return paid

    def fits(self, paid: Payments) -> bool:
        return all(
            sum((paid[number - 1] for number in period), Fraction(0)) <= self.carried(period)
            for period in self.periods()
        )

    # The bounds

    def by_cover(self) -> Fraction:
        """Linear in the principal: the least of what each period lets be lent."""
        one, two = self.exactly(Fraction(1)), self.exactly(Fraction(2))
        most = []
        for period in self.periods():
            a = sum((one[number - 1] for number in period), Fraction(0))
            b = sum((two[number - 1] for number in period), Fraction(0))
            if b != a:
                most.append(1 + (self.carried(period) - a) / (b - a))
        return min(most)

    def by_value(self) -> Fraction:
        return Fraction(self.value["amount"]) * Fraction(self.value["highest"]) / 100

    def covered(self) -> tuple[Fraction, Payments]:
        """By the cover alone, to the cent: payments round down, the principal falls."""
        exact = self.by_cover()
        fixed = None if self.on_top else self.each_is(exact)
        for less in count_up():
            lent = down(exact) - less * CENT
            one = self.each_is(lent) if fixed is None else fixed
            paid = self.in_cents(lent, one, down)
            if self.fits(paid):
                return lent, paid
        raise AssertionError

    def sized(self) -> Sized:
        exact, alone, paid = {}, {}, {}
        if self.cover:
            exact["cover"] = self.by_cover()
            alone["cover"], paid["cover"] = self.covered()
        if self.value:
            exact["value"] = self.by_value()
            alone["value"] = down(exact["value"])
            one = self.each_is(exact["value"] if not self.on_top else alone["value"])
            paid["value"] = self.in_cents(alone["value"], one, nearest)
        binding = min(alone, key=lambda name: (alone[name], name != "cover"))
        return Sized(exact[binding], alone[binding], paid[binding], binding, alone)
