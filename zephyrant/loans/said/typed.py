"""A line, and clauses said as lines, as the statement one would type for them; told in the reader's
marks, each guess marked."""

from collections.abc import Callable
from contextlib import suppress
from datetime import date
from decimal import Decimal
from typing import Any, Final

from pydantic import BaseModel, ConfigDict, ValidationError

from zephyrant.texts import Worded, worded

from ..answer.solving import solve
from ..calendars import frequencies
from ..calendars.days_in_words import write_day
from ..document.choices import TAKEN, WE
from ..document.clauses import Clause
from ..document.figure_path import figure_path
from ..document.loan import Loan
from ..document.reading import check, field_errors
from ..document.sentence import terms_in_words
from ..document.telling import headline
from ..errors import NotALoan
from ..numbers.currencies import currencies
from ..statement.entries import typed_at
from ..statement.reading import readings
from ..statement.restating import restate, typed_clause
from ..statement.statement import Statement, TypedClause
from ..wording.marks import MARKS, Marks, MarksName
from ..wording.units import with_unit
from .clause_facts import clause_of
from .draft import Draft
from .figures import Figures, Unsaid, marks_shown
from .line import assembled
from .read import LineError, Piece
from .scanning import plainly, scan
from .usual import Usual


class Guess(BaseModel):
    """What was guessed: the piece of the line (empty where it says nothing of it), as what."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    text: str
    says: str


class WrongInLine(BaseModel):
    """What is wrong with a line: the sentence, and the characters it speaks of."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    message: str
    begin: int
    end: int


class FoundInLine(BaseModel):
    """The answer to a line, in a few words: what stands before the figure, the figure, its unit; or
    the reason there is none. `says`: the same as a sentence."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    asks: str
    value: str | None
    unit: str
    reason: str | None
    says: str


class SaidLoan(BaseModel):
    """A line as it was read: the statement (also where figures are still missing, by what they are
    called), its sentence, the guesses, what is wrong, the answer."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    statement: Statement | None
    sentence: str | None
    guesses: tuple[Guess, ...]
    missing: tuple[str, ...]
    errors: tuple[WrongInLine, ...]
    found: FoundInLine | None


