"""The periods of a loan, those that are alike together: how interest grows in them, whatever the
rate. With a rate and amounts they become stretches, which the ledger rolls; it knows nothing else.
"""

from collections.abc import Iterator
from datetime import date
from fractions import Fraction
from functools import lru_cache
from itertools import groupby, islice
from typing import NamedTuple

from ..calendars.dates import Calendar, DayCount, odd_time, year_fraction
from .growth import NO_TIME, ONE_PERIOD, Span


class PeriodRun(NamedTuple):
    """Periods `first` to `last` (None: without end) that are alike.

    Interest accrues over `before` a payment and over `after` it: in arrears all of the period lies
    before its payment, in advance after it.
    """

    first: int
    last: int | None
    before: Span
    after: Span


class PeriodRuns(tuple[PeriodRun, ...]):
    """The periods of a loan, made once for a document; the same only as itself, so that what is
    worked out for them can be kept."""

    __slots__ = ()

    def __eq__(self, other: object) -> bool:
        return self is other

    def __hash__(self) -> int:
        return id(self)


@lru_cache(maxsize=64)
def period_runs(
    calendar: Calendar | None,
    day_count: DayCount,
    odd_days: str,
    a_year: int,
    *,
    count: int | None,
    most: int,
    in_advance: bool,
) -> PeriodRuns:
    """The periods of a loan, up to `count` where that is known.

    Where it is not, periods that a day count measures are laid out up to `most` and the end of the
    calendar.
    """
    regular = _run_of(1, count, ONE_PERIOD, advance=in_advance)
    if calendar is None or (day_count == "equal" and calendar.is_regular):
        return PeriodRuns((regular,))
    if day_count == "equal":
        return PeriodRuns(_with_odd_first(calendar, odd_days, count))
    periods = min(count or most, calendar.most_payments())
    return PeriodRuns(_measured(calendar, day_count, a_year, periods))


def _run_of(first: int, last: int | None, span: Span, *, advance: bool) -> PeriodRun:
    return (
        PeriodRun(first, last, NO_TIME, span) if advance else PeriodRun(first, last, span, NO_TIME)
    )


def _with_odd_first(calendar: Calendar, odd_days: str, count: int | None) -> tuple[PeriodRun, ...]:
    whole, fraction = odd_time(calendar.start, calendar.first, calendar.step)
    odd = Span(fraction, Fraction(whole))
    if odd_days == "compound":
        odd = Span(Fraction(0), whole + fraction)
    first = PeriodRun(1, 1, odd, ONE_PERIOD if calendar.in_advance else NO_TIME)
    if count == 1:
        return (first,)
    return first, _run_of(2, count, ONE_PERIOD, advance=calendar.in_advance)


def _measured(
    calendar: Calendar, day_count: DayCount, a_year: int, most: int
) -> Iterator[PeriodRun]:
    """Periods as a day count measures them; those of one length that follow each other together."""

    def span(begins: date, ends: date) -> Span:
        return Span(a_year * year_fraction(day_count, begins, ends))

    periods = islice(calendar.periods(), most)
    spans = [span(begins, ends) for begins, ends in periods]
    number = 1
    stub = span(calendar.start, calendar.payment(1)) if calendar.in_advance else NO_TIME
    if stub.simple:
        yield PeriodRun(1, 1, stub, spans[0])
        spans, number = spans[1:], 2
    for alike, group in groupby(spans):
        length = len(list(group))
        yield _run_of(number, number + length - 1, alike, advance=calendar.in_advance)
        number += length


@lru_cache(maxsize=64)
def interests(runs: PeriodRuns, rate: Fraction) -> tuple[tuple[Fraction, Fraction], ...]:
    """Interest on 1 before and after the payments of each run of like periods."""
    return tuple((run.before.interest(rate), run.after.interest(rate)) for run in runs)
