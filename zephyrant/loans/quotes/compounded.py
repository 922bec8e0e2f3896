"""Rates that are compounded: nominal, effective, of one period, continuous.

A nominal rate p compounded m times a year grows one to (1 + p/m)^m, a continuous one to e^p, an
effective one to 1 + p (standard interest mathematics).
"""

from decimal import Decimal
from fractions import Fraction
from typing import TYPE_CHECKING

from ..calendars import frequencies
from ..numbers.arrays import Floats, np
from ..numbers.ratios import power
from .convention import Bounds, Convention, Formula, scaled, scaled_cell

if TYPE_CHECKING:
    from .styles import Style


class Effective(Convention):
    """What one lent bears in a year."""

    is_effective = True
    has_arrays = True
    said = "a year, effective"
    title, choice = "Effective", "effective a year"

    def growth(self, share: Decimal, style: "Style") -> Decimal:
        """1 + p."""
        return 1 + share

    def share(self, growth: Decimal, style: "Style") -> Decimal:
        """What it grows by."""
        return growth - 1

    def formula(self, style: "Style") -> Formula:
        """By the f-th root."""
        often = frequencies.a_year(style.every)
        return Formula("i = (1 + p)^(1/f) − 1", "p = (1 + i)^f − 1", f"(1 + {{p}})^(1/{often}) − 1")

    def yearly_formula(self, style: "Style") -> Formula:
        """Itself."""
        return Formula("e = p", "p = e", "{p}")

    def sheet_formula(self, style: "Style", cell: str) -> str:
        """By the f-th root."""
        return f"=100*((1+{cell}/100)^(1/{frequencies.a_year(style.every)})-1)"

    def force(self, share: Floats, style: "Style") -> Floats:
        """ln(1 + p)."""
        return np.log1p(share)

    def share_of_force(self, force: Floats, style: "Style") -> Floats:
        """e^s - 1."""
        return np.expm1(force)


class Periodic(Convention):
    """The rate of one payment period itself."""

    is_of_periods = True
    has_arrays = True
    said = choice = "for each {noun}"
    title = "Periodic"

    def growth(self, share: Decimal, style: "Style") -> Decimal:
        """(1 + p)^f."""
        return (1 + share) ** frequencies.a_year(style.every)

    def share(self, growth: Decimal, style: "Style") -> Decimal:
        """By the f-th root."""
        return power(growth, Fraction(1, frequencies.a_year(style.every))) - 1

    def divisor(self, style: "Style") -> int:
        """It is the rate."""
        return 1

    def formula(self, style: "Style") -> Formula:
        """Itself."""
        return Formula("i = p", "p = i", "{p}")

    def sheet_formula(self, style: "Style", cell: str) -> str:
        """Itself."""
        return f"={cell}"

    def force(self, share: Floats, style: "Style") -> Floats:
        """F ln(1 + p)."""
        return np.log1p(share) * frequencies.a_year(style.every)

    def share_of_force(self, force: Floats, style: "Style") -> Floats:
        """e^(s/f) - 1."""
        return np.expm1(force / frequencies.a_year(style.every))


class Continuous(Convention):
    """Compounded at every moment."""

    is_scaled = True
    has_arrays = True
    said = f"a year, {frequencies.CONTINUOUSLY}"
    title, choice = "Continuous", frequencies.CONTINUOUSLY

    def bounds(self, style: "Style") -> Bounds:
        """None."""
        return None, None

    def growth(self, share: Decimal, style: "Style") -> Decimal:
        """e^p."""
        return share.exp()

    def share(self, growth: Decimal, style: "Style") -> Decimal:
        """The logarithm."""
        return growth.ln()

    def formula(self, style: "Style") -> Formula:
        """By e^(p/f)."""
        p, shown, back = scaled(style)
        often = frequencies.a_year(style.every)
        return Formula(f"i = e^({p}/f) − 1", f"{back}f · ln(1 + i)", f"e^({shown} / {often}) − 1")

    def yearly_formula(self, style: "Style") -> Formula:
        """By e^p."""
        p, shown, back = scaled(style)
        return Formula(f"e = exp({p}) − 1", f"{back}ln(1 + e)", f"exp({shown}) − 1")

    def sheet_formula(self, style: "Style", cell: str) -> str:
        """By e^(p/f)."""
        often = frequencies.a_year(style.every)
        return f"=100*(EXP({scaled_cell(style, cell)}/100/{often})-1)"

    def force(self, share: Floats, style: "Style") -> Floats:
        """P."""
        return share

    def share_of_force(self, force: Floats, style: "Style") -> Floats:
        """S."""
        return force


