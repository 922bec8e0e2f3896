"""A statement read into a document, and worked; what is wrong is told at its entries."""

from contextlib import suppress
from typing import Any

from pydantic import BaseModel, ConfigDict

from ..answer.answer import AnswerHead
from ..answer.laid import ScheduleColumns
from ..answer.solving import solve
from ..budget import BudgetSpentError
from ..document.choices import REPAYMENT
from ..document.clauses import LEVELS
from ..document.fields import UNKNOWN
from ..document.limits import MOST_PAYMENTS
from ..document.loan import Loan
from ..document.price import told_of
from ..document.reading import check, write
from ..document.repaid import as_document
from ..errors import FieldError, NotALoan
from ..quotes.styles import CONVENTIONS, USUAL_TIME
from ..wording.marks import MARKS
from .entries import figures_of, typed_at
from .parsing import Reading
from .reading import readings
from .statement import Statement, TypedClause, follows_from_bounds
from .telling import Told, tell
from .typed_bounds import bounds_document
from .typed_days import days_document
from .typed_floating import floating_document


class Figure(BaseModel):
    """A figure of the statement: the entry it is typed at, its path in the document, what it is
    called in a sentence; whether it is the one asked for, and whether it may move for an aim."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    entry: str
    path: str
    title: str
    is_asked: bool
    may_move: bool


class Worked(BaseModel):
    """A statement worked: how each entry was read, its figures, the document, its answer, also told
    in the marks of the statement, or what is wrong at its entries. The schedule, with the carrying
    amounts, stands beside the answer as columns, not in it."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    readings: dict[str, Reading]
    errors: tuple[FieldError, ...]
    document: dict[str, Any] | None
    answer: AnswerHead | None
    figures: tuple[Figure, ...] = ()
    told: Told | None = None
    schedule: ScheduleColumns | None = None


def figures(statement: Statement) -> tuple[Figure, ...]:
    """The figures of a statement, in the order of the sentence."""
    told = []
    for entry, path, named, text in figures_of(statement):
        is_asked = text.strip() == UNKNOWN
        may_move = not is_asked and (statement.aim is None or str(path) != statement.aim.figure)
        told.append(
            Figure(
                entry=entry,
                path=str(path),
                title=named.title,
                is_asked=is_asked,
                may_move=may_move,
            )
        )
    return tuple(told)


def loan_of(statement: Statement) -> Loan:
    """A statement as the document it says; raises `NotALoan` with what is wrong at its fields."""
    return _loan_of(statement, readings(statement))


def _loan_of(statement: Statement, read: dict[str, Reading]) -> Loan:
    errors = [
        FieldError(field=name, message=reading.error)
        for name, reading in read.items()
        if reading.error
    ]
    try:
        loan = check(_document(statement, read))
    except NotALoan as wrong:
        unread = {error.field for error in errors}
        # A stand-in for an unread entry is nobody's mistake; what else is wrong is.
        typed = (
            FieldError(field=typed_at(error.field), message=error.message) for error in wrong.errors
        )
        errors += [error for error in typed if error.field not in unread]
        raise NotALoan(errors) from None
    if errors:
        raise NotALoan(errors)
    return loan


def work(statement: Statement, year_starts: int | None = None) -> Worked:
    """A statement read, checked and solved; what is wrong is told at its field.

    Raises `BudgetSpentError` as `solve` does.

    `year_starts`: the month in which the years of the schedule start; None: those of the loan.
    """
    read = readings(statement)
    try:
        loan = _loan_of(statement, read)
    except NotALoan as wrong:
        return Worked(
            readings=read,
            errors=wrong.errors,
            document=None,
            answer=None,
            figures=figures(statement),
        )
    answer = solve(loan, MARKS[statement.marks], year_starts)
    return Worked(
        readings=read,
        errors=(),
        document=write(loan),
        answer=answer,
        figures=figures(statement),
        told=tell(statement, loan, answer),
        schedule=answer.laid and answer.laid.columns_told,
    )


def unworked(statement: Statement, spent: BudgetSpentError) -> Worked:
    """A statement that takes too much work: how it is read, the document, and why not."""
    read, errors, document = readings(statement), spent.errors, None
    with suppress(NotALoan):
        loan = _loan_of(statement, read)
        document = write(loan)
        errors = (told_of(loan, MARKS[statement.marks]),)
    errors = tuple(
        FieldError(field=typed_at(error.field), message=error.message) for error in errors
    )
    return Worked(
        readings=read,
        errors=errors,
        document=document,
        answer=None,
        figures=figures(statement),
    )


def unread(statement: Statement) -> Worked:
    """Only how each entry of a statement is read: neither a document nor an answer."""
    return Worked(readings=readings(statement), errors=(), document=None, answer=None)


