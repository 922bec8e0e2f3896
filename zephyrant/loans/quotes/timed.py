"""Rates that are charged for a stated time.

A simple rate p over t years grows one by (1 + p t)^(1/t) a year, a discount taken in advance by
(1 - p t)^(-1/t) (standard interest mathematics): the one with the other sign.
"""

from decimal import Decimal
from fractions import Fraction
from typing import TYPE_CHECKING, ClassVar

from ..calendars import frequencies
from ..numbers.ratios import as_decimal, power
from .convention import Bounds, Convention, Formula, scaled, scaled_cell

if TYPE_CHECKING:
    from .styles import Style


class _Timed(Convention):
    """Interest over a time, added at its end or taken off at its beginning."""

    is_timed = True
    is_scaled = True
    title = "Over a time"
    needs = " over {over}"
    #: 1 where it is added, -1 where it is taken off; how that is written before p, and in powers.
    _sign: ClassVar[int]
    _before: ClassVar[str]
    _in_powers: ClassVar[str]
    #: What is charged, from a growth and the power it is raised to.
    _charged: ClassVar[str]

    def bounds(self, style: "Style") -> Bounds:
        """With 100 % over its time all is gone, or taken."""
        years = (style.over.years if style.over else Fraction(1)) * style.scale
        bound = -100 * self._sign / years
        return (bound, None) if self._sign > 0 else (None, bound)

    def growth(self, share: Decimal, style: "Style") -> Decimal:
        """What its time makes of one, a year."""
        years = _years(style)
        return power(1 + self._sign * share * as_decimal(years), self._sign / years)

    def share(self, growth: Decimal, style: "Style") -> Decimal:
        """What is charged over its time, a year."""
        years = _years(style)
        return self._sign * (power(growth, self._sign * years) - 1) / as_decimal(years)

    def formula(self, style: "Style") -> Formula:
        """By what is charged over its time."""
        p, shown, back = scaled(style)
        years, often = _in_years(style), frequencies.a_year(style.every)
        one, charged = (
            f"{self._in_powers}1",
            self._charged.format("(1 + i)", f"({self._in_powers}f·t)"),
        )
        return Formula(
            f"i = (1 {self._before} {p}·t)^({one}/(f·t)) − 1",
            f"{back}{charged} / t",
            f"(1 {self._before} {shown} × {years})^({one}/({often} × {years})) − 1",
        )

    def yearly_formula(self, style: "Style") -> Formula:
        """The same a year."""
        p, shown, back = scaled(style)
        years = _in_years(style)
        one, charged = (
            f"{self._in_powers}1",
            self._charged.format("(1 + e)", "t" if self._sign > 0 else "(−t)"),
        )
        return Formula(
            f"e = (1 {self._before} {p}·t)^({one}/t) − 1",
            f"{back}{charged} / t",
            f"(1 {self._before} {shown} × {years})^({one}/({years})) − 1",
        )

    def sheet_formula(self, style: "Style", cell: str) -> str | None:
        """The same in a sheet."""
        if style.over is None:
            return None
        p, years, often = scaled_cell(style, cell), _in_years(style), style.every
        before, one = ("+", "1") if self._sign > 0 else ("-", "-1")
        times = f"({frequencies.a_year(often)}*({years}))"
        return f"=100*((1{before}{p}/100*({years}))^({one}/{times})-1)"


class Simple(_Timed):
    """Simple interest over its time."""

    _sign, _before, _in_powers = 1, "+", ""
    _charged = "({0}^{1} − 1)"
    said = "a year, simple interest"
    choice = "simple interest over a time"


class Discount(_Timed):
    """Interest over its time, taken in advance."""

    _sign, _before, _in_powers = -1, "−", "−"
    _charged = "(1 − {0}^{1})"
    beyond = "interest taken in advance takes all that is lent"
    said = "a year, discount taken in advance"
    choice = "discount: interest taken in advance over a time"


def _years(style: "Style") -> Fraction:
    if style.over is None:
        raise ValueError("a simple or a discount quote is charged for a stated time")
    return style.over.years


def _in_years(style: "Style") -> str:
    return style.over.in_years() if style.over else ""