class Nominal(Convention):
    """So much a year, compounded so often: as continuous where that is at every moment."""

    is_scaled = True
    is_compounded = True
    has_arrays = True
    said = "a year, nominal, {compounded}"
    title, choice = "Nominal a year", "{compounded}"

    def bounds(self, style: "Style") -> Bounds:
        """All is gone with a period's rate of -100 %."""
        times = _times(style)
        return (None, None) if times is None else (-100 * times / style.scale, None)

    def growth(self, share: Decimal, style: "Style") -> Decimal:
        """(1 + p/m)^m."""
        times = _times(style)
        return _CONTINUOUS.growth(share, style) if times is None else (1 + share / times) ** times

    def share(self, growth: Decimal, style: "Style") -> Decimal:
        """By the m-th root."""
        times = _times(style)
        if times is None:
            return _CONTINUOUS.share(growth, style)
        return times * (power(growth, Fraction(1, times)) - 1)

    def divisor(self, style: "Style") -> int | None:
        """The payments a year, where it is compounded with them."""
        times = _times(style)
        return times if times == frequencies.a_year(style.every) else None

    def formula(self, style: "Style") -> Formula:
        """By the growth of a compounding period."""
        times, often = _times(style), frequencies.a_year(style.every)
        if times is None:
            return _CONTINUOUS.formula(style)
        p, shown, back = scaled(style)
        if times == often:
            return Formula(f"i = {p} / f", f"{back}f · i", f"{shown} / {often}")
        return Formula(
            f"i = (1 + {p}/m)^(m/f) − 1",
            f"{back}m · ((1 + i)^(f/m) − 1)",
            f"(1 + {shown} / {times})^({times}/{often}) − 1",
        )

    def yearly_formula(self, style: "Style") -> Formula:
        """By the growth of a compounding period."""
        times = _times(style)
        if times is None:
            return _CONTINUOUS.yearly_formula(style)
        p, shown, back = scaled(style)
        return Formula(
            f"e = (1 + {p}/m)^m − 1",
            f"{back}m · ((1 + e)^(1/m) − 1)",
            f"(1 + {shown} / {times})^{times} − 1",
        )

    def sheet_formula(self, style: "Style", cell: str) -> str:
        """By the growth of a compounding period."""
        times, often = _times(style), frequencies.a_year(style.every)
        if times is None:
            return _CONTINUOUS.sheet_formula(style, cell)
        p = scaled_cell(style, cell)
        if times == often:
            return f"={p}/{often}"
        return f"=100*((1+{p}/100/{times})^({times}/{often})-1)"

    def force(self, share: Floats, style: "Style") -> Floats:
        """M ln(1 + p/m)."""
        times = _times(style)
        return share if times is None else np.log1p(share / times) * times

    def share_of_force(self, force: Floats, style: "Style") -> Floats:
        """M (e^(s/m) - 1)."""
        times = _times(style)
        return force if times is None else times * np.expm1(force / times)


_CONTINUOUS = Continuous()


def _times(style: "Style") -> int | None:
    """How often a year it is compounded; None: at every moment."""
    if style.compounding == "continuous":
        return None
    return frequencies.a_year(style.compounding)
