"""Solving: no state, whatever stands in the request."""

from django.http import HttpResponse
from ninja import Router

import loans
from desk import words
from loans import Answer, Loan
from loans.entry import Statement, Worked, work

from .base import REFUSALS, SignedIn

router = Router()


def _json(content: Answer | Worked) -> HttpResponse:
    """Ready JSON: a schedule is not validated a second time on its way out."""
    return HttpResponse(content.model_dump_json(), content_type="application/json")


@router.post("solve", response={200: Answer, **REFUSALS}, operation_id="solve")
def solve(request: SignedIn, loan: Loan) -> HttpResponse:
    """The answer to a loan document."""
    return _json(loans.solve(loan))


@router.post("work", response={200: Worked, **REFUSALS}, operation_id="work")
def work_statement(request: SignedIn, statement: Statement) -> HttpResponse:
    """A statement read, checked and solved."""
    return _json(work(statement))


@router.get("words", response={200: words.Words, **REFUSALS}, operation_id="words")
def get_words(request: SignedIn) -> words.Words:
    """The choices a statement offers, and what they are called."""
    return words.words()
