"""What stands in a field of a loan document: figures, counts, days, places, and how each is read.

A value that cannot be read raises with a sentence for whoever wrote it.
"""

import re
from datetime import date
from decimal import Decimal
from typing import Annotated, Final, Literal, get_args

from pydantic import BeforeValidator, PlainSerializer, WithJsonSchema
from pydantic_core import PydanticCustomError

from zephyrant.texts import worded

from ..calendars import frequencies
from ..numbers.currencies import currencies
from ..numbers.decimals import decimal_places
from .field_schemas import NOT_BELOW_ZERO, least_schema, number_schema, whole_schema
from .limits import (
    FIRST_YEAR,
    LAST_YEAR,
    MOST_COMPOUNDINGS,
    MOST_MONEY,
    MOST_PAYMENTS,
    MOST_PAYMENTS_A_YEAR,
    MOST_PERCENT,
    MOST_PLACES,
)

UNKNOWN: Final = "?"
#: Stands for a figure that is not there and has to be.
MISSING: Final = object()
Unknown = Literal["?"]
FigureName = Literal["principal", "rate", "count", "payment", "balance"]
FIGURES: Final[tuple[FigureName, ...]] = get_args(FigureName)
_DECIMAL = re.compile(r"[+-]?(\d+(\.\d*)?|\.\d+)", re.ASCII)


def wrong(message: str) -> PydanticCustomError:
    """A figure that cannot be, with the sentence that says why."""
    # Pydantic reads braces as places to fill.
    return PydanticCustomError("figure", "{sentence}", {"sentence": message})


def wrong_at(field: str, message: str) -> PydanticCustomError:
    """What is wrong with one field of the part that is validated."""
    return PydanticCustomError("figure", "{sentence}", {"sentence": message, "fields": (field,)})


def is_missing() -> str:
    """That a figure is not there and has to be."""
    return worded("This is missing: state it, or put “?” for the figure to find.")


def in_quotes(value: object) -> str:
    """What was written, at most its first forty characters."""
    text = str(value)
    return f"“{text[:40]}…”" if len(text) > 40 else f"“{text}”"


def decimal_of(value: object, example: str) -> Decimal:
    """A number; what is none raises, with an `example` of one."""
    if isinstance(value, bool) or not isinstance(value, str | int | float | Decimal):
        raise wrong(worded('A number belongs here, written as "{example}".', example=example))
    if isinstance(value, str):
        if not value.strip():
            raise wrong(
                worded(
                    'Nothing is stated here. Write a number such as "{example}", or "?".',
                    example=example,
                )
            )
        if len(value) > 80 or not _DECIMAL.fullmatch(value):
            raise wrong(
                worded(
                    '{value} is not a number. Write it as "{example}".',
                    value=in_quotes(value),
                    example=example,
                )
            )
    number = Decimal(str(value)) if isinstance(value, float) else Decimal(value)
    if not number.is_finite():
        raise wrong(
            worded('A finite number belongs here, written as "{example}".', example=example)
        )
    if number.adjusted() > 40 or decimal_places(number) > MOST_PLACES:
        raise wrong(
            worded(
                "This number has too many digits: at most {most} after the point.",
                most=MOST_PLACES,
            )
        )
    return number


def money_of(value: object, example: str, below_zero: str) -> Decimal:
    """An amount of money, zero or more; what is none raises, with an `example` of one, or with what
    is to be said of one `below_zero`."""
    number = decimal_of(value, example)
    if number < 0:
        raise wrong(below_zero)
    if number >= MOST_MONEY:
        raise wrong(worded("An amount is below {most}.", most=f"{MOST_MONEY:f}"))
    return abs(number)


def _amount(value: object) -> Decimal | Unknown:
    if value is MISSING:
        raise wrong(is_missing())
    if value == UNKNOWN:
        return UNKNOWN
    says = worded("An amount is zero or more: the field itself says who pays whom.")
    return money_of(value, "48250.00", says)


def _percent(value: object) -> Decimal | Unknown:
    if value == UNKNOWN:
        return UNKNOWN
    number = decimal_of(value, "6.35")
    if number >= MOST_PERCENT:
        raise wrong(
            worded(
                "A rate is below {most} %. Is the decimal point in its place?",
                most=MOST_PERCENT,
            )
        )
    return number


def _fee_percent(value: object) -> Decimal | Unknown:
    percent = _percent(value)
    if isinstance(percent, Decimal) and percent < 0:
        raise wrong(worded("A fee is zero percent or more."))
    return percent


