"""Quotes as typed, compared: how each is read, what is wrong with it, where it stands."""

from decimal import Decimal
from typing import Any, Final

from pydantic import BaseModel, ConfigDict, Field

from zephyrant.texts import worded

from ..document.fields import CompoundingField, CurrencyCode, Every
from ..document.quote import outside
from ..document.reading import check
from ..errors import FieldError, NotALoan
from ..numbers.annuity import Timing
from ..numbers.decimals import DIGITS, precise
from ..questions.comparison import InMoney, at_growth, cheapest_in_words, in_money, ranked, tried
from ..quotes.conversion import growth_of
from ..quotes.styles import CONVENTIONS, Quoted, YearDays
from ..wording.marks import MARKS, MarksName
from .entries import ENTRIES, Entry
from .parsing import Reading
from .rate_questions import QUOTE_ENTRIES
from .reading import readings, style_of
from .restating import remark
from .statement import Statement

MOST_QUOTES: Final = 60
Typed = Field(default="", max_length=200)


#: What is typed of a quote in a list.
LINE_ENTRIES: Final = {
    "percent": Entry("Percent", ENTRIES["percent"].help),
    "over": QUOTE_ENTRIES["over"],
    "count": Entry("Payments", QUOTE_ENTRIES["count"].help),
}


class QuoteLine(BaseModel):
    """A quote as typed, and who made it. `count` payments `every` so often: those of a flat one."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    name: str = Typed
    percent: str = Typed
    quoted: Quoted = "nominal"
    compounding: CompoundingField | None = None
    over: str = Typed
    year_days: YearDays = 365
    count: str = Typed
    every: Every = "month"


class Yardstick(BaseModel):
    """The loan on which quotes are told in money, as typed."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    currency: CurrencyCode = "EUR"
    principal: str = Field(default="10000", max_length=200)
    count: str = Field(default="60", max_length=200)
    every: Every = "month"
    timing: Timing = "in-arrears"


