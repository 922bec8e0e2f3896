"""Many loans at once: a table matched to figures, solved row by row or as arrays, summed up."""

from .columns import FIELDS, RESULTS, Defaults, FieldName
from .counts import Counts, Sums, count_up, counted_together
from .looking import Looked, Question, look, together, unanswered
from .matching import counted_in, match, unmatched
from .named import ANSWERS, FIELDS_NAMED, ROUNDINGS, TOLD_NAMED, WORDS
from .not_loans import APART_SAYS, Apart, aparts
from .rows import asked_in, currency_codes, row_document
from .shocks import Shock, Shocks, moved, shocks_of, unmoved
from .solving import solve_tape
from .summary import (
    SPREAD,
    Summary,
    distribution,
    far_off,
    known_numbers,
    outliers,
    spread_of,
    summarise,
    summed_up,
)
from .telling import SummaryTold, row_in_words, summary_in_words

__all__ = [
    "ANSWERS",
    "APART_SAYS",
    "FIELDS",
    "FIELDS_NAMED",
    "RESULTS",
    "ROUNDINGS",
    "SPREAD",
    "TOLD_NAMED",
    "WORDS",
    "Apart",
    "Counts",
    "Defaults",
    "FieldName",
    "Looked",
    "Question",
    "Shock",
    "Shocks",
    "Summary",
    "SummaryTold",
    "Sums",
    "aparts",
    "asked_in",
    "count_up",
    "counted_in",
    "counted_together",
    "currency_codes",
    "distribution",
    "far_off",
    "known_numbers",
    "look",
    "match",
    "moved",
    "outliers",
    "row_document",
    "row_in_words",
    "shocks_of",
    "solve_tape",
    "spread_of",
    "summarise",
    "summary_in_words",
    "summed_up",
    "together",
    "unanswered",
    "unmatched",
    "unmoved",
]
