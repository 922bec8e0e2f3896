"""Cover: the cash flow of each period of it over what is regularly paid in that.

Tested over each period of the cover, a short last one in proportion. A balance left, fees, charges,
what is repaid on top and the principal that interest-only repays at its end do not count.
"""

from collections.abc import Iterator
from decimal import Decimal
from fractions import Fraction
from typing import NamedTuple

from ..line.cash_flow import CashFlow, Cover
from ..line.line import Line
from .exact import EXACT
from .period import Reckoned, happens
from .rows import Schedule


class PeriodCovered(NamedTuple):
    """A period of the cover: its number, its payments, the cash flow there is for them, and what is
    regularly paid in it."""

    number: int
    first: int
    last: int
    cash: Fraction
    paid: Fraction

    @property
    def ratio(self) -> Fraction | None:
        """How many times the cash flow is what is paid; None where nothing is."""
        return self.cash / self.paid if self.paid > 0 else None

    def excess(self, ratio: Fraction) -> Fraction:
        """By how much more is paid than a ratio lets; below zero, how much more might be."""
        return self.paid - self.cash / ratio


def periods_of(line: Line, schedule: Schedule) -> list[PeriodCovered]:
    """The periods of the cover of a schedule to the cent; none of a loan without one."""
    cover = line.terms.cover
    return [] if cover is None else periods_covered(cover.flow, regularly_paid(line, schedule))


def periods_covered(flow: CashFlow, paid: list[Fraction]) -> list[PeriodCovered]:
    """The periods of the cover, from what is paid with each payment; up to the last year of which
    the cash flow is stated."""
    periods: list[PeriodCovered] = []
    for begins in range(0, len(paid), flow.each):
        some = paid[begins : begins + flow.each]
        first, last = begins + 1, begins + len(some)
        if not flow.is_known(first):
            break
        cash = flow.share(first) * len(some)
        periods.append(PeriodCovered(len(periods) + 1, first, last, cash, sum(some, Fraction(0))))
    return periods


def regularly_paid(line: Line, schedule: Schedule) -> list[Fraction]:
    """What is regularly paid with each payment of a schedule to the cent."""
    columns, unit = schedule.columns, 10**schedule.unit.places
    paid = list(columns.payment)
    if repays_at_last(line) and line.stretches[-1].last == columns.number[-1]:
        paid[-1] = min(paid[-1], columns.interest[-1])
    return [Fraction(each, unit) for each in paid]


def repays_at_last(line: Line) -> bool:
    """Whether the interest alone is paid until the last payment."""
    sharing = line.terms.sharing
    return sharing is not None and sharing.on_top and sharing.at_last


def service_of(line: Line, cover: Cover) -> dict[int, Decimal]:
    """What is regularly paid in each period of the cover, unrounded; in the decimal context in
    force."""
    service: dict[int, Decimal] = {}
    for first, last, amount in _runs_paid(line):
        number = first
        while number <= last:
            period = cover.flow.period(number)
            until = min(last, period * cover.flow.each)
            paid = amount * (until - number + 1)
            service[period] = service.get(period, Decimal(0)) + paid
            number = until + 1
    return service


def _runs_paid(line: Line) -> Iterator[tuple[int, int, Decimal]]:
    """What is regularly paid from one payment to another, unrounded."""
    owed, at_last = line.principal, repays_at_last(line)
    for stretch in line.stretches:
        last = stretch.first + stretch.periods() - 1
        if not stretch.on_top:
            yield stretch.first, last, stretch.payment
            owed = EXACT.through(owed, stretch, stretch.periods())
            continue
        period = Reckoned(stretch, EXACT)
        for number in range(stretch.first, last + 1):
            it = happens(owed, period)
            yield number, number, it.paid - (stretch.payment if at_last else 0)
            owed = it.closing


def carried_in(cover: Cover, period: int, last: int) -> Fraction:
    """What may be paid in a period of the cover at the most, where payments go up to `last`."""
    first = (period - 1) * cover.flow.each + 1
    return cover.carries(first) * (min(period * cover.flow.each, last) - first + 1)