def _clause(clause: TypedClause, number: int, read: dict[str, Reading]) -> dict[str, Any]:
    """A typed clause as the document holds it."""
    field = f"clauses.{number}."
    entries = {
        name.removeprefix(field): reading.value
        for name, reading in read.items()
        if name.startswith(field)
    }
    document = {**_clause_place(clause, entries), **_clause_verb(clause, entries)}
    if clause.then and clause.verb in LEVELS:
        document["then"] = clause.then
    return document


def _clause_place(clause: TypedClause, entries: dict[str, str | None]) -> dict[str, Any]:
    if not clause.is_stretch:
        return {"at": entries["at"] or "1"}
    place: dict[str, Any] = {}
    for name in ("from", "to"):
        if entries[name]:
            place[name] = entries[name]
    if clause.months:
        place["months"] = list(clause.months)
    return place


def _clause_verb(clause: TypedClause, entries: dict[str, str | None]) -> dict[str, Any]:
    figure = entries.get("figure") or "1"
    match clause.verb:
        case "pay":
            return {"pay": clause.pay}
        case "rate":
            return {"rate": _quote(clause, figure, entries.get("over"))}
        case "step":
            step = {"step": {"percent" if clause.in_percent else "amount": figure}}
            return {**step, "every": entries["every"] or "1"} if "every" in entries else step
        case "fee":
            fee = {"percent": figure} if clause.in_percent else figure
            return {"fee": fee, "taken": clause.taken}
        case "charge":
            return _charge(clause, figure)
        case verb:
            return {verb: figure}


def _charge(clause: TypedClause, figure: str) -> dict[str, Any]:
    charge: dict[str, Any] = {"charge": figure}
    if clause.in_percent:
        charge = {"charge": {"percent": figure, "of": clause.of}}
    if clause.name.strip():
        charge["name"] = clause.name.strip()
    return charge if clause.in_costs else {**charge, "in_costs": False}


def _quote(quote: TypedClause | Statement, percent: str | None, over: str | None) -> dict[str, Any]:
    """How a rate is quoted, of a loan or of a clause, as the document holds it."""
    rate: dict[str, Any] = {"percent": percent or "1", "quoted": quote.quoted}
    if quote.compounding is not None:
        rate["compounding"] = quote.compounding
    convention = CONVENTIONS[quote.quoted]
    if convention.is_timed:
        rate["over"] = _over(over or USUAL_TIME)
    if quote.year_days != 365 and convention.is_scaled:
        rate["year_days"] = quote.year_days
    return rate


def _over(text: str) -> dict[str, str]:
    number, _, period = text.partition(" ")
    return {"number": number, "period": period}


def _repaid(statement: Statement, read: dict[str, Reading]) -> dict[str, Any]:
    """How a loan is repaid, as the document holds it; what its way does not need is left out."""
    percents = read["percents"].value if "percents" in read else None
    over = read["amortized_over"].value if "amortized_over" in read else None
    return as_document(
        statement.repaid, percents=(percents or "100").split(), over=over or MOST_PAYMENTS
    )


def _rate(statement: Statement, read: dict[str, Reading]) -> dict[str, Any]:
    """The rate, and the indices it follows where it floats."""
    over = read["over"].value if "over" in read else None
    quote = _quote(statement, read["percent"].value, over)
    if statement.floating is None:
        return {"rate": quote}
    floats = floating_document(statement.floating, read)
    del quote["percent"]
    return {**floats, "rate": {**floats["rate"], **quote}}


def _document(statement: Statement, read: dict[str, Reading]) -> dict[str, Any]:
    value = {name: reading.value or "1" for name, reading in read.items()}
    dated: dict[str, Any] = {
        name: read[name].value for name in ("start", "first_payment") if read[name].value
    }
    if "start" in dated:
        dated["day_count"], dated["odd_days"] = statement.day_count, statement.odd_days
        dated |= days_document(statement, value)
    if statement.aim:
        dated["aim"] = {**statement.aim.model_dump(by_alias=True), "is": value["aim.is"]}
    if statement.clauses:
        dated["clauses"] = [
            _clause(clause, number, read) for number, clause in enumerate(statement.clauses)
        ]
    lent: dict[str, Any] = {"principal": value["principal"]}
    if statement.is_purchase:
        kind = "percent" if statement.down_in_percent else "amount"
        lent = {"purchase": {"price": value["price"], "down": {kind: value["down"]}}}
    return {
        "zephyrant": "loan/1",
        "name": statement.name,
        "currency": statement.currency,
        **lent,
        **_rate(statement, read),
        "count": value["count"],
        "every": statement.every,
        **({} if follows_from_bounds(statement) else {"payment": value["payment"]}),
        "balance": value["balance"] if REPAYMENT[statement.repaid].states_balance else "0",
        "timing": statement.timing,
        **_repaid(statement, read),
        **bounds_document(statement, value),
        "rounding": statement.rounding.model_dump(mode="json", exclude_unset=True),
        **({} if statement.we == "lend" else {"we": statement.we}),
        **dated,
    }
