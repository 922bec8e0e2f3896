"""Solving: no state, whatever stands in the request."""

from typing import Annotated

from django.http import HttpResponse
from ninja import Query, Router

from zephyrant.desk import answers, words
from zephyrant.loans import Answer, BudgetSpentError, Loan
from zephyrant.loans.statement import Statement, Worked, unworked

from .base import REFUSALS, SignedIn, answered

router = Router(by_alias=True)
YearStarts = Annotated[int | None, Query(ge=1, le=12)]


def _json(content: bytes) -> HttpResponse:
    """Ready JSON: a schedule is not validated a second time on its way out."""
    return HttpResponse(content, content_type="application/json")


@router.post("solve", response={200: Answer, **REFUSALS}, operation_id="solve")
def solve(request: SignedIn, loan: Loan) -> HttpResponse:
    """The answer to a loan document."""
    return _json(answered(request, answers.solved, loan))


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


@router.get("words", response={200: words.Words, **REFUSALS}, operation_id="getWords")
def get_words(request: SignedIn) -> words.Words:
    """The choices a statement offers, and what they are called."""
    return words.words()
