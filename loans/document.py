"""The loan document: typed, validated, immutable.

The one definition of it: the JSON Schema, the OpenAPI schema and the front end's types are
generated from the models here.
"""

import json
import re
from datetime import date
from decimal import Decimal
from fractions import Fraction
from typing import Annotated, Any, Final, Literal, Self, get_args

from pydantic import (
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Field,
    PlainSerializer,
    ValidationError,
    WithJsonSchema,
    model_validator,
)
from pydantic_core import ErrorDetails, PydanticCustomError

from . import clock
from .currencies import currencies
from .dates import Calendar, DayCount, later, pace
from .errors import FieldError, NotALoan
from .figures import decimal_places, precise, to_step
from .styles import SCALED, TIMED, Quoted, Style, Time, YearDays
from .words import PLAIN

UNKNOWN: Final = "?"
Unknown = Literal["?"]
FigureName = Literal["principal", "rate", "count", "payment", "balance"]
FIGURES: Final[tuple[FigureName, ...]] = get_args(FigureName)

#: A hundred years of daily payments.
MOST_PAYMENTS: Final = 36_500
#: The largest amount: one below a quadrillion.
MOST_MONEY: Final = Decimal(10) ** 15
#: Percents a year are below this.
MOST_PERCENT: Final = Decimal(10_000)
MOST_PLACES: Final = 40
MOST_COMPOUNDINGS: Final = 10_000
MOST_PAYMENTS_A_YEAR: Final = 366
MOST_CLAUSES: Final = 1_000
#: Characters of JSON a document may have.
MOST_TEXT: Final = 1_000_000

_DECIMAL = re.compile(r"[+-]?(\d+\.?\d*|\.\d+)", re.ASCII)
_DECIMAL_SCHEMA = {"type": "string", "pattern": r"^[+-]?(\d+\.?\d*|\.\d+)$"}


def _wrong(message: str) -> PydanticCustomError:
    # Pydantic reads braces as places to fill.
    return PydanticCustomError("figure", "{sentence}", {"sentence": message})


def _at(field: str, message: str) -> PydanticCustomError:
    """What is wrong with one field of the part that is validated."""
    return PydanticCustomError("figure", "{sentence}", {"sentence": message, "fields": (field,)})


def _quoted(value: object) -> str:
    text = str(value)
    return f"“{text[:40]}…”" if len(text) > 40 else f"“{text}”"


def _decimal(value: object, example: str) -> Decimal:
    if isinstance(value, bool) or not isinstance(value, str | int | float | Decimal):
        raise _wrong(f'A number belongs here, written as "{example}".')
    if isinstance(value, str):
        if not value.strip():
            raise _wrong(f'Nothing is stated here. Write a number such as "{example}", or "?".')
        if len(value) > 80 or not _DECIMAL.fullmatch(value):
            raise _wrong(f'{_quoted(value)} is not a number. Write it as "{example}".')
    number = Decimal(str(value)) if isinstance(value, float) else Decimal(value)
    if not number.is_finite():
        raise _wrong(f'A finite number belongs here, written as "{example}".')
    if number.adjusted() > 40 or decimal_places(number) > MOST_PLACES:
        raise _wrong(f"This number has too many digits: at most {MOST_PLACES} after the point.")
    return number


def _amount(value: object) -> Decimal | Unknown:
    if value == UNKNOWN:
        return UNKNOWN
    number = _decimal(value, "48250.00")
    if number < 0:
        raise _wrong("An amount is zero or more: the field itself says who pays whom.")
    if number >= MOST_MONEY:
        raise _wrong(f"An amount is below {MOST_MONEY:f}.")
    return abs(number)


def _percent(value: object) -> Decimal | Unknown:
    if value == UNKNOWN:
        return UNKNOWN
    number = _decimal(value, "6.35")
    if number >= MOST_PERCENT:
        raise _wrong(f"A rate is below {MOST_PERCENT} %. Is the decimal point in its place?")
    return number


def _whole(value: object, least: int, most: int, what: str) -> int:
    if isinstance(value, str) and value.strip():
        if not re.fullmatch(r"[+-]?\d{1,80}(\.\d{1,80})?", value, re.ASCII):
            raise _wrong(f"{_quoted(value)} is not a whole number. {what}")
        value = Decimal(value)
    if isinstance(value, bool) or not isinstance(value, int | float | Decimal):
        raise _wrong(f"A whole number belongs here. {what}")
    number = Decimal(str(value)) if isinstance(value, float) else Decimal(value)
    if not number.is_finite() or number.adjusted() > 40 or number % 1:
        raise _wrong(f"A whole number belongs here. {what}")
    if not least <= number <= most:
        raise _wrong(what)
    return int(number)


