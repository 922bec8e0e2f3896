"""A line read into a loan document."""

from typing import NamedTuple

from ..calendars import frequencies
from ..document.loan import Loan
from ..wording.marks import MARKS, Marks
from .assembling import Assembling
from .figures import Figures, marks_shown
from .read import LineError, Piece
from .scanning import MOST_CHARACTERS, plainly, scan


class Line(NamedTuple):
    """A line as it was read: the loan it says, unless something is wrong or missing; each piece
    with where it went; the paths of the figures that are missing."""

    loan: Loan | None
    read: tuple[Piece, ...]
    errors: tuple[LineError, ...]
    missing: tuple[str, ...] = ()


def read_line(
    line: str,
    marks: Marks = MARKS["comma-point"],
    currency: str = "EUR",
    every: frequencies.Frequency = "month",
) -> Line:
    """What a line says of a loan.

    `marks`: how its numbers are read where none of them shows it; `currency` and `every` hold where
    it says neither, as guesses.
    """
    if len(line) > MOST_CHARACTERS:
        message = f"This is too long for a line: at most {MOST_CHARACTERS} characters."
        return Line(None, (), (LineError(message=message, at=(0, len(line))),))
    text, places = plainly(line)
    if not text.strip(" ;,."):
        message = "Nothing is said here. Write it such as 43,700 at 5.4 % over 4 years."
        return Line(None, (), (LineError(message=message, at=(0, len(line))),))
    facts, unread = scan(text)
    figures = Figures(marks_shown(text, marks), currency, every)
    assembling = Assembling(line, facts, places, figures)
    for each in unread:
        at = places[each.begin], places[each.end]
        said = line[at[0] : at[1]].strip()
        message = f"“{said[:60]}” is not understood here."
        assembling.errors.append(LineError(message=message, at=at))
    loan = assembling.document()
    return Line(loan, tuple(assembling.read), tuple(assembling.errors), tuple(assembling.missing))
