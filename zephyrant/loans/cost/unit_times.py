"""How far from the start money moves, in unit-periods and in years, as the published rules count.

US: 12 CFR 1026 Appendix J, whole unit-periods and a fraction before them. EU: 2008/48/EC and
2014/17/EU Annex I, whole months (or weeks) back from each payment, then days over the days of the
year that ends there.
"""

from datetime import date
from functools import cached_property, lru_cache
from typing import Final

from ..calendars.dates import Calendar, OddTime, Pace, months_later, odd_time, steps_back

#: A month at a time.
MONTH: Final = Pace(months=1)


def years_between(start: date, day: date, step: Pace) -> float:
    """Years as Annex I counts them: whole weeks or months back from `day`, then days."""
    if step.days > 1:
        weeks, days = divmod((day - start).days, 7)
        return weeks / 52 + days / 365
    months = 0 if step.days else steps_back(start, day, MONTH)
    rest = months_later(day, -months)
    days = (rest - start).days
    if not days:
        return months / 12
    return months / 12 + days / (rest - months_later(rest, -12)).days


class Times:
    """How far from the start payments (0: the start) and days lie; each is counted once.

    Payments that business days move lie in unit-periods as though they were not (12 CFR
    1026.17(c)(3)(ii)), in years where they are made.
    """

    def __init__(self, calendar: Calendar | None, a_year: int, *, in_advance: bool) -> None:
        self.calendar, self.a_year, self._in_advance = calendar, a_year, in_advance
        self._days: dict[int, date] = {}
        self._years: dict[int | date, float] = {}
        self._units: dict[int | date, tuple[float, float]] = {}

    def day(self, place: int | date) -> date:
        """The day of a place, of a loan with dates, whatever the business days."""
        if isinstance(place, date):
            return place
        if self.calendar is None:
            raise ValueError("a number without dates")
        known = self._days.get(place)
        if known is None:
            known = self.calendar.unmoved(place) if place else self.calendar.start
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
        day = place if isinstance(place, date) else self.calendar.due(place)
        return years_between(self.calendar.start, day, self.calendar.step)


@lru_cache(maxsize=8)
def times_of(calendar: Calendar | None, a_year: int, in_advance: bool) -> Times:
    """Those of a loan, kept for its next question."""
    return Times(calendar, a_year, in_advance=in_advance)