def _count(value: object) -> int | Unknown:
    if value == UNKNOWN:
        return UNKNOWN
    return _whole(
        value,
        0,
        MOST_PAYMENTS,
        f"The number of payments is between 1 and {MOST_PAYMENTS}, or 0 where the clauses alone "
        "are the loan.",
    )


def _frequency(value: object) -> clock.Frequency:
    if isinstance(value, str) and value in clock.PERIODS:
        return value
    names = ", ".join(clock.PERIODS)
    return _whole(
        value,
        1,
        MOST_PAYMENTS_A_YEAR,
        f"Write one of {names}, or how many payments a year, from 1 to {MOST_PAYMENTS_A_YEAR}.",
    )


def _compounding(value: object) -> clock.Compounding:
    if isinstance(value, str) and (value in clock.PERIODS or value == "continuous"):
        return value  # type: ignore[return-value]
    names = ", ".join(clock.PERIODS)
    return _whole(
        value,
        1,
        MOST_COMPOUNDINGS,
        f"Write one of {names}, continuous, or how many times a year, "
        f"from 1 to {MOST_COMPOUNDINGS}.",
    )


def _currency(value: object) -> str:
    if isinstance(value, str) and value.upper() in currencies():
        return value.upper()
    raise _wrong(f"{_quoted(value)} is no currency code of ISO 4217. Write one such as EUR.")


def _periods(value: object) -> Decimal:
    number = _decimal(value, "90")
    if not 0 < number <= MOST_PAYMENTS:
        raise _wrong(f"A number of periods is above 0 and at most {MOST_PAYMENTS}.")
    return number


def _date(value: object) -> date:
    if isinstance(value, date):
        return value
    found = re.fullmatch(r"(\d{4})-(\d{2})-(\d{2})", value) if isinstance(value, str) else None
    if not found:
        raise _wrong(f'{_quoted(value)} is not a date. Write it as "2027-03-01".')
    try:
        return date(*(int(part) for part in found.groups()))
    except ValueError:
        raise _wrong(f"{_quoted(value)} is no day of the calendar.") from None


def _place(value: object) -> int | date:
    if isinstance(value, date) or (isinstance(value, str) and "-" in value[1:]):
        return _date(value)
    what = f"Write the number of a payment, from 0 (the start) to {MOST_PAYMENTS}, or a day."
    return _whole(value, 0, MOST_PAYMENTS, what)


def _month(value: object) -> int:
    return _whole(value, 1, 12, "A month of the calendar is a number from 1 to 12.")


def _step_every(value: object) -> int:
    return _whole(
        value,
        1,
        MOST_PAYMENTS,
        f"Between two steps lie at least one payment and at most {MOST_PAYMENTS}.",
    )


def _change(value: object) -> Decimal | Unknown:
    if value == UNKNOWN:
        return UNKNOWN
    number = _decimal(value, "3")
    if abs(number) >= MOST_MONEY:
        raise _wrong(f"A change is below {MOST_MONEY:f}.")
    return number


def _step(value: object) -> Decimal:
    number = _decimal(value, "0.01")
    if not 0 < number <= 1_000_000:
        raise _wrong("A rounding step is above 0 and at most 1000000.")
    return number


def _written(value: object) -> object:
    return f"{value:f}" if isinstance(value, Decimal) else value


def _number_schema(*extra: dict[str, Any]) -> dict[str, Any]:
    return {"anyOf": [*extra, _DECIMAL_SCHEMA, {"type": "number"}]}


_ASKED = {"const": UNKNOWN, "type": "string"}
_WRITTEN = PlainSerializer(_written, return_type=str | int)

