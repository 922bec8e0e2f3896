"""Parts of a whole as people type them: `5; 5; 20; 70`, `4 × 5; 80`, `4 of 5, then 80`."""

import re
from decimal import Decimal
from typing import Final

from zephyrant.texts import worded

from ..document.limits import MOST_PAYMENTS
from ..document.repayment import percents_in_words
from ..numbers.decimals import plain
from ..wording.marks import Marks
from .parsing import Reading, Unreadable, quote_typed, read_number, tidy

#: So many parts alike.
_ALIKE: Final = re.compile(r"(\d{1,5}) ?(?:[x×*]|times|of) ?(.+)")
#: What stands between two parts.
_BETWEEN: Final = re.compile(r";|, | and | then |\n")


def read_percents(typed: str, marks: Marks) -> Reading:
    """Parts in percent; the value is each of them in turn, with a space between."""
    lines = " ; ".join(line for line in typed.splitlines() if line.strip())
    text = tidy(lines).replace("%", "")
    if not text.strip():
        return Reading(error=worded("State what each payment repays, such as 4 × 5; 20; 60."))
    pieces = [piece.strip() for piece in _BETWEEN.split(text) if piece.strip()]
    if len(pieces) == 1:
        # Without any sign between them, spaces part them.
        pieces = re.sub(r" ?([x×*]) ?", r"\1", pieces[0]).split()
    percents: list[Decimal] = []
    for piece in pieces:
        found = _ALIKE.fullmatch(piece)
        times, number = (int(found[1]), found[2]) if found else (1, piece)
        try:
            read = read_number(number, marks)
        except Unreadable as error:
            return Reading(error=str(error))
        if read is None:
            return Reading(
                error=worded(
                    "{typed} is no percent. Write the parts as 4 × 5; 20; 60.",
                    typed=quote_typed(piece),
                )
            )
        if len(percents) + times > MOST_PAYMENTS:
            return Reading(error=worded("There are at most {most} parts.", most=MOST_PAYMENTS))
        percents += [read.value] * times
    return Reading(
        value=" ".join(plain(each) for each in percents),
        text=percents_in_words(percents, marks),
    )
