"""How rates are quoted: the styles of the trade, their words, and the percents they can take."""

from fractions import Fraction
from typing import Literal, NamedTuple

from ..calendars import frequencies

Quoted = Literal["nominal", "effective", "periodic", "continuous", "flat", "simple", "discount"]
YearDays = Literal[360, 365]

#: Styles that are charged for a stated time.
TIMED: tuple[Quoted, ...] = ("simple", "discount")
#: Styles a year of 360 days can be meant with.
SCALED: tuple[Quoted, ...] = ("nominal", "continuous", "simple", "discount")


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
        return frequencies.number_of(shown, frequencies.period(self.period).noun)


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
    def scale(self) -> Fraction:
        """What a year of 365 days bears of the percent."""
        return Fraction(365, self.year_days) if self.quoted in SCALED else Fraction(1)

    @property
    def term(self) -> Fraction:
        """Years the payments of a flat quote run."""
        return Fraction(self.payments or 1, frequencies.a_year(self.every))

    def in_words(self) -> str:
        """ "a year, nominal, compounded half-yearly"."""
        year = ", year of 360 days" if self.scale != 1 else ""
        return _words(self) + year

    def bounds(self) -> tuple[Fraction | None, Fraction | None]:
        """The percents between which a quote lies, neither of them reached; None: without bound.

        Below the first nothing is left of one lent; at the second, interest taken in advance
        takes all of it, or the first of the payments repays more than is lent.
        """
        match self.quoted:
            case "continuous":
                return None, None
            case "nominal":
                if self.compounding == "continuous":
                    return None, None
                return -100 * frequencies.a_year(self.compounding) / self.scale, None
            case "flat":
                most = None
                if self.in_advance:
                    most = Fraction(100 * ((self.payments or 1) - 1)) / self.term
                return -100 / self.term, most
            case "simple":
                return -100 / self._charged_for(), None
            case "discount":
                return None, 100 / self._charged_for()
        return Fraction(-100), None

    def _charged_for(self) -> Fraction:
        return (self.over.years if self.over else Fraction(1)) * self.scale


def _words(style: Style) -> str:
    over = style.over.in_words() if style.over else "a stated time"
    payments = frequencies.number_of(
        style.payments or "the stated", f"{frequencies.period(style.every).often} payment"
    )
    return {
        "nominal": f"a year, nominal, {frequencies.compounded(style.compounding)}",
        "effective": "a year, effective",
        "continuous": "a year, compounded continuously",
        "periodic": f"for each {frequencies.period(style.every).noun}",
        "flat": f"a year, flat (add-on), over {payments}",
        "simple": f"a year, simple interest over {over}",
        "discount": f"a year, discount taken in advance over {over}",
    }[style.quoted]
