"""Periods: how often, in numbers and in the words people say."""

from fractions import Fraction
from typing import Final, Literal, NamedTuple

from zephyrant.texts import counted, worded

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


class _Period(NamedTuple):
    a_year: int
    often: str
    noun: str


class Period(_Period):
    """A period of the trade: how many make a year, and its words as whoever reads them says."""

    __slots__ = ()

    @property
    def often(self) -> str:
        """ "monthly", "every two months": payments are made so."""
        return self._said(super().often)

    @property
    def noun(self) -> str:
        """ "month": one of them."""
        return self._said(super().noun)

    def _said(self, word: str) -> str:
        return worded(word, n=self.a_year) if self.a_year else worded(word)

    def number(self, count: int | str) -> str:
        """So many of them: "1 month", "60 months"."""
        return number_of(count, super().noun)

    @property
    def payment(self) -> str:
        """A payment made so: "monthly payment", "payment every two months"."""
        if " " in super().often:
            return worded("payment {often}", often=self.often)
        return worded("{often} payment", often=self.often)

    def payments(self, count: str = "") -> str:
        """So many of them, or all: "60 monthly payments", "payments every two months"."""
        many, often = 1 if count == "1" else 2, self.often
        if " " in super().often:
            if not count:
                return worded("payments {often}", often=often)
            return counted(
                "{count} payment {often}",
                "{count} payments {often}",
                many,
                count=count,
                often=often,
            )
        if not count:
            return worded("{often} payments", often=often)
        return counted(
            "{count} {often} payment",
            "{count} {often} payments",
            many,
            count=count,
            often=often,
        )


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
        return _BY_NUMBER.get(every) or Period(every, *ANY[1:])
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
        return worded(CONTINUOUSLY)
    if isinstance(compounding, int) and compounding not in _BY_NUMBER:
        return worded(ANY_COMPOUNDED, n=compounding)
    return worded(COMPOUNDED, often=period(compounding).often)


def number_of(count: int | str, noun: str) -> str:
    """ "1 payment", "60 payments", of a noun in English."""
    many = 1 if str(count) == "1" else 2
    return counted(f"{{count}} {noun}", f"{{count}} {noun}s", many, count=count)


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
        return worded("{count} years", count=f"{float(Fraction(count, each)):.2f}")
    whole, half = divmod(months, 1)
    over_a_year = (
        number_of(f"{int(whole) or ''}½", "month") if half else number_of(int(whole), "month")
    )
    return f"{number_of(years, 'year')} {over_a_year}" if years else over_a_year
