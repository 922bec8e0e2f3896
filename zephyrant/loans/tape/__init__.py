"""Many loans at once: a table matched to figures, solved row by row or as arrays, summed up."""

from .matching import Looked, Question, counted_in, look, match, together, unanswered, unmatched
from .not_loans import APART_SAYS, apart
from .rows import FIELDS, RESULTS, Defaults, FieldName, row_document
from .solving import solve_tape
from .summary import Summary, outliers, summarise

__all__ = [
    "APART_SAYS",
    "FIELDS",
    "RESULTS",
    "Defaults",
    "FieldName",
    "Looked",
    "Question",
    "Summary",
    "apart",
    "counted_in",
    "look",
    "match",
    "outliers",
    "row_document",
    "solve_tape",
    "summarise",
    "together",
    "unanswered",
    "unmatched",
]