Amount = Annotated[
    Decimal | Unknown, BeforeValidator(_amount), _WRITTEN, WithJsonSchema(_number_schema(_ASKED))
]
Percent = Annotated[
    Decimal | Unknown, BeforeValidator(_percent), _WRITTEN, WithJsonSchema(_number_schema(_ASKED))
]
Count = Annotated[
    int | Unknown,
    BeforeValidator(_count),
    WithJsonSchema(
        {"anyOf": [_ASKED, {"type": "integer", "minimum": 0, "maximum": MOST_PAYMENTS}]}
    ),
]
Every = Annotated[
    clock.Frequency,
    BeforeValidator(_frequency),
    WithJsonSchema(
        {
            "anyOf": [
                {"enum": list(clock.PERIODS), "type": "string"},
                {"type": "integer", "minimum": 1, "maximum": MOST_PAYMENTS_A_YEAR},
            ]
        }
    ),
]
CompoundingField = Annotated[
    clock.Compounding,
    BeforeValidator(_compounding),
    WithJsonSchema(
        {
            "anyOf": [
                {"enum": [*clock.PERIODS, "continuous"], "type": "string"},
                {"type": "integer", "minimum": 1, "maximum": MOST_COMPOUNDINGS},
            ]
        }
    ),
]
CurrencyCode = Annotated[
    str, BeforeValidator(_currency), WithJsonSchema({"type": "string", "pattern": "^[A-Z]{3}$"})
]
Periods = Annotated[Decimal, BeforeValidator(_periods), _WRITTEN, WithJsonSchema(_number_schema())]
_DAY_SCHEMA = {"type": "string", "pattern": r"^\d{4}-\d{2}-\d{2}$", "format": "date"}
Day = Annotated[date, BeforeValidator(_date), WithJsonSchema(_DAY_SCHEMA)]
_PLACE_SCHEMA = {
    "anyOf": [{"type": "integer", "minimum": 0, "maximum": MOST_PAYMENTS}, _DAY_SCHEMA]
}
Place = Annotated[int | date, BeforeValidator(_place), WithJsonSchema(_PLACE_SCHEMA)]
Month = Annotated[
    int,
    BeforeValidator(_month),
    WithJsonSchema({"type": "integer", "minimum": 1, "maximum": 12}),
]
StepEvery = Annotated[
    int,
    BeforeValidator(_step_every),
    WithJsonSchema({"type": "integer", "minimum": 1, "maximum": MOST_PAYMENTS}),
]
#: A growth: above zero or below it.
Change = Annotated[
    Decimal | Unknown, BeforeValidator(_change), _WRITTEN, WithJsonSchema(_number_schema(_ASKED))
]
Step = Annotated[Decimal, BeforeValidator(_step), _WRITTEN, WithJsonSchema(_number_schema())]
Timing = Literal["in-arrears", "in-advance"]
OddDays = Literal["simple", "compound"]


def outside(percent: Decimal, style: Style) -> str | None:
    """Why a percent cannot be quoted so, as a sentence; none where it can."""
    if style.quoted == "flat" and style.in_advance and style.payments == 1:
        return "A flat quote of one payment made at once is no loan: state more payments."
    least, most = style.bounds()
    if least is not None and percent <= least:
        return (
            f"At {_said(percent)} % {style.in_words()}, nothing is left of what is lent: the rate "
            f"must be above {_bound(least)} %."
        )
    if most is None or percent < most:
        return None
    if style.quoted == "discount":
        why = "interest taken in advance takes all that is lent"
    else:
        why = "the first payment, at once, returns all that is lent"
    return (
        f"At {_said(percent)} % {style.in_words()}, {why}: the rate must be below {_bound(most)} %."
    )


def _said(percent: Decimal) -> str:
    return PLAIN.number(percent, MOST_PLACES)


def _bound(percent: Fraction) -> str:
    return PLAIN.number(Decimal(percent.numerator) / percent.denominator, 4)


