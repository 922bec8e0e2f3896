"""Days as people type them: 2027-03-01, 1 Mar 2027, 1.3.2027, 3/15/2027."""

import re
from datetime import date
from typing import Final

MONTHS: Final = (
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
)
_SHORT: Final = {name[:3].lower(): number for number, name in enumerate(MONTHS, 1)}


def read_days(typed: str) -> list[date]:
    """Every day a text can mean, the likelier first: none, one, or two for 3/4/2027.

    Where only numbers stand, the day comes before the month, unless that cannot be.
    """
    text = " ".join(typed.replace(",", " ").split()).lower()
    # The time of a day does not move it.
    text = re.sub(r"(?<=\d)[t ]\d{1,2}:\d{2}(:\d{2}(\.\d+)?)?( ?[ap]m)?z?$", "", text)
    iso = re.fullmatch(r"(\d{4})([-/.])(\d{1,2})\2(\d{1,2})", text)
    if iso:
        return _days((int(iso[1]), int(iso[3]), int(iso[4])))
    named = re.fullmatch(r"(\d{1,2})(?:st|nd|rd|th|\.)?[- ]?([a-z]{3,9})\.?[- ](\d{4}|\d{2})", text)
    if named:
        return _named(named[2], named[1], named[3])
    turned = re.fullmatch(r"([a-z]{3,9})\.? (\d{1,2})(?:st|nd|rd|th)? (\d{4})", text)
    if turned:
        return _named(turned[1], turned[2], turned[3])
    numbers = re.fullmatch(r"(\d{1,2})([./ -])(\d{1,2})\2(\d{4})", text)
    if not numbers:
        return []
    first, second, year = int(numbers[1]), int(numbers[3]), int(numbers[4])
    ways = [(year, second, first)]
    if numbers[2] == "/" and first != second:
        ways.append((year, first, second))
    return _days(*ways)


def read_day(typed: str) -> date | None:
    """The likeliest day a text means; none where it is none."""
    return next(iter(read_days(typed)), None)


def write_day(day: date) -> str:
    """ "1 Mar 2027"."""
    return f"{day.day} {MONTHS[day.month - 1][:3]} {day.year:04}"


def month_named(name: str) -> int | None:
    """The month of a name, whole or cut short ("Sept"), from 1; none where it is none."""
    number = _SHORT.get(name[:3].lower())
    is_one = number is not None and MONTHS[number - 1].lower().startswith(name.lower())
    return number if is_one else None


def _named(month: str, day: str, year: str) -> list[date]:
    number = month_named(month)
    if number is None:
        return []
    # Two digits of a year beside a month that is named: of this century up to 79.
    whole = int(year) if len(year) == 4 else int(year) + (2000 if int(year) < 80 else 1900)
    return _days((whole, number, int(day)))


def _days(*ways: tuple[int, int, int]) -> list[date]:
    found = []
    for year, month, day in ways:
        try:
            found.append(date(year, month, day))
        except ValueError:
            continue
    return found
