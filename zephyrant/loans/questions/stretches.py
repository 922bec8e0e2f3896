"""Stretches of payments and lists of them, as they are typed: the one reader of both questions."""

import re
from collections.abc import Iterator
from datetime import date
from typing import Final

from zephyrant.texts import worded

from ..calendars.days_in_words import read_day, without_commas, write_day
from ..errors import NotALoan
from ..ledger.rows import due
from .scheduled import ScheduledLoan, end_of_loan

MOST_MOMENTS: Final = 500
#: What parts several moments or stretches typed at once.
_PARTS: Final = re.compile(r"[,;]| and ")


def parts_of(typed: str) -> list[str]:
    """What is typed, one moment or stretch after the other."""
    parts = _PARTS.split(without_commas(" ".join(typed.split())))
    return [part.strip() for part in parts if part.strip()]


def every(text: str) -> int | None:
    """So many payments each: "every 12"."""
    found = re.fullmatch(r"every (\d{1,6})(?:th|st|nd|rd)?(?: payments?)?", text.lower())
    return int(found[1]) or None if found else None


def years(text: str) -> range | None:
    """Years of the loan by their numbers: "year 2", "years 1-5"."""
    found = re.fullmatch(r"years? (\d{1,5})(?: ?(?:-|–|to) ?(\d{1,5}))?", text.lower())
    return range(int(found[1]), int(found[2] or found[1]) + 1) if found else None


def year_of_calendar(asked: ScheduledLoan, text: str) -> int | None:
    """A year of the calendar in which the loan runs."""
    calendar = asked.loan.calendar
    if calendar is None or not re.fullmatch(r"\d{4}", text):
        return None
    return int(text) if calendar.start.year <= int(text) <= end_of_loan(asked).year else None


def each_of(asked: ScheduledLoan, number: int) -> Iterator[tuple[int, int]]:
    """Stretches of so many payments after each other; the last may be shorter."""
    for first in range(1, asked.last + 1, number):
        yield first, min(first + number - 1, asked.last)


def bounds(asked: ScheduledLoan, text: str, field: str) -> tuple[int, int] | None:
    """The payments that a stretch named so holds: "13-24", "year 2", "2028", "last 12", "all", two
    days; None where it is none.

    Raises `NotALoan` at `field` where it lies outside the loan.
    """
    count, each = asked.last, asked.loan.payments_a_year
    if text in ("all", ""):
        return 1, count
    edge = re.fullmatch(r"(first|last) (\d{1,6})(?: payments?)?", text)
    if edge and int(edge[2]):
        length = min(int(edge[2]), count)
        return (1, length) if edge[1] == "first" else (count - length + 1, count)
    if (told := years(text)) is not None:
        return _inside(asked, (told.start - 1) * each + 1, (told.stop - 1) * each, text, field)
    if (on_dates := _by_dates(asked, text, field)) is not None:
        return on_dates
    numbers = re.fullmatch(r"(?:payments? )?(\d{1,6})(?: ?(?:-|–|to) ?(\d{1,6}))?", text)
    if numbers:
        return _inside(asked, int(numbers[1]), int(numbers[2] or numbers[1]), text, field)
    return None


def _inside(asked: ScheduledLoan, first: int, last: int, text: str, field: str) -> tuple[int, int]:
    count = asked.last
    if first > last:
        raise NotALoan.at(field, worded("“{text}” ends before it begins.", text=text[:40]))
    if first < 1 or first > count:
        raise NotALoan.at(
            field,
            worded(
                "“{text}” lies outside the loan, which has payments 1 to {count}.",
                text=text[:40],
                count=count,
            ),
        )
    return first, min(last, count)


def _by_dates(asked: ScheduledLoan, text: str, field: str) -> tuple[int, int] | None:
    """The payments between two days, or in a year of the calendar; none where no days are meant."""
    calendar = asked.loan.calendar
    year = year_of_calendar(asked, text)
    if year is not None:
        begin, end = date(year, 1, 1), date(year, 12, 31)
    else:
        days = [read_day(part) for part in re.split(r" (?:to|until|–|-) ", text)]
        if len(days) != 2 or None in days:
            return None
        begin, end = (day for day in days if day)
    if calendar is None:
        raise NotALoan.at(
            field, worded("This loan has no dates: state its start, or name payments.")
        )
    falls_due = [(row.number, due(row, asked.loan.calendar)) for row in asked.schedule.rows]
    inside = [number for number, day in falls_due if day and begin <= day <= end]
    if not inside:
        raise NotALoan.at(
            field,
            worded(
                "No payment falls between {begin} and {end}.",
                begin=write_day(begin),
                end=write_day(end),
            ),
        )
    return inside[0], inside[-1]