def _whole(value: object, least: int, most: int, what: str) -> int:
    if isinstance(value, str) and value.strip():
        if not re.fullmatch(r"[+-]?\d{1,80}(\.\d{1,80})?", value, re.ASCII):
            raise wrong(
                worded("{value} is not a whole number. {what}", value=in_quotes(value), what=what)
            )
        value = Decimal(value)
    if isinstance(value, bool) or not isinstance(value, int | float | Decimal):
        raise wrong(worded("A whole number belongs here. {what}", what=what))
    number = Decimal(str(value)) if isinstance(value, float) else Decimal(value)
    if not number.is_finite() or number != number.to_integral_value():
        raise wrong(worded("A whole number belongs here. {what}", what=what))
    if not least <= number <= most:
        raise wrong(what)
    return int(number)


def _count(value: object) -> int | Unknown:
    if value == UNKNOWN:
        return UNKNOWN
    return _whole(
        value,
        0,
        MOST_PAYMENTS,
        worded(
            "The number of payments is between 1 and {most}, or 0 where the "
            "clauses alone are the loan.",
            most=MOST_PAYMENTS,
        ),
    )


def _amortized_over(value: object) -> int | Unknown:
    if value == UNKNOWN:
        return UNKNOWN
    return _whole(
        value,
        1,
        MOST_PAYMENTS,
        worded("Payments are reckoned over 1 to {most} of them.", most=MOST_PAYMENTS),
    )


def _frequency(value: object) -> frequencies.Frequency:
    if isinstance(value, str) and value in frequencies.PERIODS:
        return value
    names = ", ".join(frequencies.PERIODS)
    return _whole(
        value,
        1,
        MOST_PAYMENTS_A_YEAR,
        worded(
            "Write one of {names}, or how many payments a year, from 1 to {most}.",
            names=names,
            most=MOST_PAYMENTS_A_YEAR,
        ),
    )


def _compounding(value: object) -> frequencies.Compounding:
    if isinstance(value, str) and (value in frequencies.PERIODS or value == "continuous"):
        return value  # type: ignore[return-value]
    names = ", ".join(frequencies.PERIODS)
    return _whole(
        value,
        1,
        MOST_COMPOUNDINGS,
        worded(
            "Write one of {names}, continuous, or how many times a year, from 1 to {most}.",
            names=names,
            most=MOST_COMPOUNDINGS,
        ),
    )


def _currency(value: object) -> str:
    if isinstance(value, str) and value.upper() in currencies():
        return value.upper()
    raise wrong(
        worded(
            "{value} is no currency code of ISO 4217. Write one such as EUR.",
            value=in_quotes(value),
        )
    )


def _periods(value: object) -> Decimal:
    number = decimal_of(value, "90")
    if not 0 < number <= MOST_PAYMENTS:
        raise wrong(
            worded(
                "A number of periods is above 0 and at most {most}.",
                most=MOST_PAYMENTS,
            )
        )
    return number


def read_date(value: object) -> date:
    """A day of the calendar, written 2027-03-01; raises for what is none."""
    if isinstance(value, date):
        return value
    found = re.fullmatch(r"(\d{4})-(\d{2})-(\d{2})", value) if isinstance(value, str) else None
    if not found:
        raise wrong(
            worded('{value} is not a date. Write it as "2027-03-01".', value=in_quotes(value))
        )
    try:
        day = date(*(int(part) for part in found.groups()))
    except ValueError:
        raise wrong(worded("{value} is no day of the calendar.", value=in_quotes(value))) from None
    if not FIRST_YEAR <= day.year <= LAST_YEAR:
        raise wrong(
            worded(
                "Days lie in the years {first_year} to {last_year}.",
                first_year=FIRST_YEAR,
                last_year=LAST_YEAR,
            )
        )
    return day


def _place(value: object) -> int | date:
    if isinstance(value, date) or (isinstance(value, str) and "-" in value[1:]):
        return read_date(value)
    what = worded(
        "Write the number of a payment, from 0 (the start) to {most}, or a day.",
        most=MOST_PAYMENTS,
    )
    return _whole(value, 0, MOST_PAYMENTS, what)


def _month(value: object) -> int:
    return _whole(value, 1, 12, worded("A month of the calendar is a number from 1 to 12."))


