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
from math import exp, expm1, fsum, isfinite, log, log1p
from typing import Final, NamedTuple

from typing_extensions import TypedDict

from .dates import Calendar, Pace, months_later, odd_time, steps_back
from .figures import percent_text

_MOST_STEPS: Final = 200
_ENOUGH: Final = 1e-15
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
    return {"us_apr": _told(us_apr), "eu_aprc": _told(eu_aprc(flows, force))}


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
    runs = [
        Run(run.amount, years_between(calendar.start, day, calendar.step))
        for run in flows.runs
        for day in (calendar.payment(int(run.first) + k + 1) for k in range(run.number))
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
    at, low, high = guess, -700.0, 700.0
    for _ in range(_MOST_STEPS):
        try:
            gap, slope = _gap(lent, later, at, fraction)
        except (OverflowError, ValueError, ZeroDivisionError):
            gap, slope = (1.0, 0.0) if at < 0 else (-1.0, 0.0)
        if gap > 0:
            low = at
        else:
            high = at
        to = at - gap / slope if slope and isfinite(slope) else (low + high) / 2
        if not low <= to <= high:
            to = (low + high) / 2
        if abs(to - at) <= _ENOUGH * max(1.0, abs(to)):
            return to
        at = to
    return at


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
    worth = fsum(worths)
    rate = expm1(force)
    slope = -fsum(moments) / worth - fraction * (1 + rate) / (1 + fraction * rate)
    return log(worth / lent) - log1p(fraction * rate), slope


#: Yearly growths between which the cost of irregular flows is looked for, and in how many steps.
_GROWTHS: Final = (0.01, 101.0, 600)


def general_cost(
    moved: Sequence[Moved], calendar: Calendar | None, a_year: int, *, in_advance: bool
) -> tuple[YearlyCost, float | None]:
    """Both yearly costs of money that moves back and forth, and the force of one period.

    None where no rate fits or several do.
    """
    units = [(_units(each.place, calendar, in_advance=in_advance), each.amount) for each in moved]
    us = _one_force(units, a_year)
    years = [
        ((years_at(each.place, calendar, a_year, in_advance=in_advance), 0.0), each.amount)
        for each in moved
    ]
    eu = _one_force(years, 1)
    cost: YearlyCost = {
        "us_apr": _told(None if us is None else a_year * expm1(us)),
        "eu_aprc": _told(None if eu is None else expm1(eu)),
    }
    return cost, None if eu is None else eu / a_year


def _units(
    place: int | date, calendar: Calendar | None, *, in_advance: bool
) -> tuple[float, float]:
    """Whole unit-periods from the start, and the fraction of one before them."""
    if place == 0:
        return 0.0, 0.0
    if isinstance(place, int):
        if calendar is None:
            return float(place) - (1 if in_advance else 0), 0.0
        place = calendar.payment(place)
    if calendar is None:
        raise ValueError("a day without dates")
    odd = odd_time(calendar.start, place, calendar.step)
    return float(odd.whole), float(odd.fraction)


def years_at(
    place: int | date, calendar: Calendar | None, a_year: int, *, in_advance: bool
) -> float:
    """Years from the start to a payment (0: the start) or a day, by 2014/17/EU Annex I."""
    if place == 0:
        return 0.0
    if isinstance(place, int) and calendar is None:
        return (float(place) - (1 if in_advance else 0)) / a_year
    if calendar is None:
        raise ValueError("a day without dates")
    day = place if isinstance(place, date) else calendar.payment(place)
    return years_between(calendar.start, day, calendar.step)


def _one_force(flows: Sequence[tuple[tuple[float, float], float]], a_year: int) -> float | None:
    """The force of one unit at which flows balance, where it is the only one."""
    low, high, steps = _GROWTHS

    def gap(force: float) -> float:
        rate = expm1(force)
        return fsum(
            amount * exp(-whole * force) / (1 + fraction * rate)
            for (whole, fraction), amount in flows
        )

    ends = (log(low) / a_year, log(high) / a_year)
    points = [ends[0] + (ends[1] - ends[0]) * k / steps for k in range(steps + 1)]
    gaps = [gap(point) for point in points]
    found = [
        (points[k], points[k + 1])
        for k in range(steps)
        if gaps[k] == 0 or (gaps[k] > 0) != (gaps[k + 1] > 0)
    ]
    if len(found) != 1:
        return None
    below, above = found[0]
    rises = gap(above) > 0
    for _ in range(_MOST_STEPS):
        middle = (below + above) / 2
        below, above = (below, middle) if (gap(middle) > 0) == rises else (middle, above)
        if above - below <= _ENOUGH * max(1.0, abs(middle)):
            break
    return (below + above) / 2
