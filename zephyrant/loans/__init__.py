"""The core of Zephyrant: loan documents in, answers out. No interface, no files, no clock.

This is the door: what may be used of the core, with `zephyrant.loans.statement` (what people type),
`.questions` (what is asked beside the answer), `.tape` (many loans) and `.files` (workbooks, lists,
flows). Nothing deeper is for outsiders.
"""

from .answer.aim import aimed
from .answer.answer import ENGINE, Answer, AnswerHead
from .answer.facts import facts_of, what_would_fit
from .answer.laid import ScheduleRow
from .answer.solving import over_limit, solve
from .budget import A_QUESTION, BudgetSpentError, grown, look, within
from .calendars import frequencies
from .calendars.days_in_words import day_form, month_names, write_day
from .calendars.frequencies import PERIODS
from .document import choices
from .document.aim import AIMS
from .document.calling import Calling, called, calling_of, name_of
from .document.fields import CompoundingField, CurrencyCode, Every
from .document.figure_path import figure_path
from .document.limits import MOST_TEXT
from .document.loan import Loan
from .document.named import COLUMNS_NAMED, FIGURES_NAMED, RESULTS_NAMED
from .document.reading import check, field_errors, parse, read, write
from .document.sentence import terms_in_words
from .document.telling import headline, told
from .errors import Errors, FieldError, LoansError, NotALoan, at_fault
from .ledger.rows import due
from .numbers.currencies import currencies
from .quotes.quotings import QUOTINGS, YEAR_OF_DAYS
from .quotes.styles import CONVENTIONS, OF_360_DAYS, USUAL_COUNT, USUAL_TIME
from .wording.cells import as_text
from .wording.glossary import GLOSSARY, Term
from .wording.marks import MARKS, PLAIN, Marks, MarksName
from .wording.units import code_first, is_first, with_unit

__all__ = [
    "AIMS",
    "A_QUESTION",
    "COLUMNS_NAMED",
    "CONVENTIONS",
    "ENGINE",
    "FIGURES_NAMED",
    "GLOSSARY",
    "MARKS",
    "MOST_TEXT",
    "OF_360_DAYS",
    "PERIODS",
    "PLAIN",
    "QUOTINGS",
    "RESULTS_NAMED",
    "USUAL_COUNT",
    "USUAL_TIME",
    "YEAR_OF_DAYS",
    "Answer",
    "AnswerHead",
    "BudgetSpentError",
    "Calling",
    "CompoundingField",
    "CurrencyCode",
    "Errors",
    "Every",
    "FieldError",
    "Loan",
    "LoansError",
    "Marks",
    "MarksName",
    "NotALoan",
    "ScheduleRow",
    "Term",
    "aimed",
    "as_text",
    "at_fault",
    "called",
    "calling_of",
    "check",
    "choices",
    "code_first",
    "currencies",
    "day_form",
    "due",
    "facts_of",
    "field_errors",
    "figure_path",
    "frequencies",
    "grown",
    "headline",
    "is_first",
    "look",
    "month_names",
    "name_of",
    "over_limit",
    "parse",
    "read",
    "solve",
    "terms_in_words",
    "told",
    "what_would_fit",
    "with_unit",
    "within",
    "write",
    "write_day",
]
