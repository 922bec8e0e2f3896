"""Business days: the days on which banks of a country are open, and where a payment is made that
falls due on another.

The holidays of countries are those of the package `holidays` (national and public; the weekend as
the country has it). TARGET, the euro's settlement: weekends, 1 January, Good Friday, Easter Monday,
1 May, 25 and 26 December.
"""

from dataclasses import dataclass
from datetime import date, timedelta
from functools import cached_property, lru_cache
from typing import TYPE_CHECKING, Final, Literal, NamedTuple, final, get_args

if TYPE_CHECKING:
    from holidays import HolidayBase

Roll = Literal["following", "modified-following", "preceding"]
ROLLS: Final[tuple[Roll, ...]] = get_args(Roll)

#: The calendar that is no country's.
TARGET: Final = "TARGET"
#: By which name the package knows it.
_TARGET_CODE: Final = "XECB"
_DAY: Final = timedelta(days=1)


class Years(NamedTuple):
    """The years for which a calendar's holidays are known."""

    first: int
    last: int

    def __contains__(self, year: object) -> bool:
        return isinstance(year, int) and self.first <= year <= self.last


#: Where the package knows fewer years than it tells: it warns so.
_KNOWN: Final = {"IN": Years(2001, 2035)}


@lru_cache(maxsize=1)
def calendar_codes() -> tuple[str, ...]:
    """The calendars there are: TARGET, then countries by their two letters (ISO 3166-1)."""
    # The package's own list asks each country for more, and loads them all.
    from holidays.registry import EntityLoader  # noqa: PLC0415

    return TARGET, *sorted(EntityLoader.get_country_codes(include_aliases=False))


def _made(code: str, year: int | None = None) -> "HolidayBase":
    from holidays import country_holidays, financial_holidays  # noqa: PLC0415

    if code == TARGET:
        return financial_holidays(_TARGET_CODE, years=year, expand=False)
    return country_holidays(code, years=year, expand=False)


@lru_cache(maxsize=512)
def known_of(code: str) -> Years:
    """The years for which the holidays of a calendar are known."""
    calendar = _made(code)
    return _KNOWN.get(code) or Years(calendar.start_year, calendar.end_year)


class _Year(NamedTuple):
    """The weekdays (0: Monday) and the days of one year on which a calendar is closed."""

    weekend: frozenset[int]
    holidays: frozenset[date]


@lru_cache(maxsize=8192)
def _year(code: str, year: int) -> _Year:
    # Outside the years that are known there are weekends alone.
    made = _made(code, year if year in known_of(code) else None)
    return _Year(frozenset(made.weekend), frozenset(made))


def _is_closed(code: str, day: date) -> bool:
    year = _year(code, day.year)
    return day.weekday() in year.weekend or day in year.holidays


@final
@dataclass(frozen=True)
class BusinessDays:
    """The days on which all of some calendars are open, and how a payment that falls on another is
    moved. `adjusted`: interest is counted to the day it is moved to.

    `moved` raises `OverflowError` beyond the years for which all their holidays are known.
    """

    calendars: tuple[str, ...]
    roll: Roll
    adjusted: bool

    @cached_property
    def known(self) -> Years:
        """The years for which the holidays of all calendars are known."""
        spans = [known_of(code) for code in self.calendars]
        return Years(max(span.first for span in spans), min(span.last for span in spans))

    def closed(self, day: date) -> tuple[str, ...]:
        """The calendars that are closed on a day."""
        return tuple(code for code in self.calendars if _is_closed(code, day))

    def moved(self, day: date) -> date:
        """The day on which a payment is made that falls due on a day: the next business day, the
        last before it (`preceding`), or the next within the month (`modified-following`)."""
        moved = self._moved.get(day)
        if moved is None:
            moved = self._rolled(day)
            if day.year not in self.known or moved.year not in self.known:
                raise OverflowError("beyond the calendar")
            self._moved[day] = moved
        return moved

    @cached_property
    def _moved(self) -> dict[date, date]:
        return {}

    def _rolled(self, day: date) -> date:
        if self.roll == "preceding":
            return self._first_open(day, -_DAY)
        ahead = self._first_open(day, _DAY)
        if self.roll == "modified-following" and ahead.month != day.month:
            return self._first_open(day, -_DAY)
        return ahead

    def earlier(self, day: date, number: int) -> date:
        """The day so many business days before one; 0: the day itself."""
        for _ in range(number):
            day = self._first_open(day - _DAY, -_DAY)
        return day

    def _first_open(self, day: date, step: timedelta) -> date:
        while any(_is_closed(code, day) for code in self.calendars):
            day += step
        return day
