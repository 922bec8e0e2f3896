"""Many loans at once: a table matched to figures, solved row by row or as arrays, summed up."""

from .columns import FIELDS, RESULTS, Defaults, FieldName
from .looking import Looked, Question, look, together, unanswered
from .matching import counted_in, match, unmatched
from .named import ANSWERS, FIELDS_NAMED, ROUNDINGS, TOLD_NAMED, WORDS
from .not_loans import APART_SAYS, Apart, aparts
from .rows import asked_in, row_document
from .solving import solve_tape
from .summary import Summary, outliers, summarise
from .telling import SummaryTold, row_in_words, summary_in_words

__all__ = [
    "ANSWERS",
    "APART_SAYS",
    "FIELDS",
    "FIELDS_NAMED",
    "RESULTS",
    "ROUNDINGS",
    "TOLD_NAMED",
    "WORDS",
    "Apart",
    "Defaults",
    "FieldName",
    "Looked",
    "Question",
    "Summary",
    "SummaryTold",
    "aparts",
    "asked_in",
    "counted_in",
    "look",
    "match",
    "outliers",
    "row_document",
    "row_in_words",
    "solve_tape",
    "summarise",
    "summary_in_words",
    "together",
    "unanswered",
    "unmatched",
]
