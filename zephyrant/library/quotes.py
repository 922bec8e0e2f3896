"""Quotes: one on every footing, several ranked."""

from collections.abc import Iterable, Mapping
from decimal import Decimal
from typing import Any, Final, NamedTuple

from zephyrant import loans
from zephyrant.loans import Loan, MarksName, NotALoan, frequencies
from zephyrant.loans.said import read_stated
from zephyrant.loans.statement import MOST_QUOTES, QuoteList, RateQuestion, answer, compare

from .frames import Column, Frame

#: A quote as it may be stated: what one would say, a percent, or as a loan document has it.
Quote = str | Decimal | float | Mapping[str, Any]
_PLAIN: Final[MarksName] = "plain"


class Footing(NamedTuple):
    """The rate in one style: what those of its kind stand under, what it is called, percent."""

    group: str
    name: str
    percent: Decimal


class RankedQuote(NamedTuple):
    """Where a quote stands among the others: `effective` in percent a year, basis points above the
    cheapest."""

    name: str
    quote: str
    effective: Decimal
    rank: int
    basis_points: Decimal


def equivalents(quote: Quote, /, *, every: str | int = "month", count: int = 60) -> Frame[Footing]:
    """A quote on every footing, each in percent to 30 digits.

    `every`: how often it is paid where the quote is for a payment period; `count` payments are
    those of a flat quote. Raises `zephyrant.NotALoan`.

    >>> table = equivalents("6.35 % compounded half-yearly")
    >>> f"{table[0].name}: {table[0].percent:.4f}"
    'a year: 6.4508'
    """
    told = answer(RateQuestion(marks=_PLAIN, **_typed(_loan(quote, every, count))))
    if told.errors:
        raise NotALoan(told.errors)
    footings = told.footings
    return Frame(
        {
            "group": Column("text", [each["group"] for each in footings]),
            "name": Column("text", [each["name"] for each in footings]),
            "percent": Column("decimal", [Decimal(each["exact"]) for each in footings]),
        },
        Footing,
    )


def compare_quotes(
    quotes: Mapping[str, Quote] | Iterable[Quote], /, *, every: str | int = "month", count: int = 60
) -> Frame[RankedQuote]:
    """Quotes by name, or in a row, on one footing, the cheapest first; at most 60 of them.

    Raises `zephyrant.NotALoan` with what is wrong at the quote's name.

    >>> ranked = compare_quotes({"Alder": "6.35 % compounded half-yearly", "Birch": "6.4 %"})
    >>> [(each.name, each.rank, str(each.basis_points)) for each in ranked]
    [('Alder', 1, '0.00'), ('Birch', 2, '14.03')]
    """
    named = quotes if isinstance(quotes, Mapping) else {str(each): each for each in quotes}
    if len(named) > MOST_QUOTES:
        raise NotALoan.at("", f"At most {MOST_QUOTES} quotes are compared at once.")
    lines = []
    for name, quote in named.items():
        try:
            typed = _typed(_loan(quote, every, count))
        except NotALoan as wrong:
            raise NotALoan.at(name, wrong.errors[0].message) from None
        times = typed.pop("times")
        compounding = "continuous" if times == "continuous" else int(times)
        lines.append({**typed, "name": name[:200], "compounding": compounding})
    compared = compare(QuoteList.model_validate({"marks": _PLAIN, "quotes": lines}))
    rows = []
    for name, told in zip(named, compared.quotes, strict=True):
        if told.errors or told.effective is None or told.rank is None:
            raise NotALoan.at(name, told.errors[0].message if told.errors else "No rate fits.")
        points = Decimal(told.basis_points or 0)
        rows.append(RankedQuote(name, told.quote or "", Decimal(told.effective), told.rank, points))
    rows.sort(key=lambda each: each.rank)
    kinds = ("text", "text", "decimal", "whole", "decimal")
    return Frame(
        {
            name: Column(kind, [row[place] for row in rows])  # type: ignore[arg-type]
            for place, (name, kind) in enumerate(zip(RankedQuote._fields, kinds, strict=True))
        },
        RankedQuote,
    )


def _loan(quote: Quote, every: str | int, count: int) -> Loan:
    """A quote as the rate of a loan whose other figures do not matter."""
    figures = {"principal": 1000, "payment": "?", "count": count, "every": every, "rate": quote}
    try:
        loan = read_stated(figures).loan
    except NotALoan as wrong:
        raise NotALoan(
            each.model_copy(update={"field": each.field.replace("rate", "quote", 1)})
            for each in wrong.errors
        ) from None
    assert loan is not None  # noqa: S101  (else it raises)
    if loan.rate.percent == "?":
        raise NotALoan.at("quote", "A quote is stated whole: nothing in it can be ?.")
    return loan


def _typed(loan: Loan) -> dict[str, Any]:
    """A loan's quote as one would type it."""
    style, rate = loan.style, loans.write(loan)["rate"]
    typed: dict[str, Any] = {
        "percent": str(rate["percent"]),
        "quoted": style.quoted,
        "year_days": style.year_days,
        "count": str(loan.count),
        "every": loan.every,
    }
    compounding = style.compounding
    typed["times"] = (
        compounding if compounding == "continuous" else str(frequencies.a_year(compounding))
    )
    if over := loan.rate.over:
        typed["over"] = f"{over.number} {over.period}s"
    return typed
