"""Rates that are charged for a stated time.

A simple rate p over t years grows one by (1 + p t)^(1/t) a year, a discount taken in advance by
(1 - p t)^(-1/t) (standard interest mathematics).
"""

from decimal import Decimal
from fractions import Fraction
from typing import TYPE_CHECKING

from ..calendars import frequencies
from ..numbers.ratios import as_decimal, power
from .convention import Bounds, Convention, Formula, scaled, scaled_cell

if TYPE_CHECKING:
    from .styles import Style


def _years(style: "Style") -> Fraction:
    if style.over is None:
        raise ValueError("a simple or a discount quote is charged for a stated time")
    return style.over.years


def _charged_for(style: "Style") -> Fraction:
    return (style.over.years if style.over else Fraction(1)) * style.scale


def _over(style: "Style") -> str:
    return style.over.in_words() if style.over else "a stated time"


def _in_years(style: "Style") -> str:
    return style.over.in_years() if style.over else ""


class Simple(Convention):
    """Simple interest over its time."""

    is_timed = True
    is_scaled = True

    def words(self, style: "Style") -> str:
        """As it is said."""
        return f"a year, simple interest over {_over(style)}"

    def bounds(self, style: "Style") -> Bounds:
        """All is gone with -100 % over its time."""
        return -100 / _charged_for(style), None

    def growth(self, share: Decimal, style: "Style") -> Decimal:
        """(1 + p t)^(1/t)."""
        years = _years(style)
        return power(1 + share * as_decimal(years), 1 / years)

    def share(self, growth: Decimal, style: "Style") -> Decimal:
        """What it grows by over its time, a year."""
        years = _years(style)
        return (power(growth, years) - 1) / as_decimal(years)

    def formula(self, style: "Style") -> Formula:
        """By what it grows by over its time."""
        p, shown, back = scaled(style)
        years, often = _in_years(style), frequencies.a_year(style.every)
        return Formula(
            f"i = (1 + {p}·t)^(1/(f·t)) − 1",
            f"{back}((1 + i)^(f·t) − 1) / t",
            f"(1 + {shown} × {years})^(1/({often} × {years})) − 1",
        )

    def yearly_formula(self, style: "Style") -> Formula:
        """By what it grows by over its time."""
        p, shown, back = scaled(style)
        years = _in_years(style)
        return Formula(
            f"e = (1 + {p}·t)^(1/t) − 1",
            f"{back}((1 + e)^t − 1) / t",
            f"(1 + {shown} × {years})^(1/({years})) − 1",
        )

    def sheet_formula(self, style: "Style", cell: str) -> str | None:
        """By what it grows by over its time."""
        if style.over is None:
            return None
        p, years, often = (
            scaled_cell(style, cell),
            _in_years(style),
            frequencies.a_year(style.every),
        )
        return f"=100*((1+{p}/100*({years}))^(1/({often}*({years})))-1)"


class Discount(Convention):
    """Interest over its time, taken in advance."""

    is_timed = True
    is_scaled = True
    beyond = "interest taken in advance takes all that is lent"

    def words(self, style: "Style") -> str:
        """As it is said."""
        return f"a year, discount taken in advance over {_over(style)}"

    def bounds(self, style: "Style") -> Bounds:
        """At 100 % over its time all is taken."""
        return None, 100 / _charged_for(style)

    def growth(self, share: Decimal, style: "Style") -> Decimal:
        """(1 - p t)^(-1/t)."""
        years = _years(style)
        return power(1 - share * as_decimal(years), -1 / years)

    def share(self, growth: Decimal, style: "Style") -> Decimal:
        """What is taken off over its time, a year."""
        years = _years(style)
        return (1 - power(growth, -years)) / as_decimal(years)

    def formula(self, style: "Style") -> Formula:
        """By what is taken off over its time."""
        p, shown, back = scaled(style)
        years, often = _in_years(style), frequencies.a_year(style.every)
        return Formula(
            f"i = (1 − {p}·t)^(−1/(f·t)) − 1",
            f"{back}(1 − (1 + i)^(−f·t)) / t",
            f"(1 − {shown} × {years})^(−1/({often} × {years})) − 1",
        )

    def yearly_formula(self, style: "Style") -> Formula:
        """By what is taken off over its time."""
        p, shown, back = scaled(style)
        years = _in_years(style)
        return Formula(
            f"e = (1 − {p}·t)^(−1/t) − 1",
            f"{back}(1 − (1 + e)^(−t)) / t",
            f"(1 − {shown} × {years})^(−1/({years})) − 1",
        )

    def sheet_formula(self, style: "Style", cell: str) -> str | None:
        """By what is taken off over its time."""
        if style.over is None:
            return None
        p, years, often = (
            scaled_cell(style, cell),
            _in_years(style),
            frequencies.a_year(style.every),
        )
        return f"=100*((1-{p}/100*({years}))^(-1/({often}*({years})))-1)"
