"""What the columns of a table of loans hold: those of the file that are read, and the results; what
holds for every row where no column says otherwise."""

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Annotated, Final, Literal, get_args

from pydantic import AfterValidator, BaseModel, ConfigDict, Field

from zephyrant.texts import Worded

from ..document.fields import CompoundingField, CurrencyCode, Every
from ..document.floating import MOST_INDICES, Index, Indices
from ..document.parts import Rounding
from ..document.repayment import StyleName
from ..numbers.annuity import Timing
from ..quotes.styles import Quoted
from ..wording.marks import MarksName

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
    "repaid",
    "amortized_over",
    "index",
    "margin",
    "floor",
    "cap",
    "resets",
    "first_rate",
    "at_resets",
    "cash_flow",
    "cash_flow_every",
    "growth",
    "cover",
    "value",
    "highest",
    "start",
    "first_payment",
    "day_count",
    "business_days",
    "roll",
    "adjusted",
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
    "binding",
    "lowest_cover",
    "loan_to_value",
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
    totals or notes. `indices`: those that floating rates of rows
    follow, by name, as a document has them. `after`: the payment after which what is owed
    is told; without one it is told on the day `owed_on` of every loan that has dates and runs then.
    """

    model_config = ConfigDict(frozen=True, defer_build=True, extra="forbid")

    currency: CurrencyCode = "EUR"
    quoted: Quoted = "nominal"
    compounding: CompoundingField | None = None
    every: Every = "month"
    timing: Timing = "in-arrears"
    repaid: StyleName = "level"
    rounding: Rounding = Rounding()
    marks: MarksName = "comma-point"
    percent_as: Literal["percent", "part", "part-below-one"] = "percent"
    dates: Literal["day-first", "month-first"] = "day-first"
    count_in: Literal["payments", "months", "years"] = "payments"
    apart: Literal["leave-out", "solve"] = "leave-out"
    indices: Annotated[dict[str, Index], AfterValidator(Indices)] = Field(
        default_factory=Indices, max_length=MOST_INDICES
    )
    after: int = Field(default=0, ge=0, le=36_500)
    owed_on: date | None = None


Columns = Mapping[FieldName, Sequence[str]]
Told = dict[str, list[str]]
FIELD_NAMES: Final = Worded(
    {
        "principal": "Amount: ",
        "rate.percent": "Rate: ",
        "count": "Number of payments: ",
        "payment": "Payment: ",
        "balance": "Balance: ",
        "repaid": "How it is repaid: ",
        "amortized_over": "Payments it is reckoned over: ",
        "rate.index": "Index: ",
        "rate.margin": "Margin: ",
        "margin": "Margin: ",
        "rate.floor": "Floor: ",
        "floor": "Floor: ",
        "rate.cap": "Cap: ",
        "cap": "Cap: ",
        "rate.first": "First rate: ",
        "first_rate": "First rate: ",
        "rate.resets": "Resets: ",
        "rate.then": "Payments at resets: ",
        "at_resets": "Payments at resets: ",
        "cash_flow": "Cash flow: ",
        "cover.cash_flow": "Cash flow: ",
        "cover.cash_flows": "Cash flow: ",
        "cover.every": "Period of the cash flow: ",
        "growth": "Growth: ",
        "cover.growth": "Growth: ",
        "cover": "Cover: ",
        "cover.ratio": "Cover: ",
        "value": "Value: ",
        "value.amount": "Value: ",
        "highest": "Highest loan to value: ",
        "value.highest": "Highest loan to value: ",
        "start": "Lent on: ",
        "first_payment": "First payment: ",
        "day_count": "Days counted: ",
        "business_days": "Business days: ",
        "business_days.calendars": "Business days: ",
        "roll": "Way of moving: ",
        "adjusted": "Interest counted: ",
        "business_days.adjusted": "Interest counted: ",
    }
)
