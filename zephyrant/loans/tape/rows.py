"""A row of a table of loans: as a document, and told by the core that solves cases."""

import re
from collections.abc import Mapping, Sequence
from contextlib import suppress
from datetime import date
from decimal import Decimal
from typing import Any, Final, Literal, get_args

from pydantic import BaseModel, ConfigDict, Field

from ..answer.consistency import consistency
from ..answer.results import as_paid
from ..answer.solving import with_the_answer
from ..calendars.days_in_words import read_days
from ..cost.costs import yearly_costs
from ..document.fields import UNKNOWN, CompoundingField, CurrencyCode, Every
from ..document.limits import MOST_COMPOUNDINGS
from ..document.loan import Loan
from ..document.parts import Rounding
from ..errors import FieldError, NotALoan
from ..numbers.annuity import Timing
from ..numbers.currencies import currencies
from ..numbers.decimals import percent_text, plain
from ..questions.balance_at import owed
from ..quotes.conversion import footings
from ..quotes.styles import Quoted
from ..statement.parsing import Reading
from ..statement.typed_amounts import read_amount, read_payment, read_percent
from ..statement.typed_times import read_count
from ..unknowns.solution import footing_rate
from ..unknowns.worked import value_as_paid, work_out
from ..wording.marks import MARKS, PLAIN, Marks, MarksName
from .not_loans import stated

#: What a column of a table can hold.
FieldName = Literal[
    "name",
    "currency",
    "principal",
    "percent",
    "quoted",
    "compounding",
    "count",
    "every",
    "payment",
    "balance",
    "timing",
    "start",
    "first_payment",
    "after",
    "income",
    "share",
]
FIELDS: Final[tuple[FieldName, ...]] = get_args(FieldName)
#: The five that can be the unknown of a row.
ASKABLE: Final[tuple[FieldName, ...]] = ("principal", "percent", "count", "payment", "balance")
MONEY: Final[tuple[FieldName, ...]] = ("principal", "payment", "balance")

#: Results of a row, in the order they are told.
RESULTS: Final = (
    "unknown",
    "found",
    "principal",
    "percent",
    "count",
    "payment",
    "balance",
    "periodic",
    "nominal",
    "effective",
    "total_paid",
    "total_interest",
    "final_payment",
    "owed",
    "us_apr",
    "eu_aprc",
    "gap",
    "fits",
    "problem",
)
#: Decimals a yearly cost is told with in a table.
COST_PLACES: Final = 6


class Defaults(BaseModel):
    """What holds for every row whose columns do not say otherwise, and how cells are read.

    `percent_as`: whether 0.0635 is 0.0635 %, 6.35 % (`part`), or 6.35 % only where it is below 1.
    `count_in`: what a bare number of a term counts. `apart`: what becomes of rows that read as
    totals or notes. `after`: the payment after which what is owed
    is told; without one it is told on the day `owed_on` of every loan that has dates and runs then.
    """

    model_config = ConfigDict(frozen=True, extra="forbid")

    currency: CurrencyCode = "EUR"
    quoted: Quoted = "nominal"
    compounding: CompoundingField | None = None
    every: Every = "month"
    timing: Timing = "in-arrears"
    rounding: Rounding = Rounding()
    marks: MarksName = "comma-point"
    percent_as: Literal["percent", "part", "part-below-one"] = "percent"
    dates: Literal["day-first", "month-first"] = "day-first"
    count_in: Literal["payments", "months", "years"] = "payments"
    apart: Literal["leave-out", "solve"] = "leave-out"
    after: int = Field(default=0, ge=0, le=36_500)
    owed_on: date | None = None


Columns = Mapping[FieldName, Sequence[str]]
Told = dict[str, list[str]]
FIELD_NAMES: Final = {
    "principal": "Amount: ",
    "rate.percent": "Rate: ",
    "count": "Number of payments: ",
    "payment": "Payment: ",
    "balance": "Balance: ",
    "start": "Lent on: ",
    "first_payment": "First payment: ",
}


def is_day(text: str, defaults: Defaults) -> bool:
    """Whether nothing stands in a cell, or a day."""
    return not text.strip() or _day(text, defaults) is not None


def _day(text: str, defaults: Defaults) -> date | None:
    """A day in the order the table writes them."""
    days = read_days(text.strip())
    if len(days) > 1 and defaults.dates == "month-first":
        return days[1]
    return days[0] if days else None


# A row as a document


