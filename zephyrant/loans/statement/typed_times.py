"""Counts, times, days and places as people type them."""

import re
import unicodedata
from decimal import Decimal
from fractions import Fraction
from typing import Final

from zephyrant.texts import ENGLISH, read_as, worded

from ..calendars import frequencies
from ..calendars.days_in_words import read_days, write_day
from ..document.fields import UNKNOWN
from ..numbers.decimals import plain, precise
from ..quotes.styles import Time
from ..wording.marks import Marks
from .parsing import (
    FRACTION_PLACES,
    MOST_CHARACTERS,
    PLACES,
    Reading,
    Unreadable,
    quote_typed,
    read_number,
    read_typed,
    reading_of,
    tidy,
    without,
)

_A_YEAR: Final = {"y": 1, "h": 2, "q": 4, "m": 12, "w": 52, "d": 365}
_PERIODS: Final[dict[str, frequencies.UnitName]] = {
    "y": "year",
    "h": "half-year",
    "q": "quarter",
    "m": "month",
    "w": "week",
    "d": "day",
}
_UNITS: Final = re.compile(
    r"(y|yr|yrs|year|years|h|half-years?|q|quarters?|m|mo|mth|mths|months?|w|wk|wks|weeks?|d|days?)"
)


def read_count(typed: str, marks: Marks, every: frequencies.Frequency) -> Reading:
    """A number of payments, or a term that is made of them: `60`, `5 years`, `5y6m`."""

    def reader(text: str) -> Reading:
        text, _ = without(text, "payments", "payment")
        number = None if re.search(r"[a-z]", text) else read_number(text, marks)
        if number is not None:
            return reading_of(number, lambda value: marks.number(value, PLACES))
        total = _term_in_payments(text, marks, frequencies.a_year(every))
        period = frequencies.period(every)
        if total.denominator != 1:
            shown = marks.number(Decimal(total.numerator) / total.denominator, 2)
            raise Unreadable(
                worded(
                    "{typed} is {shown}: a whole number is needed.",
                    typed=quote_typed(typed),
                    shown=period.payments(shown),
                )
            )
        count = str(total.numerator)
        shown = marks.write(count)
        return Reading(value=count, text=shown, note=f"{typed.strip()} = {period.payments(shown)}.")

    return read_typed(typed, worded("a number of payments"), worded("60, 5 years or 5y6m"), reader)


def read_time(typed: str, marks: Marks) -> Reading:
    """The time a quote is charged for: `90 days`, `6m`, `1.5 years`; its value is "90 day"."""

    def reader(text: str) -> Reading:
        parts = _time_parts(text, marks)
        unit = parts[0][1] if len(parts) == 1 else "m"
        number = sum(value * Fraction(_A_YEAR[unit], _A_YEAR[of]) for value, of in parts)
        with precise():
            whole = round(Decimal(number.numerator) / number.denominator, FRACTION_PLACES)
        period = _PERIODS[unit]
        return Reading(value=f"{plain(whole)} {period}", text=time_text(whole, period, marks))

    reading = read_typed(
        typed,
        "a time",
        worded("90 days, 6 months or {years} years", years=marks.write("1.5")),
        reader,
    )
    if reading.value == UNKNOWN:
        return Reading(
            error=worded("The time a quote is charged for has to be stated, such as 90 days.")
        )
    return reading


def read_date(typed: str) -> Reading:
    """A day: `2027-03-01`, `1 Mar 2027`, `1.3.2027`; nothing where there is none."""
    if not typed.strip():
        return Reading()
    days = read_days(unicodedata.normalize("NFKC", typed))
    if not days:
        return Reading(
            error=worded(
                "{typed} is no day of the calendar. Write it as 1 Mar 2027 or 2027-03-01.",
                typed=quote_typed(typed),
            )
        )
    text = write_day(days[0])
    other = write_day(days[1]) if len(days) > 1 else None
    note = worded("Read as {text}.", text=text) if other else None
    return Reading(value=days[0].isoformat(), text=text, note=note, other=other)


def time_text(number: Decimal, period: str, marks: Marks) -> str:
    """A time as one would type it, in the English of what is typed: "90 days"."""
    with read_as(ENGLISH):
        return frequencies.number_of(marks.number(number, PLACES), period)


def time_of(reading: Reading) -> Time | None:
    """The time that was read, if one was."""
    if reading.value is None:
        return None
    number, _, period = reading.value.partition(" ")
    return Time(Fraction(number), _PERIODS[period[0]])


def _term_in_payments(text: str, marks: Marks, a_year: int) -> Fraction:
    parts = _time_parts(text, marks)
    return sum((value * Fraction(a_year, _A_YEAR[unit]) for value, unit in parts), Fraction(0))


def _time_parts(text: str, marks: Marks) -> list[tuple[Fraction, str]]:
    """Each number of a time with the letter of its unit."""
    read: list[tuple[Fraction, str]] = []
    number = ""
    for part in re.findall(r"[\d.,/ ]+|[^\d.,/ ]+", text):
        if part[0] in "0123456789.,/ ":
            number = part.lstrip(" ,").rstrip()
        elif number or part != "and":
            value = read_number(number, marks) if number[-1:].isdecimal() else None
            if value is None or not _UNITS.fullmatch(part):
                raise ValueError(text)
            read.append((Fraction(value.value), part[0]))
            number = ""
    if number or not read:
        raise ValueError(text)
    return read


def read_place(typed: str, marks: Marks, *, may_be_open: bool = False) -> Reading:
    """Where a clause stands: the number of a payment, 0 for the start, or a day."""
    if may_be_open and not typed.strip():
        return Reading()
    if read_days(unicodedata.normalize("NFKC", typed)):
        return read_date(typed)
    text = tidy(typed).removeprefix("payment ")
    if len(text) > MOST_CHARACTERS:
        return Reading(error=worded("This is too long to be a place: it is a payment or a day."))
    if text.isdecimal():
        return Reading(value=str(int(text)), text=marks.write(str(int(text))))
    if not text:
        return Reading(
            error=worded("Nothing is stated here. Write the number of a payment, or a day.")
        )
    return Reading(
        error=worded(
            "{typed} is no place. Write the number of a payment, 0 for the start, or a day.",
            typed=quote_typed(typed),
        )
    )
