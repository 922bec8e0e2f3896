"""What is asked of a loan beside its answer: moments, payoff, what moves it, others beside it."""

from .balance_at import Owed, PayoffRounding, owed
from .payoff import Charge, PayoffAmount, payoff_at
from .period_totals import PeriodTotals, period_totals_of
from .rate_curve import RateCurve, curve_of_rate
from .reconciliation import Matched, Reconciliation, reconcile
from .sensitivity import MOST_POINTS
from .side_by_side import MOST_BESIDE, Cell, SideBySide, SideBySideRow

__all__ = [
    "MOST_BESIDE",
    "MOST_POINTS",
    "Cell",
    "Charge",
    "Matched",
    "Owed",
    "PayoffAmount",
    "PayoffRounding",
    "PeriodTotals",
    "RateCurve",
    "Reconciliation",
    "SideBySide",
    "SideBySideRow",
    "curve_of_rate",
    "owed",
    "payoff_at",
    "period_totals_of",
    "reconcile",
]
