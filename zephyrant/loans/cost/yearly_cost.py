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
from math import exp, expm1, fsum, log, log1p
from typing import Final, NamedTuple

from typing_extensions import TypedDict

from ..calendars.dates import Calendar, odd_time
from ..numbers.decimals import percent_text
from ..roots.narrowing import newton_between, to_a_float
from .single_payment import single_rate, single_term
from .unit_flows import UnitFlow, UnitFlows, only_rate
from .unit_times import times_of

#: Forces further from 0 than this are not looked for.
_FARTHEST: Final = 700.0
#: Payments among which one advance and one payment, in net flows, can hide.
_FEW: Final = 4
#: Below this the mean time of a run is its middle.
_TINY: Final = 1e-6


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
        amount / lent, single_term(0, ends, times_of(calendar, flows.a_year, in_advance=False))
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
    is_regular = calendar.is_regular and calendar.business_days is None
    return is_regular and (step.days > 1 or (step.months > 0 and calendar.start.day <= 28))


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
        enough=to_a_float,
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
    moved: Sequence[Moved],
    calendar: Calendar | None,
    a_year: int,
    *,
    in_advance: bool,
    guess: float,
) -> tuple[YearlyCost, float | None]:
    """Both yearly costs of money that moves back and forth, and the force of one period; `guess`:
    the rate of one period it is likely to be near.

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
    us = only_rate(UnitFlows(units), a_year, guess)
    effective = None if us is None else (1 + us) ** a_year - 1
    if calendar is None or (_even(calendar) and all(isinstance(each.place, int) for each in net)):
        # Times are whole unit-periods in years, too.
        eu = effective
    else:
        years = [UnitFlow(times.years(place), 0.0, amount) for place, amount in net]
        eu = only_rate(UnitFlows(years), 1, effective)
    us_apr = None if us is None else a_year * us
    if us is not None and len(net) == 2:
        (begins, lent), (ends, paid) = sorted(net, key=lambda each: -each[1])
        us_apr = single_rate(-paid / lent, single_term(begins, ends, times))
    cost: YearlyCost = {"us_apr": _told(us_apr), "eu_aprc": _told(eu)}
    return cost, None if eu is None else log1p(eu) / a_year


#: Sums of floats below this are nothing.
_NO_MONEY: Final = 1e-9
