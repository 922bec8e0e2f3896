"""The yearly cost of a loan by the published rules.

US: the actuarial annual percentage rate of 12 CFR 1026 Appendix J, nominal: the rate of one
unit-period, at which advances and payments are worth the same, times the unit-periods in a year;
a fraction of a unit-period bears simple interest. EU: the annual percentage rate of charge of
2008/48/EC and 2014/17/EU Annex I, effective: times in years, counted back from each payment in
whole months (or weeks) and then in days over the days of the year that ends there.

Worked in floats: a present value of flows of one sign, to 1e-12 of a rate and told to ten decimals.
"""

from collections.abc import Sequence
from datetime import date
from decimal import Decimal
from functools import cached_property, lru_cache
from itertools import chain
from math import exp, expm1, fsum, log, log1p
from typing import Final, NamedTuple

import numpy as np
from typing_extensions import TypedDict

from ..calendars.dates import Calendar, OddTime, Pace, months_later, odd_time, steps_back
from ..numbers.decimals import percent_text
from ..roots.crossings import (
    LEAST_GROWTH,
    MOST_GROWTH,
    Curve,
    Floats,
    Values,
    crossings_in_floats,
)
from ..roots.narrowing import newton_between

#: Forces further from 0 than this are not looked for.
_FARTHEST: Final = 700.0
_ENOUGH: Final = 1e-15
#: Payments among which one advance and one payment, in net flows, can hide.
_FEW: Final = 4
#: Below this the mean time of a run is its middle.
_TINY: Final = 1e-6
_MONTH: Final = Pace(months=1)


class YearlyCost(TypedDict):
    """Percent a year, 10 decimals: US actuarial (nominal) and EU (effective); none where no rate
    fits."""

    us_apr: str | None
    eu_aprc: str | None


class Run(NamedTuple):
    """Amounts that are alike: `number` of them, one unit of time apart, the first at `first`."""

    amount: float
    first: float
    number: int = 1


class Moved(NamedTuple):
    """Money at a payment (0: the start) or on a day; above zero what the borrower receives."""

    place: int | date
    amount: float


class UnitFlow(NamedTuple):
    """Money after so many whole units and, before them, a fraction of one at simple interest."""

    whole: float
    fraction: float
    amount: float


class UnitFlows(Curve):
    """Flows by units of time, ready to be discounted at rates i of one unit.

    Each is worth its amount / ((1 + fraction i) (1 + i)^whole): the logarithm of that is convex in
    i, and so is that of a sum of such.
    """

    def __init__(self, flows: Sequence[UnitFlow]) -> None:
        self.flows = tuple(flows)
        # Number by number: far faster than flow by flow.
        numbers = np.fromiter(chain.from_iterable(flows), float, 3 * len(flows))
        whole_fraction_amount = numbers.reshape(-1, 3).T
        amounts = whole_fraction_amount[2]
        self._sides = [whole_fraction_amount[:, side] for side in (amounts > 0, amounts < 0)]
        self.has_both = all(side.size for side in self._sides)

    def values(self, at: Floats) -> Values:
        """Logarithms of what is received and of what is paid, and their slopes."""
        lent, paid = (_log_worth(side, at) for side in self._sides)
        return Values(*lent, *paid)

    def gap(self, at: Decimal) -> tuple[Decimal, Decimal]:
        """What is received less what is paid, discounted, and its slope by the rate."""
        total = slope = Decimal(0)
        for whole, fraction, amount in self.flows:
            units, part = Decimal(whole), Decimal(fraction)
            present_value = Decimal(amount) / ((1 + part * at) * (1 + at) ** units)
            total += present_value
            slope -= present_value * (units / (1 + at) + part / (1 + part * at))
        return total, slope


def _log_worth(side: Floats, at: Floats) -> tuple[Floats, Floats]:
    whole, fraction, amount = side
    simple = 1 + np.multiply.outer(at, fraction)
    exponents = -np.multiply.outer(np.log1p(at), whole)
    # The largest term is taken out, so that nothing overflows.
    most = exponents.max(axis=1)
    present_value = np.abs(amount) * np.exp(exponents - most[:, None]) / simple
    total = present_value.sum(axis=1)
    pull = whole / (1 + at)[:, None] + fraction / simple
    return np.log(total) + most, -(present_value * pull).sum(axis=1) / total