class Part(BaseModel):
    """What every part of the document has in common: immutable, no unknown keys."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class Over(Part):
    """The time a simple or a discount quote is charged for: so many of a period."""

    number: Periods
    period: clock.UnitName

    @property
    def time(self) -> Time:
        """The same, as rates are worked with."""
        return Time(Fraction(self.number), self.period)


class Quote(Part):
    """A rate as it is quoted.

    `percent` is a year (for one payment period where `quoted` is `periodic`). `compounding` is
    that of a nominal rate, the payments' own where left out; the other styles need none. `over`
    is the time a `simple` or a `discount` quote is charged for. `year_days` 360: the percent is
    for 360 days, not for a year.
    """

    percent: Percent = Field(description='Percent as quoted, a decimal string, or "?".')
    quoted: Quoted = "nominal"
    compounding: CompoundingField | None = None
    over: Over | None = None
    year_days: YearDays | None = None

    @model_validator(mode="after")
    def _has_its_time(self) -> Self:
        if self.quoted in TIMED and self.over is None:
            raise _at(
                "over",
                f"A {self.quoted} quote is charged for a time: state it, such as "
                '{"number": "90", "period": "day"}.',
            )
        if self.over is not None and self.quoted not in TIMED:
            raise _at("over", "Only a simple or a discount quote is charged for a time.")
        if self.year_days is not None and self.quoted not in SCALED:
            raise _at("year_days", f"A year of so many days does not go with {self.quoted} quotes.")
        return self


class Rounding(Part):
    """How cash is rounded: payments to multiples of `to`, interest to the minor unit.

    `to` left out is the minor unit of the currency (ISO 4217). `overpaid`: a repayment above what
    is owed is cut to it, or shown as a balance below zero; both end the loan.
    """

    payment: Literal["nearest", "up", "none"] = "nearest"
    to: Step | None = None
    interest: Literal["nearest", "none"] = "nearest"
    overpaid: Literal["cut", "shown"] = "cut"


class Share(Part):
    """A fee as a percent of the money advanced where it is taken, else of the principal."""

    percent: Percent


class Growth(Part):
    """How a payment grows (below zero: falls): by a percent or by an amount."""

    percent: Change | None = None
    amount: Change | None = None

    @model_validator(mode="after")
    def _one_of_them(self) -> Self:
        if (self.percent is None) == (self.amount is None):
            raise _wrong("A payment grows by a percent or by an amount: state one of them.")
        return self


VerbName = Literal["repay", "advance", "rate", "payment", "pay", "step", "fee"]
VERBS: Final[tuple[VerbName, ...]] = get_args(VerbName)
Pay = Literal["nothing", "interest"]
Taken = Literal["from-proceeds", "added", "apart"]


class Clause(Part):
    """What departs from the regular run: one verb, and a place or a stretch.

    Places are numbered as payments are, 0 being the start; a loan with dates takes days too.
    `months` (1 to 12) keeps a stretch to payments due in them.
    """

    model_config = ConfigDict(frozen=True, extra="forbid", validate_by_name=True)

    at: Place | None = None
    begin: Place | None = Field(default=None, alias="from")
    to: Place | None = None
    months: tuple[Month, ...] | None = Field(default=None, min_length=1, max_length=12)
    repay: Amount | None = Field(default=None, description="Repaid on top of the payment.")
    advance: Amount | None = Field(default=None, description="Lent besides the principal.")
    rate: Quote | None = Field(default=None, description="The rate of these periods.")
    payment: Amount | None = Field(default=None, description="The regular payment from there on.")
    pay: Pay | None = Field(default=None, description="Nothing, or the interest only.")
    step: Growth | None = Field(default=None, description="How the payment grows.")
    every: StepEvery | None = Field(default=None, description="Payments between two steps.")
    fee: Amount | Share | None = None
    taken: Taken | None = None
    then: Literal["re-level"] | None = Field(
        default=None,
        description="Sets the regular payment anew, so that the loan ends with its last payment.",
    )

    @property
    def verb(self) -> VerbName:
        """What it does."""
        return next(name for name in VERBS if getattr(self, name) is not None)

    @property
    def is_stretch(self) -> bool:
        """Whether it holds for a stretch."""
        return self.at is None

    @property
    def asked(self) -> str | None:
        """The path of the figure in it that is `"?"`, if one is."""
        figures = {
            "repay": self.repay,
            "advance": self.advance,
            "payment": self.payment,
            "fee": None if isinstance(self.fee, Share) else self.fee,
            "fee.percent": self.fee.percent if isinstance(self.fee, Share) else None,
            "rate.percent": self.rate.percent if self.rate else None,
            "step.percent": self.step.percent if self.step else None,
            "step.amount": self.step.amount if self.step else None,
        }
        return next((name for name, figure in figures.items() if figure == UNKNOWN), None)

    @model_validator(mode="after")
    def _one_verb_and_a_place(self) -> Self:
        verbs = [name for name in VERBS if getattr(self, name) is not None]
        if not verbs:
            raise _wrong("A clause says what is done: one of " + ", ".join(VERBS) + ".")
        if len(verbs) > 1:
            named = " and ".join(verbs)
            raise _at(verbs[1], f"A clause does one thing: here {named} are stated.")
        verb = verbs[0]
        stretch = [name for name in ("from", "to") if self._place_of(name) is not None]
        if self.at is not None and (stretch or self.months):
            raise _at("at", "A clause stands at one place or holds for a stretch, not both.")
        if self.at is None and self.begin is None and self.months is None:
            raise _at("at", "A clause has a place: at one payment, or from one on.")
        if self.at is not None and verb in ("rate", "step"):
            raise _at("at", f"A {verb} holds for a stretch: write from in place of at.")
        if self.months and verb in ("rate", "step"):
            raise _at("months", f"A {verb} does not keep to months of the year.")
        for name, verbs_ in (("every", ("step",)), ("taken", ("fee",)), ("then", _LEVELS)):
            if getattr(self, name) is not None and verb not in verbs_:
                raise _at(name, f"This goes with {' or '.join(verbs_)}, not with {verb}.")
        if verb in ("payment", "pay", "rate", "step") and 0 in (self.at, self.begin):
            raise _at("at" if self.at == 0 else "from", "Payments are numbered from 1.")
        if (isinstance(self.begin, int) and isinstance(self.to, int) and self.to < self.begin) or (
            isinstance(self.begin, date) and isinstance(self.to, date) and self.to < self.begin
        ):
            raise _at("to", f"A stretch that ends at {self.to} cannot begin at {self.begin}.")
        return self

    def _place_of(self, name: str) -> int | date | None:
        return self.begin if name == "from" else self.to


#: Verbs after which the payment can be set anew.
_LEVELS: Final[tuple[VerbName, ...]] = ("rate", "repay", "advance")


class Down(Part):
    """What is paid of a price at once: a percent of it, or an amount."""

    percent: Percent | None = None
    amount: Amount | None = None

    @model_validator(mode="after")
    def _one_of_them(self) -> Self:
        if (self.percent is None) == (self.amount is None):
            raise _wrong("A down payment is a percent of the price or an amount: state one.")
        if isinstance(self.percent, Decimal) and not 0 <= self.percent < 100:
            raise _at("percent", "A down payment is from 0 to below 100 % of the price.")
        return self


#: Steps of an amount that is not rounded.
_FINEST: Final = Decimal("1e-20")


class Purchase(Part):
    """What is bought: the amount lent is the price less the down payment."""

    price: Amount
    down: Down

    @property
    def asked(self) -> str | None:
        """The path of the figure in it that is `"?"`, if one is."""
        figures = {
            "price": self.price,
            "down.percent": self.down.percent,
            "down.amount": self.down.amount,
        }
        return next((name for name, figure in figures.items() if figure == UNKNOWN), None)

    def lent(self, minor_unit: Decimal, **figures: Decimal) -> Decimal:
        """The amount lent, with `price`, `percent` or `amount` in place of what is stated."""
        price = figures.get("price", self.price)
        percent = figures.get("percent", self.down.percent)
        amount = figures.get("amount", self.down.amount)
        if not isinstance(price, Decimal):
            raise ValueError("a price that is asked for is no number yet")
        if isinstance(percent, Decimal):
            with precise():
                amount = to_step(price * percent / 100, minor_unit, "nearest")
        return price - Decimal(amount or 0)


AimFigure = Literal[
    "payment",
    "total_paid",
    "total_interest",
    "final_payment",
    "count",
    "effective",
    "us_apr",
    "eu_aprc",
    "end_date",
]
#: Results at a payment, or over a stretch of them.
_PLACED_RESULT = re.compile(r"balance@(\d{1,6})|interest@(\d{1,6})-(\d{1,6})")


def is_result(name: str) -> bool:
    """Whether a name is that of a result: `total_interest`, `balance@24`, `interest@13-24`."""
    return name in get_args(AimFigure) or bool(_PLACED_RESULT.fullmatch(name))


def _aim_value(value: object) -> Decimal | date:
    if isinstance(value, date) or (isinstance(value, str) and value.count("-") == 2):
        return _date(value)
    return _decimal(value, "9000")


def _written_aim(value: Decimal | date) -> str:
    return value.isoformat() if isinstance(value, date) else f"{value:f}"


def _aim_figure(value: object) -> str:
    if isinstance(value, str) and is_result(value):
        return value
    names = ", ".join(get_args(AimFigure))
    raise _wrong(
        f"{_quoted(value)} is no result: write one of {names}, balance@24 or interest@13-24."
    )


class Aim(Part):
    """Which result is to have which value, and which figure, by its path, may move for that."""

    figure: Annotated[str, BeforeValidator(_aim_figure), WithJsonSchema({"type": "string"})]
    is_: Annotated[
        Decimal | date,
        BeforeValidator(_aim_value),
        PlainSerializer(_written_aim, return_type=str),
        WithJsonSchema(_number_schema(_DAY_SCHEMA)),
    ] = Field(alias="is")
    by: str = Field(max_length=100)

    model_config = ConfigDict(frozen=True, extra="forbid", validate_by_name=True)

    @property
    def number(self) -> Decimal:
        """What the result is to be; an end date by its day in the count of days."""
        return Decimal(self.is_.toordinal()) if isinstance(self.is_, date) else self.is_

    @model_validator(mode="after")
    def _dates_are_days(self) -> Self:
        if (self.figure == "end_date") != isinstance(self.is_, date):
            raise _at("is", "An end date is a day such as 2032-03-01; any other aim is a number.")
        return self


class Loan(Part):
    """A loan, one figure of which may be unknown (`"?"`); with none the figures are checked."""

    zephyrant: Literal["loan/1"] = Field(description="Says that this is a loan document.")
    name: str = Field(default="", max_length=200)
    currency: CurrencyCode
    principal: Amount = Field(description='The amount lent, or "?".')
    rate: Quote
    count: Count = Field(description='The number of regular payments, or "?".')
    every: Every = "month"
    payment: Amount = Field(
        description='Each regular payment, or "?"; may be left out where `count` is 0.',
    )
    balance: Amount = Field(
        default=Decimal(0),
        description='What is still owed at the end of the last period (0, or a balloon), or "?".',
    )
    timing: Timing = "in-arrears"
    rounding: Rounding = Rounding()
    start: Day | None = Field(default=None, description="When the money is lent.")
    first_payment: Day | None = Field(
        default=None,
        description="When the first payment is due; left out, one period after the start, "
        "in advance at the start.",
    )
    day_count: DayCount = "equal"
    odd_days: OddDays = "simple"
    clauses: tuple[Clause, ...] = Field(default=(), max_length=MOST_CLAUSES)
    purchase: Purchase | None = None
    aim: Aim | None = None

    @property
    def unknown(self) -> str | None:
        """The figure that is asked for: its name, of a clause its path; none where all are
        stated."""
        return next(iter(self._asked()), None)

    def _asked(self) -> tuple[str, ...]:
        purchase = self.purchase
        bought = (f"purchase.{purchase.asked}",) if purchase and purchase.asked else ()
        figures = (
            name
            for name in FIGURES
            if not (name == "principal" and bought)
            and (self.rate.percent if name == "rate" else getattr(self, name)) == UNKNOWN
        )
        clauses = (
            f"clauses.{number}.{clause.asked}"
            for number, clause in enumerate(self.clauses)
            if clause.asked
        )
        return (*bought, *figures, *clauses)

    @property
    def calendar(self) -> Calendar | None:
        """When payments fall due; none where no dates are stated."""
        step = pace(self.every)
        if self.start is None or step is None:
            return None
        in_advance = self.timing == "in-advance"
        first = self.first_payment
        if first is None:
            first = self.start if in_advance else later(self.start, step, 1)
        return Calendar(self.start, first, step, in_advance)

    @property
    def decimals(self) -> int:
        """Decimals of the currency's minor unit."""
        return currencies()[self.currency].decimals

    @property
    def minor_unit(self) -> Decimal:
        """The smallest amount of the currency that can be paid."""
        return Decimal(1).scaleb(-self.decimals)

    @property
    def step(self) -> Decimal:
        """What payments are rounded to a multiple of."""
        return self.rounding.to or self.minor_unit

    @property
    def payments_a_year(self) -> int:
        """How many payments make a year."""
        return clock.a_year(self.every)

    @property
    def compounding(self) -> clock.Compounding:
        """The compounding of a nominal quote, the payments' own where none is stated."""
        return self.every if self.rate.compounding is None else self.rate.compounding

    @model_validator(mode="after")
    def _lends_what_the_purchase_leaves(self) -> Self:
        if self.purchase is None:
            return self
        lent: Decimal | Unknown = UNKNOWN
        if self.purchase.asked is None:
            lent = self.purchase.lent(
                self.minor_unit if self.rounding.payment != "none" else _FINEST
            )
            if lent < 0:
                raise _at("purchase.down.amount", "The down payment is more than the price.")
        object.__setattr__(self, "principal", lent)
        return self

    @model_validator(mode="after")
    def _one_unknown(self) -> Self:
        asked = tuple("rate.percent" if name == "rate" else name for name in self._asked())
        if len(asked) > 1:
            named = " and ".join(asked)
            raise PydanticCustomError(
                "unknowns",
                "{sentence}",
                {
                    "sentence": f'Only one figure can be "?": here {named} are. '
                    "State all but the one to find.",
                    "fields": asked,
                },
            )
        return self

    @model_validator(mode="after")
    def _dates_can_be(self) -> Self:
        if self.start is None:
            if self.first_payment is not None:
                raise _at("first_payment", "State the start too: the day the money is lent.")
            if self.day_count != "equal":
                raise _at("day_count", "Days are counted between dates: state the start.")
            return self
        if self.first_payment is not None and self.first_payment < self.start:
            raise _at(
                "first_payment",
                f"The first payment, {self.first_payment}, lies before the start, {self.start}.",
            )
        if pace(self.every) is None:
            raise _at(
                "every",
                f"{clock.a_year(self.every)} payments a year fall on no regular dates: leave the "
                "start out, or pay yearly, half-yearly, quarterly, two-monthly, monthly, twice a "
                "month, four-weekly, two-weekly, weekly or daily.",
            )
        try:
            calendar = self.calendar
            if calendar and self.count != UNKNOWN:
                calendar.end(self.count)
        except OverflowError:
            raise _at("count", "The last payment would fall beyond the year 9999.") from None
        return self

    @model_validator(mode="before")
    @classmethod
    def _may_be_left_out(cls, content: Any) -> Any:  # noqa: ANN401
        if not isinstance(content, dict):
            return content
        if str(content.get("count")) == "0":
            content = {"payment": "0", **content}
        if content.get("purchase") is not None:
            if "principal" in content:
                raise _at("principal", "A purchase states what is lent: leave the principal out.")
            # Filled in from the purchase once that has been read.
            content = {"principal": "0", **content}
        return content

    @model_validator(mode="after")
    def _aims_with_a_figure_of_its_own(self) -> Self:
        aim = self.aim
        if aim is None:
            return self
        paths = self.paths()
        if aim.by not in paths:
            raise _at(
                "aim.by",
                f"{_quoted(aim.by)} is no figure of this loan that can move: "
                f"take one of {', '.join(paths)}.",
            )
        asked = "rate.percent" if self.unknown == "rate" else self.unknown
        if aim.by == asked:
            raise _at(
                "aim.by",
                "This is the figure asked for: an aim moves another one. State it, or put the ? "
                "elsewhere.",
            )
        if aim.figure == "end_date" and self.start is None:
            raise _at("aim.figure", "A loan without dates has no end date: say when it is lent.")
        if aim.by == aim.figure:
            raise _at("aim.by", "The figure that moves cannot be the one that is aimed at.")
        return self

    def paths(self) -> tuple[str, ...]:
        """Where figures stand in the document."""
        lent = ["principal"]
        if self.purchase is not None:
            kind = "percent" if self.purchase.down.percent is not None else "amount"
            lent = ["purchase.price", f"purchase.down.{kind}"]
        own = ("rate.percent", "count", "payment", "balance")
        clauses = []
        for number, clause in enumerate(self.clauses):
            verb, figure = clause.verb, getattr(clause, clause.verb)
            if verb == "rate":
                clauses.append(f"clauses.{number}.rate.percent")
            elif isinstance(figure, Decimal) or figure == UNKNOWN:
                clauses.append(f"clauses.{number}.{verb}")
            elif isinstance(figure, Share):
                clauses.append(f"clauses.{number}.{verb}.percent")
            elif verb == "step":
                kind = "percent" if figure.percent is not None else "amount"
                clauses.append(f"clauses.{number}.step.{kind}")
        return (*lent, *own, *clauses)

    @model_validator(mode="after")
    def _clauses_have_their_places(self) -> Self:
        seen = set()
        for number, clause in enumerate(self.clauses):
            field = f"clauses.{number}"
            for name, place in (("at", clause.at), ("from", clause.begin), ("to", clause.to)):
                if place is not None and (message := self._misplaced(place)):
                    raise _at(f"{field}.{name}", message)
            if clause.months and self.calendar is None:
                raise _at(f"{field}.months", "Months belong to loans with dates: state the start.")
            if clause.payment is not None and clause.at is not None:
                if clause.at in seen:
                    message = f"Another clause already says what payment {clause.at} is."
                    raise _at(f"{field}.at", message)
                seen.add(clause.at)
            if clause.rate is not None and clause.rate.percent != UNKNOWN:
                if clause.rate.quoted == "flat":
                    message = "A flat quote speaks of a whole loan, not of a stretch of it."
                    raise _at(f"{field}.rate.quoted", message)
                if message := outside(clause.rate.percent, self.style_of(clause.rate)):
                    raise _at(f"{field}.rate.percent", message)
            if clause.then and self.count in (0, UNKNOWN):
                message = "A payment is set anew for a stated number of payments: state the count."
                raise _at(f"{field}.then", message)
        if self.count == 0 and not self.clauses:
            raise _at(
                "count",
                f"The number of payments is between 1 and {MOST_PAYMENTS}; 0 is for a deal of "
                "clauses alone, and there are none here.",
            )
        if self.count == 0 and any(
            clause.is_stretch and clause.to is None and clause.rate is None
            for clause in self.clauses
        ):
            raise _at("clauses", "Without payments every stretch needs its end: state its to.")
        return self

    def _misplaced(self, place: int | date) -> str | None:
        calendar = self.calendar
        count = self.count if isinstance(self.count, int) and self.count else None
        if isinstance(place, int):
            if count and place > count:
                return f"There is no payment {place}: the loan has {count}."
            if calendar and place > calendar.most_payments():
                return f"Payment {place} would fall beyond the year 9999."
            return None
        if calendar is None:
            return "Days belong to loans with dates: state the start."
        if place < calendar.start:
            return f"{place} lies before the start, {calendar.start}."
        if count and place > calendar.end(count):
            return f"{place} lies after the end, {calendar.end(count)}."
        return None

    @property
    def style(self) -> Style:
        """How the rate is quoted, and for which payments."""
        return self.style_of(self.rate)

    def style_of(self, rate: Quote) -> Style:
        """How a rate of this loan is quoted."""
        flat = rate.quoted == "flat"
        return Style(
            quoted=rate.quoted,
            compounding=self.every if rate.compounding is None else rate.compounding,
            every=self.every,
            over=rate.over.time if rate.over else None,
            year_days=rate.year_days or 365,
            payments=self.count if flat and self.count != UNKNOWN else None,
            in_advance=flat and self.timing == "in-advance",
        )

    @model_validator(mode="after")
    def _flat_speaks_of_level_payments(self) -> Self:
        if self.rate.quoted != "flat":
            return self
        if self.count in (UNKNOWN, 0):
            raise _at(
                "count",
                "A flat quote needs its term: state the number of payments, or quote the rate "
                "in another style.",
            )
        if self.balance != 0:
            raise _at(
                "balance",
                "A flat quote speaks of a loan that its payments repay to nothing: leave a "
                "balance of 0, or quote the rate in another style.",
            )
        return self

    @model_validator(mode="after")
    def _money_does_not_vanish(self) -> Self:
        percent = self.rate.percent
        if percent != UNKNOWN and (message := outside(percent, self.style)):
            raise _at("rate.percent", message)
        return self

    @model_validator(mode="after")
    def _step_can_be_paid(self) -> Self:
        if self.step % self.minor_unit:
            raise _at(
                "rounding.to",
                f"A step of {self.step:f} cannot be paid: {self.currency} has "
                f"{self.decimals} decimals, so use a multiple of {self.minor_unit:f}.",
            )
        return self


