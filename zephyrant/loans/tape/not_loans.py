"""Rows of a table that are no loans: totals, averages and notes under or between them."""

import re
from collections.abc import Sequence
from typing import Final, Literal

from zephyrant.texts import Worded

Apart = Literal["", "total", "note"]

_TOTAL: Final = re.compile(
    r"(?:grand |sub-?|sub |overall |portfolio )?(?:totals?|sums?|averages?|means?)\b"
    r"|weighted (?:average|mean)\b|wtd\.? ?avg\b|of which\b|count of\b"
)
#: What is told of such a row where its answer would stand.
APART_SAYS: Final[Worded[Apart]] = Worded(
    {
        "total": "Set apart: this row reads as a total of others, not as a loan.",
        "note": "Set apart: this row reads as a note, not as a loan.",
    }
)
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


#: A column of numbers, or of what is asked for, a cell a line.
_NUMBERS: Final = re.compile(r"(?:(?:-?[\d.][\d.,]*|\?)\n)+", re.ASCII)
#: The words of a total at the beginning of a line, whatever space is between them. What stands
#: before them ends with the line: a column of empty cells is passed over once.
_TOTAL_IN_A_LINE: Final = re.compile(
    r"^[^\S\n]*(?:" + _TOTAL.pattern.replace(" ?", r"\s*").replace(" ", r"\s+") + ")",
    re.MULTILINE | re.IGNORECASE,
)


def aparts(columns: Sequence[Sequence[str]]) -> list[Apart]:
    """What each row of a table is, told by its columns: as `apart` tells each.

    Where a number stands in every cell of one of them no row is a note, and where no other holds
    a word of totals none is a total.
    """
    if not columns:
        return []
    texts = ["\n".join([*column, ""]) for column in columns]
    plain = [bool(_NUMBERS.fullmatch(text)) for text in texts]
    if any(plain) and not any(
        _TOTAL_IN_A_LINE.search(text)
        for text, is_plain in zip(texts, plain, strict=True)
        if not is_plain
    ):
        return [""] * len(columns[0])
    return [apart(row) for row in zip(*columns, strict=True)]
