"""Dates: when payments fall due, day counts, and the odd time before the first payment.

Months are counted on the calendar: a payment keeps its day of the month, or the last day of a
month that is too short (31 January, 28 February, 31 March).
"""

from bisect import bisect_left
from calendar import isleap
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import MAXYEAR, date, timedelta
from fractions import Fraction
from functools import cached_property
from typing import Final, Literal, NamedTuple, final, get_args

from . import frequencies
from .business_days import BusinessDays

DayCount = Literal["equal", "30/360", "30E/360", "actual/365", "actual/360", "actual/actual"]
DAY_COUNTS: Final[tuple[DayCount, ...]] = get_args(DayCount)

#: Days of a month, and of half a one, when a part of a period is counted in days
#: (12 CFR 1026 Appendix J (b)(5)).
_MONTH_DAYS: Final = 30
_HALF_MONTH_DAYS: Final = 15
_LAST: Final = date(MAXYEAR, 12, 31)


class Pace(NamedTuple):
    """The time between payments: so many months or so many days, or half a month."""

    months: int = 0
    days: int = 0
    half: bool = False


_BY_NUMBER: Final = {
    24: Pace(half=True),
    13: Pace(days=28),
    26: Pace(days=14),
    52: Pace(days=7),
    365: Pace(days=1),
}