class Flows(NamedTuple):
    """What is lent at the start and what is paid back, in runs.

    Their places count periods from the start; with dates, from the first payment.
    """

    lent: float
    runs: Sequence[Run]
    a_year: int
    calendar: Calendar | None


def yearly_cost(flows: Flows, guess: float = 0.0) -> YearlyCost:
    """Both yearly costs of a loan; `guess`: the rate of one period it is likely to be near."""
    force = us_force(flows, log1p(guess))
    us_apr = None if force is None else flows.a_year * (exp(force) - 1)
    if force is not None and (single := _single(flows)) is not None:
        us_apr = single
    return {"us_apr": _told(us_apr), "eu_aprc": _told(eu_aprc(flows, force))}


def _single(flows: Flows) -> float | None:
    """The US rate where, in net flows, there is one advance and one payment; else None."""
    calendar = flows.calendar
    runs = [run for run in flows.runs if run.amount]
    if sum(run.number for run in runs) > _FEW:
        return None
    paid: dict[float, float] = {}
    for run in runs:
        for place in (run.first + more for more in range(run.number)):
            paid[place] = paid.get(place, 0.0) + run.amount
    # Without dates places count periods from the start, with them from the first payment.
    from_start = calendar is None or calendar.first == calendar.start
    lent = flows.lent - (paid.pop(0, 0.0) if from_start else 0.0)
    later = [(place, amount) for place, amount in paid.items() if amount]
    if len(later) != 1 or lent <= 0:
        return None
    ((last, amount),) = later
    ends = int(last) + (calendar is not None)
    return single_rate(
        amount / lent, _single_term(0, ends, times_of(calendar, flows.a_year, in_advance=False))
    )


def _told(rate: float | None) -> str | None:
    return None if rate is None else percent_text(100 * rate)


def us_force(flows: Flows, guess: float) -> float | None:
    """ln(1 + i), i the actuarial rate of one unit-period; None where no rate fits."""
    whole, fraction = 0, 0.0
    if flows.calendar is not None:
        odd = odd_time(flows.calendar.start, flows.calendar.first, flows.calendar.step)
        whole, fraction = odd.whole, float(odd.fraction)
    runs = [run._replace(first=run.first + whole) for run in flows.runs]
    return _force(flows.lent, runs, fraction, guess)


def eu_aprc(flows: Flows, us: float | None) -> float | None:
    """The annual percentage rate of charge, as a fraction a year; None where no rate fits.

    Where times are whole unit-periods, as for the US rate, its force `us` is that of this one too.
    """
    calendar = flows.calendar
    if us is None:
        return None
    if calendar is None or _even(calendar):
        return exp(us * flows.a_year) - 1
    times = times_of(calendar, flows.a_year, calendar.in_advance)
    runs = [
        Run(run.amount, times.years(int(run.first) + k + 1))
        for run in flows.runs
        for k in range(run.number)
    ]
    force = _force(flows.lent, runs, 0.0, us * flows.a_year)
    return None if force is None else exp(force) - 1


def _even(calendar: Calendar) -> bool:
    """Whether every payment lies a whole number of months or weeks after the start."""
    step = calendar.step
    return calendar.is_regular and (step.days > 1 or (step.months > 0 and calendar.start.day <= 28))


def years_between(start: date, day: date, step: Pace) -> float:
    """Years as Annex I counts them: whole weeks or months back from `day`, then days."""
    if step.days > 1:
        weeks, days = divmod((day - start).days, 7)
        return weeks / 52 + days / 365
    months = 0 if step.days else steps_back(start, day, _MONTH)
    rest = months_later(day, -months)
    days = (rest - start).days
    if not days:
        return months / 12
    return months / 12 + days / (rest - months_later(rest, -12)).days


