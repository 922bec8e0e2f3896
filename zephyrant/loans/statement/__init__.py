"""What people type: loans, quotes and questions about them, read and told back."""

from .differences import changed_figures, changes
from .offers import (
    Candidate,
    More,
    PaidMore,
    Points,
    TwoOffers,
    paying_more,
    side_by_side,
    two_offers,
)
from .quote_lists import Comparison, QuoteList, compare, restated
from .rate_questions import RateAnswer, RateQuestion, answer
from .reading import NUMBERS, readings
from .requoting import Quoting, Way, repace, requote
from .restating import remark, restate
from .statement import Statement
from .typed_amounts import read_amount
from .variations import Variations, Varied, variant, vary
from .working import Worked, loan_of, unworked, work

__all__ = [
    "NUMBERS",
    "Candidate",
    "Comparison",
    "More",
    "PaidMore",
    "Points",
    "QuoteList",
    "Quoting",
    "RateAnswer",
    "RateQuestion",
    "Statement",
    "TwoOffers",
    "Variations",
    "Varied",
    "Way",
    "Worked",
    "answer",
    "changed_figures",
    "changes",
    "compare",
    "loan_of",
    "paying_more",
    "read_amount",
    "readings",
    "remark",
    "repace",
    "requote",
    "restate",
    "restated",
    "side_by_side",
    "two_offers",
    "unworked",
    "variant",
    "vary",
    "work",
]
