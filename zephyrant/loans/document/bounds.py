"""What bounds a loan: the cash flow that is to cover its payments, and the value it is lent on."""

from collections.abc import Sequence
from decimal import Decimal
from fractions import Fraction
from typing import TYPE_CHECKING, Annotated, Any, Final, Literal, Self

from pydantic import (
    BeforeValidator,
    ConfigDict,
    Field,
    PlainSerializer,
    WithJsonSchema,
    model_validator,
)

from zephyrant.texts import worded

from ..calendars import frequencies
from ..wording.marks import Marks
from .choices import REPAYMENT
from .field_schemas import least_schema, number_schema
from .fields import UNKNOWN, Every, Unknown, decimal_of, money_of, wrong, wrong_at
from .limits import MOST_PERCENT
from .parts import Part

if TYPE_CHECKING:
    from .loan_fields import LoanFields

#: Which of the bounds holds what is lent.
Bound = Literal["cover", "value"]
#: Years of the loan for which a cash flow is stated one by one, at the most.
_MOST_YEARS: Final = 100
_MOST_RATIO: Final = Decimal(1_000)
_WRITTEN: Final = PlainSerializer(lambda value: f"{value:f}", return_type=str)


def _money(value: object) -> Decimal:
    says = worded("A cash flow is zero or more: what is left to pay the loan from.")
    return money_of(value, "186000", says)


def _ratio(value: object) -> Decimal | Unknown:
    if value == UNKNOWN:
        return UNKNOWN
    number = decimal_of(value, "1.30")
    if number <= 0:
        raise wrong(
            worded(
                "A cover is above 0: how many times the cash flow is the payments, such as 1.30."
            )
        )
    if number >= _MOST_RATIO:
        raise wrong(worded("A cover is below {most}.", most=f"{_MOST_RATIO:f}"))
    return number


def _growth(value: object) -> Decimal:
    number = decimal_of(value, "2")
    if not -100 < number < MOST_PERCENT:
        raise wrong(
            worded(
                "A cash flow grows by more than −100 % a year and less than {most} %.",
                most=f"{MOST_PERCENT:f}",
            )
        )
    return number


def _worth(value: object) -> Decimal:
    says = worded("A value is above 0.")
    number = money_of(value, "1450000", says)
    if not number:
        raise wrong(says)
    return number


def _highest(value: object) -> Decimal:
    number = decimal_of(value, "65")
    if not 0 < number < MOST_PERCENT:
        raise wrong(
            worded(
                "The highest loan to value is above 0 % and below {most} %.",
                most=f"{MOST_PERCENT:f}",
            )
        )
    return number


CashFlowAmount = Annotated[
    Decimal, BeforeValidator(_money), _WRITTEN, WithJsonSchema(least_schema())
]
Ratio = Annotated[
    Decimal | Unknown,
    BeforeValidator(_ratio),
    PlainSerializer(
        lambda value: value if isinstance(value, str) else f"{value:f}", return_type=str
    ),
    WithJsonSchema(least_schema({"const": UNKNOWN, "type": "string"})),
]
YearlyGrowth = Annotated[
    Decimal, BeforeValidator(_growth), _WRITTEN, WithJsonSchema(number_schema())
]
Worth = Annotated[Decimal, BeforeValidator(_worth), _WRITTEN, WithJsonSchema(least_schema())]
Highest = Annotated[Decimal, BeforeValidator(_highest), _WRITTEN, WithJsonSchema(least_schema())]


def _one_way_or_other(schema: dict[str, Any]) -> None:
    schema["oneOf"] = [{"required": ["cash_flow"]}, {"required": ["cash_flows"]}]


class Cover(Part):
    """How many times the cash flow has to be the payments, tested over each period of `every`.

    `cash_flow` is that of one such period, growing by `growth` percent with each year of the loan;
    `cash_flows`: of each year of the loan.
    """

    model_config = ConfigDict(
        frozen=True, defer_build=True, extra="forbid", json_schema_extra=_one_way_or_other
    )

    cash_flow: CashFlowAmount | None = Field(
        default=None, description="The cash flow of the first period that is tested."
    )
    cash_flows: tuple[CashFlowAmount, ...] | None = Field(
        default=None,
        min_length=1,
        max_length=_MOST_YEARS,
        description="The cash flow of each year of the loan, in place of one that grows.",
    )
    every: Every = "year"
    growth: YearlyGrowth = Field(default=Decimal(0), description="Percent a year.")
    ratio: Ratio = Field(
        description='Cash flow over payments, at least; of sculpted payments exactly, or "?".'
    )

    @model_validator(mode="after")
    def _one_of_them(self) -> Self:
        if (self.cash_flow is None) == (self.cash_flows is None):
            raise wrong(worded("A cash flow is stated once, or year by year: state one of these."))
        if self.cash_flows is not None and self.growth:
            raise wrong_at("growth", worded("Cash flows stated year by year do not grow besides."))
        return self