class SaidClauses(BaseModel):
    """Clauses said as lines: as they are typed, what was guessed of them, what is wrong."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    clauses: tuple[TypedClause, ...]
    guesses: tuple[Guess, ...]
    errors: tuple[WrongInLine, ...]


#: What stands for a figure that is missing, until it is stated.
_STAND_INS: Final[dict[str, Any]] = {
    "principal": "1000",
    "rate.percent": "1",
    "count": 1,
    "payment": "1",
    "balance": "0",
    "purchase.price": "1000",
    "purchase.down": {"percent": "0"},
}


def said_loan(line: str, marks_name: MarksName, usual: Usual | None = None) -> SaidLoan:
    """A line read in the reader's marks, as a statement with its answer; `usual`: what holds where
    the line does not say it."""
    marks = MARKS[marks_name]
    draft, loan = assembled(line, marks, usual or Usual())
    wrong = () if draft.missing else tuple(map(_wrong, draft.errors))
    guesses = tuple(_guess(piece, marks) for piece in draft.read if piece.guess)
    if loan is None:
        return SaidLoan(
            statement=_unfinished(draft, marks_name),
            sentence=None,
            guesses=guesses,
            missing=tuple(draft.named(name) for name in draft.missing),
            errors=wrong,
            found=None,
        )
    return SaidLoan(
        statement=restate(loan, marks_name),
        sentence=terms_in_words(loan, marks),
        guesses=guesses,
        missing=(),
        errors=wrong,
        found=_found(loan, marks),
    )


def _found(loan: Loan, marks: Marks) -> FoundInLine:
    answer = solve(loan, marks)
    kind = figure_path(answer.unknown).kind if answer.unknown else "money"
    value = answer.value and headline(kind, answer.value, marks)
    figure = f" {with_unit(value, answer.unit)}" if value else ""
    return FoundInLine(
        asks=answer.asks,
        value=value,
        unit=answer.unit,
        reason=answer.reason,
        says=answer.reason or f"{answer.asks}{figure}.",
    )


def _unfinished(draft: Draft, marks_name: MarksName) -> Statement | None:
    """The statement of a line in which figures are missing: those stay empty."""
    if not draft.missing:
        return None
    content = dict(draft.content)
    for name in draft.missing:
        stand_in = _STAND_INS[name]
        head, _, last = name.partition(".")
        content[head] = {**content.get(head, {}), last: stand_in} if last else stand_in
    with suppress(NotALoan):
        statement = restate(check(content), marks_name)
        empty = {typed_at(name): "" for name in draft.missing}
        return statement.model_copy(update=empty)
    return None


def _wrong(error: LineError) -> WrongInLine:
    return WrongInLine(message=error.message, begin=error.at[0], end=error.at[1])


def said_clauses(text: str, statement: Statement) -> SaidClauses:
    """Clauses said as one says them, a line each or parted by `;`, for a statement."""
    plain, places = plainly(text)
    facts, unread = scan(plain)
    count = readings(statement)["count"].value
    marks = MARKS[statement.marks]
    figures = Figures(marks_shown(plain, marks), statement.currency, statement.every)
    draft = Draft(text, facts, places, figures)
    draft.misread(unread)
    many = int(count) if count and count.isdecimal() else None
    clauses = []
    guesses = []
    spans = {(fact.begin, fact.end) for fact in draft.of("clause")}
    for fact in facts:
        if fact.field != "clause":
            # What a clause says beside, such as how often, is no mistake.
            if (fact.begin, fact.end) in spans:
                continue
            draft.wrong(worded("This is no clause. Say it such as at 12 repay 45,000."), fact)
            continue
        with draft.at(fact):
            said = clause_of(fact, figures, many)
            clauses.append(_typed(said.content, statement))
            begin, end = draft.span(fact.begin, fact.end)
            guesses += [
                _guess(_piece(name, said.content, text[begin:end]), marks) for name in said.guesses
            ]
    return SaidClauses(
        clauses=tuple(clauses), guesses=tuple(guesses), errors=tuple(map(_wrong, draft.errors))
    )


def _typed(content: dict[str, Any], statement: Statement) -> TypedClause:
    decimals = currencies()[statement.currency].decimals
    try:
        clause = Clause.model_validate(content)
    except ValidationError as error:
        raise Unsaid(field_errors(error.errors())[0].message) from None
    return typed_clause(clause, MARKS[statement.marks], decimals)


def _piece(name: str, content: dict[str, Any], text: str) -> Piece:
    value: Any = content
    for step in name.split("."):
        value = value[step]
    return Piece(text=text, field=f"clauses.0.{name}", value=value, guess=True)


def _guess(piece: Piece, marks: Marks) -> Guess:
    return Guess(text=piece.text, says=_says(piece, marks))


def _says(piece: Piece, marks: Marks) -> str:
    """A piece in words."""
    value: Any = piece.value
    step = piece.field.rpartition(".")[2]
    if step in ("from", "to", "at") or piece.field.endswith(".every"):
        return f"{step} {value}"
    if piece.field == "rounding.payment":
        return worded("payments rounded {how}", how=value)
    if step in _CHOSEN:
        return _CHOSEN[step](value)
    if step == "count":
        return frequencies.number_of(marks.write(str(value)), "payment")
    number = marks.number(Decimal(value), 20, 2)
    if step in _MOVED:
        return f"{_MOVED[step]} {number}"
    named = figure_path(piece.field).named
    return f"{named.title} {number}" + (" %" if named.kind == "percent" else "")


#: Money that is moved, in words.
_MOVED: Final = Worded({"repay": "repaid", "advance": "advanced"})
#: What is chosen, in words.
_CHOSEN: Final[dict[str, Callable[[Any], str]]] = {
    "currency": lambda code: worded("in {currency}", currency=code),
    "every": lambda every: worded("paid {often}", often=frequencies.period(every).often),
    "compounding": frequencies.compounded,
    "quoted": lambda quoted: worded("a rate quoted as {quoted}", quoted=quoted),
    "taken": lambda taken: worded("a fee {taken}", taken=TAKEN[taken].in_sentence),
    "we": lambda we: WE[we].within,
    "start": lambda day: worded("lent on {day}", day=write_day(date.fromisoformat(day))),
}