def _force(lent: float, runs: Sequence[Run], fraction: float, guess: float) -> float | None:
    """ln(1 + i) at which the payments are worth what is lent; i is of one unit of time.

    The worth of payments falls as the rate rises: Newton's method between two bounds. `fraction`
    of a unit bears simple interest before all of them.
    """
    later = [run for run in runs if run.amount]
    if not fraction and later and not later[0].first:
        # What is paid at once only lessens what is lent.
        at_once = later[0]
        lent -= at_once.amount
        rest = [Run(at_once.amount, 1.0, at_once.number - 1)] if at_once.number > 1 else []
        later = [*rest, *later[1:]]
    if lent <= 0 or not later:
        return None

    def height(at: float) -> tuple[float, float]:
        try:
            return _gap(lent, later, at, fraction)
        except (OverflowError, ValueError, ZeroDivisionError):
            # Beyond what a float holds: on which side is known.
            return (1.0, 0.0) if at < 0 else (-1.0, 0.0)

    return newton_between(
        height,
        -_FARTHEST,
        _FARTHEST,
        guess,
        rises=False,
        enough=lambda to: _ENOUGH * max(1.0, abs(to)),
    )


def _gap(lent: float, later: Sequence[Run], force: float, fraction: float) -> tuple[float, float]:
    """ln(worth / lent) and its derivative by the force."""
    worths, moments = [], []
    for amount, first, number in later:
        head = amount * exp(-first * force)
        if number == 1:
            worths.append(head)
            moments.append(head * first)
            continue
        level = expm1(-number * force) / expm1(-force) if force else float(number)
        worths.append(head * level)
        # The mean time of a run, exact enough for a slope.
        discount = exp(-force)
        if abs(force) * number < _TINY:
            mean = (number - 1) / 2
        else:
            mean = discount / (1 - discount) - number / expm1(number * force)
        moments.append(head * level * (first + mean))
    present_value = fsum(worths)
    rate = expm1(force)
    slope = -fsum(moments) / present_value - fraction * (1 + rate) / (1 + fraction * rate)
    return log(present_value / lent) - log1p(fraction * rate), slope


def general_cost(
    moved: Sequence[Moved], calendar: Calendar | None, a_year: int, *, in_advance: bool
) -> tuple[YearlyCost, float | None]:
    """Both yearly costs of money that moves back and forth, and the force of one period.

    None where no rate fits or several do.
    """
    times = times_of(calendar, a_year, in_advance)
    at_once: dict[float | date, Moved] = {}
    for place, amount in moved:
        # In advance the start and the first payment can be one moment.
        when = times.moment(place)
        before = at_once.get(when)
        at_once[when] = Moved(place, amount + before.amount if before else amount)
    net = [each for each in at_once.values() if abs(each.amount) > _NO_MONEY]
    units = [UnitFlow(*times.units(place), amount) for place, amount in net]
    us = only_rate(UnitFlows(units), a_year)
    years = [UnitFlow(times.years(place), 0.0, amount) for place, amount in net]
    eu = only_rate(UnitFlows(years), 1)
    us_apr = None if us is None else a_year * us
    if us is not None and len(net) == 2:
        (begins, lent), (ends, paid) = sorted(net, key=lambda each: -each[1])
        us_apr = single_rate(-paid / lent, _single_term(begins, ends, times))
    cost: YearlyCost = {"us_apr": _told(us_apr), "eu_aprc": _told(eu)}
    return cost, None if eu is None else log1p(eu) / a_year


#: Sums of floats below this are nothing.
_NO_MONEY: Final = 1e-9


def only_rate(flows: UnitFlows, a_year: float) -> float | None:
    """The rate of one unit at which flows balance, where it is the only one."""
    if not flows.has_both:
        return None
    low = LEAST_GROWTH ** (1 / a_year) - 1
    rates = crossings_in_floats(flows, low, MOST_GROWTH ** (1 / a_year) - 1)
    return rates[0] if len(rates) == 1 else None


class Term(NamedTuple):
    """The time between the one advance and the one payment: so many unit-periods of which `a_year`
    make a year, `fraction` of one bearing simple interest."""

    a_year: float
    whole: int
    fraction: float