class Value(Part):
    """What the loan is lent on, and the highest percent of it that is lent."""

    amount: Worth
    highest: Highest

    @property
    def most(self) -> Decimal:
        """The most that may be lent on it; in the decimal context in force."""
        return self.amount * self.highest / 100

    def percent_of(self, amount: Decimal) -> Fraction:
        """An amount in percent of it."""
        return 100 * Fraction(amount) / Fraction(self.amount)


def cash_flows_in_words(flows: Sequence[Decimal], marks: Marks, decimals: int) -> str:
    """Cash flows year by year as one types them: "186,000; 192,000; 201,000"."""
    return "; ".join(marks.number(each, 20, decimals) for each in flows)


def cash_flow_in_words(loan: "LoanFields", marks: Marks) -> str:
    """The cash flow where terms are listed: "186,000.00 a year, growing 2 % a year"."""
    cover = loan.cover
    if cover is None:
        return ""
    if cover.cash_flow is None:
        return cash_flows_in_words(cover.cash_flows or (), marks, loan.decimals)
    amount = marks.number(cover.cash_flow, 20, loan.decimals)
    noun = frequencies.period(cover.every).noun
    if not cover.growth:
        return worded("{amount} a {noun}", amount=amount, noun=noun)
    return worded(
        "{amount} a {noun}, growing {percent} % a year",
        amount=amount,
        noun=noun,
        percent=marks.number(cover.growth, 20),
    )


def cover_in_words(loan: "LoanFields", marks: Marks) -> str:
    """How many times the payments it is to be."""
    ratio = loan.cover.ratio if loan.cover else ""
    return ratio if isinstance(ratio, str) else marks.number(ratio, 20, 2)


def value_in_words(loan: "LoanFields", marks: Marks) -> str:
    """The value and the highest percent of it: "1,450,000.00, at most 65 % of it"."""
    if loan.value is None:
        return ""
    return worded(
        "{amount}, at most {percent} % of it",
        amount=marks.number(loan.value.amount, 20, loan.decimals),
        percent=marks.number(loan.value.highest, 20),
    )


def follows_from_bounds(content: dict[str, Any]) -> bool:
    """Whether the payment follows from cover and value, so that it is left out."""
    if content.get("repayment") == "sculpted":
        return True
    bounded = content.get("cover") is not None or content.get("value") is not None
    return content.get("principal") == UNKNOWN and bounded


def check_bounds(loan: "LoanFields") -> None:
    """Raises where cover and value do not go with the rest of the document."""
    if loan.repayment == "sculpted":
        _check_sculpted(loan)
    if loan.cover is None:
        return
    if not loan.count:
        raise wrong_at("cover", worded("A cover is of regular payments: here there are none."))
    if loan.repayment == "at-the-end":
        raise wrong_at(
            "cover",
            worded("Where all is paid at the end no period’s payments are there to be covered."),
        )
    if loan.payments_a_year % frequencies.a_year(loan.cover.every):
        raise wrong_at(
            "cover.every",
            worded(
                "A cover is tested over whole payments: {payments} do not make up a {noun}.",
                payments=frequencies.period(loan.every).payments(),
                noun=frequencies.period(loan.cover.every).noun,
            ),
        )
    if loan.cover.ratio == UNKNOWN and loan.repayment != "sculpted":
        raise wrong_at(
            "cover.ratio",
            worded(
                "The cover is asked for with sculpted payments; with others the answer tells that "
                "of every period."
            ),
        )
    _check_years(loan)


def _check_sculpted(loan: "LoanFields") -> None:
    if loan.cover is None:
        raise wrong_at(
            "cover", worded("Sculpted payments follow the cash flow: state it and its cover.")
        )
    if loan.states_payment:
        raise wrong_at(
            "payment", worded("Sculpted payments follow the cash flow: leave the payment out.")
        )
    if loan.count == UNKNOWN:
        raise wrong_at(
            "count",
            worded(
                "With {way} state how many payments there are.", way=REPAYMENT["sculpted"].shown
            ),
        )


def _check_years(loan: "LoanFields") -> None:
    """Cash flows by year are there for every year of the loan."""
    flows = loan.cover.cash_flows if loan.cover else None
    if flows is None or not isinstance(loan.count, int):
        return
    years = -(-loan.count // loan.payments_a_year)
    if len(flows) < years:
        raise wrong_at(
            "cover.cash_flows",
            worded(
                "There are cash flows of {given} years, and the loan runs into year {years}: state "
                "one for each.",
                given=len(flows),
                years=years,
            ),
        )
