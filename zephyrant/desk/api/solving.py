"""Solving: no state, whatever stands in the request."""

from typing import Annotated, Literal

from django.http import HttpResponse
from ninja import Query, Router

from zephyrant.desk import answers, export, words
from zephyrant.desk.files import CsvAsked, reader_of
from zephyrant.desk.limits import MOST_NOTE
from zephyrant.loans import PLAIN, Answer, BudgetSpentError, Loan, name_of, over_limit
from zephyrant.loans.statement import Statement, Worked, unworked

from .base import REFUSALS, Making, SignedIn, answered, file_of, made

router = Router(by_alias=True)
Note = Annotated[str, Query(max_length=MOST_NOTE)]
YearStarts = Annotated[int | None, Query(ge=1, le=12)]


def _json(content: bytes) -> HttpResponse:
    """Ready JSON: a schedule is not validated a second time on its way out."""
    return HttpResponse(content, content_type="application/json")


@router.post("solve", response={200: Answer, **REFUSALS}, operation_id="solve")
def solve(request: SignedIn, loan: Loan) -> HttpResponse:
    """The answer to a loan document; where it takes too much work, why not, and its `limit`."""
    try:
        return _json(answered(request, answers.solved, loan))
    except BudgetSpentError:
        return _json(over_limit(loan).model_dump_json().encode())


@router.post("work", response={200: Worked, **REFUSALS}, operation_id="work")
def work_statement(
    request: SignedIn, statement: Statement, year_starts: YearStarts = None
) -> HttpResponse:
    """A statement read, checked and solved.

    `year_starts`: the month (1 to 12) in which the years of the schedule start.
    """
    try:
        return _json(answered(request, answers.worked, statement, year_starts))
    except BudgetSpentError as spent:
        return _json(unworked(statement, spent).model_dump_json().encode())


@router.post(
    "solve/schedule",
    response=REFUSALS,
    operation_id="solveSchedule",
    openapi_extra=file_of(export.CSV, export.WORKBOOK),
)
def solve_schedule(
    request: SignedIn,
    loan: Loan,
    csv: Query[CsvAsked],
    kind: Literal["csv", "xlsx"] = "csv",
    making: Making = None,
) -> HttpResponse:
    """The schedule of a loan document as a file, without a case; 404 where it has none."""
    name = name_of(loan, PLAIN)
    write = export.schedule_csv if kind == "csv" else export.schedule_xlsx
    return write(loan, name, reader_of(request, request.user, csv), made(request, making))


@router.post(
    "solve/statement",
    response=REFUSALS,
    operation_id="solveStatement",
    openapi_extra=file_of(export.PDF),
)
def solve_statement(
    request: SignedIn, loan: Loan, note: Note = "", making: Making = None
) -> HttpResponse:
    """A loan document as a statement to file (PDF), without a case; with a note."""
    name = name_of(loan, PLAIN)
    reader = reader_of(request, request.user)
    return export.statement(loan, name, note, reader, made(request, making))


@router.get("words", response={200: words.Words, **REFUSALS}, operation_id="getWords")
def get_words(request: SignedIn) -> words.Words:
    """The choices a statement offers, and what they are called."""
    return words.words()