def single_rate(ratio: float, term: Term) -> float:
    """The actuarial rate a year of one advance and one payment that is `ratio` of it."""
    if not term.fraction:
        return term.a_year * expm1(log(ratio) / term.whole)

    def height(rate: float) -> tuple[float, float]:
        growth = log1p(term.fraction * rate) + term.whole * log1p(rate)
        slope = term.fraction / (1 + term.fraction * rate) + term.whole / (1 + rate)
        return growth - log(ratio), slope

    rate = newton_between(
        height,
        -1.0 + 1e-15,
        max(1.0, ratio) / term.fraction,
        0.0,
        rises=True,
        enough=lambda to: _ENOUGH * max(1.0, abs(to)),
    )
    return term.a_year * rate


def _single_term(begins: int | date, ends: int | date, times: "Times") -> Term:
    """The unit-period of one advance and one payment is the term, at most a year (12 CFR 1026
    Appendix J (b)(4) and (5)): of whole months 12 / months a year, else 365 / days."""
    if times.calendar is None:
        between, a_year = abs(times.units(ends)[0] - times.units(begins)[0]), times.a_year
        if between < a_year:
            return Term(a_year / between, 1, 0.0)
        years, over = divmod(between, a_year)
        return Term(1.0, int(years), over / a_year)
    first, last = sorted(times.day(place) for place in (begins, ends))
    months = steps_back(first, last, _MONTH)
    whole = months // 12
    rest = months_later(last, -12 * whole)
    is_whole = months_later(last, -months) == first or months_later(first, months) == last
    fraction = months % 12 / 12 if is_whole else (rest - first).days / 365
    return Term(1.0, whole, fraction) if whole else Term(1 / fraction, 1, 0.0)


class Times:
    """How far from the start payments (0: the start) and days lie; each is counted once."""

    def __init__(self, calendar: Calendar | None, a_year: int, *, in_advance: bool) -> None:
        self.calendar, self.a_year, self._in_advance = calendar, a_year, in_advance
        self._days: dict[int, date] = {}
        self._years: dict[int | date, float] = {}
        self._units: dict[int | date, tuple[float, float]] = {}

    def day(self, place: int | date) -> date:
        """The day of a place, of a loan with dates."""
        if isinstance(place, date):
            return place
        if self.calendar is None:
            raise ValueError("a number without dates")
        known = self._days.get(place)
        if known is None:
            known = self.calendar.payment(place) if place else self.calendar.start
            self._days[place] = known
        return known

    def moment(self, place: int | date) -> float | date:
        """When a place is, to be compared with others."""
        return self.day(place) if self.calendar else self.units(place)[0]

    def units(self, place: int | date) -> tuple[float, float]:
        """Whole unit-periods from the start, and the fraction of one before them.

        Payments lie whole unit-periods after the first, whatever the days of their months.
        """
        known = self._units.get(place)
        if known is None:
            known = self._units[place] = self._counted_units(place)
        return known

    def _counted_units(self, place: int | date) -> tuple[float, float]:
        calendar = self.calendar
        if place == 0:
            return 0.0, 0.0
        if isinstance(place, int):
            if calendar is None:
                return float(place) - (1 if self._in_advance else 0), 0.0
            odd = self._odd
            return float(odd.whole + place - 1), float(odd.fraction)
        if calendar is None:
            raise ValueError("a day without dates")
        odd = odd_time(calendar.start, place, calendar.step)
        return float(odd.whole), float(odd.fraction)

    @cached_property
    def _odd(self) -> OddTime:
        if self.calendar is None:
            raise ValueError("an odd time without dates")
        return odd_time(self.calendar.start, self.calendar.first, self.calendar.step)

    def years(self, place: int | date) -> float:
        """Years from the start, by 2014/17/EU Annex I."""
        known = self._years.get(place)
        if known is None:
            known = self._years[place] = self._counted_years(place)
        return known

    def _counted_years(self, place: int | date) -> float:
        if place == 0:
            return 0.0
        if self.calendar is None:
            return self.units(place)[0] / self.a_year
        return years_between(self.calendar.start, self.day(place), self.calendar.step)


@lru_cache(maxsize=8)
def times_of(calendar: Calendar | None, a_year: int, in_advance: bool) -> Times:
    """Those of a loan, kept for its next question."""
    return Times(calendar, a_year, in_advance=in_advance)