_SENTENCES: Final = {
    "missing": "This is missing: state it, or put “?” for the figure to find.",
    "json_invalid": "This is not JSON.",
    "model_type": "A group of fields in braces belongs here.",
    "model_attributes_type": "A loan document, an object in braces, belongs here.",
    "string_type": "Text belongs here.",
}


def _sentence(error: ErrorDetails) -> str:
    kind, context = error["type"], error.get("ctx", {})
    if kind == "extra_forbidden":
        return f"Unknown key {_quoted(error['loc'][-1])}: the loan document has none of this name."
    if kind == "literal_error":
        given = error.get("input")
        said = _quoted(given) if isinstance(given, str | int | Decimal) else "This"
        return f"{said} is not known here. Write {context['expected']}."
    if kind == "missing" and error["loc"][-1] in ("zephyrant", "currency"):
        example = "loan/1" if error["loc"][-1] == "zephyrant" else "EUR"
        return f'This is missing: a loan document says "{error["loc"][-1]}": "{example}".'
    if kind == "string_too_long":
        return f"At most {context['max_length']} characters fit here."
    return _SENTENCES.get(kind) or str(error["msg"])


def field_errors(errors: list[ErrorDetails], prefix: int = 0) -> tuple[FieldError, ...]:
    """Pydantic's errors as ours; `prefix` leading steps of each path are not the document's."""
    found = []
    for error in errors:
        path = ".".join(str(step) for step in error["loc"][prefix:])
        for field in error.get("ctx", {}).get("fields") or ("",):
            place = ".".join(step for step in (path, field) if step)
            found.append(FieldError(field=place, message=_sentence(error)))
    return tuple(found)


