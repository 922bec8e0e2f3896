"""What is owed at the end as a function of one rate: its crossings, its shape for drawing.

Where every period bears the rate alike the flows are a polynomial in the growth of one period; else
each growth is 1 + a + b i and what is lent and paid, discounted, are convex in i as they are in the
force: the same enclosures hold.
"""

from collections.abc import Sequence
from decimal import Decimal
from fractions import Fraction
from typing import Final, NamedTuple

from ..document.figure_path import FigurePath
from ..ledger.discounting import logarithms
from ..ledger.discounting_sloped import left_at
from ..ledger.period import Reckoned, happens
from ..ledger.plain_numbers import IN_FLOATS
from ..line.growth import InRate
from ..line.line import Line, in_rate, lay_out
from ..line.terms import Terms
from ..numbers.arrays import Floats, np
from ..numbers.decimals import precise
from ..numbers.ratios import as_decimal, as_fraction
from ..roots.crossings import (
    LEAST_GROWTH,
    MOST_GROWTH,
    Crossing,
    Curve,
    Touch,
    Values,
    crossings_between,
)
from ..roots.flows import Flow, Flows, crossings

#: Of the points a curve is drawn through.
_POINTS: Final = 81
#: A balance below zero by less than this share of what is lent is none.
_SLACK: Final = 1e-9
#: What is lent and what is paid, so near each other at both ends, are the same throughout.
_ALIKE: Final = 1e-10

LineInRate = Line[Decimal, InRate]


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


def rates_that_fit(terms: Terms, path: FigurePath) -> RatesThatFit:
    """Every value of a rate at which the end is as stated."""
    line = in_rate(terms, path)
    flows = even_flows(line)
    if flows is not None:
        if flows.is_nothing:
            return RatesThatFit((), None, any_rate=True)
        with precise():
            found = [
                Fits(each.at.exp() - 1, each.how) for each in crossings(flows, terms.time.a_year)
            ]
    else:
        uneven = _uneven(line)
        if uneven is None:
            return RatesThatFit((), None, any_rate=True)
        found = [Fits(each.at, each.how) for each in uneven]
    if len(found) < 2:
        return RatesThatFit(tuple(found), 0 if found else None)
    proper = [place for place, each in enumerate(found) if _never_turns(terms, path, each.periodic)]
    return RatesThatFit(tuple(found), proper[0] if len(proper) == 1 else None)


def even_flows(line: LineInRate) -> Flows | None:
    """The flows by the number of periods that bear the rate before each; None where periods bear it
    unevenly."""
    flows = [Flow(Fraction(0), line.principal)]
    time = 0
    for run in line.runs:
        before, after = _evenly(run.before), _evenly(run.after)
        if run.inner or before is None or after is None or before + after != 1:
            return None
        amount = run.advance + run.fee - run.repay
        for _ in range(run.periods()):
            if run.on_top:
                flows.append(Flow(Fraction(time), amount - run.payment))
                continue
            flows.append(Flow(Fraction(time + before), amount - run.payment))
            time += 1
    flows.append(Flow(Fraction(time), -line.balance))
    return Flows(flows)


def _evenly(interest: InRate | Fraction) -> int | None:
    """1 where an interest is the rate itself, 0 where there is none; None where it is another."""
    if not interest:
        return 0
    if not isinstance(interest, InRate) or interest.constant or interest.span:
        return None
    return 1 if interest.slope == 1 else None


def _steepest(line: LineInRate) -> float:
    """How much more than the rate itself a period bears at the most."""
    sides = [each for run in line.runs for each in (run.before, run.after)]
    return max([1.0, *(float(each.slope) for each in sides if _bears(each))])


def _bears(interest: InRate | Fraction) -> bool:
    return isinstance(interest, InRate) and interest.span is None


class _LineInRate(Curve):
    """A line whose periods bear the rate unevenly."""

    def __init__(self, line: LineInRate) -> None:
        self._line = line

    def values(self, at: Floats) -> Values:
        """At rates of one period."""
        return logarithms(self._line, at)

    def gap(self, at: Decimal) -> tuple[Decimal, Decimal]:
        """As it is worth at the end."""
        return left_at(self._line, at)


def _uneven(line: LineInRate) -> list[Crossing] | None:
    """The rates of one period at which a loan with uneven periods ends as stated; None: all do."""
    often, steepest = line.terms.time.a_year, _steepest(line)
    low = max(LEAST_GROWTH ** (1 / often) - 1, -(1 - 1e-9) / steepest)
    high = MOST_GROWTH ** (1 / often) - 1
    curve = _LineInRate(line)
    ends = curve.values(np.array([low, high]))
    if not np.isfinite([*ends.lent, *ends.paid]).all():
        return []
    if max(abs(ends.lent - ends.paid)) < _ALIKE:
        return None
    return crossings_between(curve, low, high)


def _never_turns(terms: Terms, path: FigurePath, rate: Decimal) -> bool:
    """Whether at a rate nothing is ever owed the other way round."""
    with precise():
        line = lay_out(terms.rated(path, as_fraction(rate)))
        owed, least = float(line.principal), 0.0
        for run in line.runs:
            period = Reckoned(run, IN_FLOATS)
            for _ in range(run.periods()):
                it = happens(owed, period)
                owed, least = it.closing, min(least, it.rest)
        return least >= -_SLACK * max(1.0, abs(float(line.principal)))


def drawn(
    terms: Terms, path: FigurePath, around: Sequence[Decimal]
) -> list[tuple[Decimal, Decimal]]:
    """Points of the curve: rates of one period and what is then left too much at the end,
    discounted, as a share of what is lent. Its neighbourhood holds every crossing."""
    often, line = terms.time.a_year, in_rate(terms, path)
    marks = [float(as_decimal(Fraction(rate))) for rate in around] or [0.0]
    yearly = [(1 + mark) ** often for mark in marks]
    low = max(LEAST_GROWTH * 1.01, min([*yearly, 1.0]) * 0.6)
    high = min(MOST_GROWTH, max([*yearly, 1.0]) * 1.5)
    growths = np.geomspace(low, high, _POINTS)
    rates = np.maximum(growths ** (1 / often) - 1, -(1 - 1e-9) / _steepest(line))
    found = logarithms(line, rates)
    size = np.exp(np.minimum(found.lent, 700))
    gaps = (np.exp(np.minimum(found.lent, 700)) - np.exp(np.minimum(found.paid, 700))) / size
    return [
        (Decimal(repr(float(rate))), Decimal(repr(float(gap))))
        for rate, gap in zip(rates, gaps, strict=True)
        if np.isfinite(gap)
    ]
