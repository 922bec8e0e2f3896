"""A loan ended early, with what is agreed for that as typed."""

from datetime import date
from decimal import Decimal
from typing import Final

from pydantic import BaseModel, ConfigDict, Field

from zephyrant.texts import worded

from ..answer.aim import aimed
from ..calendars.days_in_words import write_day
from ..document.fields import UNKNOWN
from ..document.named import RESULTS_NAMED
from ..document.telling import told
from ..errors import NotALoan
from ..questions.payoff import Charge, ChargeKind, PayoffAmount, payoff_at
from ..wording.marks import MARKS, Marks
from ..wording.tables import RowTold, row_told
from .parsing import PLACES, Reading, read_number, read_typed, reading_of, without
from .statement import TYPED, Statement
from .typed_amounts import read_amount, read_percent
from .working import loan_of

_MOST_CHARGED: Final = Decimal(10**9)


class Agreed(BaseModel):
    """What is agreed for ending early; its figure as typed, in percent, months or money."""

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    kind: ChargeKind = "none"
    figure: str = TYPED


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
    payoff = payoff_at(loan, at, _charge(agreed, loan.currency, marks), marks)
    return EndedEarly(payoff=payoff, told=_told(payoff, marks))


def _charge(agreed: Agreed, currency: str, marks: Marks) -> Charge:
    if agreed.kind == "none":
        return Charge()
    match agreed.kind:
        case "amount":
            reading = read_amount(agreed.figure, marks, currency)
        case "percent":
            reading = read_percent(agreed.figure, marks)
        case _:
            reading = _read_months(agreed.figure, marks)
    wrong = reading.error
    if reading.value == UNKNOWN:
        wrong = worded("What is agreed has to be stated.")
    elif reading.value is not None and not 0 <= Decimal(reading.value) <= _MOST_CHARGED:
        wrong = worded(
            "What is agreed for ending early is not less than nothing, and below a billion."
        )
    if wrong:
        raise NotALoan.at("charge.figure", wrong)
    return Charge(kind=agreed.kind, figure=Decimal(reading.value or "0"))


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
        *((row_told(beside, marks.write(actuarial)),) if actuarial is not None else ()),
        row_told(worded("Charge"), marks.write(payoff["charge"])),
        row_told(worded("Payoff"), marks.write(payoff["payoff"])),
        row_told(worded("Total cost of the loan then"), marks.write(payoff["total_cost"])),
        row_told(RESULTS_NAMED["us_apr"].alone, _percent(costs["us_apr"], marks)),
        row_told(RESULTS_NAMED["eu_aprc"].alone, _percent(costs["eu_aprc"], marks)),
    )


def _percent(text: str | None, marks: Marks) -> str:
    return worded("none fits") if text is None else told("percent", Decimal(text), marks, 0)
