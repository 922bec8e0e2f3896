"""Where a clause of a line stands: "at 12", "from 13 to 24", "for the first year", "in Dec Jan".

Times are counted out in payments once it is known how often these are made.
"""

import re
from collections.abc import Callable
from typing import Any, Final

from zephyrant.texts import worded

from ..calendars.days_in_words import read_day
from .slots import (
    DAY,
    INTEGER,
    MONTH_LIST,
    ORDINALS,
    PAYMENTS,
    TERM_AFTER,
    day_in,
    in_figures,
    months_of,
)

_ORDINAL: Final = "(?:" + "|".join(ORDINALS) + ")"
_SPOT: Final = rf"(?:{PAYMENTS}\s)?(?:number\s)?(?:{DAY}|{INTEGER})"
_TO: Final = r"(?:\s?(?:to|until|till|through|up\sto)\s|\s?[–-]\s?)"

#: Every way a place is said; the groups are read by what stands beside it.
_AT: Final = (
    rf"(?:at|with|after)\s(?:the\s)?(?:{PAYMENTS}\s)?(?:number\s)?{INTEGER}"
    rf"(?!\s?(?:%|{DAY}))(?:\s{PAYMENTS}(?!\s(?:of|is|are)))?(?![.,]?[0-9])"
)
_AT_START: Final = r"at\s(?:the\s)?(?:very\s)?(?:start|beginning|outset)"
_ON: Final = rf"(?:on|at)\s{DAY}"
_AFTER: Final = rf"(?:after|at)\s(?:the\s(?:first\s)?)?{TERM_AFTER}"
_FROM: Final = rf"from\s(?:the\s)?{_SPOT}(?:\sonwards?|\son(?!\s{DAY}))?(?:{_TO}(?:the\s)?{_SPOT})?"
_BETWEEN: Final = rf"{PAYMENTS}\s{INTEGER}{_TO}{INTEGER}"
_TILL: Final = rf"(?:until|till|up\sto)\s(?:the\s)?{_SPOT}"
_FIRST: Final = (
    r"(?:(?:for|in|during|over|of)\s)?(?:the\s)?first\s"
    rf"(?:{TERM_AFTER}|{INTEGER}(?:\s{PAYMENTS})?|year|half-?\s?year|quarter|month|payment)"
)
_LAST: Final = (
    r"(?:(?:for|in|during|over|of)\s)?(?:the\s)?last\s"
    rf"(?:{TERM_AFTER}|{INTEGER}(?:\s{PAYMENTS})?|year|half-?\s?year|quarter|month|payment)"
)
_YEAR: Final = rf"(?:in|during|for)\s(?:year\s{INTEGER}(?:{_TO}{INTEGER})?|the\s{_ORDINAL}\syear)"
_FROM_YEAR: Final = (
    rf"from\s(?:year\s{INTEGER}(?:{_TO}(?:year\s)?{INTEGER})?|the\s{_ORDINAL}\syear)(?:\son)?"
)
_MONTHS: Final = (
    rf"(?:(?:every\syear\s)?(?:in|each|every|during)\s)(?:the\smonths\sof\s)?{MONTH_LIST}"
)
_STRETCHES: Final = (_FROM_YEAR, _FROM, _BETWEEN, _TILL, _YEAR, _FIRST, _LAST)

#: A stretch; any place.
STRETCH: Final = "(?:" + "|".join(_STRETCHES) + ")"
PLACE: Final = (
    "(?:" + "|".join((rf"{STRETCH}(?:\s{_MONTHS})?", _MONTHS, _AT_START, _ON, _AFTER, _AT)) + ")"
)
#: The whole of a loan.
WHOLE: Final = "from 1"

#: How many payments a time makes.
Counted = Callable[[str], int]


class PlaceError(ValueError):
    """A place that cannot be told; its text is the sentence."""


