"""The floating rate of the loan of a row, as a table says it: an index of those that are stated for
all rows, and what is added to it."""

import re
from collections.abc import Mapping
from typing import Any, Final

from zephyrant.texts import worded

from ..calendars.frequencies import Frequency
from ..document.fields import UNKNOWN
from ..errors import NotALoan
from ..statement.typed_amounts import read_percent
from ..wording.marks import Marks
from .columns import FieldName

_BOUNDS: Final[tuple[FieldName, ...]] = ("floor", "cap", "first_rate")


def is_floating(text: Mapping[FieldName, str]) -> bool:
    """Whether a row names an index."""
    return bool(text.get("index"))


def floating_of(text: Mapping[FieldName, str], marks: Marks, every: Frequency) -> dict[str, Any]:
    """What the rate of a row says beside how it is quoted; raises `NotALoan` where that cannot be
    read. A margin that is left empty is asked for; nothing said
    of them, resets are as often as payments, `every`."""
    margin = text.get("margin", "") or UNKNOWN
    rate: dict[str, Any] = {
        "index": text["index"],
        "margin": read_percent(margin, marks).at("margin"),
        "resets": text.get("resets", "").lower() or every,
    }
    for name in _BOUNDS:
        if typed := text.get(name, ""):
            field = "first" if name == "first_rate" else name
            rate[field] = read_percent(typed, marks).at(name)
    if level := re.sub(r"[^a-z]", "", text.get("at_resets", "").lower()):
        if level not in ("relevel", "setanew", "kept", "stay"):
            raise NotALoan.at(
                "at_resets",
                worded("Write “re-level” where payments are set anew with the rate, or “kept”."),
            )
        if level in ("relevel", "setanew"):
            rate["then"] = "re-level"
    return rate