class QuoteList(BaseModel):
    """Quotes an analyst compares, as typed."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    marks: MarksName = "comma-point"
    name: str = Typed
    yardstick: Yardstick = Yardstick()
    quotes: tuple[QuoteLine, ...] = Field(default=(), max_length=MOST_QUOTES)


class Compared(BaseModel):
    """A quote worked: how it was read, what is wrong, or where it stands.

    `effective` is percent a year to 30 digits, `printed` the same as people print it.
    `basis_points` above the cheapest; `place` from 0 (the cheapest) to 1 (the dearest).
    """

    model_config = ConfigDict(frozen=True, defer_build=True)

    readings: dict[str, Reading]
    errors: tuple[FieldError, ...] = ()
    quote: str | None = None
    effective: str | None = None
    printed: str | None = None
    rank: int | None = None
    basis_points: str | None = None
    place: float = 0
    in_money: InMoney | None = None


class Comparison(BaseModel):
    """The quotes in the order typed; the loan they are tried on; what stands out, in words."""

    model_config = ConfigDict(frozen=True, defer_build=True)

    quotes: tuple[Compared, ...]
    yardstick: dict[str, Reading]
    yardstick_errors: tuple[FieldError, ...]
    says: str | None


def as_statement(quote: QuoteLine, marks: MarksName) -> Statement:
    """A quote as the part of a statement it is."""
    return Statement(marks=marks, **quote.model_dump(exclude={"name"}))


def mistakes(quote: QuoteLine, marks: MarksName) -> tuple[FieldError, ...]:
    """What is wrong with a quote, at its fields; none where it can be ranked."""
    statement = as_statement(quote, marks)
    read = readings(statement)
    needed = ["percent", *(["over"] if "over" in read else [])]
    needed += ["count"] if CONVENTIONS[quote.quoted].is_of_a_loan else []
    errors = [FieldError(field=name, message=read[name].error or "") for name in needed]
    errors = [error for error in errors if error.message]
    if errors:
        return tuple(errors)
    asked = [name for name in needed if read[name].value == "?"]
    if asked:
        message = worded("A quote that is compared is stated whole: nothing in it can be ?.")
        return tuple(FieldError(field=name, message=message) for name in asked)
    style = style_of(statement)
    if style is None:
        message = worded("A flat quote is over a whole number of payments: state it, such as 60.")
        return (FieldError(field="count", message=message),)
    sentence = outside(Decimal(read["percent"].value or "0"), style)
    return (FieldError(field="percent", message=sentence),) if sentence else ()


def _growth(quote: QuoteLine, marks: MarksName) -> Decimal:
    statement = as_statement(quote, marks)
    style = style_of(statement)
    if style is None:
        raise ValueError("a quote with mistakes has no growth")
    return growth_of(Decimal(readings(statement)["percent"].value or "0"), style)


def compare(asked: QuoteList) -> Comparison:
    """Every quote on one footing; those that cannot be read are told and left out of the rank."""
    marks = MARKS[asked.marks]
    wrong = [mistakes(quote, asked.marks) for quote in asked.quotes]
    with precise(DIGITS + 20):
        growths = [
            None if errors else _growth(quote, asked.marks)
            for quote, errors in zip(asked.quotes, wrong, strict=True)
        ]
    standing = ranked([growth for growth in growths if growth is not None], marks)
    read, errors = _yardstick(asked)
    loan = _yardstick_document(asked.yardstick, read)
    answers = {} if errors else {growth: tried(loan, growth) for growth in standing}
    cheapest = answers.get(min(standing, default=Decimal(0)))
    quotes, named = [], []
    for number, (quote, mistaken, growth) in enumerate(
        zip(asked.quotes, wrong, growths, strict=True), 1
    ):
        told = _compared(as_statement(quote, asked.marks), mistaken)
        if growth is not None:
            named.append((quote.name or worded("quote {number}", number=number), standing[growth]))
            money = in_money(answers[growth], cheapest, marks) if cheapest else None
            told = told.model_copy(update={**standing[growth], "in_money": money})
        quotes.append(told)
    return Comparison(
        quotes=tuple(quotes),
        yardstick=read,
        yardstick_errors=errors,
        says=cheapest_in_words(named, marks),
    )


def _compared(statement: Statement, errors: tuple[FieldError, ...]) -> Compared:
    style = style_of(statement)
    return Compared(
        readings=readings(statement),
        errors=errors,
        quote=style.in_words() if style else None,
    )


def _lent(asked: QuoteList) -> Statement:
    """The loan the quotes are tried on, as the part of a statement it is."""
    return Statement(marks=asked.marks, **asked.yardstick.model_dump())


def _yardstick(asked: QuoteList) -> tuple[dict[str, Reading], tuple[FieldError, ...]]:
    """How the loan the quotes are tried on is read, and what is wrong with it."""
    all_of_it = readings(_lent(asked))
    read = {name: all_of_it[name] for name in ("principal", "count")}
    errors = [
        FieldError(field=name, message=reading.error)
        for name, reading in read.items()
        if reading.error
    ]
    if errors:
        return read, tuple(errors)
    try:
        check(at_growth(_yardstick_document(asked.yardstick, read), Decimal(1)))
    except NotALoan as wrong:
        return read, wrong.errors
    return read, ()


def _yardstick_document(loan: Yardstick, read: dict[str, Reading]) -> dict[str, Any]:
    """The loan the quotes are tried on, as a document holds it but for its rate."""
    return {
        "zephyrant": "loan/1",
        "currency": loan.currency,
        "principal": read["principal"].value,
        "count": read["count"].value,
        "every": loan.every,
        "payment": "?",
        "timing": loan.timing,
    }


def restated(asked: QuoteList, marks_name: MarksName) -> QuoteList:
    """A list in other marks: what can be read is written anew, what cannot stays."""
    if asked.marks == marks_name:
        return asked
    quotes = tuple(
        quote.model_copy(
            update=remark(as_statement(quote, asked.marks), marks_name).model_dump(
                include={"percent", "over", "count"}
            )
        )
        for quote in asked.quotes
    )
    lent = remark(_lent(asked), marks_name).model_dump(include={"principal", "count"})
    yardstick = asked.yardstick.model_copy(update=lent)
    return asked.model_copy(update={"marks": marks_name, "yardstick": yardstick, "quotes": quotes})
