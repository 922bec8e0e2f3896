"""Figures stated one by one, each as one would say it: put into a line, and read as lines are."""

from collections.abc import Iterator, Mapping, Sequence
from contextlib import suppress
from datetime import date
from typing import Any, Final, NamedTuple, get_args

from zephyrant.texts import worded

from ..calendars.frequencies import PERIODS
from ..document.fields import UNKNOWN
from ..document.loan import Loan
from ..document.reading import check
from ..document.repayment import InterestShared, StyleName
from ..errors import FieldError, NotALoan
from ..wording.marks import MARKS, Marks
from .assembling import Assembling
from .figures import Figures, marks_shown
from .line import Line
from .read import LineError
from .scanning import MOST_CHARACTERS, plainly, scan
from .usual import Usual


class _Said(NamedTuple):
    """How what is stated of a field stands in a line, and what it may say there."""

    words: str
    facts: tuple[str, ...]


_SAID: Final = {
    "principal": _Said("principal {}", ("principal",)),
    "rate": _Said("at {}", ("rate",)),
    "count": _Said("over {}", ("count", "term", "every", "none")),
    "payment": _Said("pays {}", ("payment", "income", "every")),
    "balance": _Said("{} left", ("balance",)),
    "every": _Said("{} payments", ("every",)),
    "timing": _Said("{}", ("timing",)),
    "repayment": _Said("{}", ("repaid",)),
    "amortized_over": _Said("as over {}", ("repaid",)),
    "interest_shared": _Said("{}", ("repaid",)),
    "start": _Said("lent {}", ("start",)),
    "first_payment": _Said("first payment {}", ("first_payment",)),
    "business_days": _Said("on business days of {}", ("business_days",)),
    "rounding": _Said("payments rounded {}", ("rounding",)),
    "price": _Said("price {}", ("price",)),
    "down": _Said("{} down", ("down",)),
    "clauses": _Said("{}", ("clause",)),
}
#: Fields that stand elsewhere in the document.
_PLACES: Final = {"price": "purchase.price", "down": "purchase.down"}
#: Texts that are the document's own names already.
_NAMED: Final = {
    "every": frozenset(PERIODS),
    "timing": frozenset(("in-arrears", "in-advance")),
    "repayment": frozenset(get_args(StyleName)),
    "interest_shared": frozenset(get_args(InterestShared)),
}


class _Stating(Assembling):
    """A draft whose document tells what is wrong by its own fields."""

    refused: tuple[FieldError, ...] = ()

    def checked(self) -> Loan | None:
        try:
            return check(self.content)
        except NotALoan as wrong:
            self.refused = wrong.errors
            return None


class _Segment(NamedTuple):
    """Where in the line a field stands."""

    field: str
    begin: int
    end: int


def read_stated(
    figures: Mapping[str, object], marks: Marks = MARKS["comma-point"], usual: Usual | None = None
) -> Line:
    """What figures stated one by one say of a loan: texts as the grammar of lines reads them,
    anything else as a document holds it; the one figure missing is the one to find.

    `price` and `down` may stand for `purchase`; `clauses` are texts, mappings, or both. Raises
    `NotALoan` with what is wrong at its field.
    """
    usual = usual or Usual()
    content, texts = _parted(figures)
    line, segments = _as_line(texts)
    if len(line) > MOST_CHARACTERS:
        raise NotALoan.at(
            "",
            worded(
                "This is too long to be read: at most {most} characters.",
                most=MOST_CHARACTERS,
            ),
        )
    plain, places = plainly(line)
    facts, unread = scan(plain)
    draft = _Stating(
        line, facts, places, Figures(marks_shown(plain, marks), usual.currency, usual.every)
    )
    draft.usual = usual
    draft.seed(content)
    draft.misread(unread)
    for fact in facts:
        begin, _ = draft.span(fact.begin, fact.end)
        field = _field_at(segments, begin)
        if field and fact.field not in _SAID[field].facts:
            draft.wrong(worded("This says more than belongs here: state it apart."), fact)
    loan = None if draft.errors else draft.document()
    if loan is None:
        raise NotALoan(draft.refused or _at_fields(draft.errors, segments))
    return Line(loan, tuple(draft.read), ())


def _parted(figures: Mapping[str, object]) -> tuple[dict[str, Any], list[tuple[str, str]]]:
    """What stands as a document has it, and the texts to be read."""
    content: dict[str, Any] = {}
    texts: list[tuple[str, str]] = []
    for name, stated in figures.items():
        if name == "clauses" and isinstance(stated, Sequence) and not isinstance(stated, str):
            texts += [(name, each) for each in stated if isinstance(each, str)]
            content[name] = [each for each in stated if not isinstance(each, str)]
        elif isinstance(stated, str) and name in _SAID and not _stands(name, stated.strip()):
            if not stated.strip():
                raise NotALoan.at(name, worded("Nothing is stated here."))
            texts.append((name, stated))
        else:
            _put(content, _PLACES.get(name, name), _held(name, stated))
    return {name: held for name, held in content.items() if held != []}, texts


def _stands(name: str, text: str) -> bool:
    """Whether a text is what a document holds, as it is."""
    if name in ("start", "first_payment"):
        with suppress(ValueError):
            return bool(date.fromisoformat(text))
    if name in ("count", "amortized_over") and text.isdecimal():
        return True
    return text == UNKNOWN or text in _NAMED.get(name, ())


def _held(name: str, stated: object) -> object:
    """A value as a document holds it."""
    if isinstance(stated, str):
        stated = stated.strip() if name in _SAID else stated
    elif isinstance(stated, date):
        return stated.isoformat()
    if name == "rate" and not isinstance(stated, Mapping):
        return {"percent": stated}
    if name == "down" and not isinstance(stated, Mapping):
        return {"percent" if stated == UNKNOWN else "amount": stated}
    return stated


def _put(content: dict[str, Any], path: str, value: object) -> None:
    *way, last = path.split(".")
    place = content
    for step in way:
        place = place.setdefault(step, {})
    place[last] = value


def _as_line(texts: list[tuple[str, str]]) -> tuple[str, list[_Segment]]:
    line, segments = "", []
    for field, text in texts:
        begin = len(line)
        line += _SAID[field].words.format(text.strip())
        segments.append(_Segment(field, begin, len(line)))
        line += "; "
    return line, segments


def _field_at(segments: list[_Segment], place: int) -> str:
    return next((each.field for each in segments if each.begin <= place < each.end), "")


def _at_fields(errors: list[LineError], segments: list[_Segment]) -> Iterator[FieldError]:
    """What is wrong with a line told at the fields it was put together from."""
    for error in errors:
        begin, end = error.at
        field = _field_at(segments, begin)
        is_whole = begin == 0 and any(end > each.end for each in segments if each.field == field)
        yield FieldError(field="" if is_whole else field, message=error.message)
