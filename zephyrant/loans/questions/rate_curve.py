"""The curve of what is left at the end against the rate: where it crosses zero, drawn."""

from decimal import Decimal
from typing import Final

from typing_extensions import TypedDict

from zephyrant.texts import worded

from ..document.loan import Loan
from ..errors import NotALoan
from ..line.compiling import stated_terms
from ..numbers.decimals import plain, precise, significant
from ..numbers.ratios import as_decimal
from ..quotes.conversion import periodic_rate, quoted_percent
from ..unknowns.all_rates import drawn
from ..unknowns.solution import quote_of
from ..unknowns.worked import work_out
from ..wording.marks import Marks

#: Decimals of a rate that is read off a curve.
_PLACES: Final = 2


class Point(TypedDict):
    """A rate, effective percent a year, and what is then left too much, as a share of what is
    lent; both for drawing only."""

    effective: float
    gap: float


class RateCurve(TypedDict):
    """The points of the curve, and the rates that fit: as quoted and effective a year. `told`: what
    is read at each of those; `ends`: at both ends."""

    points: list[Point]
    fits: list[Point]
    percents: list[str]
    told: list[str]
    ends: list[str]


def curve_of_rate(loan: Loan, marks: Marks) -> RateCurve:
    """The curve of a loan whose rate is asked for; raises `NotALoan` where another figure is."""
    path = loan.asked
    if path is None or not path.is_rate or path.floats:
        raise NotALoan.at("", worded("Only a rate that is asked for has a curve."))
    terms, often = stated_terms(loan), loan.payments_a_year
    if terms.has_parts:
        raise NotALoan.at(
            "",
            worded("Here the first payment tells the rate, and no other fits: there is no curve."),
        )
    if terms.count is None:
        raise NotALoan.at("count", worded("The curve needs the count."))
    found = work_out(loan).found
    style = loan.style_of(quote_of(loan))
    rates = [_periodic(percent, loan) for percent in found.solutions]
    with precise():
        points = [
            Point(effective=float(100 * ((1 + rate) ** often - 1)), gap=float(gap))
            for rate, gap in drawn(terms, path, rates)
        ]
        fits = [Point(effective=float(100 * ((1 + rate) ** often - 1)), gap=0.0) for rate in rates]
        percents = [plain(significant(quoted_percent(rate, style))) for rate in rates]

    def told(point: Point) -> str:
        return marks.percent(Decimal(point["effective"]), _PLACES, _PLACES)

    return {
        "points": points,
        "fits": fits,
        "percents": percents,
        "told": [told(point) for point in fits],
        "ends": [told(points[0]), told(points[-1])],
    }


def _periodic(percent: Decimal, loan: Loan) -> Decimal:
    style = loan.style_of(quote_of(loan))
    with precise():
        return as_decimal(periodic_rate(percent, style))
