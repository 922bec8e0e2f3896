"""The actuarial rate of one advance and one payment: its unit-period is its term, at most a year
(12 CFR 1026 Appendix J (b)(4) and (5))."""

from datetime import date
from math import expm1, log, log1p
from typing import NamedTuple

from ..calendars.dates import months_later, odd_time
from ..roots.narrowing import newton_between, to_a_float
from .unit_times import MONTH, Times


class Term(NamedTuple):
    """The time between the one advance and the one payment: so many unit-periods of which `a_year`
    make a year, `fraction` of one bearing simple interest."""

    a_year: float
    whole: int
    fraction: float


def single_rate(ratio: float, term: Term) -> float:
    """The actuarial rate a year of one advance and one payment that is `ratio` of it."""
    if not term.fraction:
        return term.a_year * expm1(log(ratio) / term.whole)

    def height(rate: float) -> tuple[float, float]:
        growth = log1p(term.fraction * rate) + term.whole * log1p(rate)
        slope = term.fraction / (1 + term.fraction * rate) + term.whole / (1 + rate)
        return growth - log(ratio), slope

    rate = newton_between(
        height,
        -1.0 + 1e-15,
        max(1.0, ratio) / term.fraction,
        0.0,
        rises=True,
        enough=to_a_float,
    )
    return term.a_year * rate


def single_term(begins: int | date, ends: int | date, times: Times) -> Term:
    """The unit-period of one advance and one payment is the term, at most a year (12 CFR 1026
    Appendix J (b)(4) and (5)): of whole months 12 / months a year, else 365 / days."""
    if times.calendar is None:
        between, a_year = abs(times.units(ends)[0] - times.units(begins)[0]), times.a_year
        if between < a_year:
            return Term(a_year / between, 1, 0.0)
        years, over = divmod(between, a_year)
        return Term(1.0, int(years), over / a_year)
    first, last = sorted(times.day(place) for place in (begins, ends))
    odd = odd_time(first, last, MONTH)
    whole = odd.whole // 12
    rest = months_later(last, -12 * whole)
    fraction = (rest - first).days / 365 if odd.fraction else odd.whole % 12 / 12
    return Term(1.0, whole, fraction) if whole else Term(1 / fraction, 1, 0.0)
