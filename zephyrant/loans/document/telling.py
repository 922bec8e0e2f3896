"""A figure told to people by its kind: its digits, its unit, its rounding; and how far two are
apart. Money differs in money, rates in basis points (hundredths of a percent), dates in days."""

from datetime import date
from decimal import Decimal
from typing import Final

from ..calendars.days_in_words import write_day
from ..numbers.decimals import percent_text, plain
from ..wording.marks import Marks, Money, Number, Percent
from .named import Kind

#: Decimals of a percent that stands alone as what was found, and of anything before it is rounded.
_HEADLINE_PLACES: Final = 6
_UNROUNDED_PLACES: Final = 9
#: Decimals of how many times a cash flow is the payments.
_RATIO_PLACES: Final = 4
#: Decimals of a count that was not found whole.
_COUNT_PLACES: Final = 4
#: More than a stated amount has.
_ALL_PLACES: Final = 20


def in_sentence(kind: Kind, value: Decimal, decimals: int) -> Money | Number | Percent | str:
    """A figure as it stands in a sentence; a day by its number in the count of days."""
    match kind:
        case "day":
            return write_day(date.fromordinal(int(value)))
        case "percent":
            return Percent(value)
        case "ratio":
            return Number(value, _RATIO_PLACES, 2)
        case "count":
            return Number(value, _COUNT_PLACES)
    return Money(value, decimals)


def told(kind: Kind, value: Decimal, marks: Marks, decimals: int) -> str:
    """The same written out; of money no digit is dropped."""
    if kind == "money":
        return marks.number(value, _ALL_PLACES, decimals)
    words = in_sentence(kind, value, decimals)
    return words if isinstance(words, str) else words.say(marks)


def headline(kind: Kind, text: str, marks: Marks) -> str:
    """What was found, told large and without its unit; `text`: as an answer has it."""
    if kind in ("percent", "ratio"):
        return marks.number(Decimal(text), _HEADLINE_PLACES, 2 if kind == "ratio" else 0)
    return marks.write(text)


def before_rounding(text: str, marks: Marks) -> str:
    """A figure before it is rounded, to nine decimals."""
    return marks.number(Decimal(text), _UNROUNDED_PLACES)


def in_plain(kind: Kind, value: Decimal, decimals: int) -> str:
    """The same as files and other programs read it: a plain decimal, an ISO date."""
    match kind:
        case "day":
            return date.fromordinal(int(value)).isoformat()
        case "percent" | "ratio":
            return percent_text(value)
    return plain(value, decimals if kind == "money" else 0)


def told_apart(kind: Kind, gap: Decimal, marks: Marks, decimals: int) -> str:
    """By how much two figures of a kind differ, in its own unit."""
    match kind:
        case "percent":
            return f"{signed(marks, round(gap * 100, 2), 2, 0)} bp"
        case "day":
            return f"{signed(marks, gap, 0, 0)} days"
    return signed(marks, gap, _ALL_PLACES, decimals if kind == "money" else 0)


def signed(marks: Marks, value: Decimal, places: int, least: int) -> str:
    """A number with its sign; nothing is ±0."""
    text = marks.number(abs(value), places, least)
    if not any(digit in "123456789" for digit in text):
        return "±0"
    return f"{'+' if value > 0 else '−'}{text}"
