"""Business days once more from the contract: closed days by the rules of the law, where payments
move, to which day interest is counted.

Easter by the anonymous Gregorian computus (Nature, 1876; from memory), the national holidays of
Germany since 1991 and those of TARGET since 2002 from memory.
"""

from datetime import date, timedelta
from typing import Any

from .oracle import Deal, Period, Row

DAY = timedelta(days=1)


def easter(year: int) -> date:
    a, b, c = year % 19, year // 100, year % 100
    d, e, f = b // 4, b % 4, (b + 8) // 25
    g = (b - f + 1) // 3
    h = (19 * a + b - d - g + 15) % 30
    i, k = c // 4, c % 4
    m = (32 + 2 * e + 2 * i - h - k) % 7
    n = (a + 11 * h + 22 * m) // 451
    month, day = divmod(h + m - 7 * n + 114, 31)
    return date(year, month, day + 1)


def holidays(code: str, year: int) -> set[date]:
    sunday = easter(year)
    days = {date(year, 1, 1), date(year, 5, 1), date(year, 12, 25), date(year, 12, 26)}
    days |= {sunday - 2 * DAY, sunday + DAY}
    if code == "DE":
        days |= {sunday + 39 * DAY, sunday + 50 * DAY, date(year, 10, 3)}
        if year == 2017:
            # Five hundred years of the Reformation: in the whole country, that once.
            days.add(date(2017, 10, 31))
    return days


def is_open(day: date, calendars: list[str]) -> bool:
    return day.weekday() < 5 and all(day not in holidays(code, day.year) for code in calendars)


def rolled(day: date, calendars: list[str], roll: str) -> date:
    def first_open(step: timedelta) -> date:
        found = day
        while not is_open(found, calendars):
            found += step
        return found

    ahead = first_open(DAY)
    if roll == "preceding" or (roll == "modified-following" and ahead.month != day.month):
        return first_open(-DAY)
    return ahead


class BusinessDeal(Deal):
    """A document that may have business days."""

    def __init__(self, content: dict[str, Any]) -> None:
        super().__init__(content)
        self.stated = content.get("business_days")
        self.adjusted = bool(self.stated and self.stated.get("adjusted"))

    def made(self, number: int) -> date | None:
        """The day on which a payment is made."""
        stood = super().due(number)
        if self.stated is None or stood is None or stood == self.start:
            return stood
        return rolled(stood, self.stated["calendars"], self.stated.get("roll", "following"))

    def due(self, number: int) -> date | None:
        """The day up to which interest is counted."""
        return self.made(number) if self.adjusted else super().due(number)

    def before(self, number: int) -> Period | None:
        period = super().before(number)
        return period and period._replace(ends=self.due(number))

    def meets(self, place: date) -> int | None:
        """The payment that a day belongs to: on which it is made, stood, or between the two."""
        number = self.number_of(place.isoformat())
        if self.due(number) == place:
            return number
        before, made = self.made(number - 1), self.made(number)
        if number > 1 and before and before >= place:
            return number - 1
        return number if made and made <= place else None

    def holds(self, clause: dict[str, Any], number: int) -> bool:
        if self.stated is None or self.start is None:
            return super().holds(clause, number)
        stood = super().due(number)
        if "at" in clause:
            place = self.place(clause["at"])
            return (place if isinstance(place, int) else self.meets(place)) == number
        for name, sign in (("from", 1), ("to", -1)):
            if name not in clause:
                continue
            place = self.place(clause[name])
            if not isinstance(place, int):
                met = self.meets(place)
                place = met if met is not None else self.number_of(clause[name]) - (sign < 0)
            if (number < place) if sign > 0 else (number > place):
                return False
        if number == 0 and "from" not in clause:
            return False
        return "months" not in clause or bool(stood and stood.month in clause["months"])

    def days_in(self, begins: date | None, ends: date | None) -> list[date]:
        days = super().days_in(begins, ends)
        return [day for day in days if self.stated is None or self.meets(day) is None]

    def rows(self, asked: str = "payment", *, pauses: bool = False) -> list[Row]:
        return [
            row._replace(date=self.made(row.number)) if row.date == self.due(row.number) else row
            for row in super().rows(asked, pauses=pauses)
        ]
