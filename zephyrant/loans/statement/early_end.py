"""A loan ended early, with what is agreed for that as typed."""

from collections.abc import Iterator
from datetime import date
from decimal import Decimal
from typing import Any, Final

from pydantic import BaseModel, ConfigDict, Field

from zephyrant.texts import worded

from ..answer.aim import aimed
from ..calendars.days_in_words import write_day
from ..document.named import RESULTS_NAMED
from ..document.telling import told
from ..errors import NotALoan
from ..questions.ending_charge import MOST_YEARS, Charge, ChargeKind
from ..questions.payoff import PayoffAmount, payoff_at
from ..wording.marks import MARKS, Marks
from ..wording.tables import RowTold, row_told
from .parsing import PLACES, Reading, read_number, read_typed, reading_of, without
from .statement import TYPED, Statement
from .typed_amounts import read_amount, read_percent
from .typed_parts import read_percents
from .working import loan_of

_MOST_CHARGED: Final = Decimal(10**9)
_MOST_PERCENT: Final = Decimal(1_000)


class Agreed(BaseModel):
    """What is agreed for ending early; its figure as typed, in percent, months or money, of a
    make-whole the reference rate to which the `spread` is added, of a percent by year one for each:
    "5; 4; 3". `free`: what may be repaid each year without a charge, an amount or "10 %" of what
    was lent."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    kind: ChargeKind = "none"
    figure: str = TYPED
    spread: str = TYPED
    free: str = TYPED


class EndedEarly(BaseModel):
    """What it costs to end a loan early, and the same told, a line each."""

    payoff: PayoffAmount
    told: tuple[RowTold, ...] = Field(default=())


def end_early(statement: Statement, at: str, agreed: Agreed) -> EndedEarly:
    """The loan ended right after a payment or on a day.

    Raises `NotALoan` at `at` or at the figure of the charge.
    """
    marks = MARKS[statement.marks]
    loan = aimed(loan_of(statement))
    payoff = payoff_at(loan, at, charge_of(agreed, loan.currency, marks), marks)
    return EndedEarly(payoff=payoff, told=_told(payoff, marks))


def charge_of(agreed: Agreed, currency: str, marks: Marks) -> Charge:
    """What is agreed, read; raises `NotALoan` at its figures."""
    if agreed.kind == "none":
        return Charge()
    figures: dict[str, Any] = {}
    if agreed.kind == "declining":
        percents = _stated("figure", read_percents(agreed.figure, marks))
        figures["percents"] = tuple(map(Decimal, percents.split()))[:MOST_YEARS]
    elif agreed.kind == "make-whole":
        for name in ("figure", "spread"):
            typed = getattr(agreed, name)
            # No spread is none.
            if typed.strip() or name == "figure":
                value = Decimal(_stated(name, read_percent(typed, marks)))
                figures[name] = _within(name, value, -_MOST_PERCENT, _MOST_PERCENT)
    else:
        readers = {
            "amount": lambda: read_amount(agreed.figure, marks, currency),
            "percent": lambda: read_percent(agreed.figure, marks),
            "months": lambda: _read_months(agreed.figure, marks),
        }
        value = Decimal(_stated("figure", readers[agreed.kind]()))
        figures["figure"] = _within("figure", value, Decimal(0), _MOST_CHARGED)
    if agreed.free.strip():
        figures |= _free(agreed.free, currency, marks)
    return Charge(kind=agreed.kind, **figures)


def _free(typed: str, currency: str, marks: Marks) -> dict[str, Decimal]:
    """What is free each year: an amount, or a percent of what was lent."""
    if typed.strip().endswith("%"):
        percent = Decimal(_stated("free", read_percent(typed, marks)))
        return {"free_percent": _within("free", percent, Decimal(0), Decimal(100))}
    amount = Decimal(_stated("free", read_amount(typed, marks, currency)))
    return {"free": _within("free", amount, Decimal(0), _MOST_CHARGED)}


def _stated(name: str, reading: Reading) -> str:
    """What was read, stated; raises at the figure of the charge."""
    return reading.stated_at(f"charge.{name}", worded("What is agreed has to be stated."))


def _within(name: str, value: Decimal, least: Decimal, most: Decimal) -> Decimal:
    if least <= value <= most:
        return value
    says = {
        "free": worded("What is free each year is from nothing to all of it."),
        "spread": worded("A rate is below {most} %.", most=f"{_MOST_PERCENT:f}"),
    }
    usual = worded("What is agreed for ending early is not less than nothing, and below a billion.")
    if least < 0:
        usual = says["spread"]
    raise NotALoan.at(f"charge.{name}", says.get(name, usual))


def _read_months(typed: str, marks: Marks) -> Reading:
    def reader(text: str) -> Reading:
        number = read_number(without(text, "months", "month")[0], marks)
        if number is None:
            raise ValueError(text)
        return reading_of(number, lambda value: marks.number(value, PLACES))

    return read_typed(typed, worded("a number of months"), "3", reader)


def _told(payoff: PayoffAmount, marks: Marks) -> tuple[RowTold, ...]:
    day = payoff["date"] and write_day(date.fromisoformat(payoff["date"]))
    owed = worded("Owed after payment {number}", number=payoff["number"]) + (
        f", {day}" if day else ""
    )
    if payoff["on_a_day"]:
        owed = worded("Owed on {day}, with interest to the day", day=day)
    costs = payoff["yearly_cost"]
    actuarial = payoff["actuarial"]
    beside = worded("By the interest on what is owed it would be")
    return (
        row_told(owed, marks.write(payoff["owed"])),
        *_of_the_charge(payoff, marks),
        *((row_told(beside, marks.write(actuarial)),) if actuarial is not None else ()),
        row_told(worded("Charge"), marks.write(payoff["charge"])),
        row_told(worded("Payoff"), marks.write(payoff["payoff"])),
        row_told(worded("Total cost of the loan then"), marks.write(payoff["total_cost"])),
        row_told(RESULTS_NAMED["us_apr"].alone, _percent(costs["us_apr"], marks)),
        row_told(RESULTS_NAMED["eu_aprc"].alone, _percent(costs["eu_aprc"], marks)),
    )


def _of_the_charge(payoff: PayoffAmount, marks: Marks) -> Iterator[RowTold]:
    """What the charge rests on, where it is not told by itself."""
    free, percent, rest = payoff["free"], payoff["percent"], payoff["discounted"]
    if free is not None:
        yield row_told(
            worded("Free of charge in year {year}", year=payoff["year"]), marks.write(free)
        )
    if percent is None:
        return
    told = marks.number(Decimal(percent), PLACES, 2)
    if rest is not None:
        yield row_told(
            worded("The rest, discounted at {percent} %", percent=told), marks.write(rest)
        )
    else:
        yield row_told(worded("Charged in year {year}", year=payoff["year"]), f"{told} %")


def _percent(text: str | None, marks: Marks) -> str:
    return worded("none fits") if text is None else told("percent", Decimal(text), marks, 0)
