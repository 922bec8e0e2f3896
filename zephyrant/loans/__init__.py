"""The core of Zephyrant: loan documents in, answers out. No interface, no files, no clock."""

from .answer.answer import ENGINE, Answer
from .answer.solving import solve
from .budget import BudgetSpentError, within
from .document.loan import Loan
from .document.reading import check, parse, read, write
from .errors import Errors, FieldError, NotALoan
from .wording.marks import MARKS, PLAIN, Marks, MarksName

__all__ = [
    "ENGINE",
    "MARKS",
    "PLAIN",
    "Answer",
    "BudgetSpentError",
    "Errors",
    "FieldError",
    "Loan",
    "Marks",
    "MarksName",
    "NotALoan",
    "check",
    "parse",
    "read",
    "solve",
    "within",
    "write",
]
