"""Rows of a table that are no loans: totals, averages and notes under or between them."""

import re
from collections.abc import Sequence
from typing import Final, Literal

Apart = Literal["", "total", "note"]

_TOTAL: Final = re.compile(
    r"(?:grand |sub-?|sub |overall |portfolio )?(?:totals?|sums?|averages?|means?)\b"
    r"|weighted (?:average|mean)\b|wtd\.? ?avg\b|of which\b|count of\b"
)
#: What is told of such a row where its answer would stand.
APART_SAYS: Final[dict[Apart, str]] = {
    "total": "Set apart: this row reads as a total of others, not as a loan.",
    "note": "Set apart: this row reads as a note, not as a loan.",
}
#: What stands in a cell in which nothing is stated.
NOTHING: Final = frozenset(("", "-", "–", "—", "n/a", "na", "n.a.", "none", "nil", "null", "#n/a"))


#: Characters from which on a text is a sentence, not a name.
_SENTENCE: Final = 60


def stated(cell: str) -> str:
    """What a cell states: marks for nothing are nothing."""
    text = cell.strip()
    return "" if text.lower() in NOTHING else text


def apart(row: Sequence[str]) -> Apart:
    """What a row is that reads as no loan; "" for every other."""
    filled, words, first = 0, 0, ""
    for cell in row:
        # Most cells are numbers, and no words of a total.
        if cell and "0" <= cell[0] <= "9":
            filled += 1
            continue
        text = stated(cell)
        if not text:
            continue
        filled, first = filled + 1, first or text
        if not text[0].isalpha():
            continue
        words += 1
        if _TOTAL.match(" ".join(text.lower().split())):
            return "total"
    if not filled:
        return "note"
    # Nothing but words, one cell of them or a sentence: no figure of a loan.
    is_note = len(row) > 2 and words == filled and (filled == 1 or len(first) > _SENTENCE)
    return "note" if is_note else ""
