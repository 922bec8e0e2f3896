"""What people type: loans, quotes and questions about them, read and told back."""

from .differences import changed_figures, changes, differing, stated_in_words
from .early_end import Agreed, EndedEarly, end_early
from .entries import ENTRIES, Entry
from .held_against import hold_against
from .keeping import Kept, keep_worked, work_to_keep
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
from .parsing import Reading
from .pointing_at import Pointed, figures_standing, figures_stated, pointed_at
from .quote_lists import LINE_ENTRIES, MOST_QUOTES, Comparison, QuoteList, compare, restated
from .rate_questions import QUOTE_ENTRIES, RateAnswer, RateQuestion, answer
from .reading import NUMBERS, readings
from .refinancing import LentAnew, NewOffer, lent_anew
from .requoting import Quoting, Way, repace, requote
from .restating import remark, restate
from .statement import Statement
from .typed_amounts import INCOME_EACH, read_amount
from .typed_floating import check_fixings, fixings_typed, read_fixings
from .values import read_values
from .variations import Variations, Varied, variant, vary
from .without_answer import Unanswered, unanswered
from .working import Worked, loan_of, unread, unworked, work

__all__ = [
    "ENTRIES",
    "INCOME_EACH",
    "LINE_ENTRIES",
    "MOST_QUOTES",
    "NUMBERS",
    "QUOTE_ENTRIES",
    "Agreed",
    "Candidate",
    "Comparison",
    "EndedEarly",
    "Entry",
    "Kept",
    "LentAnew",
    "More",
    "NewOffer",
    "PaidMore",
    "Pointed",
    "Points",
    "QuoteList",
    "Quoting",
    "RateAnswer",
    "RateQuestion",
    "Reading",
    "Statement",
    "TwoOffers",
    "Unanswered",
    "Variations",
    "Varied",
    "Way",
    "Worked",
    "answer",
    "changed_figures",
    "changes",
    "check_fixings",
    "compare",
    "differing",
    "end_early",
    "figures_standing",
    "figures_stated",
    "fixings_typed",
    "hold_against",
    "keep_worked",
    "lent_anew",
    "loan_of",
    "paying_more",
    "pointed_at",
    "read_amount",
    "read_fixings",
    "read_values",
    "readings",
    "remark",
    "repace",
    "requote",
    "restate",
    "restated",
    "side_by_side",
    "stated_in_words",
    "two_offers",
    "unanswered",
    "unread",
    "unworked",
    "variant",
    "vary",
    "work",
    "work_to_keep",
]
