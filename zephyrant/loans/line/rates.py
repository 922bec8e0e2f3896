"""The rates of a loan along its line, and the interest they make."""

from bisect import bisect_left, bisect_right
from datetime import date
from fractions import Fraction
from functools import cached_property
from typing import Final, NamedTuple

from ..calendars.dates import year_fraction
from .growth import NO_TIME, Span
from .periods import PeriodRun, interests
from .pieces import strongest
from .places import Places
from .terms import Terms

#: Later than every day of a period.
_ANY_DAY: Final = date.max.toordinal() + 1


class Period(NamedTuple):
    """A period between two payments, or a part of one."""

    number: int
    before: Span
    after: Span
    begins: date | None
    ends: date | None


class Rates:
    """Which rate holds where, and the interest on 1 over periods and parts of them."""

    def __init__(self, terms: Terms, places: Places) -> None:
        self._terms = terms
        self._time = terms.time
        self._places = places
        self._interests: dict[tuple[Span, Fraction], Fraction] = {}
        #: The clauses that set the rate.
        self.rating = strongest(
            (places.rate_holds(provision, place) for place, provision in terms.having_verb("rate")),
            places,
        )
        #: The periods with which runs of like ones begin.
        self.runs = [run.first for run in terms.runs]

    def at(self, number: int, day: int) -> Fraction:
        """The rate that holds in a period, on a day of it where days matter."""
        place = self.rating.at(number, day)
        rate = None if place is None else self._terms.provisions[place].rate
        return self._terms.rate if rate is None else rate

    @cached_property
    def _days(self) -> list[date]:
        days = {
            place
            for _, provision in self._terms.having_verb("rate")
            for place in (provision.begin, provision.to)
        }
        return sorted(day for day in days if isinstance(day, date))

    @cached_property
    def turning_inside(self) -> set[int]:
        """The periods in which a rate may turn."""
        return {self._places.spot(day)[0] for day in self._days}

    # Periods

    def period(self, number: int) -> Period:
        """A period with its days."""
        run = self._run_of(number)
        begins = ends = None
        if calendar := self._time.calendar:
            # The last period of clauses alone is a whole one, wherever they stop.
            due, first = calendar.payment, number if self._time.in_advance else number - 1
            begins, ends = due(first) if first else calendar.start, due(first + 1)
        return Period(number, run.before, run.after, begins, ends)

    def _run_of(self, number: int) -> PeriodRun:
        return self._terms.runs[bisect_right(self.runs, number) - 1]

    def has_stub(self, period: Period) -> bool:
        """Whether interest runs before the first payment in advance."""
        return self._time.in_advance and period.number == 1 and period.before != NO_TIME

    def up_to_payment(self, period: Period) -> Period:
        """The part of a period that lies before its payment."""
        begins, ends = period.begins, period.ends
        if self._time.calendar and self.has_stub(period):
            begins, ends = self._time.calendar.start, period.begins
        return Period(period.number, period.before, NO_TIME, begins, ends)

    # Interest

    def of_run(self, number: int) -> tuple[Fraction, Fraction]:
        """Interest on 1 before and after a payment, where no rate turns inside its period."""
        if not self.rating.spots:
            return self._at_one_rate[bisect_right(self.runs, number) - 1]
        run, rate = self._run_of(number), self.at(number, _ANY_DAY)
        return self._over(run.before, rate), self._over(run.after, rate)

    def of_period(self, period: Period) -> tuple[Fraction, Fraction]:
        """Interest on 1 before a period's payment and after it."""
        shift = self.up_to_payment(period)
        before = self.over(shift, period.before, shift.begins, shift.ends)
        return before, self.over(period, period.after, period.begins, period.ends)

    @cached_property
    def _at_one_rate(self) -> tuple[tuple[Fraction, Fraction], ...]:
        return interests(self._terms.runs, self._terms.rate)

    def _over(self, span: Span, rate: Fraction) -> Fraction:
        """Interest on 1 over a whole span."""
        if not span.power:
            return span.simple * rate
        known = self._interests.get((span, rate))
        if known is None:
            known = self._interests[span, rate] = span.interest(rate)
        return known

    def _cuts(self, begins: date, ends: date) -> list[date]:
        """Days inside a period on which the rate changes."""
        return self._days[bisect_right(self._days, begins) : bisect_left(self._days, ends)]

    def over(self, period: Period, span: Span, begins: date | None, ends: date | None) -> Fraction:
        """Interest on 1 over a period, or from a day of it to its end."""
        if span == NO_TIME:
            return Fraction(0)
        if begins is None or ends is None or period.begins is None or period.ends is None:
            return self._over(span, self.at(period.number, 0))
        if self._places.stop is not None:
            ends = min(ends, self._places.stop)
        cuts = self._cuts(begins, ends)
        whole = not cuts and (begins, ends) == (period.begins, period.ends)
        if whole:
            return self._over(span, self.at(period.number, begins.toordinal()))
        total = Fraction(0)
        length = (period.ends - period.begins).days
        for one, other in zip([begins, *cuts], [*cuts, ends], strict=True):
            rate = self.at(period.number, one.toordinal())
            if self._time.day_count == "equal":
                total += self._over(span, rate) * Fraction((other - one).days, length)
            else:
                part = year_fraction(self._time.day_count, one, other)
                total += rate * self._time.a_year * part
        return total
