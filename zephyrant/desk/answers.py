"""Answers ready to be sent or kept, worked where it suits: nothing here needs Django."""

import logging
import time
from collections.abc import Sequence
from typing import Final

from zephyrant import loans
from zephyrant.loans import (
    A_QUESTION,
    MARKS,
    BudgetSpentError,
    Loan,
    MarksName,
    aimed,
    grown,
    within,
)
from zephyrant.loans.questions import (
    Owed,
    PayoffRounding,
    PeriodTotals,
    RateCurve,
    curve_of_rate,
)
from zephyrant.loans.questions import owed as owed_at
from zephyrant.loans.questions import period_totals_of as summed
from zephyrant.loans.statement import (
    Kept,
    Statement,
    Variations,
    Varied,
    keep_worked,
    loan_of,
    restate,
    unread,
    unworked,
    vary,
    work,
    work_to_keep,
)

log = logging.getLogger(__name__)
#: Seconds in which the loans of a list are answered; those left are kept without an answer.
_TO_ANSWER: Final = 30.0
#: Seconds of a core that a part of a sweep takes: the first at once, the others as fast as one
#: wants to see them come.
_FIRST_PART: Final = 0.1
_PART: Final = 0.6
#: A statement for which all is loaded that answers need: its rate is found among flows.
_SAMPLE: Final = {
    "name": "",
    "currency": "EUR",
    "principal": "1000",
    "percent": "?",
    "count": "12",
    "payment": "90",
    "balance": "0",
    "clauses": [{"verb": "fee", "at": "0", "figure": "10", "taken": "apart"}],
}


def make_ready() -> None:
    """Loads what answers need, so that the first one asked for does not wait for it."""
    if work(Statement.model_validate(_SAMPLE)).told is None:
        raise RuntimeError("the sample has no answer")


def solved(loan: Loan) -> bytes:
    """The answer to a loan, as JSON."""
    return loans.solve(loan).model_dump_json().encode()


def worked(statement: Statement, year_starts: int | None) -> bytes:
    """A statement worked, as JSON."""
    return work(statement, year_starts).model_dump_json().encode()


def owed(statement: Statement, at: str, payoff: PayoffRounding) -> list[Owed]:
    """What is owed at moments."""
    return owed_at(aimed(loan_of(statement)), at, MARKS[statement.marks], payoff)


def period_totals_of(statement: Statement, stretch: str) -> list[PeriodTotals]:
    """What stretches add up to."""
    return summed(aimed(loan_of(statement)), stretch, MARKS[statement.marks])


def curve(statement: Statement) -> RateCurve:
    """The curve of a rate."""
    return curve_of_rate(aimed(loan_of(statement)), MARKS[statement.marks])


def moves(statement: Statement, varied: list[Varied], results: list[str], start: int) -> Variations:
    """A part of a sweep, from the point at `start`."""
    until = time.thread_time() + (_PART if start else _FIRST_PART)
    return vary(statement, varied, results, start, lambda: time.thread_time() > until)


def kept_each(documents: Sequence[Loan], marks: MarksName) -> list[tuple[Statement, Kept]]:
    """Each loan of a list as a statement in these marks, worked to be kept.

    Call it in a process of its own: it sets a budget of its own. Loans for which no time is left
    are kept without an answer.
    """
    until = time.monotonic() + _TO_ANSWER
    told = []
    for done, loan in enumerate(documents):
        grown(done, len(documents))
        statement = restate(loan, marks)
        with within(lambda: time.monotonic() > until, A_QUESTION):
            told.append((statement, _kept(statement)))
    return told


def _kept(statement: Statement) -> Kept:
    try:
        return work_to_keep(statement)
    except BudgetSpentError as spent:
        return keep_worked(unworked(statement, spent))
    except Exception:
        log.exception("a statement could not be worked, and is kept")
        return keep_worked(unread(statement))
