"""The parts of a loan document: quotes, rounding, clauses, what is bought, an aim."""

import re
from datetime import date
from decimal import Decimal
from fractions import Fraction
from functools import cached_property
from typing import Annotated, Final, Literal, Self, get_args

from pydantic import (
    BaseModel,
    BeforeValidator,
    ConfigDict,
    Discriminator,
    Field,
    PlainSerializer,
    Tag,
    WithJsonSchema,
    model_validator,
)
from pydantic.config import JsonDict

from ..calendars import frequencies
from ..numbers.decimals import precise, to_step
from ..quotes.styles import SCALED, TIMED, Quoted, Style, Time, YearDays
from ..wording.marks import PLAIN
from .fields import (
    DAY_SCHEMA,
    MOST_PLACES,
    UNKNOWN,
    Amount,
    Change,
    CompoundingField,
    FeePercent,
    Month,
    Percent,
    Periods,
    Place,
    Step,
    StepEvery,
    decimal_of,
    in_quotes,
    number_schema,
    read_date,
    wrong,
    wrong_at,
)


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
    period: frequencies.UnitName

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
            raise wrong_at(
                "over",
                f"A {self.quoted} quote is charged for a time: state it, such as "
                '{"number": "90", "period": "day"}.',
            )
        if self.over is not None and self.quoted not in TIMED:
            raise wrong_at("over", "Only a simple or a discount quote is charged for a time.")
        if self.year_days is not None and self.quoted not in SCALED:
            raise wrong_at(
                "year_days", f"A year of so many days does not go with {self.quoted} quotes."
            )
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

    percent: FeePercent


def _fee_kind(value: object) -> str:
    return "of-money" if isinstance(value, dict | Share) else "in-money"


#: The steps of a path that are no field of the document: kinds of a fee.
FEE_KINDS: Final = ("in-money", "of-money")
Fee = Annotated[
    Annotated[Amount, Tag("in-money")] | Annotated[Share, Tag("of-money")], Discriminator(_fee_kind)
]


_ONE_OF_TWO: Final[JsonDict] = {"oneOf": [{"required": ["percent"]}, {"required": ["amount"]}]}


class Growth(Part):
    """How a payment grows (below zero: falls): by a percent or by an amount."""

    model_config = ConfigDict(frozen=True, extra="forbid", json_schema_extra=_ONE_OF_TWO)

    percent: Change | None = None
    amount: Change | None = None

    @model_validator(mode="after")
    def _one_of_them(self) -> Self:
        if (self.percent is None) == (self.amount is None):
            raise wrong("A payment grows by a percent or by an amount: state one of them.")
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

    model_config = ConfigDict(
        frozen=True,
        extra="forbid",
        validate_by_name=True,
        json_schema_extra={
            "oneOf": [{"required": [verb]} for verb in get_args(VerbName)],
            "anyOf": [{"required": [name]} for name in ("at", "from", "months")],
            "not": {
                "required": ["at"],
                "anyOf": [{"required": [name]} for name in ("from", "to", "months")],
            },
        },
    )

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
    fee: Fee | None = None
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

    @cached_property
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
            raise wrong("A clause says what is done: one of " + ", ".join(VERBS) + ".")
        if len(verbs) > 1:
            named = " and ".join(verbs)
            raise wrong_at(verbs[1], f"A clause does one thing: here {named} are stated.")
        verb = verbs[0]
        stretch = [name for name in ("from", "to") if self._place_of(name) is not None]
        if self.at is not None and (stretch or self.months):
            raise wrong_at("at", "A clause stands at one place or holds for a stretch, not both.")
        if self.at is None and self.begin is None and self.months is None:
            raise wrong_at("at", "A clause has a place: at one payment, or from one on.")
        if self.at is not None and verb in ("rate", "step"):
            raise wrong_at("at", f"A {verb} holds for a stretch: write from in place of at.")
        if self.months and verb in ("rate", "step"):
            raise wrong_at("months", f"A {verb} does not keep to months of the year.")
        for name, verbs_ in (("every", ("step",)), ("taken", ("fee",)), ("then", _LEVELS)):
            if getattr(self, name) is not None and verb not in verbs_:
                raise wrong_at(name, f"This goes with {' or '.join(verbs_)}, not with {verb}.")
        if verb in ("payment", "pay", "rate", "step") and 0 in (self.at, self.begin):
            raise wrong_at("at" if self.at == 0 else "from", "Payments are numbered from 1.")
        if (isinstance(self.begin, int) and isinstance(self.to, int) and self.to < self.begin) or (
            isinstance(self.begin, date) and isinstance(self.to, date) and self.to < self.begin
        ):
            raise wrong_at("to", f"A stretch that ends at {self.to} cannot begin at {self.begin}.")
        return self

    def _place_of(self, name: str) -> int | date | None:
        return self.begin if name == "from" else self.to


#: Verbs after which the payment can be set anew.
_LEVELS: Final[tuple[VerbName, ...]] = ("rate", "repay", "advance")


class Down(Part):
    """What is paid of a price at once: a percent of it, or an amount."""

    model_config = ConfigDict(frozen=True, extra="forbid", json_schema_extra=_ONE_OF_TWO)

    percent: Percent | None = None
    amount: Amount | None = None

    @model_validator(mode="after")
    def _one_of_them(self) -> Self:
        if (self.percent is None) == (self.amount is None):
            raise wrong("A down payment is a percent of the price or an amount: state one.")
        if isinstance(self.percent, Decimal) and not 0 <= self.percent < 100:
            raise wrong_at("percent", "A down payment is from 0 to below 100 % of the price.")
        return self


#: Steps of an amount that is not rounded.
FINEST_SHARE: Final = Decimal("1e-20")


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
        return read_date(value)
    return decimal_of(value, "9000")


def _written_aim(value: Decimal | date) -> str:
    return value.isoformat() if isinstance(value, date) else f"{value:f}"


def _aim_figure(value: object) -> str:
    if isinstance(value, str) and is_result(value):
        return value
    names = ", ".join(get_args(AimFigure))
    raise wrong(
        f"{in_quotes(value)} is no result: write one of {names}, balance@24 or interest@13-24."
    )


class Aim(Part):
    """Which result is to have which value, and which figure, by its path, may move for that."""

    figure: Annotated[str, BeforeValidator(_aim_figure), WithJsonSchema({"type": "string"})]
    is_: Annotated[
        Decimal | date,
        BeforeValidator(_aim_value),
        PlainSerializer(_written_aim, return_type=str),
        WithJsonSchema(number_schema(DAY_SCHEMA)),
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
            raise wrong_at(
                "is", "An end date is a day such as 2032-03-01; any other aim is a number."
            )
        return self
