"""The choices a statement offers, and what they are called on the screen."""

from functools import cache

from ninja import Schema

from zephyrant.loans import MARKS, PERIODS, MarksName, currencies


class CurrencyWord(Schema):
    """A currency of ISO 4217."""

    code: str
    name: str
    decimals: int


class PeriodWord(Schema):
    """A period: its name in documents, how many make a year, its words."""

    name: str
    a_year: int
    often: str
    noun: str


class MarksWord(Schema):
    """A way to write numbers."""

    name: MarksName
    group: str
    decimal: str


class Words(Schema):
    """Every choice there is."""

    currencies: list[CurrencyWord]
    periods: list[PeriodWord]
    marks: list[MarksWord]


@cache
def words() -> Words:
    """Every choice there is."""
    return Words(
        currencies=[
            CurrencyWord(code=each.code, name=each.name, decimals=each.decimals)
            for each in sorted(currencies().values())
        ],
        periods=[
            PeriodWord(name=name, a_year=each.a_year, often=each.often, noun=each.noun)
            for name, each in PERIODS.items()
        ],
        marks=[
            MarksWord(name=name, group=marks.group, decimal=marks.decimal)
            for name, marks in MARKS.items()
            if name != "plain"
        ],
    )
