"""Business days as people type them: the calendars, by code or by the name of a country."""

from typing import Any

from pydantic_core import PydanticCustomError

from zephyrant.texts import worded

from ..document.business_days import calendars_in_words, codes_of
from .parsing import Reading
from .statement import Statement


def read_calendars(typed: str) -> Reading:
    """Calendars as they are listed: `DE`, `DE, TARGET`, `Germany and TARGET`; the value is each of
    them, with a space between."""
    try:
        codes = codes_of(typed)
    except PydanticCustomError as refused:
        return Reading(error=refused.message())
    if not codes:
        return Reading(
            error=worded("Nothing is stated here. Write calendars such as DE, or DE and TARGET.")
        )
    return Reading(value=" ".join(codes), text=calendars_in_words(codes))


def days_readings(statement: Statement) -> dict[str, Reading]:
    """How the calendars are read, where business days are stated."""
    if statement.business_days is None:
        return {}
    return {"business_days.calendars": read_calendars(statement.business_days.calendars)}


def days_document(statement: Statement, value: dict[str, str]) -> dict[str, Any]:
    """Business days as the document holds them."""
    typed = statement.business_days
    if typed is None:
        return {}
    calendars = value["business_days.calendars"].split()
    return {
        "business_days": {"calendars": calendars, "roll": typed.roll, "adjusted": typed.adjusted}
    }
