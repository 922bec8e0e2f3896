"""What is owed at the end as a function of one rate: its crossings, its shape for drawing.

Where every period bears the rate alike the flows are a polynomial in the growth of one period; else
each growth is 1 + a + b i and what is lent and paid, discounted, are convex in i as they are in the
force: the same enclosures hold.
"""

from collections.abc import Sequence
from decimal import Decimal
from fractions import Fraction
from typing import Final, NamedTuple

import numpy as np

from ..budget import look
from ..ledger.unrounded import unrounded_end
from ..line.line import Stretch
from ..line.periods import Span
from ..line.stretches import lay_out, periods_of
from ..line.terms import Terms
from ..numbers.crossings import (
    LEAST_GROWTH,
    MOST_GROWTH,
    Crossing,
    Floats,
    Flow,
    Flows,
    Touch,
    Values,
    crossings,
    in_floats,
    isolate,
    near,
    polish,
)
from ..numbers.decimals import precise
from ..quotes.conversion import as_decimal, as_fraction

#: Of the points a curve is drawn through.
_POINTS: Final = 81
#: A balance below zero by less than this share of what is lent is none.
_SLACK: Final = 1e-9
#: What is lent and what is paid, so near each other at both ends, are the same throughout.
_ALIKE: Final = 1e-10


class Fits(NamedTuple):
    """A rate of one period at which the loan ends as stated."""

    periodic: Decimal
    how: Touch


class RatesThatFit(NamedTuple):
    """Every rate, ascending, and the place of the ordinary one where the flows make it clear.

    `any_rate`: everything cancels whatever the rate.
    """

    rates: tuple[Fits, ...]
    ordinary: int | None
    any_rate: bool = False


def rates_that_fit(terms: Terms, name: str) -> RatesThatFit:
    """Every value of the rate `name` (`rate`, or a clause's path) at which the end is as stated."""
    flows = even_flows(terms, name)
    if flows is not None:
        if flows.is_nothing:
            return RatesThatFit((), None, any_rate=True)
        with precise():
            found = [
                Fits(each.force.exp() - 1, each.how) for each in crossings(flows, terms.time.a_year)
            ]
    else:
        uneven = _uneven(terms, name)
        if uneven is None:
            return RatesThatFit((), None, any_rate=True)
        found = [Fits(each.force, each.how) for each in uneven]
    if len(found) < 2:
        return RatesThatFit(tuple(found), 0 if found else None)
    proper = [place for place, each in enumerate(found) if _never_turns(terms, name, each.periodic)]
    return RatesThatFit(tuple(found), proper[0] if len(proper) == 1 else None)


def even_flows(terms: Terms, name: str) -> Flows | None:
    """The flows by the number of periods that bear the rate before each; None where periods bear it
    unevenly."""
    at_zero = periods_of(terms.rated(name, Fraction(0)))
    at_one = periods_of(terms.rated(name, Fraction(1)))
    flows = [Flow(Fraction(0), lay_out(terms.rated(name, Fraction(0))).principal)]
    time = 0
    for none, one in zip(at_zero, at_one, strict=True):
        moves = (one.before - none.before, one.after - none.after)
        if none.inner or none.before or none.after or sorted(moves) != [0, 1]:
            return None
        amount = none.advance + none.fee - none.repay
        if none.interest_only:
            flows.append(Flow(Fraction(time), amount))
            continue
        first = 0 if one.after else 1
        flows.append(Flow(Fraction(time + first), amount - none.payment))
        time += 1
    flows.append(Flow(Fraction(time), -terms.balance))
    return Flows(flows)


class _Part(NamedTuple):
    """How money grows over a part of a period: 1 + constant + slope x, x the interest on 1 of a
    whole one: the rate i itself, of a long odd one what its `span` makes of i."""

    constant: float
    slope: float
    span: Span | None = None

    def grown(self, at: Floats) -> tuple[Floats, Floats]:
        """The growth and the slope of its logarithm."""
        if self.span is None:
            growth = 1 + self.constant + self.slope * at
            return growth, self.slope / growth
        simple, power = float(self.span.simple), float(self.span.power)
        whole = (1 + simple * at) * (1 + at) ** power
        pull = simple / (1 + simple * at) + power / (1 + at)
        growth = 1 + self.constant + self.slope * (whole - 1)
        return growth, self.slope * whole * pull / growth


class _Period(NamedTuple):
    """A period: its growth before and after its payment, and what moves in it."""

    before: _Part
    after: _Part
    at_payment: float
    interest_only: bool
    inner: tuple[tuple[float, _Part, bool], ...]