def row_document(cells: Mapping[FieldName, str], defaults: Defaults) -> tuple[dict[str, Any], int]:
    """A row as a loan document, and the payment after which what is owed is told.

    Raises `NotALoan` naming the field that cannot be read.
    """
    marks = MARKS[defaults.marks]
    text = _with_capacity({name: stated(cell) for name, cell in cells.items()})
    currency = text.get("currency", "").upper() or defaults.currency
    if currency not in currencies():
        raise refused("currency", f"“{currency[:20]}” is no currency of ISO 4217.")
    every = _choice(text.get("every", ""), defaults.every)
    figures = _filled(
        {name: _figure(name, text, defaults, marks, currency, every) for name in ASKABLE}
    )
    rate: dict[str, Any] = {
        "percent": figures["percent"],
        "quoted": text.get("quoted", "") or defaults.quoted,
    }
    compounding = _choice(text.get("compounding", ""), defaults.compounding)
    if compounding is not None:
        rate["compounding"] = compounding
    document: dict[str, Any] = {
        "zephyrant": "loan/1",
        "name": text.get("name", "")[:200],
        "currency": currency,
        "principal": figures["principal"],
        "rate": rate,
        "count": figures["count"],
        "every": every,
        "payment": figures["payment"],
        "balance": figures["balance"],
        "timing": text.get("timing", "") or defaults.timing,
        "rounding": defaults.rounding.model_dump(mode="json", exclude_unset=True),
        **_days(text, defaults),
    }
    if figures["count"].isdecimal():
        document["count"] = int(figures["count"])
    return document, _after(text.get("after", ""), defaults)


def _filled(figures: dict[str, str]) -> dict[str, str]:
    """An empty cell is the unknown of its row; an empty balance is nothing."""
    if UNKNOWN not in figures.values():
        figures = {
            name: figure or ("" if name == "balance" else UNKNOWN)
            for name, figure in figures.items()
        }
    figures["balance"] = figures["balance"] or "0"
    for name, figure in figures.items():
        if not figure:
            field = "rate.percent" if name == "percent" else name
            raise refused(field, "Nothing is stated here.")
    return figures


def asked_in(cells: Mapping[FieldName, str]) -> frozenset[FieldName]:
    """The columns of a row in which its unknown stands, marked or left empty."""
    text = _with_capacity({name: stated(cell) for name, cell in cells.items()})
    figures: dict[str, str] = {name: text.get(name, "") for name in ASKABLE}
    with suppress(NotALoan):
        figures = _filled(figures)
    return frozenset(name for name in cells if figures.get(name) == UNKNOWN)


def _with_capacity(text: dict[FieldName, str]) -> dict[FieldName, str]:
    """What can be carried: a share of an income that comes as often as payments are made."""
    if text.get("payment") or not (text.get("income") and text.get("share")):
        return text
    return {**text, "payment": f"{text['share'].rstrip('% ')} % of {text['income']}"}


def _days(text: Mapping[FieldName, str], defaults: Defaults) -> dict[str, str]:
    days: dict[str, str] = {}
    names: tuple[FieldName, ...] = ("start", "first_payment")
    for name in names:
        if typed := text.get(name, ""):
            day = _day(typed, defaults)
            if day is None:
                raise refused(name, f"“{typed[:40]}” is no day of the calendar.")
            days[name] = day.isoformat()
    return days


def _after(text: str, defaults: Defaults) -> int:
    if not text:
        return defaults.after
    if not text.isdecimal() or int(text) > 36_500:
        raise refused("after", f"“{text[:40]}” is no number of a payment.")
    return int(text)


def _choice(text: str, otherwise: Any) -> Any:  # noqa: ANN401  (a word or a number of times)
    if not text:
        return otherwise
    if text.isdecimal() and int(text) <= MOST_COMPOUNDINGS:
        return int(text)
    return text.lower()


def _figure(  # noqa: PLR0917
    name: FieldName,
    text: Mapping[FieldName, str],
    defaults: Defaults,
    marks: Marks,
    currency: str,
    every: Any,  # noqa: ANN401
) -> str:
    """One of the five as a document holds it; "" where nothing stands there."""
    typed: str = text.get(name, "")
    if not typed or typed == UNKNOWN:
        return typed
    if name == "payment":
        try:
            reading = read_payment(typed, marks, currency, every)
        except (KeyError, ValueError):
            reading = read_amount(typed, marks, currency)
    elif name in MONEY:
        reading = read_amount(typed, marks, currency)
    elif name == "percent":
        reading = _read_rate(typed, marks, defaults)
    else:
        reading = _read_term(typed, marks, defaults, every)
    if reading.value is None:
        field = "rate.percent" if name == "percent" else name
        raise refused(field, reading.error or "This cannot be read.")
    return reading.value


