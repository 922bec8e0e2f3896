"""The styles rates are quoted in, by name, and a style with what it is to be a rate of."""

from fractions import Fraction
from typing import Final, Literal, NamedTuple

from zephyrant.texts import worded

from ..calendars import frequencies
from .compounded import Continuous, Effective, Nominal, Periodic
from .convention import Bounds, Convention
from .flat import Flat
from .timed import Discount, Simple

Quoted = Literal["nominal", "effective", "periodic", "continuous", "flat", "simple", "discount"]
YearDays = Literal[360, 365]

#: Every style there is: one record each.
CONVENTIONS: Final[dict[Quoted, Convention]] = {
    "nominal": Nominal(),
    "effective": Effective(),
    "periodic": Periodic(),
    "continuous": Continuous(),
    "flat": Flat(),
    "simple": Simple(),
    "discount": Discount(),
}

#: What a quote is charged for, and how many payments a flat one is over, where nothing is said.
USUAL_TIME: Final = "1 year"
USUAL_COUNT: Final = 60
#: What is said after a style that is meant for one.
OF_360_DAYS: Final = "year of 360 days"


class Time(NamedTuple):
    """So many of a period: 90 days, 6 months."""

    number: Fraction
    period: frequencies.UnitName

    @property
    def years(self) -> Fraction:
        """Its length; days are 365 a year."""
        return self.number / frequencies.a_year(self.period)

    def in_years(self) -> str:
        """ "90/365", as it stands in a formula."""
        each = frequencies.a_year(self.period)
        if each == 1 or self.number.denominator != 1:
            return f"{float(self.years):.10g}"
        return f"{self.number}/{each}"

    def in_words(self) -> str:
        """ "90 days", "1 year"."""
        number = self.number
        shown = f"{number.numerator}" if number.denominator == 1 else f"{float(number):g}"
        return frequencies.period(self.period).number(shown)


class Style(NamedTuple):
    """How a rate is quoted, and the payments it is to be a rate of.

    `compounding` speaks of a nominal quote; `over` of a simple or a discount quote; `payments`
    and `in_advance` of a flat one. With `year_days` 360 the percent is for 360 days, so that a
    year of 365 bears 365/360 of it (common practice in money markets).
    """

    quoted: Quoted
    compounding: frequencies.Compounding
    every: frequencies.Frequency
    over: Time | None = None
    year_days: YearDays = 365
    payments: int | None = None
    in_advance: bool = False

    @property
    def convention(self) -> Convention:
        """The record of the style."""
        return CONVENTIONS[self.quoted]

    @property
    def scale(self) -> Fraction:
        """What a year of 365 days bears of the percent."""
        return Fraction(365, self.year_days) if self.convention.is_scaled else Fraction(1)

    @property
    def term(self) -> Fraction:
        """Years the payments of a flat quote run."""
        return Fraction(self.payments or 1, frequencies.a_year(self.every))

    def in_words(self) -> str:
        """ "a year, nominal, compounded half-yearly"."""
        return self.convention.words(self) + (f", {worded(OF_360_DAYS)}" if self.scale != 1 else "")

    def bounds(self) -> Bounds:
        """The percents between which a quote lies, neither of them reached; None: without bound."""
        return self.convention.bounds(self)