class _Uneven:
    """A loan whose periods bear the rate unevenly."""

    def __init__(self, terms: Terms, name: str) -> None:
        self.terms, self.name = terms, name
        at_zero = periods_of(terms.rated(name, Fraction(0)))
        at_one = periods_of(terms.rated(name, Fraction(1)))
        odd = terms.runs[0].before
        self.periods = [
            _period(none, one, odd if none.first == 1 and odd.power else None)
            for none, one in zip(at_zero, at_one, strict=True)
        ]
        self.principal = float(lay_out(terms.rated(name, Fraction(0))).principal)
        self.balance = float(terms.balance)
        parts = [part for period in self.periods for part in (period.before, period.after)]
        self.steepest = max([1.0, *(part.slope for part in parts if part.span is None)])

    def values(self, at: Floats) -> Values:
        """Both logarithms of what is worth, and their slopes, at every rate of `at`."""
        sums = [np.zeros_like(at) for _ in range(4)]
        discount, force = np.ones_like(at), np.zeros_like(at)

        def add(amount: float, present_value: Floats, pull: Floats) -> None:
            if not amount:
                return
            place = 0 if amount > 0 else 2
            sums[place] += abs(amount) * present_value
            sums[place + 1] -= abs(amount) * present_value * pull

        add(self.principal, discount, force)
        for period in self.periods:
            look()
            for is_after, part in enumerate((period.before, period.after)):
                if not period.interest_only:
                    growth, pull = part.grown(at)
                    discount, force = discount / growth, force + pull
                for amount, share, late in period.inner:
                    if late == bool(is_after):
                        growth, pull = share.grown(at)
                        if period.interest_only:
                            growth, pull = np.ones_like(at), np.zeros_like(at)
                        add(amount, discount * growth, force - pull)
                if not is_after:
                    add(period.at_payment, discount, force)
        add(-self.balance, discount, force)
        with np.errstate(divide="ignore", invalid="ignore"):
            return Values(np.log(sums[0]), sums[1] / sums[0], np.log(sums[2]), sums[3] / sums[2])

    def gap(self, rate: Decimal) -> tuple[Decimal, Decimal]:
        """What is owed at the end beyond what is to be left, and its slope by the rate."""
        nudge = Decimal(10) ** -30
        one, other = (self._left(rate + step) for step in (Decimal(0), nudge))
        return one, (other - one) / nudge

    def _left(self, rate: Decimal) -> Decimal:
        line = lay_out(self.terms.rated(self.name, as_fraction(rate)))
        return unrounded_end(line) - line.balance


def _period(none: Stretch, one: Stretch, odd: Span | None) -> _Period:
    """A period from how it stands at a rate of 0 and of 1; `odd`: the odd time before it."""

    def part(at_zero: Fraction, at_one: Fraction, span: Span | None = None) -> _Part:
        moves = at_one - at_zero
        if span is None or not moves:
            return _Part(float(at_zero), float(moves))
        return _Part(float(at_zero), float(moves / span.interest(Fraction(1))), span)

    moved = none.advance + none.fee - none.repay
    if not none.interest_only:
        moved -= none.payment
    return _Period(
        part(none.before, one.before, odd),
        part(none.after, one.after),
        float(moved),
        none.interest_only,
        tuple(
            (
                float(still.amount),
                part(still.interest, other.interest, None if still.is_after else odd),
                still.is_after,
            )
            for still, other in zip(none.inner, one.inner, strict=True)
        ),
    )


def _uneven(terms: Terms, name: str) -> list[Crossing] | None:
    """The rates of one period at which a loan with uneven periods ends as stated; None: all do."""
    loan = _Uneven(terms, name)
    often = terms.time.a_year
    low = max(LEAST_GROWTH ** (1 / often) - 1, -(1 - 1e-9) / loan.steepest)
    high = MOST_GROWTH ** (1 / often) - 1
    ends = loan.values(np.array([low, high]))
    if not np.isfinite([*ends.lent, *ends.paid]).all():
        return []
    if max(abs(ends.lent - ends.paid)) < _ALIKE:
        return None
    found = isolate(loan.values, low, high)
    told = [
        Crossing(polish(loan.gap, in_floats(loan.values, *bracket)), "crosses")
        for bracket in found.brackets
    ]
    for bracket in found.undecided:
        told += near(loan.gap, *bracket)
    return sorted(told)


def _never_turns(terms: Terms, name: str, rate: Decimal) -> bool:
    """Whether at a rate nothing is ever owed the other way round."""
    with precise():
        at_rate = terms.rated(name, as_fraction(rate))
        line = lay_out(at_rate)
        owed, least = float(line.principal), 0.0
        for stretch in periods_of(at_rate):
            before, after = float(stretch.before), float(stretch.after)
            moved = float(stretch.advance + stretch.fee - stretch.repay)
            for _ in range((stretch.last or stretch.first) - stretch.first + 1):
                interest = owed * before
                for amount, share, is_after, *_ in stretch.inner:
                    if not is_after:
                        owed += float(amount)
                        interest += float(amount) * float(share)
                paid = interest if stretch.interest_only else float(stretch.payment)
                owed += interest + moved - paid
                least = min(least, owed)
                owed *= 1 + (0.0 if stretch.interest_only else after)
        return least >= -_SLACK * max(1.0, abs(float(line.principal)))


def drawn(terms: Terms, name: str, around: Sequence[Decimal]) -> list[tuple[Decimal, Decimal]]:
    """Points of the curve: rates of one period and what is then left too much at the end,
    discounted, as a share of what is lent. Its neighbourhood holds every crossing."""
    often = terms.time.a_year
    marks = [float(as_decimal(Fraction(rate))) for rate in around] or [0.0]
    yearly = [(1 + mark) ** often for mark in marks]
    low = max(LEAST_GROWTH * 1.01, min([*yearly, 1.0]) * 0.6)
    high = min(MOST_GROWTH, max([*yearly, 1.0]) * 1.5)
    loan = _Uneven(terms, name)
    growths = np.geomspace(low, high, _POINTS)
    rates = np.maximum(growths ** (1 / often) - 1, -(1 - 1e-9) / loan.steepest)
    found = loan.values(rates)
    size = np.exp(np.minimum(found.lent, 700))
    gaps = (np.exp(np.minimum(found.lent, 700)) - np.exp(np.minimum(found.paid, 700))) / size
    return [
        (Decimal(repr(float(rate))), Decimal(repr(float(gap))))
        for rate, gap in zip(rates, gaps, strict=True)
        if np.isfinite(gap)
    ]
