"""Business days in a document: whose, how a payment is moved that falls on another, and whether
interest is counted to the day it is moved to."""

import re
from datetime import date
from functools import lru_cache
from typing import TYPE_CHECKING, Annotated, Final

from pydantic import BeforeValidator, Field, WithJsonSchema

from zephyrant.texts import worded

from ..calendars.business_days import BusinessDays, Roll, calendar_codes
from .fields import in_quotes, wrong, wrong_at
from .parts import Part

if TYPE_CHECKING:
    from .loan_fields import LoanFields

#: Calendars that are looked at together, at the most.
MOST_CALENDARS: Final = 8
#: What stands between calendars that are listed.
_BETWEEN: Final = re.compile(r"\s*(?:[,;+&/\n]|\band\b)\s*")


def calendar_code(value: object) -> str:
    """The code of a calendar; raises for what is none."""
    code = value.strip().upper() if isinstance(value, str) else ""
    if code not in calendar_codes():
        raise wrong(
            worded(
                "{value} is no calendar known here: write the two letters of a country, such as "
                "DE, or TARGET.",
                value=in_quotes(value),
            )
        )
    return code


@lru_cache(maxsize=1)
def _countries() -> dict[str, str]:
    """The codes of countries by their English names."""
    from babel import Locale  # noqa: PLC0415

    names = Locale("en").territories
    return {str(names[code]).casefold(): code for code in calendar_codes() if code in names}


def codes_of(text: str) -> tuple[str, ...]:
    """The calendars that are listed in a text, by their codes or by the English names of countries:
    "DE, TARGET", "Germany and TARGET"; raises at the first that is none."""
    pieces = [piece for piece in _BETWEEN.split(text.strip()) if piece]
    if len(pieces) == 1 and _countries().get(pieces[0].casefold()) is None:
        pieces = pieces[0].split()
    codes = (calendar_code(_countries().get(piece.casefold(), piece)) for piece in pieces)
    return tuple(dict.fromkeys(codes))


CalendarCode = Annotated[
    str,
    BeforeValidator(calendar_code),
    WithJsonSchema({"type": "string", "pattern": "^([A-Z]{2}|TARGET)$"}),
]


def _not_too_many(given: object) -> object:
    if isinstance(given, list | tuple) and not 1 <= len(given) <= MOST_CALENDARS:
        raise wrong(worded("State from 1 to {most} calendars.", most=MOST_CALENDARS))
    return given


class MovedDays(Part):
    """The calendars whose business days payments are made on, and how one is moved that falls on
    another day. `adjusted`: interest is counted to the day it is moved to."""

    calendars: Annotated[tuple[CalendarCode, ...], BeforeValidator(_not_too_many)] = Field(
        json_schema_extra={"minItems": 1, "maxItems": MOST_CALENDARS},
        description="Countries by their two letters, or TARGET; closed where any of them is.",
    )
    roll: Roll = "following"
    adjusted: bool = False

    @property
    def as_days(self) -> BusinessDays:
        """The same as the calendar takes it."""
        return BusinessDays(self.calendars, self.roll, self.adjusted)


def calendars_in_words(codes: tuple[str, ...]) -> str:
    """Calendars as one lists them: "DE + TARGET"."""
    return " + ".join(codes)


def check_business_days(loan: "LoanFields") -> None:
    """Raises where business days do not go with the rest of the document."""
    stated = loan.business_days
    if stated is None:
        return
    if loan.start is None:
        raise wrong_at(
            "business_days", worded("Business days belong to loans with dates: state the start.")
        )
    if stated.adjusted and loan.day_count == "equal":
        raise wrong_at(
            "business_days.adjusted",
            worded(
                "Where every period is alike its days do not matter: count days, or leave the "
                "interest unadjusted."
            ),
        )
    known = stated.as_days.known
    last = _last_day(loan)
    if loan.start.year in known and last is not None and last.year in known:
        return
    raise wrong_at(
        "business_days.calendars",
        worded(
            "The holidays of {calendars} are known from {first} to {last}: the loan lies outside "
            "of that.",
            calendars=calendars_in_words(stated.calendars),
            first=known.first,
            last=known.last,
        ),
    )


def _last_day(loan: "LoanFields") -> date | None:
    """The last day that the loan is stated to have; none where that is not known."""
    calendar, count = loan.calendar, loan.count
    if calendar is None or calendar.most_payments() < 1:
        return None
    over = loan.amortized_over
    numbers = [each for each in (count, over, 1) if isinstance(each, int) and each]
    try:
        return calendar.last_day(max(numbers))
    except OverflowError:
        return None