def _read_rate(typed: str, marks: Marks, defaults: Defaults) -> Reading:
    reading = read_percent(typed, marks)
    if reading.value in (None, UNKNOWN) or defaults.percent_as == "percent" or "%" in typed:
        return reading
    value = Decimal(reading.value or 0)
    if defaults.percent_as == "part-below-one" and not 0 < abs(value) < 1:
        return reading
    return Reading(value=plain(value * 100))


def _read_term(typed: str, marks: Marks, defaults: Defaults, every: Any) -> Reading:  # noqa: ANN401
    bare = re.fullmatch(r"[\d.,]+", typed)
    if bare and defaults.count_in != "payments":
        typed = f"{typed} {defaults.count_in}"
    try:
        return read_count(typed, marks, every)
    except (KeyError, ValueError):
        return Reading(error=f"“{str(every)[:40]}” is no frequency of payments.")


def refused(field: str, message: str) -> NotALoan:
    """What is wrong at one field."""
    return NotALoan([FieldError(field=field, message=message)])


# A row the exact way


def exact_row(loan: Loan, after: int, owed_on: date | None = None) -> dict[str, str]:
    """A loan told as a row of a table, by the core that solves cases."""
    worked = work_out(loan)
    found, schedule = worked.found, worked.schedule
    told = {"unknown": _unknown(loan), **_stated(loan)}
    if found.reason:
        return {**told, "problem": found.reason.say(PLAIN)}
    if worked.line is None:
        return {**told, "problem": "Several rates fit: open it as a case."}
    if found.solutions:
        solution = found.meant
        told["found"] = value_as_paid(loan, solution, worked.line.terms, schedule)
        told[_unknown(loan)] = _figure_text(_unknown(loan), told["found"], loan)
    rate = footing_rate(loan, found)
    told |= {**_rates(loan, rate), **_fits(loan)}
    if schedule is None:
        return {
            **told,
            "problem": worked.unlaid.say(PLAIN) if worked.unlaid else "It has no schedule.",
        }
    if 0 < after <= len(schedule.rows):
        told["owed"] = schedule.unit.write(schedule.rows[after - 1].rest)
    elif not after and owed_on is not None:
        told["owed"] = _owed_on(loan, owed_on)
    if rate is not None:
        for name, cost in yearly_costs(worked.line, schedule, rate).items():
            told[name] = "" if cost is None else cost_text(float(str(cost)))
    return {**told, **_totals(loan)}


def _rates(loan: Loan, rate: Decimal | None) -> dict[str, str]:
    if rate is None:
        return {}
    footing = footings(rate, loan.payments_a_year)
    names = ("periodic", "nominal", "effective")
    return {name: percent_text(getattr(footing, name)) for name in names}


def _fits(loan: Loan) -> dict[str, str]:
    if loan.unknown is not None:
        return {}
    held = consistency(loan, PLAIN)
    gap = plain(round(Decimal(held["gap"]), loan.decimals), loan.decimals)
    return {"gap": gap, "fits": "yes" if held["fits"] else "no"}


def _totals(loan: Loan) -> dict[str, str]:
    totals = {}
    for name in ("total_paid", "total_interest", "final_payment"):
        value = as_paid(loan, name)
        totals[name] = "" if value is None else plain(value, loan.decimals)
    return totals


def _owed_on(loan: Loan, day: date) -> str:
    """What is owed on a day, "" where the loan has no dates or does not run then."""
    if loan.calendar is None:
        return ""
    try:
        (found,) = owed(with_the_answer(loan), day.isoformat(), PLAIN)
    except NotALoan:
        return ""
    return str(found["owed"])


def cost_text(percent: float) -> str:
    """A yearly cost as a table tells it."""
    # Nothing is not below zero.
    return f"{round(percent, COST_PLACES) + 0.0:.{COST_PLACES}f}"


def _unknown(loan: Loan) -> str:
    return "percent" if loan.unknown == "rate" else loan.unknown or ""


def _stated(loan: Loan) -> dict[str, str]:
    """Those of the five that are stated."""
    figures: dict[str, object] = {
        "principal": loan.principal,
        "percent": loan.rate.percent,
        "count": loan.count,
        "payment": loan.payment,
        "balance": loan.balance,
    }
    return {
        name: _figure_text(name, value, loan) for name, value in figures.items() if value != UNKNOWN
    }


def _figure_text(name: str, value: object, loan: Loan) -> str:
    if name == "count":
        return str(value)
    if name == "percent":
        return percent_text(Decimal(str(value)))
    return plain(Decimal(str(value)), loan.decimals)
