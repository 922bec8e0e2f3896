"""Somebody's schedule held against that of a statement; by how much a figure may differ, as
typed."""

from decimal import Decimal
from typing import Final

from zephyrant.texts import worded

from ..answer.aim import aimed
from ..document.fields import UNKNOWN
from ..errors import NotALoan
from ..questions.reconciliation import Reconciliation, reconcile
from ..questions.their_table import Matched
from ..wording.marks import MARKS
from .statement import Statement
from .typed_amounts import read_amount
from .working import loan_of

_MOST_TOLERATED: Final = Decimal(1_000_000)


def hold_against(
    statement: Statement, text: str, matched: Matched | None, tolerance: str
) -> Reconciliation:
    """Their schedule, a text, against that of the statement.

    Raises `NotALoan` with what is wrong at its place.
    """
    marks = MARKS[statement.marks]
    read = read_amount(tolerance, marks, statement.currency)
    wrong = read.error
    if read.value == UNKNOWN or not 0 <= Decimal(read.value or "0") <= _MOST_TOLERATED:
        wrong = worded("By how much a figure may differ is an amount, not less than nothing.")
    if wrong:
        raise NotALoan.at("tolerance", wrong)
    loan = aimed(loan_of(statement))
    return reconcile(loan, text, matched, Decimal(read.value or "0"), marks)