def pace(every: frequencies.Frequency) -> Pace | None:
    """The pace of a frequency; None where so many payments a year fall on no regular dates."""
    often = frequencies.a_year(every)
    if 12 % often == 0:
        return Pace(months=12 // often)
    return _BY_NUMBER.get(often)


def months_later(day: date, months: int) -> date:
    """The same day of the month so many months later (or earlier), or the last one of it.

    Raises `OverflowError` beyond the calendar.
    """
    year, month = divmod(day.year * 12 + day.month - 1 + months, 12)
    if not 1 <= year <= MAXYEAR:
        raise OverflowError("beyond the calendar")
    if day.day <= _SHORTEST:
        return date(year, month + 1, day.day)
    return date(year, month + 1, min(day.day, _length(year, month + 1)))


#: Days that every month has.
_SHORTEST: Final = 28


def _length(year: int, month: int) -> int:
    """The days of a month."""
    if month == 2:
        return 29 if isleap(year) else 28
    return 30 if month in (4, 6, 9, 11) else 31


def later(day: date, step: Pace, times: int) -> date:
    """`day` moved by so many steps; raises `OverflowError` beyond the calendar.

    Twice a month falls on one day up to the fifteenth and on the day fifteen days after it.
    """
    if step.days:
        return day + timedelta(days=step.days * times)
    if step.months:
        return months_later(day, step.months * times)
    whole, half = divmod(times, 2)
    base = months_later(day, whole)
    if not half:
        return base
    if day.day <= _HALF_MONTH_DAYS:
        return base.replace(day=min(day.day + _HALF_MONTH_DAYS, _length(base.year, base.month)))
    return months_later(base.replace(day=1), 1).replace(day=day.day - _HALF_MONTH_DAYS)


@final
@dataclass(frozen=True)
class Calendar:
    """When the money is lent and the payments fall due.

    With `business_days` a payment is made on the day it is `moved` to. Interest is counted up to
    that day where they are `adjusted`, else up to the one it stood on before.
    """

    start: date
    first: date
    step: Pace
    in_advance: bool
    business_days: BusinessDays | None = None

    @cached_property
    def is_regular(self) -> bool:
        """Whether the first payment is one period after the start (in advance: at it)."""
        return self.first == later(self.start, self.step, 0 if self.in_advance else 1)

    def payment(self, number: int) -> date:
        """The day of a payment, from 1 on, up to which interest is counted."""
        if self.business_days is not None and self.business_days.adjusted:
            return self.due(number)
        return self.unmoved(number)

    def due(self, number: int) -> date:
        """The day on which a payment is made; one at the start never moves."""
        day = self.unmoved(number)
        if self.business_days is None or day == self.start:
            return day
        return self.business_days.moved(day)

    def unmoved(self, number: int) -> date:
        """The day of a payment whatever the business days; a regular loan keeps the day of its
        start."""
        base, before = self._counted_from
        return later(base, self.step, number - before)

    @cached_property
    def _counted_from(self) -> tuple[date, int]:
        """A day of which every payment is some steps later, and the payment that falls on it."""
        if self.is_regular:
            return self.start, 1 if self.in_advance else 0
        return self.first, 1

    def on_or_after(self, day: date) -> tuple[int, bool]:
        """The first payment on or after a day, and whether it falls on it."""
        known = self._counted.get(day)
        if known is None:
            most = self.most_payments()
            low, high = 1, 1
            while high < most and self.payment(high) < day:
                low, high = high, min(2 * high, most)
            number = bisect_left(range(low, high + 1), day, key=self.payment) + low
            known = self._counted[day] = number, number <= most and self.payment(number) == day
        return known

    @cached_property
    def _counted(self) -> dict[date, tuple[int, bool]]:
        return {}

    def paid_on_or_after(self, day: date) -> tuple[int, bool]:
        """The same of what is paid: a payment that is moved is met on the day it is made, on that
        it stood on before, and between them."""
        number, is_on = self.on_or_after(day)
        if is_on or self.business_days is None:
            return number, is_on
        if number > 1 and self.due(number - 1) >= day:
            return number - 1, True
        return number, number <= self.most_payments() and self.due(number) <= day

    def end(self, count: int) -> date:
        """The end of the last period of `count` payments, as what is paid then is moved."""
        return self.due(count + 1 if self.in_advance else count)

    def last_day(self, count: int) -> date:
        """The last day that has to do with `count` payments: what is paid at their end, or the
        interest that is counted till then."""
        return max(self.end(count), self.payment(count + 1 if self.in_advance else count))

    def periods(self) -> Iterator[tuple[date, date]]:
        """Beginning and end of each period from the first payment's on, without end.

        In arrears period 1 begins at the start; in advance it begins with payment 1, and what
        lies before that is no period.
        """
        number = 1
        begins = self.payment(1) if self.in_advance else self.start
        while True:
            ends = self.payment(number + 1 if self.in_advance else number)
            yield begins, ends
            begins, number = ends, number + 1

    def most_payments(self) -> int:
        """How many payments fit before the end of the calendar, or of what is known of it."""
        last = _LAST
        if self.business_days is not None:
            # In its last month a payment may be moved beyond what is known.
            last = date(self.business_days.known.last, 11, 30)
        if self.step.days:
            return (last - self.first).days // self.step.days
        months = (last.year - self.first.year) * 12 + last.month - self.first.month
        return 2 * months if self.step.half else months // self.step.months


class OddTime(NamedTuple):
    """A stretch of time as whole periods and a fraction of one, the fraction first."""

    whole: int
    fraction: Fraction


def odd_time(begins: date, ends: date, step: Pace) -> OddTime:
    """Whole periods counted back from `ends`, and the fraction of one that is left before them.

    A fraction of a month is days / 30, of several months (months + days / 30) / their number, of
    half a month days / 15, of weeks and days the days by their number (12 CFR 1026 Appendix J
    (b)(5)).
    """
    if step.days:
        whole, days = divmod((ends - begins).days, step.days)
        return OddTime(whole, Fraction(days, step.days))
    whole = steps_back(begins, ends, step)
    if later(begins, step, whole + 1) == ends:
        # From the end of a month to that of a shorter one.
        return OddTime(whole + 1, Fraction(0))
    rest = later(ends, step, -whole)
    if step.half:
        return OddTime(whole, Fraction((rest - begins).days, _HALF_MONTH_DAYS))
    months = steps_back(begins, rest, Pace(months=1))
    days = (months_later(rest, -months) - begins).days
    return OddTime(whole, (months + Fraction(days, _MONTH_DAYS)) / step.months)


def steps_back(begins: date, ends: date, step: Pace) -> int:
    """How many whole steps fit between two days, counted back from the later one."""
    per_step = Fraction(step.months or Fraction(1, 2))
    # Between days of two months lies at least the whole months between the months themselves.
    months = (ends.year - begins.year) * 12 + ends.month - begins.month - 1
    whole = max(0, int(months / per_step))
    while later(ends, step, -(whole + 1)) >= begins:
        whole += 1
    return whole


def year_fraction(day_count: DayCount, begins: date, ends: date) -> Fraction:
    """The part of a year between two dates, as ISDA 2006 section 4.16 counts it.

    30/360: (f); 30E/360: (g); actual/365 fixed: (d); actual/360: (e); actual/actual: (b).
    `equal` has no fraction of its own: its periods are alike whatever their days.
    """
    days = (ends - begins).days
    match day_count:
        case "actual/365":
            return Fraction(days, 365)
        case "actual/360":
            return Fraction(days, 360)
        case "actual/actual":
            return _actual_actual(begins, ends)
        case "30/360" | "30E/360":
            return Fraction(_thirty(begins, ends, european=day_count == "30E/360"), 360)
    raise ValueError("periods that are all equal are counted, not measured")


def _actual_actual(begins: date, ends: date) -> Fraction:
    if begins.year == ends.year:
        return Fraction((ends - begins).days, _days_of(begins.year))
    first = Fraction((date(begins.year + 1, 1, 1) - begins).days, _days_of(begins.year))
    last = Fraction((ends - date(ends.year, 1, 1)).days, _days_of(ends.year))
    return first + (ends.year - begins.year - 1) + last


def _days_of(year: int) -> int:
    return (date(year, 12, 31) - date(year, 1, 1)).days + 1


def _thirty(begins: date, ends: date, *, european: bool) -> int:
    first = min(begins.day, 30)
    last = min(ends.day, 30) if european or first == 30 else ends.day
    return 360 * (ends.year - begins.year) + 30 * (ends.month - begins.month) + last - first