def _step_every(value: object) -> int:
    return _whole(
        value,
        1,
        MOST_PAYMENTS,
        worded(
            "Between two steps lie at least one payment and at most {most}.",
            most=MOST_PAYMENTS,
        ),
    )


def _change(value: object) -> Decimal | Unknown:
    if value == UNKNOWN:
        return UNKNOWN
    number = decimal_of(value, "3")
    if abs(number) >= MOST_MONEY:
        raise wrong(worded("A change is below {most}.", most=f"{MOST_MONEY:f}"))
    return number


def _step(value: object) -> Decimal:
    number = decimal_of(value, "0.01")
    if not 0 < number <= 1_000_000:
        raise wrong(worded("A rounding step is above 0 and at most 1000000."))
    return number


def _written(value: object) -> object:
    return f"{value:f}" if isinstance(value, Decimal) else value


_ASKED = {"const": UNKNOWN, "type": "string"}
_WRITTEN = PlainSerializer(_written, return_type=str | int)
Amount = Annotated[
    Decimal | Unknown,
    BeforeValidator(_amount),
    _WRITTEN,
    WithJsonSchema(
        {
            "anyOf": [
                _ASKED,
                NOT_BELOW_ZERO,
                {"type": "number", "minimum": 0, "exclusiveMaximum": int(MOST_MONEY)},
            ]
        }
    ),
]
Percent = Annotated[
    Decimal | Unknown, BeforeValidator(_percent), _WRITTEN, WithJsonSchema(number_schema(_ASKED))
]
FeePercent = Annotated[
    Decimal | Unknown,
    BeforeValidator(_fee_percent),
    _WRITTEN,
    WithJsonSchema(least_schema(_ASKED)),
]
Count = Annotated[
    int | Unknown,
    BeforeValidator(_count),
    WithJsonSchema({"anyOf": [_ASKED, *whole_schema(0, MOST_PAYMENTS)["anyOf"]]}),
]
AmortizedOver = Annotated[
    int | Unknown,
    BeforeValidator(_amortized_over),
    WithJsonSchema({"anyOf": [_ASKED, *whole_schema(1, MOST_PAYMENTS)["anyOf"]]}),
]
Every = Annotated[
    frequencies.Frequency,
    BeforeValidator(_frequency),
    WithJsonSchema(
        {
            "anyOf": [
                {"enum": list(frequencies.PERIODS), "type": "string"},
                *whole_schema(1, MOST_PAYMENTS_A_YEAR)["anyOf"],
            ]
        }
    ),
]
CompoundingField = Annotated[
    frequencies.Compounding,
    BeforeValidator(_compounding),
    WithJsonSchema(
        {
            "anyOf": [
                {"enum": [*frequencies.PERIODS, "continuous"], "type": "string"},
                *whole_schema(1, MOST_COMPOUNDINGS)["anyOf"],
            ]
        }
    ),
]
CurrencyCode = Annotated[
    str, BeforeValidator(_currency), WithJsonSchema({"type": "string", "pattern": "^[A-Z]{3}$"})
]
Periods = Annotated[Decimal, BeforeValidator(_periods), _WRITTEN, WithJsonSchema(least_schema())]
DAY_SCHEMA = {"type": "string", "pattern": r"^\d{4}-\d{2}-\d{2}$", "format": "date"}
Day = Annotated[date, BeforeValidator(read_date), WithJsonSchema(DAY_SCHEMA)]
_PLACE_SCHEMA = {"anyOf": [*whole_schema(0, MOST_PAYMENTS)["anyOf"], DAY_SCHEMA]}
Place = Annotated[int | date, BeforeValidator(_place), WithJsonSchema(_PLACE_SCHEMA)]
Month = Annotated[
    int,
    BeforeValidator(_month),
    WithJsonSchema(whole_schema(1, 12)),
]
StepEvery = Annotated[
    int,
    BeforeValidator(_step_every),
    WithJsonSchema(whole_schema(1, MOST_PAYMENTS)),
]
#: A growth: above zero or below it.
Change = Annotated[
    Decimal | Unknown, BeforeValidator(_change), _WRITTEN, WithJsonSchema(number_schema(_ASKED))
]
Step = Annotated[Decimal, BeforeValidator(_step), _WRITTEN, WithJsonSchema(least_schema())]
OddDays = Literal["simple", "compound"]
#: Who speaks: whose part "we" take in the loan.
We = Literal["lend", "borrow", "put-aside"]