def place_of(said: str, counted: Counted, count: int | None) -> dict[str, Any]:
    """The place as a document has it.

    `counted` tells how many payments a time makes; `count` how many there are, where stated. Raises
    `PlaceError`.
    """
    text = " ".join(said.split())
    months = re.search(rf"{_MONTHS}$", text, re.IGNORECASE)
    if months:
        rest = text[: months.start()].strip()
        stretch = place_of(rest, counted, count) if rest else {}
        return {**stretch, "months": months_of(months[0])}
    if re.fullmatch(_AT_START, text, re.IGNORECASE):
        return {"at": 0}
    for pattern, read in _READERS:
        if re.fullmatch(pattern, text, re.IGNORECASE):
            return read(text, counted, count)
    raise PlaceError(worded("“{text}” is no place. Say at 12, or from 13 to 24.", text=text))


def _spots(text: str) -> list[int | str]:
    """The payments and days that are named, in their order."""
    found: list[int | str] = []
    for spot in re.findall(rf"{DAY}|\b{INTEGER}", text, re.IGNORECASE):
        day = read_day(day_in(spot)) if re.fullmatch(DAY, spot, re.I) else None
        found.append(day.isoformat() if day else int(spot))
    return found


def _at(text: str, _counted: Counted, _count: int | None) -> dict[str, Any]:
    return {"at": _spots(text)[-1]}


def _after(text: str, counted: Counted, _count: int | None) -> dict[str, Any]:
    return {
        "at": counted(
            in_figures(re.sub(r"^(after|at) (the (first )?)?", "", text, flags=re.IGNORECASE))
        )
    }


def _stretch(text: str, _counted: Counted, _count: int | None) -> dict[str, Any]:
    begin, *rest = _spots(text)
    return {"from": begin, "to": rest[0]} if rest else {"from": begin}


def _till(text: str, _counted: Counted, _count: int | None) -> dict[str, Any]:
    return {"from": 1, "to": _spots(text)[0]}


def _length(text: str, counted: Counted) -> int:
    """How many payments "first two years" or "first 6" are."""
    said = re.sub(r"^.*?\b(?:first|last) ", "", text, flags=re.IGNORECASE)
    said = re.sub(r" (?:payments?|instal?lments?)$", "", said, flags=re.IGNORECASE)
    if re.fullmatch(r"payment", said, re.IGNORECASE):
        return 1
    if re.fullmatch(INTEGER, said, re.IGNORECASE):
        return int(said)
    return counted(
        f"1 {said}" if re.match(r"(?:year|half|quarter|month)", said, re.I) else in_figures(said)
    )


def _first(text: str, counted: Counted, _count: int | None) -> dict[str, Any]:
    return {"from": 1, "to": _length(text, counted)}


def _last(text: str, counted: Counted, count: int | None) -> dict[str, Any]:
    if count is None:
        raise PlaceError(worded("The last payments need their number: state the term."))
    return {"from": max(1, count + 1 - _length(text, counted)), "to": count}


def _year(text: str, counted: Counted, count: int | None) -> dict[str, Any]:
    """The payments of a year of the loan; "from year 2" runs on."""
    each = counted("1 year")
    ordinal = re.search(rf"\b{_ORDINAL}\b", text, re.IGNORECASE)
    numbers = [ORDINALS[ordinal[0].lower()]] if ordinal else _spots(text)
    first = int(numbers[0])
    place = {"from": (first - 1) * each + 1}
    if len(numbers) > 1 or not text.lower().startswith("from"):
        last = int(numbers[-1]) * each
        return {**place, "to": min(last, count) if count else last}
    return place


_READERS: Final = (
    (_FROM_YEAR, _year),
    (_YEAR, _year),
    (_FROM, _stretch),
    (_BETWEEN, _stretch),
    (_TILL, _till),
    (_FIRST, _first),
    (_LAST, _last),
    (_ON, _at),
    (_AFTER, _after),
    (_AT, _at),
)
