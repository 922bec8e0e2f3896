"""A row of a table of loans as a document."""

import re
from collections.abc import Mapping
from contextlib import suppress
from datetime import date
from decimal import Decimal
from typing import Any

from zephyrant.texts import worded

from ..calendars.days_in_words import read_days
from ..document.fields import UNKNOWN
from ..document.limits import MOST_COMPOUNDINGS
from ..errors import NotALoan
from ..numbers.currencies import currencies
from ..numbers.decimals import plain
from ..statement.parsing import Reading
from ..statement.typed_amounts import read_amount, read_payment, read_percent
from ..statement.typed_times import read_count
from ..wording.marks import MARKS, Marks
from .bounds import bounds_of, leaves_payment_out
from .columns import ASKABLE, MONEY, Columns, Defaults, FieldName
from .days import counting_of
from .floating import floating_of, is_floating
from .not_loans import stated
from .repaid import repaid_of


def is_day(text: str, defaults: Defaults) -> bool:
    """Whether nothing stands in a cell, or a day."""
    return not text.strip() or day_of(text, defaults) is not None


def day_of(text: str, defaults: Defaults) -> date | None:
    """A day in the order the table writes them; None where there is none."""
    days = read_days(text.strip())
    if len(days) > 1 and defaults.dates == "month-first":
        return days[1]
    return days[0] if days else None


def currency_of(text: Mapping[FieldName, str], defaults: Defaults) -> str:
    """The currency of a row; raises `NotALoan` where there is no such."""
    currency = _code(text.get("currency", ""), defaults)
    if currency not in currencies():
        raise NotALoan.at(
            "currency", worded("“{currency}” is no currency of ISO 4217.", currency=currency[:20])
        )
    return currency


def currency_codes(columns: Columns, defaults: Defaults, size: int) -> list[str]:
    """The code of the currency in which each row is told, whether there is such a currency or
    not."""
    codes = {cell: _code(stated(cell), defaults) for cell in set(columns.get("currency", ()))}
    return [codes[cell] for cell in columns.get("currency", ())] or [defaults.currency] * size


def _code(text: str, defaults: Defaults) -> str:
    return text.upper() or defaults.currency


def every_of(text: Mapping[FieldName, str], defaults: Defaults) -> Any:  # noqa: ANN401
    """How often a row is paid, as a document says it."""
    return _choice(text.get("every", ""), defaults.every)


def row_document(cells: Mapping[FieldName, str], defaults: Defaults) -> tuple[dict[str, Any], int]:
    """A row as a loan document, and the payment after which what is owed is told.

    Raises `NotALoan` naming the field that cannot be read.
    """
    marks = MARKS[defaults.marks]
    text = _with_capacity({name: stated(cell) for name, cell in cells.items()})
    currency, every = currency_of(text, defaults), every_of(text, defaults)
    figures = _filled(
        {name: read_figure(name, text, defaults, marks, currency, every) for name in ASKABLE}, text
    )
    floats = is_floating(text)
    rate: dict[str, Any] = {
        **(floating_of(text, marks, every) if floats else {"percent": figures["percent"]}),
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
        **({"payment": figures["payment"]} if "payment" in figures else {}),
        "balance": figures["balance"],
        "timing": text.get("timing", "") or defaults.timing,
        **repaid_of(text, defaults, every),
        **bounds_of(text, marks, currency),
        **({"indices": defaults.indices} if floats else {}),
        "rounding": defaults.rounding.model_dump(mode="json", exclude_unset=True),
        **_days(text, defaults),
        **counting_of(text),
    }
    if figures["count"].isdecimal():
        document["count"] = int(figures["count"])
    return document, _after(text.get("after", ""), defaults)


def _filled(figures: dict[str, str], text: Mapping[FieldName, str]) -> dict[str, str]:
    """An empty cell is the unknown of its row; an empty balance is nothing. There is no payment
    where that follows from cover and value."""
    if is_floating(text):
        figures = {name: figure for name, figure in figures.items() if name != "percent"}
    if leaves_payment_out(text):
        figures = {name: figure for name, figure in figures.items() if name != "payment"}
    asked = (*figures.values(), text.get("cover"), text.get("margin"), text.get("first_rate"))
    if UNKNOWN not in asked:
        figures = {
            name: figure or ("" if name == "balance" else UNKNOWN)
            for name, figure in figures.items()
        }
    figures["balance"] = figures["balance"] or "0"
    for name, figure in figures.items():
        if not figure:
            field = "rate.percent" if name == "percent" else name
            raise NotALoan.at(field, worded("Nothing is stated here."))
    return figures


def asked_in(cells: Mapping[FieldName, str]) -> frozenset[FieldName]:
    """The columns of a row in which its unknown stands, marked or left empty."""
    text = _with_capacity({name: stated(cell) for name, cell in cells.items()})
    figures: dict[str, str] = {name: text.get(name, "") for name in ASKABLE}
    with suppress(NotALoan):
        figures = _filled(figures, text)
    return frozenset(name for name in cells if figures.get(name) == UNKNOWN)


def _with_capacity(text: dict[FieldName, str]) -> dict[FieldName, str]:
    """What can be carried: a share of an income that comes as often as payments are made."""
    if text.get("payment") or not (text.get("income") and text.get("share")):
        return text
    return {
        **text,
        "payment": f"{text['share'].rstrip('% ')} % of {text['income']}",
    }


def _days(text: Mapping[FieldName, str], defaults: Defaults) -> dict[str, str]:
    days: dict[str, str] = {}
    names: tuple[FieldName, ...] = ("start", "first_payment")
    for name in names:
        if typed := text.get(name, ""):
            day = day_of(typed, defaults)
            if day is None:
                raise NotALoan.at(
                    name, worded("“{typed}” is no day of the calendar.", typed=typed[:40])
                )
            days[name] = day.isoformat()
    return days


def _after(text: str, defaults: Defaults) -> int:
    if not text:
        return defaults.after
    if not text.isdecimal() or int(text) > 36_500:
        raise NotALoan.at("after", worded("“{text}” is no number of a payment.", text=text[:40]))
    return int(text)


def _choice(text: str, otherwise: Any) -> Any:  # noqa: ANN401  (a word or a number of times)
    if not text:
        return otherwise
    if text.isdecimal() and int(text) <= MOST_COMPOUNDINGS:
        return int(text)
    return text.lower()


def read_figure(  # noqa: PLR0917
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
    return reading.at("rate.percent" if name == "percent" else name)


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
        return Reading(
            error=worded("“{every}” is no frequency of payments.", every=str(every)[:40])
        )
