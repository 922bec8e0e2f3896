"""The core of Zephyrant: loan documents in, answers out. No interface, no files, no clock.

This is the door: what may be used of the core, with `zephyrant.loans.statement` (what people type),
`.questions` (what is asked beside the answer), `.tape` (many loans) and `.files` (workbooks, lists,
flows). Nothing deeper is for outsiders.
"""

from .answer.aim import aimed
from .answer.answer import ENGINE, Answer, ScheduleRow
from .answer.facts import facts_of
from .answer.solving import solve
from .budget import BudgetSpentError, grown, look, within
from .calendars.days_in_words import write_day
from .calendars.frequencies import PERIODS
from .document.fields import Every
from .document.limits import MOST_TEXT
from .document.loan import Loan
from .document.named import RESULTS_NAMED
from .document.reading import check, field_errors, parse, read, write
from .document.sentence import TAKEN_IN_WORDS, terms_in_words
from .errors import Errors, FieldError, LoansError, NotALoan, at_fault
from .ledger.rows import due
from .numbers.currencies import currencies
from .wording.cells import as_text
from .wording.marks import MARKS, PLAIN, Marks, MarksName

__all__ = [
    "ENGINE",
    "MARKS",
    "MOST_TEXT",
    "PERIODS",
    "PLAIN",
    "RESULTS_NAMED",
    "TAKEN_IN_WORDS",
    "Answer",
    "BudgetSpentError",
    "Errors",
    "Every",
    "FieldError",
    "Loan",
    "LoansError",
    "Marks",
    "MarksName",
    "NotALoan",
    "ScheduleRow",
    "aimed",
    "as_text",
    "at_fault",
    "check",
    "currencies",
    "due",
    "facts_of",
    "field_errors",
    "grown",
    "look",
    "parse",
    "read",
    "solve",
    "terms_in_words",
    "within",
    "write",
    "write_day",
]
