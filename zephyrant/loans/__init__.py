"""The core of Zephyrant: loan documents in, answers out. No interface, no files, no clock."""

from .answer import ENGINE, Answer, solve
from .budget import BudgetSpentError, within
from .document import Loan, check, parse, read, write
from .errors import Errors, FieldError, NotALoan
from .words import MARKS, PLAIN, Marks, MarksName

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
