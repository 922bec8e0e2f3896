"""What is asked of a loan beside its answer: moments, payoff, what moves it, others beside it."""

from .balance_at import PAYOFF_ROUNDINGS, Owed, PayoffRounding, owed
from .ending_charge import CHARGES
from .in_a_list import LoanListed, listed
from .payoff import PayoffAmount
from .period_totals import PeriodTotals, period_totals_of
from .rate_curve import RateCurve, curve_of_rate
from .reconciliation import Reconciliation
from .sensitivity import ANSWER, ANSWER_TITLE, MOST_POINTS, Axis, sensitivity_of
from .side_by_side import MOST_BESIDE, Cell, SideBySide, SideBySideRow
from .their_table import Matched
from .ways_out import WayOut, as_it_goes, ways_out

__all__ = [
    "ANSWER",
    "ANSWER_TITLE",
    "CHARGES",
    "MOST_BESIDE",
    "MOST_POINTS",
    "PAYOFF_ROUNDINGS",
    "Axis",
    "Cell",
    "LoanListed",
    "Matched",
    "Owed",
    "PayoffAmount",
    "PayoffRounding",
    "PeriodTotals",
    "RateCurve",
    "Reconciliation",
    "SideBySide",
    "SideBySideRow",
    "WayOut",
    "as_it_goes",
    "curve_of_rate",
    "listed",
    "owed",
    "period_totals_of",
    "sensitivity_of",
    "ways_out",
]
