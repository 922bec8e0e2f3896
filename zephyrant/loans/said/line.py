"""A line read into a loan document."""

from typing import NamedTuple

from zephyrant.texts import worded

from ..calendars import frequencies
from ..document.loan import Loan
from ..wording.marks import MARKS, Marks
from .assembling import Assembling
from .draft import Draft
from .figures import Figures, marks_shown
from .read import LineError, Piece
from .scanning import MOST_CHARACTERS, plainly, scan
from .usual import Usual


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
    draft, loan = assembled(line, marks, Usual(currency, every))
    return Line(loan, tuple(draft.read), tuple(draft.errors), tuple(draft.missing))


def assembled(line: str, marks: Marks, usual: Usual) -> tuple[Draft, Loan | None]:
    """The draft of a line, and the loan where it is one."""
    text, places = plainly(line[: MOST_CHARACTERS + 1])
    facts, unread = scan(text)
    figures = Figures(marks_shown(text, marks), usual.currency, usual.every)
    draft = Assembling(line, facts, places, figures)
    draft.usual = usual
    if len(line) > MOST_CHARACTERS:
        draft.wrong(
            worded(
                "This is too long for a line: at most {most} characters.",
                most=MOST_CHARACTERS,
            )
        )
    elif not text.strip(" ;,."):
        draft.wrong(worded("Nothing is said here. Write it such as 43,700 at 5.4 % over 4 years."))
    if draft.errors:
        return draft, None
    draft.misread(unread)
    return draft, draft.document()