def check(content: object) -> Loan:
    """A loan from what JSON held; raises `NotALoan` with the path of each wrong field."""
    if not isinstance(content, dict):
        message = "This is not a loan document: an object in braces is expected."
        raise NotALoan([FieldError(field="", message=message)])
    try:
        return Loan.model_validate(content)
    except ValidationError as error:
        raise NotALoan(field_errors(error.errors())) from None


def _no_constant(name: str) -> None:
    raise ValueError(f"{name} is no number of JSON")


def _no_twins(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    content = dict(pairs)
    if len(content) != len(pairs):
        names = [name for name, _ in pairs]
        twin = next(name for name in names if names.count(name) > 1)
        raise ValueError(f"the key {_quoted(twin)} stands there twice")
    return content


def parse(text: str | bytes) -> Any:  # noqa: ANN401  (whatever JSON may hold)
    """JSON as strictly as money needs it: exact decimals, no NaN, no key twice.

    Raises `NotALoan` where the text is not JSON or is longer than `MOST_TEXT`.
    """
    if len(text) > MOST_TEXT:
        message = f"This is too long for a loan document: at most {MOST_TEXT:,} characters."
        raise NotALoan([FieldError(field="", message=message)])
    try:
        return json.loads(
            text,
            parse_float=Decimal,
            parse_int=Decimal,
            parse_constant=_no_constant,
            object_pairs_hook=_no_twins,
        )
    except UnicodeDecodeError:
        reason = "it is not UTF-8 text"
    except RecursionError:
        reason = "it is nested too deeply"
    except ValueError as error:
        reason = str(error)
    raise NotALoan([FieldError(field="", message=f"This is not JSON: {reason}.")])


def read(text: str | bytes) -> Loan:
    """A loan from JSON text; raises `NotALoan`."""
    return check(parse(text))


def write(loan: Loan) -> dict[str, Any]:
    """The document as JSON holds it, without what was left out of it."""
    told = loan.model_dump(mode="json", exclude_unset=True, by_alias=True)
    if loan.purchase is not None:
        del told["principal"]
    return told
