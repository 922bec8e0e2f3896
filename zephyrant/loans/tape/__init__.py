"""Many loans at once: a table matched to figures, solved row by row or as arrays, summed up."""

from .columns import FIELDS, RESULTS, Defaults, FieldName
from .counts import Counts, Sums, count_up, counted_together
from .flows import FlowsAsked, TapeFlows, flows_of
from .looking import Looked, Question, look, together, unanswered
from .matching import counted_in, match, unmatched
from .named import ANSWERS, FIELDS_NAMED, ROUNDINGS, TOLD_NAMED, WORDS
from .not_loans import APART_SAYS, Apart, aparts
from .portfolio import Portfolio, PortfolioAsked, portfolio_of
from .portfolio_words import (
    DISCOUNTED,
    FLOWS_BY,
    PortfolioTold,
    PortfolioTyped,
    portfolio_asked,
    portfolio_told,
)
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
    "DISCOUNTED",
    "FIELDS",
    "FIELDS_NAMED",
    "FLOWS_BY",
    "RESULTS",
    "ROUNDINGS",
    "SPREAD",
    "TOLD_NAMED",
    "WORDS",
    "Apart",
    "Counts",
    "Defaults",
    "FieldName",
    "FlowsAsked",
    "Looked",
    "Portfolio",
    "PortfolioAsked",
    "PortfolioTold",
    "PortfolioTyped",
    "Question",
    "Shock",
    "Shocks",
    "Summary",
    "SummaryTold",
    "Sums",
    "TapeFlows",
    "aparts",
    "asked_in",
    "count_up",
    "counted_in",
    "counted_together",
    "currency_codes",
    "distribution",
    "far_off",
    "flows_of",
    "known_numbers",
    "look",
    "match",
    "moved",
    "outliers",
    "portfolio_asked",
    "portfolio_of",
    "portfolio_told",
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
