"""Periods: how often, in numbers and in the words people say."""

from fractions import Fraction
from typing import Final, Literal, NamedTuple

from zephyrant.texts import worded

FrequencyName = Literal[
    "year",
    "half-year",
    "quarter",
    "two-months",
    "month",
    "half-month",
    "four-weeks",
    "two-weeks",
    "week",
    "day",
]
UnitName = Literal["year", "half-year", "quarter", "month", "week", "day"]
Frequency = FrequencyName | int
Compounding = Frequency | Literal["continuous"]


class Period(NamedTuple):
    """A period of the trade: how many make a year, and its words."""

    a_year: int
    often: str  # "monthly", "every two months": payments are made so
    noun: str  # "month": one of them

    @property
    def payment(self) -> str:
        """A payment made so: "monthly payment", "payment every two months"."""
        return (
            worded("payment {often}", often=self.often)
            if " " in self.often
            else f"{self.often} payment"
        )

    def payments(self, count: str = "") -> str:
        """So many of them, or all: "60 monthly payments", "payments every two months"."""
        noun = "payment" if count == "1" else "payments"
        said = f"{noun} {self.often}" if " " in self.often else f"{self.often} {noun}"
        return f"{count} {said}".strip()


PERIODS: Final[dict[FrequencyName, Period]] = {
    "year": Period(1, "yearly", "year"),
    "half-year": Period(2, "half-yearly", "half-year"),
    "quarter": Period(4, "quarterly", "quarter"),
    "two-months": Period(6, "every two months", "two-month period"),
    "month": Period(12, "monthly", "month"),
    "half-month": Period(24, "twice a month", "half-month"),
    "four-weeks": Period(13, "every four weeks", "four-week period"),
    "two-weeks": Period(26, "every two weeks", "two-week period"),
    "week": Period(52, "weekly", "week"),
    "day": Period(365, "daily", "day"),
}
#: Any other number of them a year: `{n}` is to be filled.
ANY: Final = Period(0, "{n} times a year", "1/{n} year")
COMPOUNDED: Final = "compounded {often}"
ANY_COMPOUNDED: Final = "compounded {n} times a year"
CONTINUOUSLY: Final = "compounded continuously"
_BY_NUMBER: Final = {period.a_year: period for period in PERIODS.values()}

#: Periods that are whole weeks long: their terms are told in weeks, not months.
_WEEKS: Final = {52: 1, 26: 2, 13: 4}


def period(every: Frequency) -> Period:
    """The period named, or the one of which so many make a year."""
    if isinstance(every, int):
        return _BY_NUMBER.get(every) or Period(
            every, ANY.often.format(n=every), ANY.noun.format(n=every)
        )
    return PERIODS[every]


def named(number: int) -> Frequency:
    """So many a year by the name they have, if they have one."""
    names = (name for name, each in PERIODS.items() if each.a_year == number)
    return next(names, number)


def a_year(every: Frequency) -> int:
    """How many periods make a year."""
    return every if isinstance(every, int) else PERIODS[every].a_year


def compounded(compounding: Compounding) -> str:
    """A compounding in words: "compounded half-yearly"."""
    if compounding == "continuous":
        return CONTINUOUSLY
    if isinstance(compounding, int) and compounding not in _BY_NUMBER:
        return ANY_COMPOUNDED.format(n=compounding)
    return COMPOUNDED.format(often=period(compounding).often)


def number_of(count: int | str, noun: str) -> str:
    """ "1 payment", "60 payments"."""
    return f"{count} {noun}" if str(count) == "1" else f"{count} {noun}s"


def term(count: int, every: Frequency) -> str:
    """How long so many periods are, in words: "5 years 6 months", "30 weeks", "400 days"."""
    each = a_year(every)
    years, over = divmod(count, each)
    if not over:
        return number_of(years, "year")
    if each in _WEEKS:
        return number_of(count * _WEEKS[each], "week")
    if each == 365:
        return number_of(count, "day")
    months = Fraction(over * 12, each)
    if months.denominator > 2:
        return f"{float(Fraction(count, each)):.2f} years"
    whole, half = divmod(months, 1)
    over_a_year = (
        number_of(f"{int(whole) or ''}½", "month") if half else number_of(int(whole), "month")
    )
    return f"{number_of(years, 'year')} {over_a_year}" if years else over_a_year
