"""How the days of a row count, and its business days, as a table says them."""

import re
from collections.abc import Mapping
from typing import Any, Final

from zephyrant.texts import worded

from ..calendars.business_days import ROLLS
from ..calendars.dates import DAY_COUNTS
from ..errors import NotALoan
from ..statement.typed_days import read_calendars
from .columns import FieldName

#: Whether interest is counted to the day a payment is moved to, as a cell says it.
_ADJUSTED: Final = {"adjusted": True, "yes": True, "unadjusted": False, "no": False}
_DAY_COUNTS: Final = {name.lower(): name for name in DAY_COUNTS}


def counting_of(text: Mapping[FieldName, str]) -> dict[str, Any]:
    """The day count and the business days of a row as its document has them; raises `NotALoan`
    where they cannot be read."""
    document: dict[str, Any] = {}
    if typed := text.get("day_count", ""):
        name = re.sub(r"\bact\b", "actual", re.sub(r"\s", "", typed.lower()))
        if name not in _DAY_COUNTS:
            raise NotALoan.at(
                "day_count",
                worded(
                    "“{typed}” is no day count known here: write one of {listed}.",
                    typed=typed[:40],
                    listed=", ".join(DAY_COUNTS),
                ),
            )
        document["day_count"] = _DAY_COUNTS[name]
    if typed := text.get("business_days", ""):
        read = read_calendars(typed)
        if read.value is None:
            raise NotALoan.at("business_days", read.error or "")
        document["business_days"] = {"calendars": read.value.split(), **_moved(text)}
    return document


def _moved(text: Mapping[FieldName, str]) -> dict[str, Any]:
    """How payments are moved, and to which day interest is counted."""
    moved: dict[str, Any] = {}
    if typed := text.get("roll", ""):
        roll = re.sub(r"[^a-z]+", "-", typed.lower())
        if roll not in ROLLS:
            listed = ", ".join(ROLLS)
            raise NotALoan.at("roll", worded("Write one of {listed}.", listed=listed))
        moved["roll"] = roll
    if typed := text.get("adjusted", ""):
        if typed.lower() not in _ADJUSTED:
            raise NotALoan.at("adjusted", worded("Write “adjusted” or “unadjusted”."))
        moved["adjusted"] = _ADJUSTED[typed.lower()]
    return moved
