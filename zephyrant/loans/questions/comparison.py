"""Several quotes side by side: on one footing, ranked, and in money on one loan.

The footing is the effective rate a year. A basis point is a hundredth of a percent (common
practice).
"""

from collections.abc import Iterable
from decimal import Decimal
from typing import Any, Final

from pydantic import BaseModel, ConfigDict, Field
from typing_extensions import TypedDict

from ..answer.answer import Answer, solve
from ..document.fields import CompoundingField, CurrencyCode, Every, Timing
from ..document.loan import check
from ..document.parts import outside
from ..errors import FieldError, NotALoan
from ..numbers.decimals import DIGITS, plain, precise, told
from ..quotes.conversion import growth_of
from ..quotes.styles import Quoted, YearDays
from ..statement.parsing import Reading
from ..statement.statement import Statement, readings, remark, style_of
from ..wording.marks import MARKS, Marks, MarksName, Number, Sentence

MOST_QUOTES: Final = 60
#: Decimals a rate is handed on with to the loan it is tried on.
_HANDED_ON: Final = 30

Typed = Field(default="", max_length=200)


class QuoteLine(BaseModel):
    """A quote as typed, and who made it. `count` payments `every` so often: those of a flat one."""

    model_config = ConfigDict(frozen=True, extra="forbid")

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

    model_config = ConfigDict(frozen=True, extra="forbid")

    currency: CurrencyCode = "EUR"
    principal: str = Field(default="10000", max_length=200)
    count: str = Field(default="60", max_length=200)
    every: Every = "month"
    timing: Timing = "in-arrears"


class QuoteList(BaseModel):
    """Quotes an analyst compares, as typed."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    marks: MarksName = "comma-point"
    name: str = Typed
    yardstick: Yardstick = Yardstick()
    quotes: tuple[QuoteLine, ...] = Field(default=(), max_length=MOST_QUOTES)


class InMoney(TypedDict):
    """A rate on the loan that was chosen; `more_interest` than at the cheapest quote."""

    payment: str
    interest: str
    more_interest: str


class Compared(BaseModel):
    """A quote worked: how it was read, what is wrong, or where it stands.

    `effective` is percent a year to 30 digits, `printed` the same as people print it.
    `basis_points` above the cheapest; `place` from 0 (the cheapest) to 1 (the dearest).
    """

    model_config = ConfigDict(frozen=True)

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

    model_config = ConfigDict(frozen=True)

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
    needed += ["count"] if quote.quoted == "flat" else []
    errors = [FieldError(field=name, message=read[name].error or "") for name in needed]
    errors = [error for error in errors if error.message]
    if errors:
        return tuple(errors)
    asked = [name for name in needed if read[name].value == "?"]
    if asked:
        message = "A quote that is compared is stated whole: nothing in it can be ?."
        return tuple(FieldError(field=name, message=message) for name in asked)
    style = style_of(statement)
    if style is None:
        message = "A flat quote is over a whole number of payments: state it, such as 60."
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
        standing = _standing([growth for growth in growths if growth is not None], marks)
    read, errors = _yardstick(asked)
    tried = {} if errors else {each: _tried(asked.yardstick, read, each) for each in standing}
    cheapest = tried.get(min(standing, default=Decimal(0)))
    quotes = [
        _compared(as_statement(quote, asked.marks), errors, standing[growth] if growth else {})
        for quote, errors, growth in zip(asked.quotes, wrong, growths, strict=True)
    ]
    if cheapest:
        quotes = [
            quote.model_copy(update={"in_money": _in_money(tried[growth], cheapest, marks)})
            if growth
            else quote
            for quote, growth in zip(quotes, growths, strict=True)
        ]
    return Comparison(
        quotes=tuple(quotes),
        yardstick=read,
        yardstick_errors=errors,
        says=_says(asked, quotes, marks),
    )


def _compared(
    statement: Statement, errors: tuple[FieldError, ...], stands: dict[str, Any]
) -> Compared:
    style = style_of(statement)
    return Compared(
        readings=readings(statement),
        errors=errors,
        quote=style.in_words() if style else None,
        **stands,
    )


def _standing(growths: Iterable[Decimal], marks: Marks) -> dict[Decimal, dict[str, Any]]:
    """Where each growth a year stands among the others; equal ones share a rank."""
    ordered = sorted(growths)
    if not ordered:
        return {}
    least, most = ordered[0], ordered[-1]
    return {
        growth: {
            "effective": marks.write(plain(told(100 * (growth - 1)))),
            "printed": marks.percent(100 * (growth - 1), 4, 4),
            "rank": ordered.index(growth) + 1,
            "basis_points": marks.number(10_000 * (growth - least), 2, 2),
            "place": float((growth - least) / (most - least)) if most > least else 0.0,
        }
        for growth in ordered
    }


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
        check(_loan(asked.yardstick, read, Decimal(1)))
    except NotALoan as wrong:
        return read, wrong.errors
    return read, ()


def _loan(loan: Yardstick, read: dict[str, Reading], growth: Decimal) -> dict[str, Any]:
    with precise(80):
        effective = round(100 * (growth - 1), _HANDED_ON)
    return {
        "zephyrant": "loan/1",
        "currency": loan.currency,
        "principal": read["principal"].value,
        "rate": {"percent": effective, "quoted": "effective"},
        "count": read["count"].value,
        "every": loan.every,
        "payment": "?",
        "timing": loan.timing,
    }


def _tried(loan: Yardstick, read: dict[str, Reading], growth: Decimal) -> Answer | None:
    """The loan at a rate; none where that is beyond what a document states."""
    try:
        return solve(check(_loan(loan, read, growth)))
    except NotALoan:
        return None


def _in_money(answer: Answer | None, cheapest: Answer, marks: Marks) -> InMoney | None:
    if answer is None or answer.totals is None or cheapest.totals is None:
        return None
    interest = answer.totals["interest"]
    more = Decimal(interest) - Decimal(cheapest.totals["interest"])
    return {
        "payment": marks.write(answer.value or ""),
        "interest": marks.write(interest),
        "more_interest": marks.write(f"{more:f}"),
    }


def _says(asked: QuoteList, quotes: list[Compared], marks: Marks) -> str | None:
    """Which quote is the cheapest, and how far the dearest lies above it."""
    ranked = sorted(
        (
            (quote.rank, line.name or f"quote {number}", quote)
            for number, (quote, line) in enumerate(zip(quotes, asked.quotes, strict=True), 1)
            if quote.rank
        ),
        key=lambda each: each[0],
    )
    if len(ranked) < 2:
        return None
    (_, cheap, least), (_, dear, most) = ranked[0], ranked[-1]
    if not most.place:
        return "All of them come to the same effective rate."
    sentence = Sentence(
        "{cheap} is the cheapest at {least} effective a year; {dear} is {gap} basis points dearer, "
        "the dearest of {count}.",
        cheap=cheap[0].upper() + cheap[1:],
        least=least.printed or "",
        dear=dear,
        gap=most.basis_points or "",
        count=Number(len(ranked)),
    )
    return sentence.say(marks)


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
