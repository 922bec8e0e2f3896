"""A loan document as it grows out of a line: what was read, what is wrong, where."""

from collections.abc import Iterator, Mapping, Sequence
from contextlib import contextmanager
from typing import Any, Final

from zephyrant.texts import Worded, worded

from ..document.figure_path import figure_path
from ..document.loan import Loan
from ..document.reading import check
from ..errors import NotALoan
from .figures import Figures, Unsaid
from .phrase import Fact
from .read import LineError, Piece
from .scanning import Unread

_TITLES: Final = Worded(
    {
        "currency": "currency",
        "every": "time between payments",
        "rate.compounding": "compounding",
        "rate.quoted": "meaning of the rate",
        "timing": "time of payment in a period",
        "start": "day of the start",
        "first_payment": "day of the first payment",
        "day_count": "day count",
        "odd_days": "interest of odd days",
        "business_days.calendars": "business days",
        "business_days.roll": "way of moving payments",
        "business_days.adjusted": "counting of interest",
        "we": "part we take",
        "rounding.payment": "rounding",
        "rounding.to": "rounding",
        "purchase.down": "down payment",
        "repayment": "way of repaying",
        "repayment.percents": "parts of the principal",
        "interest_shared": "way of repaying",
        "cover.cash_flows": "cash flows",
        "cover.every": "period of the cash flow",
    }
)


def flat(content: Mapping[str, Any] | Sequence[Any], way: str = "") -> Iterator[tuple[str, Any]]:
    """Each value with its path; a list of values as one."""
    named = content.items() if isinstance(content, Mapping) else enumerate(content)
    for name, value in named:
        if isinstance(value, Mapping) or _is_of_parts(value):
            yield from flat(value, f"{way}{name}.")
        elif isinstance(value, list):
            yield f"{way}{name}", ", ".join(map(str, value))
        else:
            yield f"{way}{name}", value if isinstance(value, str | int) else str(value)


def _is_of_parts(value: object) -> bool:
    return isinstance(value, list) and any(isinstance(each, Mapping) for each in value)


class Draft:
    """A document that grows out of the `facts` said in a `line`; `places`: where in it each
    character of the plain line stood."""

    def __init__(self, line: str, facts: list[Fact], places: list[int], figures: Figures) -> None:
        self.line, self.places, self.figures = line, places, figures
        self.facts = facts
        self.content: dict[str, Any] = {}
        self.read: list[Piece] = []
        self.errors: list[LineError] = []
        self.spans: dict[str, tuple[int, int]] = {}
        self.missing: list[str] = []

    def of(self, *fields: str) -> list[Fact]:
        """What is said of these fields, in the order of the line."""
        return [fact for fact in self.facts if fact.field in fields]

    def wrong(self, message: str, fact: Fact | None = None) -> None:
        """Tells what is wrong, where."""
        at = (0, len(self.line)) if fact is None else self.span(fact.begin, fact.end)
        self.errors.append(LineError(message=message, at=at))

    def misread(self, unread: list[Unread]) -> None:
        """Tells the words that no phrase fits."""
        for each in unread:
            begin, end = self.span(each.begin, each.end)
            message = f"“{self.line[begin:end].strip()[:60]}” is not understood here."
            self.errors.append(LineError(message=message, at=(begin, end)))

    def span(self, begin: int, end: int) -> tuple[int, int]:
        """Where in the line as typed a part of the plain one stands."""
        stop = self.places[end]
        while stop > self.places[begin] + 1 and self.line[stop - 1].isspace():
            stop -= 1
        return self.places[begin], stop

    def put(self, field: str, value: str | int, fact: Fact | None, *, guess: bool = False) -> None:
        """A field as it was read; the same one twice, differing, is wrong."""
        text = ""
        if fact is not None:
            begin, end = self.span(fact.begin, fact.end)
            text, guess = self.line[begin:end], guess or fact.guess
            self.spans.setdefault(field, (begin, end))
        for piece in self.read:
            if piece.field == field and piece.value != value and fact is not None:
                named = self.named(field)
                self.wrong(
                    worded(
                        "The {named} is said twice: “{text}” and “{text2}”. Say which.",
                        named=named,
                        text=piece.text,
                        text2=text,
                    ),
                    fact,
                )
                return
            if piece.field == field:
                return
        self.read.append(Piece(text=text, field=field, value=value, guess=guess))
        place, (*way, last) = self.content, field.split(".")
        for step in way:
            place = place.setdefault(step, {})
        place[last] = value

    def seed(self, content: dict[str, Any]) -> None:
        """Begins with what a document holds already."""
        self.content = {**content}
        self.read += [Piece(text="", field=name, value=value) for name, value in flat(content)]

    @contextmanager
    def at(self, fact: Fact) -> Iterator[None]:
        """What cannot be read within is told at the fact."""
        try:
            yield
        except Unsaid as error:
            self.wrong(str(error), fact)

    @staticmethod
    def named(field: str) -> str:
        """What a field is called in a sentence."""
        try:
            return figure_path(field).named.title
        except (KeyError, ValueError):
            return _TITLES.get(field, field)

    def checked(self) -> Loan | None:
        """The loan, if it can be one."""
        try:
            return check(self.content)
        except NotALoan as wrong:
            for error in wrong.errors:
                spans = [
                    (len(field), span)
                    for field, span in self.spans.items()
                    if f"{error.field}.".startswith(f"{field}.")
                    or f"{field}.".startswith(f"{error.field}.")
                ]
                at = max(spans)[1] if spans and error.field else (0, len(self.line))
                self.errors.append(LineError(message=error.message, at=at))
            return None
