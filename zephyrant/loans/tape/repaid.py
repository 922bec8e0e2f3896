"""How the loan of a row is repaid, as a table says it."""

import re
from collections.abc import Mapping
from typing import Any, Final

from zephyrant.texts import worded

from ..calendars.frequencies import Frequency
from ..document.repaid import as_document
from ..document.repayment import RepaidBy
from ..errors import NotALoan
from ..statement.typed_parts import read_percents
from ..statement.typed_times import read_count
from ..wording.marks import MARKS, Marks
from .columns import Defaults, FieldName

#: What tables write for a way of repaying, in small letters alone.
_WRITTEN: Final[dict[str, RepaidBy]] = {
    "level": "level",
    "levelpayments": "level",
    "annuity": "level",
    "equalprincipal": "equal-principal",
    "equalprincipalpayments": "equal-principal",
    "interestonly": "interest-only",
    "attheend": "at-the-end",
    "allattheend": "at-the-end",
    "sumofdigits": "sum-of-digits",
    "sculpted": "sculpted",
}


def repaid_of(
    text: Mapping[FieldName, str], defaults: Defaults, every: Frequency
) -> dict[str, Any]:
    """The fields of a document that say how a row is repaid: by a name, or in parts in percent.

    Raises `NotALoan` where that cannot be read.
    """
    typed, marks = text.get("repaid", ""), MARKS[defaults.marks]
    # Where both are said and do not go together the document refuses it.
    over = _over(text.get("amortized_over", ""), marks, every)
    by = _WRITTEN.get(re.sub(r"[^a-z]", "", typed.lower())) if typed else defaults.repaid
    if by is not None:
        return {**as_document(by), **over}
    parts = read_percents(typed, marks) if re.search(r"\d", typed) else None
    if parts is None or parts.value is None:
        raise NotALoan.at(
            "repaid",
            worded(
                "“{typed}” is no way of repaying: level, equal principal, interest only, at the "
                "end, or parts in percent as 4 × 5; 80.",
                typed=typed[:40],
            ),
        )
    return {**as_document("percents", percents=parts.value.split()), **over}


def _over(typed: str, marks: Marks, every: Frequency) -> dict[str, Any]:
    """Over how many payments they are reckoned, where that is said."""
    if not typed:
        return {}
    reading = read_count(typed, marks, every)
    over = reading.stated_at("amortized_over", worded("State the number."))
    return as_document("over", over=over)
